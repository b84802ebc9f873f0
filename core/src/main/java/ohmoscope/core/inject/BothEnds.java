package ohmoscope.core.inject;

import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.board.Check;

/**
 * On which side of a series part a rail is shorted: current into one of its ends, then into the other, and each time the
 * volts across it and how much it warms. Current that goes through it says that the short is behind. What the part, its
 * seat and the camera do to the numbers is drawn at random and summed over (a Monte Carlo mean, as in Robert and Casella,
 * <i>Monte Carlo Statistical Methods</i>, 2004, ch. 3); what the short itself sends over the board warms the part alike from
 * either end, and so goes out of the comparison. O(draws).
 *
 * @param first that it lies on the side of the end that was fed first
 * @param second on the other's
 * @param both that something conducts on both, or round the part; the three sum to 1
 */
public record BothEnds(double first, double second, double both) {
    private static final double PRIOR_BOTH = 0.04;
    /** Series parts on power rails: fuses, shunts, coils, closed switches. */
    private static final double USUAL_OHMS = 0.02;

    private static final double USUAL_SPREAD = 0.9;
    /** Of a value that the board gives, with solder and probe tips, natural log. */
    private static final double KNOWN_SPREAD = 0.2;
    /** A part of a few square millimetres on a board, and how far one may be off, natural log. */
    private static final double KELVIN_PER_WATT = 45;

    private static final double WARMTH_SPREAD = 0.8;
    /** What the short's own heat does at the part, kelvin per square ampere. */
    private static final double SPILL = 0.1;

    private static final double SPILL_SPREAD = 1.2;
    private static final double METER_VOLTS = 1e-4;
    private static final double METER_SHARE = 0.03;
    private static final double CAMERA_K = 0.15;
    private static final double CAMERA_SHARE = 0.3;
    private static final double SURE = 0.9;
    private static final int DRAWS = 4000;
    private static final long SEED = 21;

    /** What it comes to. */
    public enum Side {
        FIRST,
        SECOND,
        BOTH,
        /** The numbers do not tell: too little current, or a part of too few milliohms. */
        UNTOLD
    }

    /**
     * One end fed.
     *
     * @param amps that flowed, above 0
     * @param dropVolts across the part meanwhile, whatever its sign; empty where nobody measured
     * @param riseK of the part above its surroundings; empty where no camera saw it
     */
    public record Fed(double amps, OptionalDouble dropVolts, OptionalDouble riseK) {
        public Fed {
            Check.positive("amps", amps);
        }
    }

    /** @param partOhms as the board has it; empty where it does not say */
    public static BothEnds of(OptionalDouble partOhms, Fed first, Fed second) {
        Random random = new Random(SEED);
        double[] nats = new double[3 * DRAWS];
        double top = Double.NEGATIVE_INFINITY;
        for (int d = 0; d < DRAWS; d++) {
            double ohms = partOhms.orElse(USUAL_OHMS)
                    * Math.exp((partOhms.isPresent() ? KNOWN_SPREAD : USUAL_SPREAD) * random.nextGaussian());
            double kelvin = KELVIN_PER_WATT * Math.exp(WARMTH_SPREAD * random.nextGaussian());
            double spill = SPILL * Math.exp(SPILL_SPREAD * random.nextGaussian());
            double share = random.nextDouble();
            double other = random.nextDouble();
            nats[3 * d] = nats(first, 0, ohms, kelvin, spill) + nats(second, 1, ohms, kelvin, spill);
            nats[3 * d + 1] = nats(first, 1, ohms, kelvin, spill) + nats(second, 0, ohms, kelvin, spill);
            nats[3 * d + 2] = nats(first, share, ohms, kelvin, spill) + nats(second, other, ohms, kelvin, spill);
            top = Math.max(top, Math.max(nats[3 * d], Math.max(nats[3 * d + 1], nats[3 * d + 2])));
        }
        double[] weight = new double[3];
        for (int i = 0; i < nats.length; i++) {
            weight[i % 3] += Math.exp(nats[i] - top) * (i % 3 == 2 ? PRIOR_BOTH : (1 - PRIOR_BOTH) / 2);
        }
        double sum = weight[0] + weight[1] + weight[2];
        return new BothEnds(weight[0] / sum, weight[1] / sum, weight[2] / sum);
    }

    /** Log likelihood of one end's numbers. @param share of the current that goes through the part */
    private static double nats(Fed fed, double share, double ohms, double kelvinPerWatt, double spill) {
        double through = share * fed.amps();
        double nats = 0;
        if (fed.dropVolts().isPresent()) {
            double expected = through * ohms;
            nats += normal(
                    Math.abs(fed.dropVolts().getAsDouble()) - expected,
                    Math.hypot(METER_VOLTS, METER_SHARE * expected));
        }
        if (fed.riseK().isPresent()) {
            double expected = through * through * ohms * kelvinPerWatt + spill * fed.amps() * fed.amps();
            nats += normal(fed.riseK().getAsDouble() - expected, Math.hypot(CAMERA_K, CAMERA_SHARE * expected));
        }
        return nats;
    }

    private static double normal(double off, double sigma) {
        // A hand slips, a tip sits badly: no number is further off than this counts.
        return -Math.min(18, off * off / (2 * sigma * sigma)) - Math.log(sigma);
    }

    /** What can be said. */
    public Side side() {
        if (first >= SURE) {
            return Side.FIRST;
        }
        if (second >= SURE) {
            return Side.SECOND;
        }
        return both >= SURE ? Side.BOTH : Side.UNTOLD;
    }
}
