package ohmoscope.core.diagnose;

import static ohmoscope.core.diagnose.MomentsTest.advice;
import static ohmoscope.core.diagnose.MomentsTest.assertBefore;
import static ohmoscope.core.diagnose.MomentsTest.found;
import static ohmoscope.core.diagnose.MomentsTest.probability;
import static ohmoscope.core.diagnose.MomentsTest.steps;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import org.junit.jupiter.api.Test;

/** Moments at meter, supply and camera, each with what a practitioner would say to it. */
class MomentsOfMeasuringTest {
    private static final Board BOARD = PowerFixtures.board();
    private static final Board ASKING = PowerFixtures.withNegotiation();

    private static Advice on(Board board, String... lines) {
        return advice(
                board,
                Stream.concat(Stream.of("unplugged battery", "look J1 clean"), Stream.of(lines))
                        .toArray(String[]::new));
    }

    /** Along the copper the volts are lowest at the short; they are no sign that the rail is missing. */
    @Test
    void millivoltsUnderInjectionAreLowestAtTheShort() {
        String[] injected = {"VMAIN d .002", "inj VMAIN 1V 2A .1V 2A"};
        Advice walked = on(BOARD, injected[0], injected[1], "C3 mv 2.9", "C4 mv 4.1");
        assertThat(probability(walked, Code.SHORT, "C3")).isGreaterThan(5 * probability(walked, Code.SHORT, "C4"));
        assertThat(found(walked, Finding.Code.RAIL_ABSENT, "VMAIN")).isFalse();
        Advice alike = on(BOARD, injected[0], injected[1], "C3 mv 2.9", "C4 mv 3.0");
        assertThat(probability(alike, Code.SHORT, "C3")).isLessThan(1.5 * probability(alike, Code.SHORT, "C4"));
        // Fed by something else in between, it is the board that runs.
        Advice fed = on(BOARD, injected[0], injected[1], "charger J1 12V 0.01A flat", "VMAIN v .01 bench");
        assertThat(found(fed, Finding.Code.RAIL_ABSENT, "VMAIN")).isTrue();
    }

    @Test
    void ofTwoThatAreWarmTheWarmerIsTheLikelier() {
        Advice two = on(BOARD, "VMAIN d .002", "inj VMAIN 1V 2A .1V 2A", "warm C3 1K", "warm C4 1.9K");
        assertThat(probability(two, Code.SHORT, "C4")).isGreaterThan(1.5 * probability(two, Code.SHORT, "C3"));
        // What cannot make it is no measure of it.
        Advice beside = on(BOARD, "VMAIN d .002", "inj VMAIN 1V 2A .1V 2A", "warm C3 1.9K", "warm F1 9K");
        assertThat(probability(beside, Code.SHORT, "C3")).isGreaterThan(3 * probability(beside, Code.SHORT, "C4"));
    }

    /** A core that reads as it should warms its processor by what that draws. */
    @Test
    void whatWarmsOnARailThatReadsWellIsItsLoad() {
        String[] core = {"VCORE ohm 8", "inj VCORE .8V 3A .75V .3A", "warm U4 1.5K"};
        Advice well = on(BOARD, core);
        assertThat(found(well, Finding.Code.READING_BY_DESIGN, "VCORE")).isTrue();
        assertThat(probability(well, Code.SHORT, "U4")).isLessThan(0.25);
        assertThat(steps(well)).doesNotContain("REMOVE U4", "REPLACE U4");
        // Right since the part is off: it was the short all the same.
        Advice mended = on(BOARD, "VMAIN d .002", "inj VMAIN 1V 2A .1V 2A", "warm C3 3K", "removed C3", "VMAIN d .42");
        assertThat(probability(mended, Code.SHORT, "C3")).isGreaterThan(0.9);
    }

    @Test
    void aBeepThatStopsIsACapacitorThatHasCharged() {
        Advice charged = on(BOARD, "VMAIN beep", "VMAIN ohm 5200");
        assertThat(charged.next()).noneMatch(s -> s.reason() == Reason.READINGS_DISAGREE);
        assertThat(found(charged, Finding.Code.RAIL_GOOD, "VMAIN")).isTrue();
    }

    @Test
    void aPartOfAnotherValueIsRenewed() {
        Advice off = on(ASKING, "charger J1 20V 0.3A flat on", "across R9 ohm 1.0");
        assertThat(found(off, Finding.Code.PART_OFF_VALUE, "R9")).isTrue();
        assertBefore(off, "LOOK R9", "REPLACE R9");
        assertThat(probability(off, Code.OPEN, "R9"))
                .isGreaterThan(5 * probability(on(ASKING, "charger J1 20V 0.3A flat on"), Code.OPEN, "R9"));
    }

    /** The port runs it and the cell does not: what is between the cell and the rest, and first what tells it. */
    @Test
    void whatRunsFromItsPortOnlyHasItsFaultAtTheCell() {
        Advice port =
                on(ASKING, "charger J1 20V 0.5A rising on", "bench J2 11.4V 0A flat on", "VSYS d .42", "VBAT d .5");
        assertThat(port.hypotheses().get(0))
                .matches(h -> h.code() == Code.OPEN && h.target().equals("Q2"));
        assertThat(port.next().get(0))
                .matches(s -> s.action() == Action.READ && s.target().equals(Optional.of("BG")));
    }

    @Test
    void aLevelThatStopsAtAResistorIsReadAcrossIt() {
        String[] lines = {"charger J1 20V 0.3A flat on", "VSYS v 12.6 charger", "PL v 3.3 charger"};
        assertThat(steps(on(ASKING, lines[0], lines[1], lines[2], "EX v 0 charger")))
                .contains("READ R7");
        assertThat(steps(on(ASKING, lines[0], lines[1], lines[2], "EX v 3.2 charger")))
                .doesNotContain("READ R7");
    }

    /** A warm junction reads low. */
    @Test
    void whatReadsLowRightAfterHeatIsReadAgain() {
        String[] warm = {"VMAIN d .002", "removed C3", "VMAIN d .15"};
        Advice once = on(BOARD, warm);
        assertThat(once.next().get(0))
                .matches(s -> s.reason() == Reason.BOARD_IS_HOT && s.target().equals(Optional.of("VMAIN")));
        Advice again = on(BOARD, warm[0], warm[1], warm[2], "VMAIN d .16");
        assertThat(again.next()).noneMatch(s -> s.reason() == Reason.BOARD_IS_HOT);
        // A dead short is none of a junction's doing.
        Advice dead = on(BOARD, warm[0], warm[1], "VMAIN d .001");
        assertThat(dead.next()).noneMatch(s -> s.reason() == Reason.BOARD_IS_HOT);
    }

    @Test
    void whatBeepsByItselfDoesNotGoBack() {
        Advice beeps = on(BOARD, "VMAIN d .002", "removed C3", "across C3 beep", "VMAIN d .002");
        assertThat(steps(beeps)).doesNotContain("FIT C3");
    }

    /** Fed and silent: what it makes for itself tells, before it is renewed. */
    @Test
    void aChipsOwnRailIsReadBeforeTheChipIsRenewed() {
        Board board = PowerFixtures.withInnerRegulator();
        String[] off = {
            "charger J1 12V 0.01A flat", "VIN v 12 charger", "VMAIN v 11.4 charger", "AG v 0 charger", "EN3 v 0 charger"
        };
        Advice unread = on(board, off);
        assertThat(probability(unread, Code.DEAD_CONTROLLER, "U3")).isGreaterThan(0.15);
        assertThat(steps(unread)).contains("READ VL").doesNotContain("REPLACE U3");
        Advice read = on(board, off[0], off[1], off[2], off[3], off[4], "VL v 0 charger", "VL d .5");
        assertThat(read.hypotheses().get(0).target()).isEqualTo("U3");
    }
}
