package ohmoscope.web.rework;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.Set;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.rework.Kit;
import ohmoscope.core.rework.ReworkPlan;
import org.junit.jupiter.api.Test;

class ReworkPlansTest {
    private final ReworkPlans plans = new ReworkPlans();
    private final Board board = Fixtures.board();
    private final Part part = board.part("C3").orElseThrow();

    @Test
    void whatWasWorkedOutForTheSameBoardIsLookedAtAgain() {
        ReworkPlan first = plans.of(board, part, Kit.USUAL, Set.of("C1"), 1);
        assertThat(plans.of(Fixtures.board(), part, Kit.USUAL, Set.of("C1"), 1)).isSameAs(first);
    }

    @Test
    void otherPartsToolsAirOrNeighboursAreWorkedOutAnew() {
        ReworkPlan first = plans.of(board, part, Kit.USUAL, Set.of(), 1);
        Kit bare = new Kit(Optional.empty(), Kit.USUAL.iron(), Optional.empty(), false, false, false);
        assertThat(plans.of(board, part, bare, Set.of(), 1)).isNotEqualTo(first);
        assertThat(plans.of(board, board.part("C4").orElseThrow(), Kit.USUAL, Set.of(), 1))
                .isNotEqualTo(first);
        assertThat(plans.of(board, part, Kit.USUAL, Set.of(), 1.5)).isNotEqualTo(first);
        assertThat(plans.of(board, part, Kit.USUAL, Set.of("C4"), 1)).isNotEqualTo(first);
    }
}
