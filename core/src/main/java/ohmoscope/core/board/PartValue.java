package ohmoscope.core.board;

import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Values as printed in a parts list: resistances such as {@code 10k}, {@code 4R7}, {@code 0R01}, {@code 220 ohm}, and capacitances. */
public final class PartValue {
    private static final Pattern LETTER_AS_POINT = Pattern.compile("(\\d+)([RrkKMm])(\\d+)");
    private static final Pattern NUMBER = Pattern.compile("(\\d+(?:[.,]\\d+)?)\\s*([RrkKMm]?)\\s*(?:[Ωo].*)?");

    private static final Pattern FARADS = Pattern.compile("(\\d+(?:[.,]\\d+)?)\\s*([pnuµm])(\\d*)\\s*F?(?:[\\s/,].*)?");

    private PartValue() {}

    /** A capacitance as printed in a parts list: {@code 100n}, {@code 4u7}, {@code 22 uF / 6.3 V}; empty when it is none. */
    public static OptionalDouble farads(String value) {
        Matcher m = FARADS.matcher(value.trim());
        if (!m.matches() || !m.group(3).isEmpty() && m.group(1).contains(".")) {
            return OptionalDouble.empty();
        }
        double number =
                Double.parseDouble(m.group(1).replace(',', '.') + (m.group(3).isEmpty() ? "" : "." + m.group(3)));
        return OptionalDouble.of(number
                * switch (m.group(2)) {
                    case "p" -> 1e-12;
                    case "n" -> 1e-9;
                    case "m" -> 1e-3;
                    default -> 1e-6;
                });
    }

    /** A part's resistance as its board states it, else by its value; empty where neither says. */
    public static OptionalDouble ohms(Part part) {
        return part.resistanceOhms().isPresent() ? part.resistanceOhms() : ohms(part.value());
    }

    /** @return empty when it is no resistance */
    public static OptionalDouble ohms(String value) {
        Matcher point = LETTER_AS_POINT.matcher(value.trim());
        if (point.matches()) {
            return OptionalDouble.of(
                    Double.parseDouble(point.group(1) + "." + point.group(3)) * factor(point.group(2)));
        }
        Matcher number = NUMBER.matcher(value.trim());
        if (number.matches()) {
            return OptionalDouble.of(Double.parseDouble(number.group(1).replace(',', '.')) * factor(number.group(2)));
        }
        return OptionalDouble.empty();
    }

    private static double factor(String letter) {
        return switch (letter) {
            case "k", "K" -> 1e3;
            case "M" -> 1e6;
            case "m" -> 1e-3;
            default -> 1;
        };
    }
}
