package ohmoscope.core.evidence;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A number as the trade writes it: {@code .003}, {@code 31mV}, {@code 4k7}, {@code 3V3}, {@code 2,1ohm}.
 *
 * @param value in the unit without prefix
 */
record Quantity(double value, Unit unit) {
    /** What it is a number of; {@link #NONE} when it says nothing. */
    enum Unit {
        NONE,
        VOLTS,
        AMPS,
        OHMS,
        KELVIN,
        MILLIMETRES
    }

    private static final Pattern PLAIN = Pattern.compile(
            "([+-]?(?:[0-9]+[.,]?[0-9]*|[.,][0-9]+))(mm|(k|M|m|u|µ)?(v|volts?|a|amps?|ohms?|Ω|r|k)?)",
            Pattern.CASE_INSENSITIVE);
    /** The prefix or unit in the point's place. */
    private static final Pattern INSIDE = Pattern.compile("([0-9]+)([kKMmRrVv])([0-9]+)(v|a|ohms?|Ω)?");

    /** Longer than any number that a meter shows. */
    private static final int MOST_CHARACTERS = 40;

    /** Empty when the word is no number. */
    static Optional<Quantity> of(String word) {
        return word.length() > MOST_CHARACTERS ? Optional.empty() : read(word).filter(q -> Double.isFinite(q.value));
    }

    private static Optional<Quantity> read(String word) {
        Matcher inside = INSIDE.matcher(word);
        if (inside.matches()) {
            String letter = inside.group(2);
            double number = Double.parseDouble(inside.group(1) + "." + inside.group(3));
            Unit unit = unit(inside.group(4));
            boolean ohms = "rRkKM".contains(letter) && unit == Unit.NONE;
            Unit said = letter.equalsIgnoreCase("v") ? Unit.VOLTS : ohms ? Unit.OHMS : unit;
            return Optional.of(new Quantity(number * factor(letter), said));
        }
        Matcher m = PLAIN.matcher(word);
        if (!m.matches()) {
            return Optional.empty();
        }
        double number = Double.parseDouble(m.group(1).replace(',', '.'));
        if (m.group(2).equalsIgnoreCase("mm")) {
            return Optional.of(new Quantity(number, Unit.MILLIMETRES));
        }
        String prefix = m.group(3) == null ? "" : m.group(3);
        if (prefix.equals("K") && m.group(4) == null) {
            return Optional.of(new Quantity(number, Unit.KELVIN));
        }
        Unit unit = unit(m.group(4));
        boolean ohms = unit == Unit.NONE && (prefix.equals("k") || prefix.equals("M"));
        return Optional.of(new Quantity(number * factor(prefix), ohms ? Unit.OHMS : unit));
    }

    private static double factor(String prefix) {
        return switch (prefix) {
            case "k", "K" -> 1e3;
            case "M" -> 1e6;
            case "m" -> 1e-3;
            case "u", "U", "µ" -> 1e-6;
            default -> 1;
        };
    }

    private static Unit unit(String word) {
        if (word == null || word.isEmpty()) {
            return Unit.NONE;
        }
        return switch (word.toLowerCase(Locale.ROOT).charAt(0)) {
            case 'v' -> Unit.VOLTS;
            case 'a' -> Unit.AMPS;
            case 'k' -> Unit.KELVIN;
            default -> Unit.OHMS;
        };
    }
}
