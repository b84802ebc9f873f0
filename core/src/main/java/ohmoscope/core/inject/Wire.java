package ohmoscope.core.inject;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/**
 * A copper test lead, of which there are two alike, for when its ohms cannot be measured.
 *
 * @param lengthM of one lead
 * @param sectionMm2 of its copper
 */
public record Wire(double lengthM, double sectionMm2) {
    /** Of copper at 20 °C. */
    private static final double OHM_MM2_PER_M = 0.0172;

    /** Plugs, clips and tips of both leads together, about. */
    private static final double JOINTS_OHMS = 0.012;

    /** A lead that stands so far above the room outshines what a short of some milliwatts does. */
    private static final double WARM_K = 15;

    /** Convection and radiation from a thin cable, W/(m² K). */
    private static final double AIR_W_PER_M2_K = 12;

    private static final Pattern AWG = Pattern.compile("(?:awg\\s*(\\d{1,2}))|(?:(\\d{1,2})\\s*awg)");

    private static final Pattern MM2 = Pattern.compile("(\\d+(?:[.,]\\d+)?)\\s*(?:mm²|mm2|mm\\^2)?");

    public Wire {
        Check.within("length", lengthM, 0.02, 20);
        Check.within("gauge", sectionMm2, 0.02, 50);
    }

    /**
     * @param gauge square millimetres of copper ({@code 0.75}, {@code 0,75 mm²}), or an American Wire Gauge number
     *     ({@code AWG 18}, {@code 18 awg}) after ASTM B258
     * @throws InvalidMember for anything else
     */
    public static Wire of(double lengthM, String gauge) {
        String words = gauge.strip().toLowerCase(Locale.ROOT);
        Matcher awg = AWG.matcher(words);
        if (awg.matches()) {
            int number = Integer.parseInt(awg.group(1) == null ? awg.group(2) : awg.group(1));
            double diameterMm = 0.127 * Math.pow(92, (36 - number) / 39.0);
            return new Wire(lengthM, Math.PI / 4 * diameterMm * diameterMm);
        }
        Matcher mm2 = MM2.matcher(words);
        if (mm2.matches()) {
            return new Wire(lengthM, Double.parseDouble(mm2.group(1).replace(',', '.')));
        }
        throw new InvalidMember("gauge", "is neither mm² (0.75) nor a wire number (AWG 18): " + gauge.strip());
    }

    /** Both leads, with their joints. */
    public double ohms() {
        return JOINTS_OHMS + 2 * lengthM * OHM_MM2_PER_M / sectionMm2;
    }

    /** What it carries for long without standing out in the picture, amperes, to two digits or so. */
    public double ratedAmps() {
        double copperMm = 2 * Math.sqrt(sectionMm2 / Math.PI);
        double outerM = (1.3 * copperMm + 0.9) / 1000;
        return Math.sqrt(WARM_K * AIR_W_PER_M2_K * Math.PI * outerM * sectionMm2 / OHM_MM2_PER_M);
    }

    public Means.Leads leads() {
        return new Means.Leads(ohms(), ratedAmps());
    }
}
