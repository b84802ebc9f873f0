package ohmoscope.core.inject;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.evidence.TraceReading;

/** What a supply's log says was tried: the levels that it held, one after another. */
public final class ShownLevels {
    private static final double ON_AMPS = 0.005;
    private static final double ON_VOLTS = 0.02;
    private static final double LEAST_SECONDS = 0.5;
    private static final int LEAST_SAMPLES = 3;
    /** From one sample to the next: more is another setting, less is a short that warms. */
    private static final double JUMP_SHARE = 0.12;

    private static final double JUMP_VOLTS = 0.02;
    private static final double JUMP_AMPS = 0.02;
    /** Bursts as alike as this were one setting, pulsed. */
    private static final double ALIKE = 0.05;

    private static final int MOST = 40;

    private ShownLevels() {}

    /**
     * A level.
     *
     * @param fromS when it began
     * @param volts in the second half of it, when all has settled
     * @param shape flat; pulsing where the supply itself restarted again and again
     */
    public record Level(double fromS, double toS, double volts, double amps, TraceShape shape) {}

    /**
     * O(n log n) in the samples.
     *
     * @return in time order, at least one
     * @throws InvalidMember when volts or amperes are missing, nothing was held for half a second, or very much was
     */
    public static List<Level> of(Trace trace) {
        double[] volts = trace.volts()
                .orElseThrow(() -> new InvalidMember("volts", "are missing: volts and amperes are needed"));
        double[] amps =
                trace.amps().orElseThrow(() -> new InvalidMember("amps", "are missing: volts and amperes are needed"));
        double[] t = trace.timesS();
        List<Level> levels = new ArrayList<>();
        int from = 0;
        for (int i = 1; i <= t.length; i++) {
            boolean ends = i == t.length
                    || on(volts[i], amps[i]) != on(volts[i - 1], amps[i - 1])
                    || apart(volts, i, JUMP_SHARE, JUMP_VOLTS)
                    || apart(amps, i, JUMP_SHARE, JUMP_AMPS);
            if (ends) {
                boolean held = i - from >= LEAST_SAMPLES && t[i - 1] - t[from] >= LEAST_SECONDS;
                if (held && on(volts[from], amps[from])) {
                    add(levels, level(t, volts, amps, from, i));
                }
                from = i;
            }
        }
        if (levels.size() > MOST) {
            throw new InvalidMember(
                    "file", "holds " + levels.size() + " levels, more than " + MOST + ": cut it to the injection");
        }
        return levels.isEmpty() ? List.of(restarting(trace)) : List.copyOf(levels);
    }

    /** Whether a supply that shows this is taken to be on. */
    public static boolean on(double volts, double amps) {
        return amps >= ON_AMPS || volts >= ON_VOLTS;
    }

    private static boolean apart(double[] values, int i, double share, double least) {
        double larger = Math.max(Math.abs(values[i]), Math.abs(values[i - 1]));
        return Math.abs(values[i] - values[i - 1]) > Math.max(least, share * larger);
    }

    private static Level level(double[] t, double[] volts, double[] amps, int from, int to) {
        int settled = (from + to) / 2;
        return new Level(t[from], t[to - 1], median(volts, settled, to), median(amps, settled, to), TraceShape.FLAT);
    }

    /** A burst like the one before it makes that longer. */
    private static void add(List<Level> levels, Level level) {
        if (!levels.isEmpty()) {
            Level last = levels.get(levels.size() - 1);
            if (alike(last.volts, level.volts, JUMP_VOLTS) && alike(last.amps, level.amps, JUMP_AMPS)) {
                levels.set(levels.size() - 1, new Level(last.fromS, level.toS, level.volts, level.amps, last.shape));
                return;
            }
        }
        levels.add(level);
    }

    private static boolean alike(double one, double other, double least) {
        return Math.abs(one - other) <= Math.max(least, ALIKE * Math.max(Math.abs(one), Math.abs(other)));
    }

    private static Level restarting(Trace trace) {
        TraceReading reading = TraceReading.of(trace);
        if (reading.shape() == TraceShape.FLAT || reading.peakAmps() < ON_AMPS) {
            throw new InvalidMember("file", "holds no level of volts and amperes for half a second");
        }
        double[] t = trace.timesS();
        return new Level(t[0], t[t.length - 1], reading.volts().orElse(0), reading.peakAmps(), reading.shape());
    }

    private static double median(double[] values, int from, int to) {
        double[] part = Arrays.copyOfRange(values, from, to);
        Arrays.sort(part);
        return part[part.length / 2];
    }
}
