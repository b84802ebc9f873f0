package ohmoscope.core.layout;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * One thing that the files of a board do not say alike.
 *
 * @param name the part, with its pad for a net
 * @param believed the file that is believed
 * @param said by file, what it says, in the order in which they were read
 */
public record Disagreement(What what, String name, String believed, Map<String, String> said) {
    /** What it is about. */
    public enum What {
        VALUE,
        SIDE,
        PLACE,
        NET,
        /** Whether the part is on the board at all. */
        PART
    }

    public Disagreement {
        said = Collections.unmodifiableMap(new LinkedHashMap<>(said));
    }

    /** What it is called among the {@link Choices}. */
    public String key() {
        return key(what, name);
    }

    static String key(What what, String name) {
        return what + " " + name;
    }
}
