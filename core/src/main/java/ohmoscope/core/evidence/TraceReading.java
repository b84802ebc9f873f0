package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation.TraceShape;

/**
 * What a trace shows: its shape and the numbers that make it.
 *
 * <p>The current is put on an even grid (missing samples are bridged, fast ones averaged), its noise is taken from second
 * differences, and levels from quantiles, so that noise, an offset of the meter and 2 to 1000 samples a second give the
 * same shape. O(n log n), memory linear.
 *
 * @param shape one of the contract's
 * @param restAmps the level it ends on
 * @param peakAmps the highest level that is not noise
 * @param meanAmps over the whole trace
 * @param volts the voltage it ended on or held longest; empty when not recorded
 * @param startVolts the voltage it began with
 * @param periodS of pulses; empty for other shapes
 * @param riseS how long it took from a tenth to nine tenths of its range; empty for a flat one
 * @param steps plateaus of a rise, at least 1
 * @param activeS how long it was above half of its range
 * @param noiseAmps one sigma
 */
public record TraceReading(
        TraceShape shape,
        double restAmps,
        double peakAmps,
        double meanAmps,
        OptionalDouble volts,
        OptionalDouble startVolts,
        OptionalDouble periodS,
        OptionalDouble riseS,
        int steps,
        double activeS,
        double noiseAmps) {
    private static final int MOST_POINTS = 1200;
    private static final double FLAT_SIGMAS = 7;
    /** A swing smaller than this, or than this share of the level, is no shape. */
    private static final double FLAT_AMPS = 0.015;

    private static final double FLAT_SHARE = 0.15;
    private static final double HIGH = 0.65;
    private static final double LOW = 0.35;
    private static final int LEAST_PULSES = 3;
    private static final double IRREGULAR = 0.45;
    private static final double COLLAPSE_SHARE = 0.65;
    /** A source that steps down to one of these has been asked to. */
    private static final double[] USUAL_VOLTS = {5, 9, 12, 15, 20};

    private static final double USUAL_SHARE = 0.06;
    private static final double SPIKE_S = 0.6;
    private static final double ENDS_LOW = 0.3;
    /** Pulses rest between; a load that merely varies does not. */
    private static final double MOST_DUTY = 0.85;

    private static final double PLATEAU_SHARE = 0.08;

    public static TraceReading of(Trace trace) {
        Grid amps = Grid.of(trace.timesS(), trace.amps().orElseGet(() -> new double[trace.timesS().length]));
        OptionalDouble volts = OptionalDouble.empty();
        OptionalDouble startVolts = OptionalDouble.empty();
        boolean collapsed = false;
        if (trace.volts().isPresent()) {
            Grid v = Grid.of(trace.timesS(), trace.volts().get());
            double most = v.held();
            double ending = v.tail();
            boolean stepped = Arrays.stream(USUAL_VOLTS).anyMatch(u -> Math.abs(ending - u) < USUAL_SHARE * u);
            collapsed = most > 1 && !stepped && v.fellFrom(0.9 * most, COLLAPSE_SHARE * most);
            volts = OptionalDouble.of(collapsed ? ending : Math.max(ending, v.quantile(0.5)));
            startVolts = OptionalDouble.of(v.head());
        }
        return read(amps, volts, startVolts, collapsed);
    }

    private static TraceReading read(Grid a, OptionalDouble volts, OptionalDouble startVolts, boolean collapsed) {
        double base = a.quantile(0.03);
        double top = a.held();
        double range = top - base;
        double noise = a.noise();
        double rest = a.tail();
        double most = Math.max(FLAT_AMPS, Math.max(FLAT_SIGMAS * noise, FLAT_SHARE * Math.abs(a.quantile(0.5))));
        if (range < most) {
            TraceShape shape = collapsed ? TraceShape.COLLAPSE : TraceShape.FLAT;
            return new TraceReading(
                    shape, a.quantile(0.5), top, a.mean(), volts, startVolts, none(), none(), 1, 0, noise);
        }
        List<double[]> bursts = a.above(base + LOW * range, base + HIGH * range);
        double active = bursts.stream().mapToDouble(b -> b[1] - b[0]).sum();
        OptionalDouble period = period(bursts, a.duration());
        double share = (rest - base) / range;
        TraceShape shape;
        if (period.isPresent()) {
            shape = TraceShape.PULSING;
        } else if (collapsed) {
            shape = TraceShape.COLLAPSE;
        } else if (share < ENDS_LOW) {
            shape = active < Math.max(SPIKE_S, 1.5 * a.step())
                    ? TraceShape.SPIKE_THEN_ZERO
                    : TraceShape.BURST_THEN_ZERO;
        } else {
            shape = a.head() - base < HIGH * range ? TraceShape.RISING : TraceShape.FLAT;
        }
        return new TraceReading(
                shape,
                rest,
                top,
                a.mean(),
                volts,
                startVolts,
                period,
                OptionalDouble.of(a.firstAbove(base + 0.9 * range) - a.firstAbove(base + 0.1 * range)),
                a.plateaus(Math.max(3 * noise, PLATEAU_SHARE * range)),
                active,
                noise);
    }

    private static OptionalDouble none() {
        return OptionalDouble.empty();
    }

    /** The time between pulses, when they come often and evenly enough. */
    private static OptionalDouble period(List<double[]> bursts, double duration) {
        if (bursts.size() < LEAST_PULSES) {
            return none();
        }
        double[] gaps = new double[bursts.size() - 1];
        for (int i = 0; i < gaps.length; i++) {
            gaps[i] = bursts.get(i + 1)[0] - bursts.get(i)[0];
        }
        double[] sorted = gaps.clone();
        Arrays.sort(sorted);
        double median = sorted[sorted.length / 2];
        double deviation = 0;
        for (double gap : gaps) {
            deviation += Math.abs(gap - median) / gaps.length;
        }
        double on = bursts.stream().mapToDouble(b -> b[1] - b[0]).sum();
        double span = bursts.get(bursts.size() - 1)[1] - bursts.get(0)[0];
        boolean rests = on < MOST_DUTY * span;
        boolean throughout = span > duration / 3;
        return deviation < IRREGULAR * median && rests && throughout ? OptionalDouble.of(median) : none();
    }

    /** Samples on an even grid. */
    private record Grid(double step, double[] values, double noise) {
        /** A tenth of normal deviates are smaller than this. */
        private static final double TENTH_OF_SIGMA = 0.1257;

        private static final double SURE_SIGMAS = 12;

        static Grid of(double[] times, double[] values) {
            int n = Math.min(MOST_POINTS, Math.max(16, times.length));
            double from = times[0];
            double step = (times[times.length - 1] - from) / (n - 1);
            double[] even = new double[n];
            int k = 0;
            for (int i = 0; i < n; i++) {
                double lower = from + (i - 0.5) * step;
                double upper = lower + step;
                while (k < times.length && times[k] < lower) {
                    k++;
                }
                double sum = 0;
                int count = 0;
                for (int j = k; j < times.length && times[j] < upper; j++) {
                    sum += values[j];
                    count++;
                }
                even[i] = count > 0 ? sum / count : between(times, values, from + i * step, k);
            }
            return new Grid(step, even, noise(values, n));
        }

        private static double between(double[] times, double[] values, double t, int next) {
            if (next <= 0) {
                return values[0];
            }
            if (next >= times.length) {
                return values[times.length - 1];
            }
            double share = (t - times[next - 1]) / (times[next] - times[next - 1]);
            return values[next - 1] + share * (values[next] - values[next - 1]);
        }

        double duration() {
            return step * (values.length - 1);
        }

        double quantile(double share) {
            double[] sorted = values.clone();
            Arrays.sort(sorted);
            return sorted[(int) Math.round(share * (sorted.length - 1))];
        }

        double mean() {
            return Arrays.stream(values).average().orElse(0);
        }

        /** The highest level that two samples hold, or one that no noise makes. */
        double held() {
            double most = Double.NEGATIVE_INFINITY;
            for (int i = 1; i < values.length; i++) {
                most = Math.max(most, Math.min(values[i - 1], values[i]));
            }
            double highest = quantile(1);
            return highest > most + SURE_SIGMAS * noise ? highest : Math.max(most, quantile(0.99));
        }

        double head() {
            return median(0, Math.max(1, values.length / 16));
        }

        double tail() {
            return median(values.length - Math.max(2, values.length / 8), values.length);
        }

        private double median(int from, int to) {
            double[] part = Arrays.copyOfRange(values, from, to);
            Arrays.sort(part);
            return part[part.length / 2];
        }

        /**
         * One sigma on the grid, from the smallest second differences of the samples themselves: slopes, plateaus and
         * even fast pulses count nothing.
         */
        private static double noise(double[] samples, int points) {
            double[] second = new double[samples.length - 2];
            for (int i = 0; i < second.length; i++) {
                second[i] = Math.abs(samples[i] - 2 * samples[i + 1] + samples[i + 2]);
            }
            Arrays.sort(second);
            double averaged = Math.max(1, (double) samples.length / points);
            return second[second.length / 10] / (TENTH_OF_SIGMA * Math.sqrt(6 * averaged));
        }

        /** Stretches above the upper level until it falls below the lower one. */
        List<double[]> above(double lower, double upper) {
            List<double[]> stretches = new ArrayList<>();
            double since = Double.NaN;
            for (int i = 0; i < values.length; i++) {
                if (Double.isNaN(since) && values[i] > upper) {
                    since = i * step;
                } else if (!Double.isNaN(since) && values[i] < lower) {
                    stretches.add(new double[] {since, i * step});
                    since = Double.NaN;
                }
            }
            if (!Double.isNaN(since)) {
                stretches.add(new double[] {since, duration()});
            }
            return stretches;
        }

        double firstAbove(double level) {
            for (int i = 0; i < values.length; i++) {
                if (values[i] >= level) {
                    return i * step;
                }
            }
            return duration();
        }

        /** Whether it was at the upper level before it was at the lower one. */
        boolean fellFrom(double upper, double lower) {
            boolean was = false;
            for (double v : values) {
                was |= v >= upper;
                if (was && v <= lower) {
                    return true;
                }
            }
            return false;
        }

        /** Levels that are held for a twentieth of the time each and differ by more than this. */
        int plateaus(double apart) {
            int width = Math.max(3, values.length / 20);
            int count = 0;
            double last = Double.NEGATIVE_INFINITY;
            for (int i = 0; i + width <= values.length; i++) {
                double low = Double.POSITIVE_INFINITY;
                double high = Double.NEGATIVE_INFINITY;
                for (int j = i; j < i + width; j++) {
                    low = Math.min(low, values[j]);
                    high = Math.max(high, values[j]);
                }
                if (high - low < apart && (low + high) / 2 - last > apart) {
                    count++;
                    last = (low + high) / 2;
                }
            }
            return Math.max(1, count);
        }
    }
}
