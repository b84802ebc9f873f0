package ohmoscope.core.live;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Tells when a probe rests on a point: the readings agree for a while, and since the last one that was taken the probe was
 * off the board. So a hand that is still on the last point is never taken for one on the next. Not for several threads.
 */
public final class SteadyReading {
    private static final int AGREE = 5;
    /** A probe in the air shows a small part of what it showed on the board. */
    private static final double IN_AIR_SHARE = 0.3;

    /** Along the copper while current flows: millivolts. */
    public static final Rule MILLIVOLTS = new Rule(4e-4, 0.02, 1e-3);
    /** On the rails of a board that is powered: what is less than its least may be a probe in the air, and waits to be asked. */
    public static final Rule RAILS = new Rule(0.02, 0.01, 0.15);

    private final Rule rule;
    private final Deque<Double> last = new ArrayDeque<>();
    private boolean lifted;
    /** What was taken last; before the first, what a probe in the air may show. */
    private double taken;

    /**
     * When readings agree.
     *
     * @param agreeVolts how far they may be from their mean
     * @param agreeShare likewise, as a share of it; the larger counts
     * @param leastVolts what is less is never taken by itself
     */
    public record Rule(double agreeVolts, double agreeShare, double leastVolts) {}

    /** What the probe shows. @param apartVolts the most that one of the readings is from their mean */
    public record Resting(double volts, double apartVolts) {}

    public SteadyReading(Rule rule) {
        this.rule = rule;
        this.taken = rule.leastVolts() / IN_AIR_SHARE;
    }

    /** A reading. @return the mean where it is steady on a new point; empty otherwise */
    public OptionalDouble next(double volts) {
        last.addLast(volts);
        if (last.size() > AGREE) {
            last.removeFirst();
        }
        if (!lifted) {
            lifted = Math.abs(volts) < IN_AIR_SHARE * Math.abs(taken);
            if (lifted) {
                last.clear();
            }
            return OptionalDouble.empty();
        }
        Optional<Resting> now = resting().filter(r -> r.volts() > rule.leastVolts());
        return now.isPresent() ? OptionalDouble.of(taken(now.get())) : OptionalDouble.empty();
    }

    /** Whether the probe was off the board since the last one that was taken, so that the next can be. */
    public boolean lifted() {
        return lifted;
    }

    /** Whatever it shows, if that is steady; empty while it is not. */
    public Optional<Resting> resting() {
        if (last.size() < AGREE) {
            return Optional.empty();
        }
        double mean = last.stream().mapToDouble(Double::doubleValue).average().orElse(0);
        double apart = last.stream().mapToDouble(v -> Math.abs(v - mean)).max().orElse(0);
        boolean steady = apart <= Math.max(rule.agreeVolts(), rule.agreeShare() * Math.abs(mean));
        return steady ? Optional.of(new Resting(mean, apart)) : Optional.empty();
    }

    /** Takes what it shows now because the hand says so: the next point needs a lifted probe again. */
    public OptionalDouble take() {
        Optional<Resting> now = resting();
        return now.isPresent() ? OptionalDouble.of(taken(now.get())) : OptionalDouble.empty();
    }

    private double taken(Resting now) {
        // After a dead rail a probe in the air looks like one on it.
        taken = Math.max(now.volts(), rule.leastVolts() / IN_AIR_SHARE);
        lifted = false;
        last.clear();
        return now.volts();
    }
}
