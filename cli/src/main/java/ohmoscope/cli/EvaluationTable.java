package ohmoscope.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.Predicate;
import ohmoscope.cli.Evaluation.Outcome;
import ohmoscope.core.locate.Verdict;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The evaluation's figures, by kind and in all. */
final class EvaluationTable {
    /** A fault that got no probability at all costs this much, so that one such case does not cost infinity. */
    private static final double LEAST_PROBABILITY = 1e-4;

    private static final int CALIBRATION_BINS = 10;
    private static final int CHANCE_DRAWS = 2000;

    private EvaluationTable() {}

    static String of(Evaluation evaluation) {
        StringBuilder text = new StringBuilder();
        text.append(String.format(
                Locale.ROOT,
                "%-12s %5s %6s %6s %8s %8s %8s %8s %8s %8s %8s %8s %9s %9s %8s%n",
                "kind",
                "cases",
                "top-1",
                "top-3",
                "eye-1",
                "eye-3",
                "plate-1",
                "plate-3",
                "off-50",
                "off-90",
                "off/sig",
                "off/bnd",
                "logloss",
                "part-err",
                "ms-50"));
        for (String kind :
                new TreeSet<>(evaluation.outcomes().stream().map(Outcome::kind).toList())) {
            text.append(row(
                    kind,
                    evaluation.outcomes().stream()
                            .filter(o -> o.kind().equals(kind))
                            .toList()));
        }
        text.append(row("all", evaluation.outcomes()));
        List<Outcome> nothing =
                evaluation.outcomes().stream().filter(o -> !o.fault()).toList();
        List<Outcome> faults =
                evaluation.outcomes().stream().filter(Outcome::fault).toList();
        double[] chance = byChance(evaluation.outcomes());
        text.append(String.format(
                Locale.ROOT,
                "%nnone called: right %d of %d, wrong %d of %d; calibration error %.3f (by chance alone %.3f, one time in ten %.3f); slowest %d ms%n",
                count(nothing, o -> o.verdict() == Verdict.NONE),
                nothing.size(),
                count(faults, o -> o.verdict() == Verdict.NONE),
                faults.size(),
                calibrationError(evaluation.outcomes()),
                quantile(chance, 0.5),
                quantile(chance, 0.9),
                evaluation.outcomes().stream()
                        .mapToLong(Outcome::elapsedMs)
                        .max()
                        .orElse(0)));
        text.append(
                "top-1, top-3: share with the fault first, among the first three (cases with a fault); eye: the same by the\n");
        text.append(
                "hottest pixel of last minus first; plate: by one point of heat on a plain plate. off: source to fault, mm, median and 90th percentile. logloss: nats, all cases.\n");
        text.append(
                "off/sig: the same in units of the one-sigma radius given with it, median; off/bnd: of that by the Cramér–Rao bound and\nthe registration alone. 1.18 is what errors as large as said would have.\n");
        text.append("part-err: share of cases in which a wrong part was called.");
        return text.toString();
    }

    private static String row(String name, List<Outcome> outcomes) {
        List<Outcome> faults = outcomes.stream().filter(Outcome::fault).toList();
        double[] off = faults.stream()
                .flatMapToDouble(o -> o.offMm().stream())
                .sorted()
                .toArray();
        double[] times =
                outcomes.stream().mapToDouble(Outcome::elapsedMs).sorted().toArray();
        return String.format(
                Locale.ROOT,
                "%-12s %5d %6s %6s %8s %8s %8s %8s %8s %8s %8s %8s %9.3f %9.2f %8.0f%n",
                name,
                outcomes.size(),
                share(faults, Outcome::topRight),
                share(faults, o -> amongThree(o.rank())),
                share(faults, o -> o.eyeRank() == 1),
                share(faults, o -> amongThree(o.eyeRank())),
                share(faults, o -> o.plateRank() == 1),
                share(faults, o -> amongThree(o.plateRank())),
                shown(quantile(off, 0.5)),
                shown(quantile(off, 0.9)),
                shown(quantile(against(faults, Outcome::sigmaMm), 0.5)),
                shown(quantile(against(faults, Outcome::boundMm), 0.5)),
                logLoss(outcomes),
                count(outcomes, o -> o.verdict() == Verdict.PART && !o.topRight()) / (double) outcomes.size(),
                quantile(times, 0.5));
    }

    private static boolean amongThree(int rank) {
        return rank >= 1 && rank <= 3;
    }

    /** How far off each source is, in units of a radius that was given with it. */
    private static double[] against(List<Outcome> faults, Function<Outcome, OptionalDouble> radiusMm) {
        return faults.stream()
                .filter(o -> o.offMm().isPresent() && radiusMm.apply(o).isPresent())
                .mapToDouble(o -> o.offMm().getAsDouble() / radiusMm.apply(o).getAsDouble())
                .sorted()
                .toArray();
    }

    static double logLoss(List<Outcome> outcomes) {
        return outcomes.stream()
                .mapToDouble(o -> -Math.log(Math.max(LEAST_PROBABILITY, o.probability())))
                .average()
                .orElse(0);
    }

    /** Expected calibration error of the first suspect's probability over ten bins. */
    static double calibrationError(List<Outcome> outcomes) {
        double[] said = outcomes.stream().mapToDouble(Outcome::topProbability).toArray();
        boolean[] right = new boolean[said.length];
        for (int i = 0; i < right.length; i++) {
            right[i] = outcomes.get(i).topRight();
        }
        return calibrationError(said, right);
    }

    private static double calibrationError(double[] said, boolean[] right) {
        double[] excess = new double[CALIBRATION_BINS];
        for (int i = 0; i < said.length; i++) {
            int bin = Math.min(CALIBRATION_BINS - 1, (int) (said[i] * CALIBRATION_BINS));
            excess[bin] += said[i] - (right[i] ? 1 : 0);
        }
        return Arrays.stream(excess).map(Math::abs).sum() / said.length;
    }

    /**
     * The calibration errors, rising, that the same probabilities would show if every one were exactly right: few cases
     * never come out as said.
     */
    static double[] byChance(List<Outcome> outcomes) {
        double[] said = outcomes.stream().mapToDouble(Outcome::topProbability).toArray();
        Random random = new Random(1);
        double[] errors = new double[CHANCE_DRAWS];
        for (int draw = 0; draw < CHANCE_DRAWS; draw++) {
            boolean[] right = new boolean[said.length];
            for (int i = 0; i < right.length; i++) {
                right[i] = random.nextDouble() < said[i];
            }
            errors[draw] = calibrationError(said, right);
        }
        Arrays.sort(errors);
        return errors;
    }

    private static long count(List<Outcome> outcomes, Predicate<Outcome> test) {
        return outcomes.stream().filter(test).count();
    }

    private static String share(List<Outcome> outcomes, Predicate<Outcome> test) {
        return outcomes.isEmpty()
                ? "-"
                : String.format(Locale.ROOT, "%.2f", count(outcomes, test) / (double) outcomes.size());
    }

    static double quantile(double[] sorted, double q) {
        if (sorted.length == 0) {
            return Double.NaN;
        }
        double position = q * (sorted.length - 1);
        int low = (int) Math.floor(position);
        int high = Math.min(sorted.length - 1, low + 1);
        return sorted[low] + (position - low) * (sorted[high] - sorted[low]);
    }

    private static String shown(double value) {
        return Double.isNaN(value) ? "-" : String.format(Locale.ROOT, "%.2f", value);
    }

    static String json(Evaluation evaluation) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("log_loss", logLoss(evaluation.outcomes()));
        root.put("calibration_error", calibrationError(evaluation.outcomes()));
        ArrayNode cases = root.putArray("cases");
        for (Outcome o : new ArrayList<>(evaluation.outcomes())) {
            ObjectNode node = cases.addObject();
            node.put("name", o.name()).put("kind", o.kind());
            o.ref().ifPresent(ref -> node.put("ref", ref));
            node.put("verdict", o.verdict().name().toLowerCase(Locale.ROOT));
            node.put("rank", o.rank()).put("probability", o.probability());
            node.put("top", o.topRef()).put("top_probability", o.topProbability());
            node.put("none_probability", o.noneProbability()).put("eye_rank", o.eyeRank());
            node.put("plate_rank", o.plateRank());
            o.offMm().ifPresent(v -> node.put("off_mm", v));
            o.sigmaMm().ifPresent(v -> node.put("sigma_mm", v));
            o.boundMm().ifPresent(v -> node.put("bound_mm", v));
            node.put("elapsed_ms", o.elapsedMs());
        }
        return JsonMapper.builder().build().writerWithDefaultPrettyPrinter().writeValueAsString(root);
    }
}
