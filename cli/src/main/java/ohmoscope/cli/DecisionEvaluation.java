package ohmoscope.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import ohmoscope.formats.AdviceJson;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleReader;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Advise's answers at decision points whose right answers are known: folders with an {@code expect.json} each. */
record DecisionEvaluation(List<Outcome> outcomes) {
    private static final String EXPECT = "expect.json";
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    /**
     * One decision point.
     *
     * @param wrong what did not come out as expected, empty when all did
     * @param asksFirst whether the answer names what the first hypothesis must be
     * @param asksThree whether it names what must be among the first three, or the first
     * @param firstProbability given to the first hypothesis
     */
    record Outcome(
            String name,
            List<String> wrong,
            boolean findingsRight,
            boolean stopsRight,
            boolean nextRight,
            boolean asksFirst,
            boolean firstRight,
            boolean asksThree,
            boolean threeRight,
            double firstProbability,
            long elapsedMs) {
        boolean right() {
            return findingsRight && stopsRight && nextRight;
        }

        String line() {
            return String.format(
                    Locale.ROOT,
                    "%-10s %-5s p %.2f %4d ms  %s",
                    name,
                    right() && (!asksFirst || firstRight) && (!asksThree || threeRight) ? "right" : "WRONG",
                    firstProbability,
                    elapsedMs,
                    String.join("; ", wrong));
        }
    }

    static boolean holds(Path folder) throws IOException {
        return !cases(folder).isEmpty();
    }

    private static List<Path> cases(Path folder) throws IOException {
        try (Stream<Path> entries = Files.list(folder)) {
            return entries.filter(p -> Files.isRegularFile(p.resolve(EXPECT)))
                    .sorted()
                    .toList();
        }
    }

    static DecisionEvaluation over(Path folder, Consumer<Outcome> each) throws IOException {
        List<Outcome> outcomes = new ArrayList<>();
        for (Path dir : cases(folder)) {
            Bundle bundle = new BundleReader().read(dir);
            JsonNode expect = MAPPER.readTree(Files.readString(dir.resolve(EXPECT)));
            long start = System.nanoTime();
            JsonNode answer = MAPPER.readTree(AdviceJson.write(bundle.advise()));
            long elapsedMs = (System.nanoTime() - start) / 1_000_000;
            Outcome outcome = judge(dir.getFileName().toString(), expect, answer, elapsedMs);
            outcomes.add(outcome);
            each.accept(outcome);
        }
        return new DecisionEvaluation(outcomes);
    }

    static Outcome judge(String name, JsonNode expect, JsonNode answer, long elapsedMs) {
        List<String> wrong = new ArrayList<>();
        boolean findings = all(expect, "must_find", answer.path("findings"), true, wrong)
                & all(expect, "must_not_find", answer.path("findings"), false, wrong);
        List<JsonNode> hypotheses = list(answer.path("hypotheses"));
        boolean first = any(expect, "top1_any", hypotheses, 1, wrong);
        boolean three = any(expect, "top3_any", hypotheses, 3, wrong)
                & (!expect.has("top1_any") || among(expect.path("top1_any"), hypotheses, 3));
        List<JsonNode> next = list(answer.path("next"));
        boolean nextRight = any(expect, "next_any", next, 3, wrong);
        for (JsonNode not : expect.path("next_not")) {
            if (among(not, next, 3)) {
                wrong.add("next must not be " + not);
                nextRight = false;
            }
        }
        List<String> stops = list(answer.path("stops")).stream()
                .map(s -> s.path("code").asString())
                .toList();
        boolean stopsRight = true;
        for (JsonNode stop : expect.path("stops")) {
            if (!stops.contains(stop.asString())) {
                wrong.add("stop missing " + stop.asString());
                stopsRight = false;
            }
        }
        for (JsonNode stop : expect.path("stops_not")) {
            if (stops.contains(stop.asString())) {
                wrong.add("stop too many " + stop.asString());
                stopsRight = false;
            }
        }
        double probability =
                hypotheses.isEmpty() ? 0 : hypotheses.get(0).path("probability").asDouble();
        return new Outcome(
                name,
                wrong,
                findings,
                stopsRight,
                nextRight,
                expect.has("top1_any"),
                first,
                expect.has("top3_any") || expect.has("top1_any"),
                three,
                probability,
                elapsedMs);
    }

    private static boolean all(JsonNode expect, String member, JsonNode found, boolean wanted, List<String> wrong) {
        boolean right = true;
        for (JsonNode entry : expect.path(member)) {
            List<JsonNode> alternatives = entry.has("any") ? list(entry.path("any")) : List.of(entry);
            boolean there =
                    alternatives.stream().anyMatch(a -> list(found).stream().anyMatch(f -> matches(a, f)));
            if (there != wanted) {
                wrong.add(member + " " + entry);
                right = false;
            }
        }
        return right;
    }

    private static boolean any(JsonNode expect, String member, List<JsonNode> answers, int most, List<String> wrong) {
        if (!expect.has(member)) {
            return true;
        }
        boolean right = among(expect.path(member), answers, most);
        if (!right) {
            wrong.add(member + " not met, got "
                    + answers.stream()
                            .limit(most)
                            .map(DecisionEvaluation::brief)
                            .toList());
        }
        return right;
    }

    private static String brief(JsonNode answer) {
        return (answer.path("code").asString("") + answer.path("action").asString("") + " "
                                + answer.path("target").asString(""))
                        .trim()
                + (answer.has("probability")
                        ? String.format(
                                Locale.ROOT, " %.2f", answer.path("probability").asDouble())
                        : "");
    }

    private static boolean among(JsonNode wanted, List<JsonNode> answers, int most) {
        List<JsonNode> alternatives = wanted.isArray() ? list(wanted) : List.of(wanted);
        return answers.stream().limit(most).anyMatch(a -> alternatives.stream().anyMatch(w -> matches(w, a)));
    }

    /** Every member of the wanted entry equals the answer's; a place may stand under net or target. */
    private static boolean matches(JsonNode wanted, JsonNode answer) {
        for (Map.Entry<String, JsonNode> member : wanted.properties()) {
            String name = member.getKey();
            if (name.equals("set_v_max")) {
                if (answer.has("set_v")
                        && answer.path("set_v").asDouble() > member.getValue().asDouble()) {
                    return false;
                }
            } else if (name.equals("net") || name.equals("target")) {
                String place = member.getValue().asString();
                if (!place.equals(answer.path("net").asString(""))
                        && !place.equals(answer.path("target").asString(""))) {
                    return false;
                }
            } else if (!member.getValue().equals(answer.path(name))) {
                return false;
            }
        }
        return true;
    }

    private static List<JsonNode> list(JsonNode array) {
        return StreamSupport.stream(array.spliterator(), false).toList();
    }

    /** The table that {@code evaluate} prints. */
    String table() {
        long count = outcomes.size();
        long known = outcomes.stream().filter(Outcome::asksFirst).count();
        long three = outcomes.stream().filter(Outcome::asksThree).count();
        List<Outcome> sure = outcomes.stream()
                .filter(o -> o.asksFirst() && o.firstProbability() >= 0.85)
                .toList();
        StringBuilder table = new StringBuilder();
        line(table, "decision points", count, count);
        line(
                table,
                "findings right",
                outcomes.stream().filter(Outcome::findingsRight).count(),
                count);
        line(table, "stops right", outcomes.stream().filter(Outcome::stopsRight).count(), count);
        line(
                table,
                "next step right",
                outcomes.stream().filter(Outcome::nextRight).count(),
                count);
        line(table, "all three right", outcomes.stream().filter(Outcome::right).count(), count);
        line(
                table,
                "true fault first",
                outcomes.stream().filter(o -> o.asksFirst() && o.firstRight()).count(),
                known);
        line(
                table,
                "among first three",
                outcomes.stream().filter(o -> o.asksThree() && o.threeRight()).count(),
                three);
        line(
                table,
                "right where p ≥ 0.85",
                sure.stream().filter(Outcome::firstRight).count(),
                sure.size());
        table.append(String.format(
                Locale.ROOT,
                "%-24s %d ms%n",
                "slowest",
                outcomes.stream().mapToLong(Outcome::elapsedMs).max().orElse(0)));
        return table.toString();
    }

    private static void line(StringBuilder table, String what, long right, long of) {
        table.append(String.format(
                Locale.ROOT, "%-24s %4d of %4d   %.3f%n", what, right, of, of == 0 ? 1.0 : (double) right / of));
    }
}
