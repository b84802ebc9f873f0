package ohmoscope.core.layout;

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

    @Override
    public String toString() {
        return kind.name().toLowerCase(java.util.Locale.ROOT) + ": " + about + ": " + what;
    }
}
