package ohmoscope.core.diagnose;

import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Stream;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;

/** What a device that lacks one function lacks it by: the parts that are called like it. */
final class MissingFunction {
    /** Shorter words are in the names of many parts. */
    private static final int LEAST_WORD = 4;

    private MissingFunction() {}

    /** Those on the board, in its order; none where nobody named a function that is missing now. */
    static Stream<Part> parts(Timeline timeline) {
        return timeline
                .current(Run.class)
                .reduce((a, b) -> b)
                .filter(r -> r.finding() == RunFinding.FUNCTION_MISSING)
                .flatMap(Run::what)
                .stream()
                .flatMap(what -> timeline.board().parts().stream()
                        .filter(p -> timeline.now().has(p) && called(p, what)));
    }

    private static boolean called(Part part, String what) {
        String value = part.value().toLowerCase(Locale.ROOT);
        return Arrays.stream(what.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+"))
                .anyMatch(word -> word.length() >= LEAST_WORD && value.contains(word));
    }
}
