package ohmoscope.web.job;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.diagnose.DrawReading;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.formats.AdviceWords;
import ohmoscope.web.kit.Eng;

/** What a draw comes to: what is found in it, and where that which a good device does not take may go. */
public final class DrawWords {
    private static final int MOST_CARRIERS = 4;

    private DrawWords() {}

    /** Whether a draw is right for a device that runs, and too much for one that was only plugged in. */
    static boolean onlyIfItRuns(List<Finding> findings, Optional<DrawReading> draw) {
        return draw.map(d -> d.leakOhms().isPresent()).orElse(false)
                && findings.stream().anyMatch(f -> f.code() == Finding.Code.DRAW_NORMAL);
    }

    /** A sentence for each finding. */
    public static Stream<String> found(List<Finding> findings, Optional<DrawReading> draw) {
        boolean runs = onlyIfItRuns(findings, draw);
        return findings.stream()
                .map(f -> runs && f.code() == Finding.Code.DRAW_NORMAL
                        ? "So much is right for one that runs; this one was not told to start."
                        : AdviceWords.finding(f) + ".");
    }

    /** How much more than a good device it takes, and where that may go; empty where it does not. */
    public static String leak(DrawReading draw) {
        if (draw.leakOhms().isEmpty()) {
            return "";
        }
        List<String> carriers = draw.carriers().stream().limit(MOST_CARRIERS).toList();
        return "A good one takes up to " + Eng.prefixed(draw.mostAmps(), "A", 2) + " here; the rest goes through "
                + Eng.prefixed(draw.leakOhms().getAsDouble(), "Ω", 2) + ", on " + String.join(", ", carriers)
                + (draw.carriers().size() > MOST_CARRIERS ? " or behind." : ".");
    }
}
