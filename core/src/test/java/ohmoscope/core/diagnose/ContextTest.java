package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Storey;
import ohmoscope.core.diagnose.Hypothesis.Code;
import org.junit.jupiter.api.Test;

/** What is not electrical, as it moves the probabilities. */
class ContextTest {
    private static Advice advice(Board board, String... lines) {
        return new Advisor(board).advise(Optional.empty(), "", Entries.of(board, lines));
    }

    private static double probability(Advice advice, Code code, String target) {
        return advice.hypotheses().stream()
                .filter(h -> h.code() == code && h.target().equals(target))
                .mapToDouble(Hypothesis::probability)
                .sum();
    }

    @Test
    void whatStoodBesideTheHeatIsLikelierAfterwards() {
        Board board = Fixtures.board();
        String[] before = {"dead", "VSYS d .002"};
        assertThat(probability(advice(board, before), Code.SHORT, "C3"))
                .isEqualTo(probability(advice(board, before), Code.SHORT, "C6"));
        Advice after = advice(board, "dead", "VSYS d .42", "replaced C2", "dead", "VSYS d .002");
        assertThat(probability(after, Code.SHORT, "C3"))
                .as("4 mm from what was heated")
                .isGreaterThan(2 * probability(after, Code.SHORT, "C6"));
    }

    @Test
    void aReadingWithTheCellInWeighsLittle() {
        Board board = PowerFixtures.board();
        double out = probability(advice(board, "dead", "unplugged battery", "V3 d .001"), Code.SHORT, "C5");
        double in = probability(advice(board, "dead", "plugged battery", "V3 d .001"), Code.SHORT, "C5");
        assertThat(out).isGreaterThan(2 * in);
        assertThat(advice(board, "dead", "plugged battery", "V3 d .001").live()).containsExactly(3);
    }

    @Test
    void aPortThatLooksWholeIsPassedByBeforeOneIsOrdered() {
        Advice advice = advice(
                PowerFixtures.board(),
                "dead",
                "look J1 clean",
                "VBUS d .55",
                "VMAIN d .43",
                "VIN d .55",
                "charger 12V 0A",
                "VBUS v 0 charger",
                "VIN v 0 charger");
        assertThat(advice.next())
                .filteredOn(s -> s.reason() == Step.Reason.FEED_PAST_PORT)
                .singleElement()
                .satisfies(s -> {
                    assertThat(s.target()).contains("VBUS");
                    assertThat(s.setVolts()).hasValue(12);
                });
        int replace = advice.next().stream().map(Step::action).toList().indexOf(Step.Action.REPLACE);
        assertThat(replace).isNotNegative();
    }

    private static Board twoStoreys() {
        Board board = Fixtures.board();
        return Fixtures.with(
                board,
                board.nets(),
                board.parts().stream()
                        .map(p -> Fixtures.onStorey(
                                p, List.of("C4", "C5", "C6", "U1").contains(p.ref()) ? Storey.UPPER : Storey.LOWER))
                        .toList());
    }

    @Test
    void withOneHalfOffWhatWasHeldIsReadAgainAndNothingIsPowered() {
        Board board = twoStoreys();
        Advice parted = advice(board, "dead", "VSYS d .002", "separated upper");
        assertThat(parted.next().get(0).action()).isEqualTo(Step.Action.READ);
        assertThat(parted.next().get(0).target()).contains("VSYS");
        assertThat(parted.next()).noneMatch(s -> s.action() == Step.Action.POWER);
        Advice free = advice(board, "dead", "VSYS d .002", "separated upper", "VSYS d .42");
        assertThat(free.next())
                .anyMatch(s ->
                        s.action() == Step.Action.CHECK_FITTED && s.target().equals(Optional.of("stack:upper")));
        assertThat(free.hypotheses().stream()
                        .filter(h -> h.probability() > 0.05)
                        .map(Hypothesis::target))
                .as("what is wrong went with the upper half")
                .allMatch(ref -> List.of("C4", "C5", "C6", "U1").contains(ref));
    }
}
