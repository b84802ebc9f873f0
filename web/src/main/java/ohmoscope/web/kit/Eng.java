package ohmoscope.web.kit;

import java.math.BigDecimal;
import java.util.Locale;

/** Numbers as the trade writes them: engineering prefixes, no more digits than are known. */
public final class Eng {
    private static final String[] PREFIXES = {"p", "n", "µ", "m", "", "k", "M"};

    private Eng() {}

    /** A number and its unit, apart, so that a page can set them in different sizes. */
    public record Quantity(String number, String unit) {
        @Override
        public String toString() {
            return number + " " + unit;
        }
    }

    /** With an engineering prefix and three significant digits: 12.0 mΩ. */
    public static Quantity prefixed(double value, String unit) {
        return prefixed(value, unit, 3);
    }

    public static Quantity prefixed(double value, String unit, int digits) {
        if (value == 0) {
            return new Quantity("0", unit);
        }
        int exponent = (int) Math.floor(Math.log10(Math.abs(value)) / 3 + 1e-12);
        int index = Math.max(0, Math.min(PREFIXES.length - 1, exponent + 4));
        double scaled = value / Math.pow(1000, index - 4);
        return new Quantity(significant(scaled, digits), PREFIXES[index] + unit);
    }

    /** Plain, with so many significant digits and no exponent. */
    public static String significant(double value, int digits) {
        if (value == 0) {
            return "0";
        }
        int whole = (int) Math.floor(Math.log10(Math.abs(value))) + 1;
        int decimals = Math.max(0, digits - whole);
        return String.format(Locale.ROOT, "%." + decimals + "f", value);
    }

    /** With fixed decimals: 0.149. */
    public static String fixed(double value, int decimals) {
        return String.format(Locale.ROOT, "%." + decimals + "f", value);
    }

    /** As somebody would type it: no zeros behind. */
    public static String plain(double value) {
        return BigDecimal.valueOf(value).stripTrailingZeros().toPlainString();
    }

    /** Percent for people: whole numbers, and words at the ends. */
    public static String percent(double probability) {
        if (probability >= 0.995) {
            return "> 99";
        }
        if (probability < 0.005) {
            return "< 1";
        }
        return Long.toString(Math.round(probability * 100));
    }
}
