package ohmoscope.formats;

/**
 * One thing that is wrong in a bundle.
 *
 * @param file the file in the bundle, or the bundle's own name
 * @param where the JSON member's path, {@code line 12} or {@code frame 7}; empty when it is the file as a whole
 * @param what what was expected and found, and how to mend it
 */
public record Fault(String file, String where, String what) {
    /** One sentence. */
    public String sentence() {
        return file + (where.isEmpty() ? "" : ", " + where) + ": " + what;
    }
}
