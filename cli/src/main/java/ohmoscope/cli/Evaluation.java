package ohmoscope.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import ohmoscope.core.board.Part;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.search.ByEye;
import ohmoscope.core.locate.search.ByPlate;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.BundleReader;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Locate's answers on bundles whose fault is known. */
record Evaluation(List<Outcome> outcomes) {
    /**
     * One case.
     *
     * @param ref the faulty part, empty when nothing warmed
     * @param rank of the faulty part among the suspects, from 1; 0 when it is not among them
     * @param probability given to the faulty part, or to "none of these" when nothing warmed
     * @param offMm from the estimated source to the faulty part; empty when there is no estimate or no fault
     * @param boundMm the source's one-sigma radius by the Cramér–Rao bound and the registration
     * @param topProbability of the first suspect
     * @param eyeRank the same rank by the by-eye baseline
     * @param plateRank the same by the plain plate
     */
    record Outcome(
            String name,
            String kind,
            Optional<String> ref,
            Verdict verdict,
            int rank,
            double probability,
            OptionalDouble offMm,
            OptionalDouble sigmaMm,
            OptionalDouble boundMm,
            String topRef,
            double topProbability,
            int eyeRank,
            int plateRank,
            double noneProbability,
            long elapsedMs) {
        boolean fault() {
            return ref.isPresent();
        }

        boolean topRight() {
            return rank == 1;
        }

        String line() {
            return String.format(
                    Locale.ROOT,
                    "%-8s %-12s %-5s rank %2d p %.3f  top %-5s %.3f  none %.3f  %-4s off %s eye %d plate %d  %d ms",
                    name,
                    kind,
                    ref.orElse("-"),
                    rank,
                    probability,
                    topRef,
                    topProbability,
                    noneProbability,
                    verdict.name().toLowerCase(Locale.ROOT),
                    offMm.isPresent()
                            ? String.format(Locale.ROOT, "%.2f±%.2f mm", offMm.getAsDouble(), sigmaMm.orElse(0))
                            : "-",
                    eyeRank,
                    plateRank,
                    elapsedMs);
        }
    }

    Evaluation {
        outcomes = List.copyOf(outcomes);
    }

    /** @throws BundleException when the folder has no usable truth.json or a bundle cannot be read */
    static Evaluation over(Path folder, Consumer<Outcome> each) throws IOException {
        Path truthFile = folder.resolve("truth.json");
        if (!Files.isRegularFile(truthFile)) {
            throw new BundleException(
                    truthFile.toString(), "", "is missing; evaluate needs it beside the bundles, keyed by their names");
        }
        JsonNode truth = JsonMapper.builder().build().readTree(Files.readAllBytes(truthFile));
        List<Outcome> outcomes = new ArrayList<>();
        List<String> names = new ArrayList<>(truth.propertyNames());
        names.sort(null);
        for (String name : names) {
            Path zip = folder.resolve(name + ".zip");
            Path bundle = Files.exists(zip) ? zip : folder.resolve(name);
            Outcome outcome = one(name, bundle, truth.get(name));
            outcomes.add(outcome);
            each.accept(outcome);
        }
        return new Evaluation(outcomes);
    }

    /** How far a place is from where the heat starts: a large chip's hot spot where the truth tells it, else the part's middle. */
    private static double offMm(SourceEstimate source, JsonNode truth) {
        JsonNode spot = truth.path("heat_spot");
        boolean told = spot.isArray() && spot.size() == 2;
        double xMm = (told ? spot.get(0) : truth.get("x_mm")).asDouble();
        double yMm = (told ? spot.get(1) : truth.get("y_mm")).asDouble();
        return Math.hypot(source.xMm() - xMm, source.yMm() - yMm);
    }

    private static Outcome one(String name, Path bundle, JsonNode truth) throws IOException {
        LocateInput input = new BundleReader().read(bundle).locateInput();
        long start = System.nanoTime();
        LocateResult result = new Locator().locate(input, Progress.SILENT);
        long elapsedMs = (System.nanoTime() - start) / 1_000_000;
        JsonNode refNode = truth.get("ref");
        Optional<String> ref = refNode == null || refNode.isNull() ? Optional.empty() : Optional.of(refNode.asString());
        int rank = 0;
        double probability = ref.isPresent() ? 0 : result.noneProbability();
        for (int i = 0; i < result.suspects().size(); i++) {
            Suspect suspect = result.suspects().get(i);
            if (ref.isPresent() && suspect.part().ref().equals(ref.get())) {
                rank = i + 1;
                probability = suspect.probability();
            }
        }
        OptionalDouble off = OptionalDouble.empty();
        if (ref.isPresent() && result.source().isPresent()) {
            off = OptionalDouble.of(offMm(result.source().get(), truth));
        }
        return new Outcome(
                name,
                truth.get("kind").asString(),
                ref,
                result.verdict(),
                rank,
                probability,
                off,
                of(result.source().map(SourceEstimate::sigmaMm)),
                result.source().map(SourceEstimate::boundMm).orElse(OptionalDouble.empty()),
                result.suspects().isEmpty()
                        ? "-"
                        : result.suspects().get(0).part().ref(),
                result.suspects().isEmpty() ? 0 : result.suspects().get(0).probability(),
                rank(ByEye.ranked(input), ref),
                rank(ByPlate.ranked(input), ref),
                result.noneProbability(),
                elapsedMs);
    }

    /** From 1; 0 when it is not among them, or there is nothing to be. */
    private static int rank(List<Part> ranked, Optional<String> ref) {
        return ref.map(r -> ranked.stream().map(Part::ref).toList().indexOf(r) + 1)
                .orElse(0);
    }

    private static OptionalDouble of(Optional<Double> value) {
        return value.map(OptionalDouble::of).orElse(OptionalDouble.empty());
    }
}
