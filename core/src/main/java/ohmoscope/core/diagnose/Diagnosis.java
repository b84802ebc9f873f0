package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/**
 * The posterior: P(fault | evidence) ∝ prior × Π P(entry | twin with that fault), summed over each fault's forms.
 * Cost: entries × distinct electrical forms solves of the twin, each form once.
 */
final class Diagnosis {
    /**
     * The evidence counts for a little less than its numbers say, as entries share their meter, their probe and their
     * hand.
     */
    private static final double TEMPER = 0.85;

    /** Forms so far below the likeliest are not worked out to the end: all of a board's together weigh under 1e-6. */
    private static final double NEGLIGIBLE_NATS = 25;

    private static final int PROMISING = 64;

    private final List<Weighted> weighted = new ArrayList<>();
    private final Map<Key, Double> probabilities = new LinkedHashMap<>();

    private final Map<String, Double> guilt = new HashMap<>();
    private final Map<Key, Weighted> likeliest = new HashMap<>();
    private final List<Hypothesis> ranked;

    /** One form with its share of the whole. */
    record Weighted(Suspicion suspicion, Variant variant, double probability) {}

    private record Key(Code code, String target) {}

    Diagnosis(List<Suspicion> suspicions, Likelihood likelihood, Context context) {
        List<Form> forms = forms(suspicions, likelihood, context);
        double most = Double.NEGATIVE_INFINITY;
        // What may be likeliest is asked first: the rest is mostly out by its bound.
        for (Form form : promising(forms)) {
            most = Math.max(most, form.log(likelihood, most));
        }
        double[] logs = new double[forms.size()];
        for (int f = 0; f < logs.length; f++) {
            logs[f] = forms.get(f).log(likelihood, most);
            most = Math.max(most, logs[f]);
        }
        double sum = 0;
        for (double log : logs) {
            sum += Math.exp(log - most);
        }
        int i = 0;
        for (Suspicion suspicion : suspicions) {
            double whole = 0;
            Optional<Weighted> best = Optional.empty();
            for (Variant variant : suspicion.variants()) {
                Weighted form = new Weighted(suspicion, variant, Math.exp(logs[i++] - most) / sum);
                weighted.add(form);
                whole += form.probability;
                if (best.isEmpty() || form.probability > best.get().probability) {
                    best = Optional.of(form);
                }
            }
            Key key = new Key(suspicion.code(), suspicion.target());
            probabilities.merge(key, whole, Double::sum);
            guilt.merge(key.target, whole, Double::sum);
            best.ifPresent(form -> likeliest.merge(key, form, (a, b) -> b.probability > a.probability ? b : a));
        }
        ranked = rank();
    }

    /**
     * @param besides what speaks for it before any meter, natural logarithm
     * @param bound no less than all that speaks for it
     */
    private record Form(Variant variant, double besides, double bound) {
        /** @param most of the likeliest form known */
        double log(Likelihood likelihood, double most) {
            return bound < most - NEGLIGIBLE_NATS
                    ? bound
                    : besides + TEMPER * likelihood.of(variant, (most - NEGLIGIBLE_NATS - besides) / TEMPER);
        }
    }

    private static List<Form> forms(List<Suspicion> suspicions, Likelihood likelihood, Context context) {
        List<Form> forms = new ArrayList<>();
        for (Suspicion suspicion : suspicions) {
            double about = Math.log(suspicion.prior()) + context.of(suspicion);
            for (Variant variant : suspicion.variants()) {
                double besides = Math.log(variant.weight()) + about + context.warmth(suspicion, variant);
                forms.add(new Form(variant, besides, besides + TEMPER * likelihood.most(variant)));
            }
        }
        return forms;
    }

    /** The few with the highest bounds. */
    private static List<Form> promising(List<Form> forms) {
        PriorityQueue<Form> best = new PriorityQueue<>(Comparator.comparingDouble(Form::bound));
        for (Form form : forms) {
            if (best.size() < PROMISING) {
                best.add(form);
            } else if (form.bound > best.peek().bound) {
                best.poll();
                best.add(form);
            }
        }
        return List.copyOf(best);
    }

    /** Most probable first. */
    List<Hypothesis> hypotheses() {
        return ranked;
    }

    private List<Hypothesis> rank() {
        return probabilities.entrySet().stream()
                .map(e ->
                        new Hypothesis(e.getKey().code(), e.getKey().target(), Math.max(0, Math.min(1, e.getValue()))))
                .sorted(Comparator.comparingDouble(Hypothesis::probability).reversed())
                .toList();
    }

    Hypothesis first() {
        return hypotheses().get(0);
    }

    double probability(Code code, String target) {
        return probabilities.getOrDefault(new Key(code, target), 0.0);
    }

    /** How likely it is that something is wrong with this part or net, whatever it is. */
    double guilt(String target) {
        return guilt.getOrDefault(target, 0.0);
    }

    /** How much of a hypothesis is a fault of the part that was put in. */
    double asFitted(Hypothesis h) {
        return weighted.stream()
                .filter(w -> w.suspicion().code() == h.code()
                        && w.suspicion().target().equals(h.target())
                        && w.suspicion().asFitted())
                .mapToDouble(Weighted::probability)
                .sum();
    }

    /** The forms of what is likelier than this. */
    List<Weighted> likelier(double probability) {
        List<Weighted> likelier = new ArrayList<>();
        Optional<Suspicion> last = Optional.empty();
        boolean likely = false;
        for (Weighted form : weighted) {
            // Forms of one suspicion stand together.
            if (last.isEmpty() || last.get() != form.suspicion) {
                last = Optional.of(form.suspicion);
                likely = probability(form.suspicion.code(), form.suspicion.target()) > probability;
            }
            if (likely) {
                likelier.add(form);
            }
        }
        return likelier;
    }

    List<Weighted> weighted() {
        return weighted;
    }

    /** The likeliest form of a fault. */
    Optional<Variant> likeliest(Code code, String target) {
        return Optional.ofNullable(likeliest.get(new Key(code, target))).map(Weighted::variant);
    }
}
