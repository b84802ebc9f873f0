package ohmoscope.core.locate.fit;

import java.util.Arrays;
import java.util.function.DoubleUnaryOperator;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.reading.Thresholds;

/**
 * What is known of a source's watts before the frames are looked at, as the heat model will see them; a density over
 * watts above 0, tabled evenly over their logarithm. Its mean and deviation stand for it where a normal one is needed.
 */
public final class WattsPrior {
    private static final int NODES = 72;

    /** A likelihood so narrow, relative to its peak, needs no table. */
    private static final double NARROW = 0.06;

    private static final int OHM_NODES = 48;

    /** Of a fault's watts the heat model finds about this share back: parts hold heat as well, and copper is uneven. */
    private static final double SEEN = 0.75;

    /** One sigma of that share's logarithm. */
    private static final double SEEN_SIGMA = 0.3;

    /** Tables reach so many sigma to either side. */
    private static final double REACH = 5;

    private static final double LEAST_SIGMA = 1e-4;

    /** The measurement may mislead altogether: so much of each ohm's likelihood is left to all. */
    private static final double MISLED = 1e-9;

    private static final double ANY_SHARE = 1e-4;
    private static final double RELATIVE_SIGMA = 0.02;

    private final double[] watts = new double[NODES];
    private final double[] log = new double[NODES];
    /** Log of the share of the prior that each node stands for. */
    private final double[] share = new double[NODES];

    private final double step;
    private final double mean;
    private final double sigma;

    private WattsPrior(double least, double most, DoubleUnaryOperator density) {
        step = Math.log(most / least) / (NODES - 1);
        double sum = 0;
        double first = 0;
        double second = 0;
        for (int i = 0; i < NODES; i++) {
            watts[i] = least * Math.exp(i * step);
            double value = density.applyAsDouble(watts[i]);
            log[i] = Math.log(Math.max(Double.MIN_NORMAL, value));
            double mass = value * watts[i] * step;
            sum += mass;
            first += mass * watts[i];
            second += mass * watts[i] * watts[i];
        }
        for (int i = 0; i < NODES; i++) {
            log[i] -= Math.log(sum);
            share[i] = log[i] + Math.log(watts[i] * step);
        }
        mean = first / sum;
        sigma = Math.sqrt(Math.max(0, second / sum - mean * mean));
    }

    /** Normal, but for what lies below 0. */
    public static WattsPrior normal(double mean, double sigma) {
        double least = Math.max(LEAST_SIGMA * sigma, mean - REACH * sigma);
        return new WattsPrior(
                least, Math.max(0, mean) + REACH * sigma, w -> Math.exp(-Math.pow((w - mean) / sigma, 2) / 2));
    }

    /** The fault's: amperes squared times the ohms that volts and amperes leave for it, times the share that is seen. */
    public static WattsPrior of(FaultResistance resistance) {
        double amps2 = resistance.amps() * resistance.amps();
        double measured = resistance.measuredOhms();
        double sigma = Math.max(resistance.sigmaOhms(), RELATIVE_SIGMA * measured);
        double low = Math.max(Thresholds.LEAST_SHORT_OHMS, measured - REACH * sigma);
        double high = Math.max(2 * low, measured + REACH * sigma);
        double[] seenWatts = new double[OHM_NODES];
        double[] weight = new double[OHM_NODES];
        for (int i = 0; i < OHM_NODES; i++) {
            double ohms = low * Math.pow(high / low, (i + 0.5) / OHM_NODES);
            seenWatts[i] = SEEN * amps2 * ohms;
            weight[i] = Math.exp(-Math.pow((ohms - measured) / sigma, 2) / 2) + MISLED;
        }
        double total = Arrays.stream(weight).sum() * SEEN_SIGMA * Math.sqrt(2 * Math.PI);
        double reach = Math.exp(REACH * SEEN_SIGMA);
        return new WattsPrior(SEEN * amps2 * low / reach, SEEN * amps2 * high * reach, w -> {
            double sum = 0;
            for (int i = 0; i < OHM_NODES; i++) {
                double off = Math.log(w / seenWatts[i]) / SEEN_SIGMA;
                sum += weight[i] * Math.exp(-off * off / 2);
            }
            return (sum / total + ANY_SHARE) / w;
        });
    }

    public double mean() {
        return mean;
    }

    public double sigma() {
        return sigma;
    }

    /** Inverse variance of the normal one that stands for it. */
    public double precision() {
        return 1 / (sigma * sigma);
    }

    private double logDensity(double w) {
        double at = Math.log(w / watts[0]) / step;
        if (at <= 0) {
            return log[0];
        }
        int i = Math.min(NODES - 2, (int) at);
        return log[i] + (at - i) * (log[i + 1] - log[i]);
    }

    /**
     * The watts integrated out of a likelihood whose logarithm is a parabola.
     *
     * @param at a number of watts
     * @param value the logarithm there
     * @param slope likewise, per watt
     * @param curvature of its peak, above 0, per watt²
     * @return log of the integral of likelihood times prior
     */
    public double logEvidence(double at, double value, double slope, double curvature) {
        double peak = at + slope / curvature;
        double wide = 1 / Math.sqrt(curvature);
        if (wide < NARROW * peak) {
            return value + slope * slope / curvature / 2 + logDensity(peak) + Math.log(wide * Math.sqrt(2 * Math.PI));
        }
        double[] exponent = new double[NODES];
        double top = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < NODES; i++) {
            double off = watts[i] - at;
            exponent[i] = value + slope * off - curvature * off * off / 2 + share[i];
            top = Math.max(top, exponent[i]);
        }
        double sum = 0;
        for (double e : exponent) {
            sum += Math.exp(e - top);
        }
        return top + Math.log(sum);
    }
}
