package ohmoscope.core.locate;

import java.util.Collections;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TemporalBasis;
import ohmoscope.core.heat.Waveform;

/** Pictures whose pixels all count, seen straight from above, and evenly timed movies. */
final class Grids {
    private Grids() {}

    static Pixels of(int rows, int columns, double pitchMm, int stills) {
        Pixels pixels = new Pixels(rows * columns, rows, columns, stills);
        for (int p = 0; p < pixels.count(); p++) {
            pixels.row()[p] = p / columns;
            pixels.column()[p] = p % columns;
            pixels.xMm()[p] = (float) (pitchMm * (p % columns + 0.5));
            pixels.yMm()[p] = (float) (pitchMm * (p / columns + 0.5));
        }
        return pixels;
    }

    /** A movie of a board that is fed from a time on. */
    static MovieTime time(SlabParameters slab, double onS, int frames, double stepS) {
        double[] times = new double[frames];
        for (int f = 0; f < frames; f++) {
            times[f] = f * stepS;
        }
        Waveform waveform = Waveform.stepAt(onS);
        return new MovieTime(waveform, times, TemporalBasis.of(slab, waveform, times, Collections.nCopies(frames, 0)));
    }
}
