package ohmoscope.core.reading;

import java.util.OptionalDouble;

/**
 * What stands between a supply's terminals and the pads, both ways together: the one model of it, for a single reading of
 * volts and amperes as for a whole log.
 *
 * @param ohms of leads and clips
 * @param sigmaOhms one standard deviation of that
 */
public record LeadOhms(double ohms, double sigmaOhms) {
    /** Copper of a rail between feed, fault and return: never known, always there. */
    public static final double COPPER_OHMS = 0.003;

    public static final double COPPER_SIGMA_OHMS = 0.003;
    /** Leads that were measured: contacts change by a tenth, and by the meter's own last digits. */
    private static final double MEASURED_SHARE = 0.1;

    private static final double MEASURED_OHMS = 0.002;
    /** Less than this no pair of leads has, ohms. */
    private static final double LEAST_OHMS = 1e-3;

    /** @param ohms as measured with the tips together, and its standard deviation; the usual ones where empty */
    public static LeadOhms of(OptionalDouble ohms, OptionalDouble sigmaOhms) {
        double lead = Math.max(LEAST_OHMS, ohms.orElse(Thresholds.USUAL_LEAD_OHMS));
        double sigma = sigmaOhms.orElse(
                ohms.isPresent() ? MEASURED_SHARE * lead + MEASURED_OHMS : Thresholds.USUAL_LEAD_SIGMA_OHMS);
        return new LeadOhms(lead, sigma);
    }

    public static LeadOhms of(OptionalDouble ohms) {
        return of(ohms, OptionalDouble.empty());
    }

    /** One standard deviation of leads and copper together. */
    public double sigmaWithCopper() {
        return Math.hypot(sigmaOhms, COPPER_SIGMA_OHMS);
    }

    /** What is left of volts over amperes, ohms; below 0 where the leads were taken for too much. */
    public double beyond(double volts, double amps) {
        return volts / amps - ohms;
    }
}
