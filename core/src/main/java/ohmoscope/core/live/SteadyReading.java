package ohmoscope.core.live;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.OptionalDouble;

/**
 * Tells when a probe rests on a point: the readings agree for a while, and since the last one that was taken the probe was
 * off the board. So a hand that is still on the last point is never taken for one on the next. Not for several threads.
 */
public final class SteadyReading {
    private static final int AGREE = 5;
    private static final double AGREE_VOLTS = 4e-4;
    private static final double AGREE_SHARE = 0.02;
    /** A probe in the air shows a small part of what it showed on the board. */
    private static final double IN_AIR_SHARE = 0.3;

    private static final double LEAST_VOLTS = 1e-3;

    private final Deque<Double> last = new ArrayDeque<>();
    private boolean lifted;
    /** What was taken last; before the first, what a probe in the air may show. */
    private double taken = LEAST_VOLTS / IN_AIR_SHARE;

    /** A reading. @return the mean where it is steady on a new point; empty otherwise */
    public OptionalDouble next(double volts) {
        if (!lifted) {
            lifted = Math.abs(volts) < IN_AIR_SHARE * Math.abs(taken);
            last.clear();
            return OptionalDouble.empty();
        }
        last.addLast(volts);
        if (last.size() > AGREE) {
            last.removeFirst();
        }
        double mean = last.stream().mapToDouble(Double::doubleValue).average().orElse(0);
        double apart = last.stream().mapToDouble(v -> Math.abs(v - mean)).max().orElse(0);
        boolean steady = last.size() == AGREE
                && mean > LEAST_VOLTS
                && apart <= Math.max(AGREE_VOLTS, AGREE_SHARE * Math.abs(mean));
        if (!steady) {
            return OptionalDouble.empty();
        }
        taken = mean;
        lifted = false;
        last.clear();
        return OptionalDouble.of(mean);
    }
}
