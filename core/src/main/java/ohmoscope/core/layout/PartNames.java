package ohmoscope.core.layout;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.PartKind;

/** What a part is by its reference, value and package: letters as IEEE 315 and long use have them. */
public final class PartNames {
    private static final Pattern LETTERS = Pattern.compile("([A-Za-z]+).*");
    private static final Pattern VOLTS = Pattern.compile("(?:^|[\\s/,_])(\\d+(?:\\.\\d+)?)\\s*V(?:DC)?(?:$|[\\s/,_])");
    private static final Pattern CHIP_SIZE =
            Pattern.compile("(?:^|[^0-9])(01005|0201|0402|0603|0805|1206|1210|1812|2010|2512)(?:[^0-9]|$)");

    private static final Map<String, PartKind> BY_LETTERS = Map.ofEntries(
            Map.entry("C", PartKind.CAPACITOR),
            Map.entry("CE", PartKind.CAPACITOR),
            Map.entry("R", PartKind.RESISTOR),
            Map.entry("RN", PartKind.RESISTOR),
            Map.entry("RP", PartKind.RESISTOR),
            Map.entry("RS", PartKind.RESISTOR),
            Map.entry("RT", PartKind.RESISTOR),
            Map.entry("L", PartKind.INDUCTOR),
            Map.entry("FB", PartKind.FERRITE),
            Map.entry("FL", PartKind.FERRITE),
            Map.entry("D", PartKind.DIODE),
            Map.entry("LED", PartKind.DIODE),
            Map.entry("CR", PartKind.DIODE),
            Map.entry("TVS", PartKind.TVS),
            Map.entry("ZD", PartKind.DIODE),
            Map.entry("Q", PartKind.TRANSISTOR),
            Map.entry("M", PartKind.MOSFET),
            Map.entry("F", PartKind.FUSE),
            Map.entry("FU", PartKind.FUSE),
            Map.entry("U", PartKind.IC),
            Map.entry("IC", PartKind.IC),
            Map.entry("VR", PartKind.IC),
            Map.entry("J", PartKind.CONNECTOR),
            Map.entry("P", PartKind.CONNECTOR),
            Map.entry("CN", PartKind.CONNECTOR),
            Map.entry("CON", PartKind.CONNECTOR),
            Map.entry("X", PartKind.CONNECTOR),
            Map.entry("JP", PartKind.CONNECTOR),
            Map.entry("USB", PartKind.CONNECTOR),
            Map.entry("BT", PartKind.CONNECTOR),
            Map.entry("BAT", PartKind.CONNECTOR),
            Map.entry("SH", PartKind.SHIELD),
            Map.entry("Y", PartKind.CRYSTAL),
            Map.entry("XTAL", PartKind.CRYSTAL),
            Map.entry("SW", PartKind.SWITCH),
            Map.entry("S", PartKind.SWITCH),
            Map.entry("K", PartKind.SWITCH),
            Map.entry("BTN", PartKind.SWITCH));

    /** Capacitors of two pads: length and width of the usual chip sizes, millimetres. */
    private static final Map<String, Draft.Body> CHIPS = Map.of(
            "01005", new Draft.Body(0.4, 0.2),
            "0201", new Draft.Body(0.6, 0.3),
            "0402", new Draft.Body(1.0, 0.5),
            "0603", new Draft.Body(1.6, 0.8),
            "0805", new Draft.Body(2.0, 1.25),
            "1206", new Draft.Body(3.2, 1.6),
            "1210", new Draft.Body(3.2, 2.5),
            "1812", new Draft.Body(4.5, 3.2),
            "2010", new Draft.Body(5.0, 2.5),
            "2512", new Draft.Body(6.3, 3.2));

    /** How far a length may be from a usual size's and still be taken for it, relative. */
    private static final double LIKE = 0.28;

    private static final double SOLDER = 0.45;

    private PartNames() {}

    /** A usual size of two-pin parts. */
    public record Size(String name, double wMm, double hMm) {
        /** How well a body that is seen with its solder fits: 1 is exactly, 0 hardly. */
        public double like(double longMm, double shortMm) {
            return Math.max(0, 1 - off(this, longMm, shortMm) / LIKE);
        }
    }

    /** All of them, the smallest first. */
    public static List<Size> sizes() {
        return CHIPS.entrySet().stream()
                .map(e -> new Size(e.getKey(), e.getValue().wMm(), e.getValue().hMm()))
                .sorted(Comparator.comparingDouble(Size::wMm).thenComparingDouble(Size::hMm))
                .toList();
    }

    /** The usual size of a body that is seen with its solder; empty where none fits. */
    public static Optional<Size> soldered(double longMm, double shortMm) {
        return sizes().stream()
                .filter(s -> off(s, longMm, shortMm) < LIKE)
                .min(Comparator.comparingDouble(s -> off(s, longMm, shortMm)));
    }

    /** Solder makes a part longer by a third of its width or so, hardly wider. */
    private static double off(Size size, double longMm, double shortMm) {
        double length = size.wMm() + SOLDER * size.hMm();
        return Math.max(Math.abs(Math.log(longMm / length)), Math.abs(Math.log(shortMm / size.hMm())));
    }

    /** @return upper case, empty where the reference does not begin with one */
    public static String letters(String ref) {
        Matcher matcher = LETTERS.matcher(ref);
        return matcher.matches() ? matcher.group(1).toUpperCase(Locale.ROOT) : "";
    }

    /** The letters that a new part's reference begins with. */
    public static String letters(PartKind kind) {
        return switch (kind) {
            case CAPACITOR -> "C";
            case RESISTOR -> "R";
            case INDUCTOR -> "L";
            case FERRITE -> "FB";
            case DIODE, TVS -> "D";
            case TRANSISTOR, MOSFET -> "Q";
            case FUSE -> "F";
            case IC -> "U";
            case CONNECTOR -> "J";
            case SHIELD -> "SH";
            case CRYSTAL -> "Y";
            case SWITCH -> "SW";
            case OTHER -> "X";
        };
    }

    /** @return {@link PartKind#OTHER} where neither says */
    public static PartKind kind(String ref, String value, String packageName) {
        PartKind kind = BY_LETTERS.getOrDefault(letters(ref), PartKind.OTHER);
        String words = (value + " " + packageName).toUpperCase(Locale.ROOT);
        boolean field = words.contains("MOS") || words.matches(".*\\b[NP]-?CH.*") || words.contains("FET");
        if (kind == PartKind.TRANSISTOR && field) {
            return PartKind.MOSFET;
        }
        if (kind == PartKind.DIODE && words.contains("TVS")) {
            return PartKind.TVS;
        }
        if ((kind == PartKind.INDUCTOR || kind == PartKind.FERRITE) && words.contains("FERRITE")) {
            return PartKind.FERRITE;
        }
        if (kind == PartKind.CONNECTOR && (words.contains("CRYSTAL") || words.contains("OSCILLATOR"))) {
            return PartKind.CRYSTAL;
        }
        return kind;
    }

    static boolean testPoint(String ref) {
        return letters(ref).equals("TP") || letters(ref).equals("TEST");
    }

    static boolean fiducial(String ref, String packageName) {
        return letters(ref).equals("FID")
                || packageName.toUpperCase(Locale.ROOT).contains("FIDUCIAL");
    }

    /** The voltage that a capacitor bears, as printed behind its value. */
    static OptionalDouble ratedVolts(String value) {
        Matcher matcher = VOLTS.matcher(value);
        return matcher.find() ? OptionalDouble.of(Double.parseDouble(matcher.group(1))) : OptionalDouble.empty();
    }

    /** The size code of a two-pad chip in a footprint's name; where a name has two, the first is the imperial one. */
    static Optional<String> chipSize(String packageName) {
        Matcher matcher = CHIP_SIZE.matcher(packageName);
        return matcher.find() ? Optional.of(matcher.group(1)) : Optional.empty();
    }

    static Optional<Draft.Body> chip(String packageName) {
        return chipSize(packageName).map(CHIPS::get);
    }
}
