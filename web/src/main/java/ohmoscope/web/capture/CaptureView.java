package ohmoscope.web.capture;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.kit.Eng;

/**
 * What the capture page says in words.
 *
 * @param drawn suspects whose predicted picture can be drawn
 * @param others the job's other captures
 */
record CaptureView(
        String id,
        String side,
        String device,
        String rail,
        String size,
        List<Fact> facts,
        List<Pair> pairs,
        String registrationWords,
        List<String> drawn,
        List<String> others,
        int lastFrame) {
    private static final double STEADY_PX = 0.06;

    /** Less than this is not worth telling. */
    private static final double LEAST_TURN_DEGREES = 0.02;

    /** A measured property of the camera. */
    record Fact(String name, String value, String words) {}

    /** A registration pair with its residual. */
    record Pair(int number, double xPx, double yPx, String place, String residual, boolean leftOut) {}

    static CaptureView of(JobFile.Stored job, CaptureSpec spec, Optional<StoredAnalysis> analysis) {
        Registration registration = Registration.fit(spec.registration());
        double seconds =
                spec.timesS().get(spec.frameCount() - 1) - spec.timesS().get(0);
        String size = spec.width() + "×" + spec.height() + " pixels, " + spec.frameCount() + " frames, "
                + Eng.fixed(seconds, 1) + " s";
        return new CaptureView(
                spec.id(),
                spec.side().name().toLowerCase(Locale.ROOT),
                job.board().name(),
                job.bundle().rail(),
                size,
                facts(spec, registration, analysis.flatMap(a -> a.capture(spec.id()))),
                pairs(spec, registration),
                registration.poor()
                        ? "The pairs disagree by more than clicking explains: set the worst again."
                        : "The pairs agree; a place near the middle is known to " + Eng.fixed(registration.sigmaMm(), 2)
                                + " mm.",
                analysis.map(StoredAnalysis::drawn).orElse(List.of()),
                job.bundle().captures().stream()
                        .map(c -> c.spec().id())
                        .filter(id -> !id.equals(spec.id()))
                        .toList(),
                spec.frameCount() - 1);
    }

    private static List<Fact> facts(
            CaptureSpec spec, Registration registration, Optional<StoredAnalysis.StoredCapture> found) {
        List<Fact> facts = new ArrayList<>();
        double pitch = registration.homography().pitchMm(spec.width() / 2.0, spec.height() / 2.0);
        facts.add(new Fact("Pixel", Eng.fixed(pitch, 2) + " mm", "on the board, in the middle"));
        found.ifPresent(f -> {
            facts.add(new Fact("Noise", Eng.fixed(f.noiseK() * 1000, 0) + " mK", "one frame to the next"));
            facts.add(new Fact("Drift", Eng.fixed(f.driftK(), 2) + " K", "of the whole picture; taken out"));
            facts.add(new Fact("Shake", Eng.fixed(f.shakePx(), 2) + " px", shake(f.shakePx(), f.turnedDegrees())));
            facts.add(new Fact(
                    "Re-zeroed or nudged",
                    Math.max(0, f.segments() - 1) + "×",
                    f.repeatedFrames() + " repeated frames left out"));
        });
        return facts;
    }

    private static String shake(double px, double degrees) {
        String turned = degrees < LEAST_TURN_DEGREES ? "" : ", turned back by " + Eng.fixed(degrees, 2) + "°";
        return px < STEADY_PX ? "steady" : "frames laid over each other" + turned;
    }

    private static List<Pair> pairs(CaptureSpec spec, Registration registration) {
        List<Pair> pairs = new ArrayList<>();
        for (int i = 0; i < spec.registration().size(); i++) {
            RegistrationPair pair = spec.registration().get(i);
            pairs.add(new Pair(
                    i + 1,
                    pair.xPx(),
                    pair.yPx(),
                    Eng.fixed(pair.xMm(), 1) + ", " + Eng.fixed(pair.yMm(), 1) + " mm",
                    Eng.fixed(registration.residualsMm().get(i), 2) + " mm",
                    registration.leftOut().orElse(-1) == i));
        }
        return pairs;
    }
}
