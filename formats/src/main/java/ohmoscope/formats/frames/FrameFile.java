package ohmoscope.formats.frames;

import java.nio.file.Path;
import java.util.Comparator;
import java.util.Locale;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;

/**
 * One file of a stack.
 *
 * @param name as its owner calls it; what errors name
 * @param path where it lies
 */
public record FrameFile(String name, Path path) {
    private static final Pattern NUMBER = Pattern.compile("\\d+");

    /** By name, numbers by their value: frame2 stands before frame10. */
    public static final Comparator<FrameFile> IN_ORDER =
            Comparator.comparing((FrameFile f) -> sortable(f.name())).thenComparing(FrameFile::name);

    private static String sortable(String name) {
        return NUMBER.matcher(name.toLowerCase(Locale.ROOT)).replaceAll(FrameFile::padded);
    }

    private static String padded(MatchResult number) {
        String digits = number.group().replaceFirst("^0+(?=.)", "");
        return digits.length() >= 12 ? digits : "0".repeat(12 - digits.length()) + digits;
    }

    boolean endsIn(String... extensions) {
        String lower = name.toLowerCase(Locale.ROOT);
        for (String extension : extensions) {
            if (lower.endsWith(extension)) {
                return true;
            }
        }
        return false;
    }
}
