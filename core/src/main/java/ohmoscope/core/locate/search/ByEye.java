package ohmoscope.core.locate.search;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Candidates;

/**
 * What an eye on the picture does, as a baseline: the hottest pixel of the last frames less the first, and the parts of
 * the rail by their distance to it.
 */
public final class ByEye {
    private static final int FRAMES = 5;

    private ByEye() {}

    /** @return candidates of the rail, nearest first; empty without captures */
    public static List<Part> ranked(LocateInput input) throws IOException {
        List<Candidate> candidates = Candidates.on(input);
        double hottest = Double.NEGATIVE_INFINITY;
        List<Part> ranked = new ArrayList<>();
        for (Capture capture : input.captures()) {
            CaptureSpec spec = capture.spec();
            double[] change = change(capture);
            int best = 0;
            for (int i = 1; i < change.length; i++) {
                if (change[i] > change[best]) {
                    best = i;
                }
            }
            if (change[best] > hottest) {
                hottest = change[best];
                Homography map = Registration.fit(spec.registration()).homography();
                double x = map.xMm(best % spec.width(), best / spec.width());
                double y = map.yMm(best % spec.width(), best / spec.width());
                ranked = candidates.stream()
                        .map(Candidate::part)
                        .sorted(Comparator.comparingDouble(
                                p -> Math.hypot(p.xMm() - x, p.yMm() - y) + (p.side() == spec.side() ? 0 : 1e-3)))
                        .toList();
            }
        }
        return ranked;
    }

    private static double[] change(Capture capture) throws IOException {
        int frames = capture.spec().frameCount();
        double[] factors = new double[frames];
        for (int f = 0; f < frames; f++) {
            factors[f] = (f >= frames - FRAMES ? 1 : 0) - (f < FRAMES ? 1 : 0);
        }
        return SummedFrames.of(capture, factors);
    }
}
