package ohmoscope.core.photomap;

import java.util.regex.Pattern;
import ohmoscope.core.board.InvalidMember;

/** References and nets as they are typed over a photograph. */
final class Names {
    private static final Pattern NAME = Pattern.compile("[\\p{L}\\p{N}_.+/#-]{1,40}");

    private Names() {}

    static void optional(String member, String name) {
        if (!name.isEmpty()) {
            needed(member, name);
        }
    }

    static void needed(String member, String name) {
        if (!NAME.matcher(name).matches()) {
            throw new InvalidMember(
                    member, "must have 1 to 40 letters, digits, dots, hyphens, plus signs, slashes or underscores");
        }
    }
}
