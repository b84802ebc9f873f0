package ohmoscope.core.board;

import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A resistance as printed in a parts list: {@code 10k}, {@code 4R7}, {@code 10m}, {@code 0R01}, {@code 220 ohm}. */
public final class PartValue {
    private static final Pattern LETTER_AS_POINT = Pattern.compile("(\\d+)([RrkKMm])(\\d+)");
    private static final Pattern NUMBER = Pattern.compile("(\\d+(?:[.,]\\d+)?)\\s*([RrkKMm]?)\\s*(?:[Ωo].*)?");

    private PartValue() {}

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
