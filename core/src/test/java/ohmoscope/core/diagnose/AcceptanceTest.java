package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.diagnose.Acceptance.State;
import ohmoscope.core.diagnose.Acceptance.Tick;
import ohmoscope.core.diagnose.Acceptance.What;
import org.junit.jupiter.api.Test;

/** What a repair is tried by, from typed lines on a board with one of everything. */
class AcceptanceTest {
    private static final Board BOARD = PowerFixtures.board();
    private static final Advisor ADVISOR = new Advisor(BOARD);

    private static Optional<Acceptance> after(String... lines) {
        return ADVISOR.advise(Optional.empty(), "", Entries.of(BOARD, lines)).acceptance();
    }

    private static State state(Acceptance acceptance, What what) {
        return acceptance.ticks().stream()
                .filter(t -> t.what() == what)
                .map(Tick::state)
                .findFirst()
                .orElseThrow(() -> new AssertionError(what + " is not in " + acceptance.ticks()));
    }

    @Test
    void nothingIsTriedBeforeARepair() {
        assertThat(after("VMAIN d .003")).isEmpty();
    }

    @Test
    void aShortIsTriedAtTheSamePointThenOnALowLimitThenAsADevice() {
        Acceptance open = after("dead", "VMAIN d .003", "removed C3").orElseThrow();
        assertThat(open.kind()).isEqualTo(Acceptance.Kind.SHORT);
        assertThat(open.ticks())
                .extracting(Tick::what)
                .containsExactly(What.SAME_POINT, What.LOW_LIMIT, What.STARTS, What.CHARGES);
        assertThat(open.wanted()).hasSize(4);
        Acceptance tried = after("dead", "VMAIN d .003", "removed C3", "VMAIN d .42", "inject VMAIN 1V .002A", "boots")
                .orElseThrow();
        assertThat(state(tried, What.SAME_POINT)).isEqualTo(State.RIGHT);
        assertThat(state(tried, What.LOW_LIMIT)).isEqualTo(State.RIGHT);
        assertThat(state(tried, What.STARTS)).isEqualTo(State.RIGHT);
        assertThat(tried.wanted()).extracting(Tick::what).containsExactly(What.CHARGES);
        Acceptance still = after("dead", "VMAIN d .003", "removed C3", "VMAIN d .004", "dead")
                .orElseThrow();
        assertThat(state(still, What.SAME_POINT)).isEqualTo(State.WRONG);
        assertThat(state(still, What.STARTS)).isEqualTo(State.WRONG);
    }

    /** A mapped board may lack what joins the feed to the rail: clearing the rail then proves nothing of the feed. */
    @Test
    void aFeedThatOnlyTheSupplyFoundShortedIsReadAgain() {
        Board mapped = BOARD.withParts(BOARD.parts().stream()
                .filter(p -> p.kind() == PartKind.CAPACITOR || !p.touches("VIN") || p.touches("VBUS"))
                .toList());
        Advisor advisor = new Advisor(mapped);
        List<String> lines = new ArrayList<>(
                List.of("dead", "VMAIN d .003", "inject VIN 1V 2A .3V 2A leads 50m", "removed C3", "VMAIN d .42"));
        Advice first = advisor.advise(Optional.empty(), "", Entries.of(mapped, lines.toArray(String[]::new)));
        assertThat(first.mending().orElseThrow().readsWell()).isFalse();
        assertThat(first.stops()).extracting(Stop::code).contains(Stop.Code.DO_NOT_POWER);
        assertThat(first.next())
                .as("%s", first.next())
                .anyMatch(s ->
                        s.reason() == Step.Reason.PROVE_REPAIR && s.target().equals(Optional.of("VIN")));
        lines.add("VIN d .43");
        Advice second = advisor.advise(Optional.empty(), "", Entries.of(mapped, lines.toArray(String[]::new)));
        assertThat(second.mending().orElseThrow().readsWell()).isTrue();
        assertThat(second.stops()).extracting(Stop::code).doesNotContain(Stop.Code.DO_NOT_POWER);
    }

    @Test
    void anotherPointOrModeIsNotTheSameTest() {
        Acceptance other =
                after("dead", "C3 VMAIN d .003", "removed C3", "C4 VMAIN d .42").orElseThrow();
        assertThat(state(other, What.SAME_POINT)).isEqualTo(State.WANTED);
        Acceptance mode = after("dead", "C3 VMAIN d .003", "removed C3", "C3 VMAIN ohm 20k")
                .orElseThrow();
        assertThat(state(mode, What.SAME_POINT)).isEqualTo(State.WANTED);
    }

    @Test
    void anOpenFuseIsTriedAcrossItAndBehindIt() {
        Acceptance mended = after("dead", "across F1 ohm OL", "replaced F1", "across F1 ohm .02", "VIN v 11.9 charger")
                .orElseThrow();
        assertThat(mended.kind()).isEqualTo(Acceptance.Kind.OPEN);
        assertThat(state(mended, What.SAME_POINT)).isEqualTo(State.RIGHT);
        assertThat(state(mended, What.FAR_END)).isEqualTo(State.RIGHT);
        assertThat(state(mended, What.STARTS)).isEqualTo(State.WANTED);
        Acceptance missing = after("dead", "across F1 ohm OL", "replaced F1", "VIN v 0.2 charger")
                .orElseThrow();
        assertThat(state(missing, What.SAME_POINT)).isEqualTo(State.WANTED);
        assertThat(state(missing, What.FAR_END)).isEqualTo(State.WRONG);
    }

    @Test
    void aRegulatorIsTriedAtWhatItMakes() {
        Acceptance mended = after("dead", "V3 v 0 charger", "replaced U1", "V3 v 3.29 charger")
                .orElseThrow();
        assertThat(mended.kind()).isEqualTo(Acceptance.Kind.SUPPLY);
        assertThat(mended.ticks())
                .filteredOn(t -> t.what() == What.OUTPUT)
                .singleElement()
                .satisfies(t -> {
                    assertThat(t.place()).isEqualTo("V3");
                    assertThat(t.state()).isEqualTo(State.RIGHT);
                    assertThat(t.expected().orElseThrow().high()).isEqualTo(3.3);
                });
    }

    @Test
    void aPortIsTriedByWhatItAsksFor() {
        Acceptance first =
                after("dead", "look J1 bent", "replaced J1", "charger 5V 0.02A").orElseThrow();
        assertThat(first.kind()).isEqualTo(Acceptance.Kind.PORT);
        assertThat(state(first, What.ASKS_FOR_MORE)).isEqualTo(State.WRONG);
        Acceptance second =
                after("dead", "look J1 bent", "replaced J1", "charger 12V 0.6A").orElseThrow();
        assertThat(state(second, What.ASKS_FOR_MORE)).isEqualTo(State.RIGHT);
    }
}
