package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.locate.RemovalCost.Minutes;
import ohmoscope.core.prove.Parting.Cut;
import ohmoscope.core.prove.Parting.Means;
import org.junit.jupiter.api.Test;

class PartingTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Parting parting(Map<String, Double> suspects, BoardState state, String... lines) {
        return Parting.of(BOARD, "VMAIN", suspects, state, Typed.entries(BOARD, lines), Minutes.USUAL);
    }

    private static Cut cut(Parting parting, String target) {
        return parting.cuts().stream()
                .filter(c -> c.target().equals(target))
                .findFirst()
                .orElseThrow(() -> new AssertionError(target + " is not in " + parting));
    }

    /** VBUS –F1– VIN –Q1– VMAIN –Q2– VBAT. */
    @Test
    void aSwitchPartsWhatStandsBeforeItFromWhatStandsBehind() {
        Parting parting = parting(Map.of("C2", 0.4, "C3", 0.35, "C4", 0.15, "C1", 0.1), BoardState.WHOLE);
        Cut q1 = cut(parting, "Q1");
        assertThat(q1.means()).isEqualTo(Means.LIFT);
        assertThat(q1.beyond()).containsExactly("C2", "C1");
        assertThat(q1.here()).containsExactly("C3", "C4");
        assertThat(q1.share()).isBetween(0.499, 0.501);
        assertThat(q1.bits()).isBetween(0.999, 1.0);
        Cut f1 = cut(parting, "F1");
        assertThat(f1.beyond()).containsExactly("C1");
        assertThat(f1.bits()).isLessThan(q1.bits());
    }

    /** What hangs on a plug is no part of the board, and is out within a minute. */
    @Test
    void whatOnlyNeedsUnpluggingGoesBeforeHeat() {
        Parting atV3 = Parting.of(BOARD, "V3", Map.of("C5", 0.9), BoardState.WHOLE, List.of(), Minutes.USUAL);
        assertThat(atV3.cuts().get(0).target()).isEqualTo("J3");
        assertThat(atV3.cuts().get(0).means()).isEqualTo(Means.UNPLUG);
        assertThat(Parting.of(BOARD, "V3", Map.of("C5", 0.9), BoardState.WHOLE.unplug("J3"), List.of(), Minutes.USUAL)
                        .cuts())
                .noneMatch(c -> c.target().equals("J3"));
    }

    /** A port is soldered; it comes off to be parted from the rail only when it is suspected itself. */
    @Test
    void aSuspectedPortIsACutAsWell() {
        Parting suspected =
                Parting.of(BOARD, "VBUS", Map.of("J1", 0.6, "C1", 0.4), BoardState.WHOLE, List.of(), Minutes.USUAL);
        assertThat(cut(suspected, "J1").means()).isEqualTo(Means.LIFT);
        assertThat(cut(suspected, "J1").beyond()).containsExactly("J1");
        assertThat(cut(suspected, "J1").share()).isBetween(0.599, 0.601);
        assertThat(Parting.of(BOARD, "VBUS", Map.of("C1", 1.0), BoardState.WHOLE, List.of(), Minutes.USUAL)
                        .cuts())
                .noneMatch(c -> c.target().equals("J1"));
    }

    @Test
    void whatIsOffPartsNoMore() {
        BoardState without = BoardState.WHOLE.without("Q1");
        Parting parting = parting(Map.of("C2", 0.5, "C3", 0.5), without);
        assertThat(parting.cuts())
                .noneMatch(c -> c.target().equals("Q1") || c.target().equals("F1"));
    }

    @Test
    void twoTransistorsNeverComeOffWithoutAReadingBetween() {
        Map<String, Double> suspects = Map.of("C2", 0.5, "C3", 0.5);
        assertThat(parting(suspects, BoardState.WHOLE, "VMAIN d .003", "removed Q1")
                        .readFirst())
                .contains("Q1");
        assertThat(parting(suspects, BoardState.WHOLE, "VMAIN d .003", "removed Q1", "VMAIN d .003")
                        .readFirst())
                .isEmpty();
        assertThat(parting(suspects, BoardState.WHOLE, "VMAIN d .003", "removed F1")
                        .readFirst())
                .isEmpty();
    }

    @Test
    void aBoardWithoutSeriesPartsHasNothingToPart() {
        Board plain = Fixtures.board();
        assertThat(Parting.of(plain, "S1", Map.of("U1", 1.0), BoardState.WHOLE, List.of(), Minutes.USUAL)
                        .cuts())
                .isEmpty();
    }
}
