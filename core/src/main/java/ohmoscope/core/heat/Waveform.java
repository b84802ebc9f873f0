package ohmoscope.core.heat;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Check;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.evidence.SupplyLog.OnSpan;

/**
 * Power over time as steps, relative to its mean while on (that mean is 1).
 *
 * @param steps in rising time; the sum up to a time is the relative power then
 */
public record Waveform(List<Step> steps) {
    /** At {@code tS} the relative power changes by {@code change}. */
    public record Step(double tS, double change) {
        public Step {
            Check.finite("t_s", tS);
            Check.finite("change", change);
        }
    }

    public Waveform {
        steps = List.copyOf(steps);
    }

    public static Waveform stepAt(double tS) {
        return new Waveform(List.of(new Step(tS, 1)));
    }

    /** Power of a resistive fault under the logged injection: each span by the square of its mean current. */
    public static Waveform resistive(SupplyLog log) {
        List<OnSpan> spans = log.onSpans();
        double mean =
                spans.stream().mapToDouble(s -> s.amps() * s.amps()).average().orElse(0);
        List<Step> steps = new ArrayList<>();
        for (OnSpan span : spans) {
            double level = mean > 0 ? span.amps() * span.amps() / mean : 1;
            steps.add(new Step(span.fromS(), level));
            steps.add(new Step(span.toS(), -level));
        }
        return new Waveform(steps);
    }

    public boolean silent() {
        return steps.isEmpty();
    }

    public double at(double tS) {
        return steps.stream()
                .filter(s -> s.tS() <= tS)
                .mapToDouble(Step::change)
                .sum();
    }

    public double firstOnS() {
        return steps.stream().mapToDouble(Step::tS).min().orElse(Double.POSITIVE_INFINITY);
    }
}
