package ohmoscope.formats;

import java.text.MessageFormat;
import java.util.List;
import java.util.Locale;
import java.util.MissingResourceException;
import java.util.ResourceBundle;
import java.util.Set;
import java.util.TreeSet;

/**
 * The sentences of steps, cautions and findings, from the message files under {@code ohmoscope/texts}: one place for what is
 * said, apart from the code that knows when.
 */
public final class Texts {
    private static final List<ResourceBundle> FILES = List.of(
            ResourceBundle.getBundle("ohmoscope.texts.findings", Locale.ROOT),
            ResourceBundle.getBundle("ohmoscope.texts.steps", Locale.ROOT),
            ResourceBundle.getBundle("ohmoscope.texts.cautions", Locale.ROOT),
            ResourceBundle.getBundle("ohmoscope.texts.live", Locale.ROOT));

    private Texts() {}

    /**
     * @param values what stands in the places {@code {0}}, {@code {1}} and so on; numbers come as they are to be shown
     * @throws MissingResourceException where no file has the key
     */
    public static String of(String key, String... values) {
        String pattern = pattern(key);
        // An apostrophe is one: nothing in these files is quoted.
        return values.length == 0 ? pattern : new MessageFormat(pattern.replace("'", "''"), Locale.ROOT).format(values);
    }

    /** The text of one of a closed set: {@code group} and the code's name in lower case. */
    public static String of(String group, Enum<?> code, String... values) {
        return of(group + "." + code.name().toLowerCase(Locale.ROOT).replace('_', '-'), values);
    }

    /** All of a list, {@code key.1} and so on, until there is none. */
    public static List<String> all(String key) {
        Set<String> keys = keys();
        return java.util.stream.IntStream.iterate(1, i -> keys.contains(key + "." + i), i -> i + 1)
                .mapToObj(i -> of(key + "." + i))
                .toList();
    }

    static Set<String> keys() {
        Set<String> keys = new TreeSet<>();
        FILES.forEach(f -> keys.addAll(f.keySet()));
        return keys;
    }

    private static String pattern(String key) {
        return FILES.stream()
                .filter(f -> f.containsKey(key))
                .findFirst()
                .orElseThrow(() -> new MissingResourceException("no text is called " + key, "ohmoscope.texts", key))
                .getString(key);
    }
}
