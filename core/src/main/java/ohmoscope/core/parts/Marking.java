package ohmoscope.core.parts;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.PartKind;

/**
 * What is printed on a part, read. Resistors by three or four digits, by a letter for the point, or by a number of the
 * 96-series and a letter (IEC 60062 and EIA-96); capacitors in picofarads by three digits, with a letter for their volts where
 * there is one (EIA-535), or in plain microfarads and volts; inductors in microhenries. Ceramic capacitors carry no marking, and
 * the letters on diodes, transistors and chips are their makers' own: nothing is read from those.
 *
 * @param value ohms, farads or henries, as the kind has it; 0 for a link
 * @param tolerance share, where the way of writing says one
 * @param volts that it is rated for, where they are printed
 * @param upsideDown whether the part has to be turned round for it
 */
public record Marking(double value, Way way, OptionalDouble tolerance, OptionalDouble volts, boolean upsideDown) {
    /** How a value is written. */
    public enum Way {
        LINK,
        THREE_DIGITS,
        FOUR_DIGITS,
        LETTER_AS_POINT,
        SERIES_96,
        PLAIN
    }

    private static final double COARSE = 0.05;
    private static final double FINE = 0.01;

    /** Nothing larger is fitted: digits that come to more are read the wrong way round. */
    private static final double MOST_OHMS = 22e6;

    private static final double MOST_FARADS = 10e-3;
    private static final double MOST_HENRIES = 0.1;

    private static final Pattern DIGITS = Pattern.compile("(\\d{2,3})(\\d)");
    private static final Pattern POINT = Pattern.compile("(\\d{0,3})([RKMLNrk])(\\d{0,3})");
    private static final Pattern NUMBER_96 = Pattern.compile("(\\d\\d)([ZYRXSABHCDEF])");
    private static final Pattern RATED = Pattern.compile("([eGJACDEVT]?)(\\d{3})([eGJACDEVT]?)");
    private static final Pattern MICROFARADS =
            Pattern.compile("(\\d{1,4}(?:\\.\\d+)?)\\s*(?:[uµ]F?)?[\\s/]+(\\d{1,3}(?:\\.\\d)?)\\s*V?");

    private static final int[] SERIES_24 = {
        10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91
    };

    /** What is left when each is turned round; a blank for those that are nothing then. */
    private static final String TURNED = "01    9 86";

    /** @return the likeliest reading first; empty where nothing can be read */
    public static List<Marking> of(PartKind kind, String printed) {
        String text = printed.strip();
        List<Marking> read = new ArrayList<>(upright(kind, text));
        turned(text).stream()
                .flatMap(round -> upright(kind, round).stream())
                .filter(m -> m.way != Way.LINK && read.stream().noneMatch(r -> r.value == m.value))
                .map(m -> new Marking(m.value, m.way, m.tolerance, m.volts, true))
                .forEach(read::add);
        return List.copyOf(read);
    }

    private static List<Marking> upright(PartKind kind, String text) {
        return switch (kind) {
            case RESISTOR -> resistor(text);
            case CAPACITOR -> capacitor(text);
            case INDUCTOR -> inductor(text);
            default -> List.of();
        };
    }

    private static List<Marking> resistor(String text) {
        List<Marking> read = new ArrayList<>();
        if (text.matches("0{1,4}")) {
            return List.of(new Marking(0, Way.LINK, OptionalDouble.empty(), OptionalDouble.empty(), false));
        }
        digits(text).filter(m -> m.value <= MOST_OHMS).ifPresent(read::add);
        point(text, 1).ifPresent(read::add);
        Matcher number = NUMBER_96.matcher(text);
        if (number.matches() && between(Integer.parseInt(number.group(1)), 1, 96)) {
            double base = Math.round(Math.pow(10, 2 + (Integer.parseInt(number.group(1)) - 1) / 96.0));
            read.add(plain(base * factor96(number.group(2).charAt(0)), Way.SERIES_96, OptionalDouble.of(FINE)));
        }
        return read;
    }

    private static boolean between(int value, int low, int high) {
        return value >= low && value <= high;
    }

    private static double factor96(char letter) {
        return switch (letter) {
            case 'Z' -> 1e-3;
            case 'Y', 'R' -> 1e-2;
            case 'X', 'S' -> 0.1;
            case 'A' -> 1;
            case 'B', 'H' -> 10;
            case 'C' -> 100;
            case 'D' -> 1e3;
            case 'E' -> 1e4;
            default -> 1e5;
        };
    }

    /** Digits and how many noughts follow. */
    private static Optional<Marking> digits(String text) {
        Matcher m = DIGITS.matcher(text);
        if (!m.matches() || m.group(1).startsWith("0")) {
            return Optional.empty();
        }
        boolean fine = m.group(1).length() == 3;
        int base = Integer.parseInt(m.group(1));
        if (!fine && !usual(base)) {
            return Optional.empty();
        }
        double value = base * Math.pow(10, Integer.parseInt(m.group(2)));
        return Optional.of(
                plain(value, fine ? Way.FOUR_DIGITS : Way.THREE_DIGITS, OptionalDouble.of(fine ? FINE : COARSE)));
    }

    private static boolean usual(int twoDigits) {
        for (int usual : SERIES_24) {
            if (usual == twoDigits) {
                return true;
            }
        }
        return false;
    }

    /** @param unit what R stands for */
    private static Optional<Marking> point(String text, double unit) {
        Matcher m = POINT.matcher(text);
        String figures = m.matches() ? m.group(1) + m.group(3) : "";
        if (figures.isEmpty() || figures.matches("0*")) {
            return Optional.empty();
        }
        double value = Double.parseDouble("0" + m.group(1) + "." + m.group(3) + "0")
                * switch (m.group(2)) {
                    case "K", "k" -> 1e3 * unit;
                    case "M" -> 1e6 * unit;
                    case "L", "N" -> 1e-3 * unit;
                    default -> unit;
                };
        boolean fine = figures.length() > 2;
        return Optional.of(plain(value, Way.LETTER_AS_POINT, OptionalDouble.of(fine ? FINE : COARSE)));
    }

    private static List<Marking> capacitor(String text) {
        Matcher plain = MICROFARADS.matcher(text);
        if (plain.matches()) {
            return List.of(new Marking(
                    1e-6 * Double.parseDouble(plain.group(1)),
                    Way.PLAIN,
                    OptionalDouble.empty(),
                    OptionalDouble.of(Double.parseDouble(plain.group(2))),
                    false));
        }
        Matcher rated = RATED.matcher(text);
        if (!rated.matches() || !rated.group(1).isEmpty() && !rated.group(3).isEmpty()) {
            return List.of();
        }
        OptionalDouble volts = volts(rated.group(1) + rated.group(3));
        return digits(rated.group(2)).filter(m -> 1e-12 * m.value <= MOST_FARADS).stream()
                .map(m -> new Marking(1e-12 * m.value, m.way, OptionalDouble.empty(), volts, false))
                .toList();
    }

    private static OptionalDouble volts(String letter) {
        return switch (letter) {
            case "e" -> OptionalDouble.of(2.5);
            case "G" -> OptionalDouble.of(4);
            case "J" -> OptionalDouble.of(6.3);
            case "A" -> OptionalDouble.of(10);
            case "C" -> OptionalDouble.of(16);
            case "D" -> OptionalDouble.of(20);
            case "E" -> OptionalDouble.of(25);
            case "V" -> OptionalDouble.of(35);
            case "T" -> OptionalDouble.of(50);
            default -> OptionalDouble.empty();
        };
    }

    private static List<Marking> inductor(String text) {
        List<Marking> read = new ArrayList<>();
        digits(text)
                .filter(m -> 1e-6 * m.value <= MOST_HENRIES)
                .map(m -> plain(1e-6 * m.value, m.way, OptionalDouble.empty()))
                .ifPresent(read::add);
        point(text, 1e-6)
                .map(m -> plain(m.value, m.way, OptionalDouble.empty()))
                .ifPresent(read::add);
        return read;
    }

    private static Marking plain(double value, Way way, OptionalDouble tolerance) {
        return new Marking(value, way, tolerance, OptionalDouble.empty(), false);
    }

    /** The same seen from the other side, where every figure is one then too, and not the same. */
    private static Optional<String> turned(String text) {
        StringBuilder round = new StringBuilder();
        for (int i = text.length() - 1; i >= 0; i--) {
            int figure = text.charAt(i) - '0';
            if (!between(figure, 0, 9) || TURNED.charAt(figure) == ' ') {
                return Optional.empty();
            }
            round.append(TURNED.charAt(figure));
        }
        return round.toString().equals(text) ? Optional.empty() : Optional.of(round.toString());
    }
}
