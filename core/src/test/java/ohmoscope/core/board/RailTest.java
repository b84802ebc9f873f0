package ohmoscope.core.board;

import static org.assertj.core.api.Assertions.assertThat;

import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class RailTest {
    private final Board board = Fixtures.board();

    @Test
    void aRailFedDirectlyHasNoPath() {
        Rail rail = Rail.between(board, "VSYS", "VSYS");
        assertThat(rail.path()).isEmpty();
        assertThat(rail.carries(board.part("C2").orElseThrow())).isTrue();
        assertThat(rail.carries(board.part("C7").orElseThrow())).isFalse();
    }

    @Test
    void findsTheSeriesPartsBetweenFeedAndRail() {
        Rail rail = Rail.between(board, "VIN", "VSYS");
        assertThat(rail.path()).extracting(Part::ref).containsExactly("F1", "L1");
        assertThat(rail.pathNets()).containsExactly("VIN", "VBUS");
    }

    @Test
    void netsThatNothingJoinsHaveNoPath() {
        assertThat(Rail.between(board, "S1", "VSYS").path()).isEmpty();
    }
}
