package ohmoscope.core.evidence;

import java.util.Arrays;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;

/**
 * What an inline meter or a supply showed over time.
 *
 * @param timesS rising, at least 4
 * @param volts as many as times; empty when not recorded
 * @param amps likewise; one of the two is there
 */
public record Trace(double[] timesS, Optional<double[]> volts, Optional<double[]> amps) {
    private static final int LEAST_SAMPLES = 4;
    private static final double MOST_VOLTS = 1000;
    private static final double MOST_AMPS = 1000;

    public Trace {
        timesS = timesS.clone();
        volts = volts.map(double[]::clone);
        amps = amps.map(double[]::clone);
        if (timesS.length < LEAST_SAMPLES) {
            throw new InvalidMember("t_s", "must have at least " + LEAST_SAMPLES + " rows, has " + timesS.length);
        }
        for (int i = 1; i < timesS.length; i++) {
            if (!(timesS[i] > timesS[i - 1])) {
                throw new InvalidMember(
                        "t_s", "must rise, row " + (i + 1) + " has " + timesS[i] + " after " + timesS[i - 1]);
            }
        }
        if (volts.isEmpty() && amps.isEmpty()) {
            throw new InvalidMember("amps", "is missing: a trace needs volts or amps");
        }
        within("volts", volts, timesS.length, MOST_VOLTS);
        within("amps", amps, timesS.length, MOST_AMPS);
    }

    private static void within(String name, Optional<double[]> values, int count, double most) {
        if (values.isEmpty()) {
            return;
        }
        double[] all = values.get();
        if (all.length != count) {
            throw new InvalidMember(name, "must have " + count + " values, has " + all.length);
        }
        for (int i = 0; i < count; i++) {
            if (!(Math.abs(all[i]) <= most)) {
                throw new InvalidMember(name, "must be within ±" + most + ", row " + (i + 1) + " has " + all[i]);
            }
        }
    }

    public double durationS() {
        return timesS[timesS.length - 1] - timesS[0];
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Trace t
                && Arrays.equals(timesS, t.timesS)
                && Arrays.equals(volts.orElse(null), t.volts.orElse(null))
                && Arrays.equals(amps.orElse(null), t.amps.orElse(null));
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(timesS);
    }

    @Override
    public String toString() {
        return "Trace of " + timesS.length + " samples, " + durationS() + " s";
    }
}
