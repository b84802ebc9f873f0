package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.LookFirst.Because;
import ohmoscope.core.diagnose.LookTour.Why;
import ohmoscope.core.diagnose.Precaution.Hazard;
import ohmoscope.core.evidence.Observation;
import org.junit.jupiter.api.Test;

class LookFirstTest {
    private static final Board BOARD = PowerFixtures.board();
    private static final BoardIndex INDEX = new BoardIndex(BOARD);
    private static final PowerTree TREE = PowerTree.of(INDEX);

    private static Optional<LookFirst> first(Set<Hazard> hazards, String account, String... lines) {
        List<Observation> entries = Entries.of(BOARD, lines);
        Advice advice = new Advisor(BOARD).advise(Optional.empty(), account, entries);
        return LookFirst.of(INDEX, TREE, hazards, account, advice, entries);
    }

    private static LookTour tour(Optional<LookFirst> first, String... lines) {
        return LookTour.of(INDEX, TREE, "V3", List.of(), Set.of(), Entries.of(BOARD, lines), first);
    }

    @Test
    void whatMetALiquidIsLookedAtBeforeItIsMeasured() {
        assertThat(first(Set.of(Hazard.LIQUID), "dead").map(LookFirst::because)).contains(Because.LIQUID);
        assertThat(first(Set.of(), "fell into water, dead").map(LookFirst::because))
                .contains(Because.LIQUID);
        assertThat(first(Set.of(), "dead", "look J1 corroded").map(LookFirst::because))
                .contains(Because.LIQUID);
        assertThat(first(Set.of(), "never got wet, dead")).isEmpty();
    }

    @Test
    void allVoltsAndNoStart() {
        assertThat(first(Set.of(), "dead", "charger J1 12V 0.015A flat on").map(LookFirst::because))
                .contains(Because.NO_START_AT_FULL_VOLTS);
        assertThat(first(Set.of(), "dead", "charger J1 12V 0.06A flat on", "dead")
                        .map(LookFirst::because))
                .contains(Because.NO_START_AT_FULL_VOLTS);
        assertThat(first(Set.of(), "dead", "charger J1 5V 0.03A flat on")).isEmpty();
        assertThat(first(Set.of(), "dead", "charger J1 12V 0.03A flat on", "boots"))
                .isEmpty();
    }

    @Test
    void theMissingRailNearestToThePortWhereSeveralAre() {
        LookFirst first = first(Set.of(), "dead", "charger J1 12V 0.05A on", "V3 0 v charger", "VMAIN 0.01 v charger")
                .orElseThrow();
        assertThat(first).isEqualTo(new LookFirst(Because.MISSING_RAIL, Optional.of("VMAIN")));
    }

    @Test
    void aShortIsFedAndNotLookedFor() {
        assertThat(first(Set.of(), "dead", "VMAIN .002 d", "charger J1 12V 0.03A flat on"))
                .isEmpty();
    }

    @Test
    void theTourBeginsWithWhatMakesTheMissingRail() {
        LookTour tour = tour(Optional.of(new LookFirst(Because.MISSING_RAIL, Optional.of("VMAIN"))));
        assertThat(tour.left())
                .filteredOn(p -> p.why() == Why.FEEDS_WHAT_IS_MISSING)
                .extracting(p -> p.part().ref())
                .containsExactlyInAnyOrder("F1", "Q1");
        assertThat(tour.left().get(0).why()).isEqualTo(Why.FEEDS_WHAT_IS_MISSING);
        assertThat(tour.pressing()).isBetween(2L, (long) tour.left().size());
    }

    @Test
    void withAllVoltsTheControllersSuppliesComeBeforeThePath() {
        LookTour tour = tour(Optional.of(new LookFirst(Because.NO_START_AT_FULL_VOLTS, Optional.empty())));
        List<Why> whys =
                tour.left().stream().map(LookTour.Place::why).distinct().toList();
        assertThat(whys.indexOf(Why.FEEDS_A_CONTROLLER)).isLessThan(whys.indexOf(Why.CARRIES_POWER));
    }

    @Test
    void nothingPressesOnceThePlacesWereSeenOrNothingAsks() {
        Optional<LookFirst> missing = Optional.of(new LookFirst(Because.MISSING_RAIL, Optional.of("VMAIN")));
        String[] looks = tour(missing).left().stream()
                .map(p -> "look " + p.part().ref() + " clean")
                .toArray(String[]::new);
        assertThat(tour(missing, looks).pressing()).isZero();
        assertThat(tour(Optional.empty()).pressing()).isZero();
    }
}
