package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Check;
import ohmoscope.core.diagnose.Hypothesis.Code;

/**
 * What was wrong with proven jobs of an open one's model: counts that temper the frequencies of the trade. Faults' shares have
 * a Dirichlet prior about those frequencies, worth {@link #TRADE_CASES} cases; each proven case adds its weight to its own
 * fault (Gelman et al., Bayesian Data Analysis, 3rd ed. 2013, section 3.4). Draws, readings and words of the open job are no
 * part of it: they are weighed as entries, once. What a camera shows is not tempered either: it is to see what is there, not
 * what is expected.
 *
 * @param cases newest first; more than {@link #MOST_CASES} by weight are weighed as so many
 */
public record Experience(List<Case> cases) {
    /** Nothing is known of earlier jobs, or nobody wants to hear of it. */
    public static final Experience NONE = new Experience(List.of());

    /** What the trade's frequencies are worth, cases. Higher: a model's own history is heard later. */
    private static final double TRADE_CASES = 12;
    /** No more than this many cases speak, so that a shop whose devices change is not led by old ones for long, cases. */
    private static final double MOST_CASES = 12;
    /** Cases after which an older one counts half. */
    private static final double HALF_AFTER = 8;
    /** How much of a case speaks for another fault of the same part: a short that was called a leak. */
    private static final double SAME_PART = 0.2;
    /**
     * No fault becomes likelier than this many times by what others had. By fit on two made-up shops of 100 jobs: at 8 and
     * more, parts are taken off for having been the fault of another board; at 3 the readings come in the order of the trade.
     */
    private static final double MOST_TIMES = 5;

    /**
     * A proven case.
     *
     * @param code empty where only the part is known
     * @param target the part or net that was it
     * @param weight from 0 to 1: how like the open job it is
     */
    public record Case(Optional<Code> code, String target, double weight) {
        public Case {
            Check.text("target", target);
            if (!(weight >= 0 && weight <= 1)) {
                throw new IllegalArgumentException("weight must be from 0 to 1, was " + weight);
            }
        }
    }

    /**
     * What the counts did to one fault.
     *
     * @param cases with this fault on this part or net
     * @param of all cases
     * @param share of all cases, the newest counting most: 0 to 1
     * @param times as likely before the evidence as the trade has it, beside what none of them had
     */
    public record Tempered(Code code, String target, long cases, int of, double share, double times) {}

    private record Fault(Code code, String target) {}

    public Experience {
        cases = List.copyOf(cases);
    }

    /** The same suspicions, met as often as these cases have it. */
    List<Suspicion> temper(List<Suspicion> suspicions) {
        if (cases.isEmpty()) {
            return suspicions;
        }
        Map<Fault, Double> times = times(suspicions);
        return suspicions.stream()
                .map(s -> s.weighed(s.prior() * times.get(new Fault(s.code(), s.target()))))
                .toList();
    }

    /** What was done to the faults that were met, likeliest made first. */
    List<Tempered> told(List<Suspicion> suspicions) {
        if (cases.isEmpty()) {
            return List.of();
        }
        List<Tempered> told = new ArrayList<>();
        times(suspicions).forEach((fault, times) -> {
            long met = cases.stream().filter(c -> of(c, fault)).count();
            if (met > 0) {
                told.add(new Tempered(fault.code, fault.target, met, cases.size(), share(fault), times));
            }
        });
        told.sort(Comparator.comparingLong((Tempered t) -> -t.cases())
                .thenComparing(t -> -t.times())
                .thenComparing(Tempered::target));
        return told;
    }

    private static boolean of(Case met, Fault fault) {
        return met.target().equals(fault.target)
                && met.code().map(k -> k == fault.code).orElse(true);
    }

    private double share(Fault fault) {
        double all = 0;
        double with = 0;
        for (int i = 0; i < cases.size(); i++) {
            double weight = faded(i);
            all += weight;
            with += of(cases.get(i), fault) ? weight : 0;
        }
        return all > 0 ? with / all : 0;
    }

    private double faded(int index) {
        return cases.get(index).weight() * Math.pow(0.5, index / HALF_AFTER);
    }

    private Map<Fault, Double> times(List<Suspicion> suspicions) {
        Map<Fault, Double> priors = new HashMap<>();
        suspicions.forEach(s -> priors.merge(new Fault(s.code(), s.target()), s.prior(), Double::sum));
        double all = priors.values().stream().mapToDouble(v -> v).sum();
        Map<String, Double> ofTarget = new HashMap<>();
        priors.forEach((fault, prior) -> ofTarget.merge(fault.target, prior, Double::sum));
        Map<Fault, Double> counts = counts(priors, ofTarget);
        double counted = counts.values().stream().mapToDouble(v -> v).sum();
        double limited = counted > MOST_CASES ? MOST_CASES / counted : 1;
        Map<Fault, Double> times = new HashMap<>();
        priors.forEach((fault, prior) -> {
            // Beside what none of them had: (A share + n) / A share, the sum of both cancels.
            double then = 1 + limited * counts.getOrDefault(fault, 0.0) / (TRADE_CASES * prior / all);
            times.put(fault, Math.min(MOST_TIMES, then));
        });
        return times;
    }

    /** By fault; cases that fit none of this board's count for nothing. */
    private Map<Fault, Double> counts(Map<Fault, Double> priors, Map<String, Double> ofTarget) {
        Map<Fault, Double> counts = new HashMap<>();
        for (int i = 0; i < cases.size(); i++) {
            Case met = cases.get(i);
            if (!ofTarget.containsKey(met.target())) {
                continue;
            }
            double weight = faded(i);
            Optional<Fault> exact =
                    met.code().map(c -> new Fault(c, met.target())).filter(priors::containsKey);
            exact.ifPresent(fault -> counts.merge(fault, (1 - SAME_PART) * weight, Double::sum));
            double spread = exact.isPresent() ? SAME_PART * weight : weight;
            priors.forEach((fault, prior) -> {
                if (fault.target.equals(met.target())) {
                    counts.merge(fault, spread * prior / ofTarget.get(met.target()), Double::sum);
                }
            });
        }
        return counts;
    }
}
