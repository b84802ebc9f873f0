package ohmoscope.core.locate;

import java.util.Collections;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TemporalBasis;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.Motion;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.locate.capture.MovieTime;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;

/** Pictures whose pixels all count, seen straight from above, and evenly timed movies. */
public final class Grids {
    private Grids() {}

    public static Pixels of(int rows, int columns, double pitchMm, int stills) {
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
    public static MovieTime time(SlabParameters slab, double onS, int frames, double stepS) {
        double[] times = new double[frames];
        for (int f = 0; f < frames; f++) {
            times[f] = f * stepS;
        }
        Waveform waveform = Waveform.stepAt(onS);
        return new MovieTime(waveform, times, TemporalBasis.of(slab, waveform, times, Collections.nCopies(frames, 0)));
    }

    /** A capture of a board of 40 by 30 mm on which nothing is to be seen. */
    public static CaptureModel blank(Board board, Side side) {
        MovieTime time = time(SlabParameters.expected(board), 1, 30, 0.2);
        Pixels pixels = of(30, 40, 1, 0);
        float[] still = new float[pixels.count() * time.components()];
        return CaptureModel.of(side, pixels, still, 0.05, time, 1, board.outline(), LocateSettings.DEFAULT, 100_000);
    }

    /** From a camera that stood still. @param model empty where it tells nothing */
    public static Prepared prepared(Optional<CaptureModel> model) {
        FrameScan scan =
                new FrameScan(List.of(0), List.of(Motion.NONE), List.of(0.0), 0.05, 0, new int[0], 1, new float[1]);
        return new Prepared(scan, Registration.fit(Fixtures.corners(40, 30, 2.2)), 0, model);
    }
}
