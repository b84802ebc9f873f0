package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.cli.Evaluation.Outcome;
import ohmoscope.core.locate.Verdict;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class EvaluationTableTest {
    /** A fault ranked so, the first suspect and the fault with such probabilities. */
    private static Outcome fault(String kind, int rank, double probability, double top, double offMm) {
        return new Outcome(
                kind + rank,
                kind,
                Optional.of("C1"),
                top > 0.8 ? Verdict.PART : Verdict.AREA,
                rank,
                probability,
                OptionalDouble.of(offMm),
                OptionalDouble.of(0.4),
                OptionalDouble.of(0.2),
                rank == 1 ? "C1" : "C2",
                top,
                4,
                2,
                0.01,
                100);
    }

    private static Outcome nothing(Verdict verdict, double none) {
        return new Outcome(
                "nothing",
                "nothing",
                Optional.empty(),
                verdict,
                0,
                none,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                "C9",
                0.1,
                0,
                0,
                none,
                300);
    }

    private static String row(String table, String kind) {
        return table.lines().filter(l -> l.startsWith(kind + " ")).findFirst().orElseThrow();
    }

    @Test
    void aRowOfEachKindAndOneOfAll() {
        String table = EvaluationTable.of(new Evaluation(List.of(
                fault("plain", 1, 0.9, 0.9, 0.2),
                fault("plain", 2, 0.1, 0.85, 0.6),
                fault("bank", 1, 0.5, 0.5, 0.1),
                nothing(Verdict.NONE, 0.8))));
        assertThat(row(table, "plain").split(" +"))
                .startsWith(
                        "plain", "2", "0.50", "1.00", "0.00", "0.00", "0.00", "1.00", "0.40", "0.56", "1.00", "2.00")
                .contains("0.50");
        assertThat(row(table, "bank")).contains("1.00").contains(" 0.25 ").contains(" 0.50 ");
        assertThat(row(table, "nothing").split(" +"))
                .startsWith("nothing", "1", "-", "-", "-", "-", "-", "-", "-", "-", "-", "-");
        assertThat(row(table, "all").split(" +")).startsWith("all", "4", "0.67", "1.00");
        assertThat(table).contains("none called: right 1 of 1, wrong 0 of 3").contains("slowest 300 ms");
    }

    @Test
    void logLossIsThatOfWhatWasTrueAndEndsSomewhere() {
        assertThat(EvaluationTable.logLoss(List.of(fault("plain", 1, 0.5, 0.5, 0), nothing(Verdict.NONE, 0.25))))
                .isCloseTo((Math.log(2) + Math.log(4)) / 2, within(1e-12));
        assertThat(EvaluationTable.logLoss(List.of(fault("plain", 9, 0, 0.9, 0))))
                .isCloseTo(-Math.log(1e-4), within(1e-12));
        assertThat(EvaluationTable.logLoss(List.of())).isZero();
    }

    @Test
    void fewCasesNeverComeOutAsSaid() {
        List<Outcome> even = new ArrayList<>();
        for (int i = 0; i < 100; i++) {
            even.add(fault("plain", 1, 0.5, 0.5, 0.1));
        }
        double[] errors = EvaluationTable.byChance(even);
        // Half of a hundred, give or take five: the mean distance from the half is 0.8 of that.
        assertThat(errors).isSorted();
        assertThat(Arrays.stream(errors).average().orElseThrow()).isCloseTo(0.04, within(0.003));
        assertThat(EvaluationTable.byChance(even)).isEqualTo(errors);
    }

    @Test
    void whoIsSureIsNeverOffByChance() {
        assertThat(EvaluationTable.byChance(List.of(fault("plain", 1, 1, 1, 0.1))))
                .containsOnly(0);
    }

    @Test
    void calibrationComparesWhatIsSaidWithWhatIsRight() {
        List<Outcome> honest = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            honest.add(fault("plain", i < 7 ? 1 : 2, 0.7, 0.7, 0));
        }
        assertThat(EvaluationTable.calibrationError(honest)).isCloseTo(0, within(1e-9));
        List<Outcome> proud = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            proud.add(fault("plain", i < 5 ? 1 : 2, 0.95, 0.95, 0));
        }
        assertThat(EvaluationTable.calibrationError(proud)).isCloseTo(0.45, within(1e-9));
    }

    @Test
    void quantilesLieBetweenTheValues() {
        double[] sorted = {1, 2, 4};
        assertThat(EvaluationTable.quantile(sorted, 0)).isEqualTo(1);
        assertThat(EvaluationTable.quantile(sorted, 0.5)).isEqualTo(2);
        assertThat(EvaluationTable.quantile(sorted, 0.75)).isEqualTo(3);
        assertThat(EvaluationTable.quantile(sorted, 1)).isEqualTo(4);
        assertThat(EvaluationTable.quantile(new double[0], 0.5)).isNaN();
    }

    @Test
    void theSameFiguresAreGivenToPrograms() {
        String json = EvaluationTable.json(
                new Evaluation(List.of(fault("plain", 1, 0.9, 0.9, 0.2), nothing(Verdict.NONE, 0.8))));
        JsonNode root = JsonMapper.builder().build().readTree(json);
        assertThat(root.get("log_loss").asDouble()).isCloseTo((-Math.log(0.9) - Math.log(0.8)) / 2, within(1e-9));
        JsonNode first = root.get("cases").get(0);
        assertThat(first.get("verdict").asString()).isEqualTo("part");
        assertThat(first.get("off_mm").asDouble()).isEqualTo(0.2);
        assertThat(first.get("sigma_mm").asDouble()).isEqualTo(0.4);
        assertThat(first.get("bound_mm").asDouble()).isEqualTo(0.2);
        assertThat(root.get("cases").get(1).has("off_mm")).isFalse();
        assertThat(root.get("cases").get(1).has("ref")).isFalse();
    }

    @Test
    void saidAgainstRightIsDrawnWithItsInterval() {
        List<Outcome> outcomes = List.of(
                fault("plain", 1, 0.85, 0.85, 0), fault("plain", 2, 0.2, 0.83, 0), fault("plain", 1, 0.5, 0.5, 0));
        List<ReliabilityDiagram.Point> points = ReliabilityDiagram.points(outcomes);
        assertThat(points).hasSize(2);
        assertThat(points.get(1).said()).isCloseTo(0.84, within(1e-12));
        assertThat(points.get(1).right()).isEqualTo(0.5);
        // Wilson for 1 of 2 at z = 1.645: the middle is a half, by symmetry.
        assertThat(points.get(1).low() + points.get(1).high()).isCloseTo(1, within(1e-9));
        assertThat(points.get(1).low()).isCloseTo(0.1209, within(1e-3));
        assertThat(ReliabilityDiagram.svg(outcomes)).contains("3 cases").endsWith("</svg>\n");
    }
}
