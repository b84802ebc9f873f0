package ohmoscope.web.live;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.evidence.TraceReading;
import ohmoscope.core.instrument.InlineMeter.Sample;

/**
 * What an inline meter says from the moment on that something was plugged in. Whoever adds is one thread; the picture may be
 * taken by any.
 */
final class InlineTrace {
    private static final double ONSET_AMPS = 0.008;
    private static final double ONSET_VOLTS = 1;
    private static final double BEFORE_S = 0.4;
    /** Its level has not moved for so long: it has told what it had to. */
    private static final double QUIET_S = 3.5;

    private static final double LEAST_S = 5;
    private static final double LONGEST_S = 20;
    private static final double QUIET_AMPS = 0.03;
    private static final double QUIET_SHARE = 0.12;
    private static final int SHOWN = 240;
    private static final int LEAST_SAMPLES = 8;

    private final List<Sample> samples = new ArrayList<>();
    private OptionalDouble onsetS = OptionalDouble.empty();
    private boolean over;

    /** The trace as it is drawn: seconds since it was plugged in, volts, amperes. */
    record Drawing(double[] t, double[] volts, double[] amps) {}

    /** @return whether it has just come to its end */
    synchronized boolean add(List<Sample> fresh) {
        for (Sample sample : over ? List.<Sample>of() : fresh) {
            samples.add(sample);
            boolean begins = Math.abs(sample.amps()) > ONSET_AMPS || sample.volts() > ONSET_VOLTS;
            if (onsetS.isEmpty() && begins) {
                onsetS = OptionalDouble.of(seconds(sample));
            }
        }
        double last = samples.isEmpty() ? 0 : seconds(samples.get(samples.size() - 1));
        if (onsetS.isEmpty()) {
            samples.removeIf(s -> seconds(s) < last - BEFORE_S);
        }
        boolean ends = !over && onsetS.isPresent() && (last - onsetS.getAsDouble() > LONGEST_S || quiet(last));
        over |= ends;
        return ends;
    }

    private boolean quiet(double last) {
        if (last - onsetS.getAsDouble() < LEAST_S) {
            return false;
        }
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (Sample s : samples) {
            if (seconds(s) > last - QUIET_S) {
                low = Math.min(low, s.amps());
                high = Math.max(high, s.amps());
            }
        }
        return high - low < Math.max(QUIET_AMPS, QUIET_SHARE * Math.abs(high));
    }

    private static double seconds(Sample sample) {
        return sample.atNanos() / 1e9;
    }

    /** Something was plugged in, and it is still being recorded. */
    synchronized boolean runs() {
        return onsetS.isPresent() && !over;
    }

    /** The hand says that it has seen enough. */
    synchronized void end() {
        over |= onsetS.isPresent();
    }

    /** Empty while there are too few samples to be one. */
    synchronized Optional<Trace> trace() {
        Drawing all = drawing(Integer.MAX_VALUE);
        return onsetS.isEmpty() || all.t.length < LEAST_SAMPLES
                ? Optional.empty()
                : Optional.of(new Trace(all.t, Optional.of(all.volts), Optional.of(all.amps)));
    }

    Optional<TraceReading> reading() {
        return trace().map(TraceReading::of);
    }

    synchronized Drawing drawing() {
        return drawing(SHOWN);
    }

    /** At one time there is one sample: lines that came in one packet have the same. */
    private Drawing drawing(int most) {
        List<Sample> kept = new ArrayList<>();
        int every = Math.max(1, (samples.size() + most - 1) / most);
        for (int i = 0; i < samples.size(); i += every) {
            Sample s = samples.get(i);
            if (kept.isEmpty() || s.atNanos() > kept.get(kept.size() - 1).atNanos()) {
                kept.add(s);
            }
        }
        double from = kept.isEmpty() ? 0 : onsetS.orElse(seconds(kept.get(0)));
        return new Drawing(
                kept.stream().mapToDouble(s -> seconds(s) - from).toArray(),
                kept.stream().mapToDouble(Sample::volts).toArray(),
                kept.stream().mapToDouble(Sample::amps).toArray());
    }
}
