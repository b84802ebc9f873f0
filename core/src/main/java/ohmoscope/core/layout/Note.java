package ohmoscope.core.layout;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * What the one who reads a board should know of how it came about.
 *
 * @param about a file, part or net
 */
public record Note(Kind kind, String about, String what) {
    /** Why it is said. */
    public enum Kind {
        /** Worked out, and perhaps wrong. */
        GUESSED,
        /** In a file, and of no use to a board. */
        UNUSED,
        /** Two files do not say the same. */
        DISAGREES
    }

    /** A note that names the first of several. @param what before them, empty for nothing @param most that are named */
    static Note naming(Kind kind, String about, String what, List<String> which, int most) {
        String named = which.stream().limit(most).collect(Collectors.joining(", "));
        int more = which.size() - most;
        return new Note(kind, about, what + named + (more > 0 ? " and " + more + " more" : ""));
    }

    @Override
    public String toString() {
        return kind.name().toLowerCase(Locale.ROOT) + ": " + about + ": " + what;
    }
}
