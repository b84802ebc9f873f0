package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.LookTour.Why;
import org.junit.jupiter.api.Test;

class LookTourTest {
    private static final Board BOARD = PowerFixtures.board();

    private static LookTour tour(Set<String> absent, List<Hypothesis> hypotheses, String... lines) {
        BoardIndex board = new BoardIndex(BOARD);
        return LookTour.of(
                board, PowerTree.of(board), "V3", hypotheses, absent, Entries.of(BOARD, lines), Optional.empty());
    }

    private static List<String> left(LookTour tour) {
        return tour.left().stream().map(p -> p.part().ref()).toList();
    }

    @Test
    void portsThenWhatCarriesPowerThenTheRail() {
        LookTour tour = tour(Set.of(), List.of());
        assertThat(tour.left().get(0).why()).isEqualTo(Why.PORT);
        assertThat(tour.left()).extracting(LookTour.Place::why).isSorted();
        assertThat(left(tour)).doesNotHaveDuplicates();
        assertThat(tour.left())
                .filteredOn(p -> p.why() == Why.ON_THE_RAIL)
                .isNotEmpty()
                .allMatch(p -> p.part().touches("V3"));
    }

    @Test
    void whatTheEvidencePointsToIsLookedAtFirst() {
        List<Hypothesis> hypotheses =
                List.of(new Hypothesis(Code.SHORT, "C3", 0.6), new Hypothesis(Code.SHORT, "U2", 0.05));
        LookTour tour = tour(Set.of(), hypotheses);
        assertThat(left(tour)).startsWith("C3");
        assertThat(tour.left()).anyMatch(p -> p.part().ref().equals("U2") && p.why() == Why.SUSPECTED);
    }

    @Test
    void whatWasSeenIsDoneUntilItIsChanged() {
        assertThat(left(tour(Set.of(), List.of(), "look J1 clean"))).doesNotContain("J1");
        LookTour again = tour(Set.of(), List.of(), "look J1 pins touching", "replaced J1");
        assertThat(left(again)).contains("J1");
        assertThat(again.seen()).isEmpty();
        assertThat(tour(Set.of(), List.of(), "look J1 clean", "look J3 wet mark")
                        .seen())
                .extracting(s -> s.part().ref())
                .containsExactly("J3", "J1");
    }

    @Test
    void whatIsOffTheBoardCannotBeLookedAt() {
        assertThat(left(tour(Set.of("J1"), List.of()))).doesNotContain("J1");
        assertThat(Optional.of(left(tour(Set.of(), List.of())))).get().asList().contains("J1");
    }
}
