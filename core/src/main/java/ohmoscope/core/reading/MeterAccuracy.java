package ohmoscope.core.reading;

/**
 * How far a hand meter's value may be from the truth: a share of it, its last digits, and in ohms the contact of two
 * probes. Usual hand meters state 0.5–1 % and some digits; probes on solder and lacquer add 0 to 0.5 Ω.
 *
 * @param diodeShare of the value, one standard deviation
 * @param diodeVolts digits, V
 * @param ohmsShare of the value
 * @param contactOhms of probes and leads, Ω
 */
public record MeterAccuracy(double diodeShare, double diodeVolts, double ohmsShare, double contactOhms) {
    /** What all use; the shares hold what good boards differ by in temperature and parts besides. */
    public static final MeterAccuracy USUAL = new MeterAccuracy(0.04, 0.008, 0.1, 0.12);

    /** One standard deviation in diode mode, V. */
    public double sigmaDiodeVolts(double volts) {
        return diodeVolts + diodeShare * Math.abs(volts);
    }

    /** One standard deviation in ohms, Ω. */
    public double sigmaOhms(double ohms) {
        return Math.hypot(ohmsShare * ohms, contactOhms);
    }
}
