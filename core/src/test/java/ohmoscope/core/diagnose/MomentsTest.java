package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import org.junit.jupiter.api.Test;

/** Moments of a job, as they are typed, each with what a practitioner would say to it. */
class MomentsTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Advice advice(String... lines) {
        return advice(BOARD, lines);
    }

    static Advice advice(Board board, String... lines) {
        return new Advisor(board).advise(Optional.empty(), "", Typed.entries(board, lines));
    }

    static List<String> steps(Advice advice) {
        return advice.next().stream()
                .map(s -> s.action() + s.target().map(t -> " " + t).orElse(""))
                .toList();
    }

    static void assertBefore(Advice advice, String first, String second) {
        List<String> steps = steps(advice);
        assertThat(steps).contains(first, second);
        assertThat(steps.indexOf(first)).isLessThan(steps.indexOf(second));
    }

    static double probability(Advice advice, Code code, String target) {
        return advice.hypotheses().stream()
                .filter(h -> h.code() == code && h.target().equals(target))
                .mapToDouble(Hypothesis::probability)
                .sum();
    }

    static boolean found(Advice advice, Finding.Code code, String place) {
        return advice.findings().stream()
                .anyMatch(f -> f.code() == code && f.place().equals(Optional.of(place)));
    }

    /** The board shut itself off before anything warmed: low volts come next, for the other school too. */
    @Test
    void aBurstAtTheRailsOwnVoltsIsFollowedByLowOnes() {
        String[] burst = {"unplugged battery", "look J1 clean", "VMAIN d .002", "inj VMAIN 12V 3A 12V 0A burst"};
        Schools usual = Schools.DEFAULT;
        Schools atRail = new Schools(
                usual.meter(),
                usual.lead(),
                usual.proof(),
                Schools.Injection.RAIL_VOLTAGE,
                usual.port(),
                usual.warmth());
        for (Schools schools : List.of(usual, atRail)) {
            List<Step> next = new Advisor(BOARD)
                    .advise(Optional.empty(), "", Typed.entries(BOARD, burst), schools)
                    .next();
            List<Action> actions = next.stream().map(Step::action).toList();
            assertThat(actions.indexOf(Action.INJECT)).isBetween(0, actions.indexOf(Action.IMAGE) - 1);
            assertThat(next.get(actions.indexOf(Action.INJECT)).setVolts().orElseThrow())
                    .isLessThanOrEqualTo(1);
        }
    }

    /** What a supply's lead holds up is not shorted. */
    @Test
    void aRailThatASupplyHoldsStands() {
        Advice fed = advice("unplugged battery", "look J1 clean", "bench VMAIN 12V 0.12A flat on");
        assertThat(found(fed, Finding.Code.RAIL_GOOD, "VMAIN")).isTrue();
        assertThat(probability(fed, Code.SHORT, "C3"))
                .isLessThan(probability(advice("unplugged battery", "look J1 clean"), Code.SHORT, "C3") / 3);
        assertThat(steps(fed)).doesNotContain("READ VMAIN");
    }

    @Test
    void theLowestReadingOfARowIsLookedAtFirst() {
        Advice row = advice("unplugged battery", "look J1 clean", "C3 VMAIN ohm 1.1", "C4 VMAIN ohm 0.4");
        assertThat(row.next().get(0).reason()).isEqualTo(Reason.LOWEST_READING);
        assertThat(row.next().get(0).target()).contains("C4");
        assertThat(probability(row, Code.SHORT, "C4")).isGreaterThan(2 * probability(row, Code.SHORT, "C3"));
        // As low as a contact makes them.
        Advice alike = advice("unplugged battery", "look J1 clean", "C3 VMAIN ohm 0.45", "C4 VMAIN ohm 0.4");
        assertThat(alike.next()).noneMatch(s -> s.reason() == Reason.LOWEST_READING);
    }

    @Test
    void twoReadingsThatDisagreeAskForAThird() {
        String[] twice = {"unplugged battery", "look J1 clean", "V3 ohm 0.4", "V3 ohm 5200"};
        assertThat(advice(twice).next().get(0).reason()).isEqualTo(Reason.READINGS_DISAGREE);
        Advice third = advice(twice[0], twice[1], twice[2], twice[3], "V3 ohm 5100");
        assertThat(third.next()).noneMatch(s -> s.reason() == Reason.READINGS_DISAGREE);
    }

    /** It blew for a reason, and a new one would again. */
    @Test
    void aFuseIsNotRenewedBeforeTheShortBehindItIsFound() {
        Advice blown = advice(
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0A flat",
                "VBUS v 12 charger",
                "VIN v 0 charger",
                "VIN ohm .3",
                "across F1 ohm OL",
                "look F1 burnt");
        assertBefore(blown, "INJECT VIN", "REPLACE F1");
    }

    @Test
    void whatIsBehindABlownFuseIsReadBeforeANewOneGoesIn() {
        Advice blown = advice("unplugged battery", "look J1 clean", "charger J1 12V 0A flat", "across F1 ohm OL");
        assertThat(blown.next().get(0))
                .matches(s -> s.reason() == Reason.BEHIND_FUSE && s.target().equals(Optional.of("VIN")));
        assertBefore(blown, "READ VIN", "REPLACE F1");
    }

    /** On the cell the main rail stands lower than on the port, and the device runs all the same. */
    @Test
    void aDeviceThatRunsOnItsCellOnlyHasItsFaultOnTheWayIn() {
        Advice cell = advice(
                "look J1 clean",
                "charger J1 12V 0A flat battery in",
                "boots",
                "VIN v 12 charger",
                "AG v 15 charger",
                "VMAIN v 7 charger",
                "VMAIN d .43");
        assertThat(cell.hypotheses().get(0))
                .matches(h -> h.code() == Code.OPEN && h.target().equals("Q1"));
    }

    /** Thirty milliwatts show on neither side. */
    @Test
    void whereTooLittleFlowedMoreCurrentComesBeforeTheOtherSide() {
        String[] cold = {"unplugged battery", "look J1 clean", "VMAIN d .002"};
        Advice weak = advice(cold[0], cold[1], cold[2], "inj VMAIN .5V 1A 34mV 1A leads 4mohm", "nothing warm top");
        assertBefore(weak, "INJECT VMAIN", "FLIP");
        Advice strong = advice(cold[0], cold[1], cold[2], "inj VMAIN 1V 2A .5V 2A leads 4mohm", "nothing warm top");
        assertThat(steps(strong).indexOf("FLIP")).isLessThan(steps(strong).indexOf("INJECT VMAIN"));
        assertThat(strong.next().stream().filter(s -> s.action() == Action.FLIP))
                .allMatch(s -> s.reason() == Reason.NOTHING_WARMED);
    }

    /** The part is still there, and nothing is proven until it is found. */
    @Test
    void aShortThatBurntOpenIsStillSought() {
        String[] burnt = {
            "unplugged battery",
            "look J1 clean",
            "VMAIN d .002",
            "inj VMAIN 1V 4A .3V 4A",
            "inj VMAIN 1V 4A 1V .01A",
            "VMAIN d .42"
        };
        Advice gone = advice(burnt);
        assertThat(found(gone, Finding.Code.SHORT_CLEARED, "VMAIN")).isTrue();
        assertThat(gone.next().get(0).reason()).isEqualTo(Reason.BURNT_OPEN);
        assertThat(steps(gone)).doesNotContain("PROVE", "PROVE VMAIN");
        assertThat(probability(gone, Code.SHORT, "C3")).isGreaterThan(0.1);
        Advice seen = advice(burnt[0], burnt[1], burnt[2], burnt[3], burnt[4], burnt[5], "C3 cracked");
        assertThat(steps(seen).get(0)).isEqualTo("REMOVE C3");
    }

    @Test
    void whatMadeTheDrawRightHangsOnWhatWasUnplugged() {
        Advice relieved = advice(
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0.5A pulsing",
                "unplugged J3",
                "charger J1 12V 0.4A rising");
        assertThat(relieved.next().get(0).reason()).isEqualTo(Reason.RELIEVED);
        assertThat(relieved.next().get(0).target()).contains("J3");
        assertThat(relieved.hypotheses().get(0).target()).isEqualTo("J3");
        // It draws too much again: it was not that.
        Advice again = advice(
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0.5A pulsing",
                "unplugged J3",
                "charger J1 12V 0.4A rising",
                "charger J1 12V 0.5A pulsing");
        assertThat(again.next()).noneMatch(s -> s.reason() == Reason.RELIEVED);
    }

    /** Told to conduct, a small transistor leaves its line up: it is open, not the resistor above it. */
    @Test
    void aDriveThatDoesNotPullDownIsOpen() {
        Advice up = advice(
                "look J1 clean",
                "charger J1 12V 0.4A flat on battery in",
                "VMAIN v 12 charger",
                "BG v 11.9 charger",
                "PD v 11.9 charger",
                "BEN v 3.3 charger");
        assertThat(up.hypotheses().get(0)).satisfies(h -> {
            assertThat(h.code()).isEqualTo(Code.OPEN);
            assertThat(h.target()).isEqualTo("Q3");
            assertThat(h.probability()).isGreaterThan(0.6);
        });
    }

    @Test
    void aSwitchThatLetsHalfThroughIsSuspected() {
        String[] gate = {
            "unplugged battery", "look J1 clean", "charger J1 12V 0.05A flat", "VIN v 12 charger", "AG v 15 charger"
        };
        Advice half = advice(gate[0], gate[1], gate[2], gate[3], gate[4], "VMAIN v 5.4 charger", "VMAIN d .43");
        Advice whole = advice(gate[0], gate[1], gate[2], gate[3], gate[4], "VMAIN v 11.9 charger", "VMAIN d .43");
        assertThat(probability(half, Code.OPEN, "Q1")).isGreaterThan(20 * probability(whole, Code.OPEN, "Q1"));
        // With the power off the meter parts what pulls down from what holds back.
        Advice unread =
                advice("unplugged battery", "look J1 clean", "charger J1 12V 0.05A flat", "VMAIN v 5.4 charger");
        assertThat(unread.next())
                .anyMatch(s ->
                        s.reason() == Reason.PART_OF_ITS_VOLTS && s.target().equals(Optional.of("VMAIN")));
    }

    /** A finger is no meter. */
    @Test
    void whatOnlyAFingerFoundIsMeasuredBeforeItIsBlamed() {
        Advice felt = advice("unplugged battery", "look J1 clean", "charger J1 12V 1.6A flat", "warm U4 touch");
        assertThat(felt.hypotheses().get(0).target()).isEqualTo("U4");
        assertThat(felt.next().get(0).reason()).isEqualTo(Reason.MEASURE_FIRST);
        assertThat(steps(felt)).doesNotContain("REPLACE U4", "REMOVE U4");
    }

    /** Fed past its place the board takes nothing: a new port alone would not have helped. */
    @Test
    void noPortIsFittedBeforeTheRestIsKnownToWork() {
        Advice past = advice(
                "unplugged battery",
                "look J1 burnt",
                "removed J1",
                "bench VBUS 12V 0A flat",
                "VIN v 0 bench",
                "across F1 ohm OL");
        assertBefore(past, "REPLACE F1", "REPLACE J1");
    }

    /** Twelve ohms take little of one volt: the volts climb, to the rail's own at most. */
    @Test
    void aPartialShortThatStaysColdIsGivenMoreVolts() {
        String[] cold = {"unplugged battery", "look J1 clean", "V3 ohm 12", "nothing warm top", "nothing warm bottom"};
        double given = 1;
        for (int i = 0; i < 4; i++) {
            String inject = String.format(Locale.ROOT, "inj V3 %.2fV 2A %.2fV %.3fA", given, given, given / 12);
            Step next = advice(cold[0], cold[1], cold[2], inject, cold[3], cold[4]).next().stream()
                    .filter(s -> s.action() == Action.INJECT)
                    .findFirst()
                    .orElse(Step.of(Action.STOP, Reason.NOTHING_WARMED));
            double asked = next.setVolts().orElse(given);
            assertThat(asked).isBetween(given, 3.3);
            given = asked;
        }
        assertThat(given).isGreaterThan(3);
    }

    /** Crossed pins read as a short on a healthy line. */
    @Test
    void thePortIsLookedAtWhereOneOfItsLinesIsHeldDown() {
        Board board = PowerFixtures.withPortLine();
        List<Step> next = advice(board, "unplugged battery", "BEN d .002").next();
        assertThat(next.get(0).action()).isEqualTo(Action.LOOK);
        assertThat(next.get(0).target()).contains("J1");
    }

    /** One of a pair that was renewed alone does nothing. */
    @Test
    void whoRenewedOneOfAPairMovesBoth() {
        Board plain = PowerFixtures.board();
        Board board = new Board(
                "Paired",
                "A",
                plain.outline(),
                1.2,
                6,
                18,
                plain.nets(),
                plain.parts().stream()
                        .map(p -> p.ref().equals("U1") ? Fixtures.paired(p, "U3") : p)
                        .toList(),
                List.of(),
                List.of());
        Advice alone = advice(
                board,
                "unplugged battery",
                "look J1 clean",
                "VMAIN d .42",
                "replaced U1",
                "charger J1 12V 0.01A flat on",
                "VMAIN v 12 charger",
                "V3 d .42",
                "V3 v 0 charger",
                "EN3 v 3.2 charger");
        assertThat(alone.next()).anyMatch(s -> s.reason() == Reason.MOVE_THE_PAIR);
        assertThat(probability(alone, Code.PAIRED_PART, "U1")).isGreaterThan(0.2);
    }

    /** Fed, and what it makes for itself is away and free: no board file says who makes that. */
    @Test
    void aChipWhoseOwnRegulatorGivesNothingIsDead() {
        Board board = PowerFixtures.withInnerRegulator();
        String[] fed = {"unplugged battery", "look J1 clean", "charger J1 12V 0.01A flat on", "VIN v 12 charger"};
        Advice away = advice(board, fed[0], fed[1], fed[2], fed[3], "VL v 0 charger", "VL d .5");
        Advice there = advice(board, fed[0], fed[1], fed[2], fed[3], "VL v 1.5 charger", "VL d .5");
        assertThat(away.hypotheses().get(0).code()).isEqualTo(Code.DEAD_CONTROLLER);
        assertThat(away.hypotheses().get(0).target()).isEqualTo("U3");
        assertThat(probability(there, Code.DEAD_CONTROLLER, "U3"))
                .isLessThan(probability(away, Code.DEAD_CONTROLLER, "U3") / 20);
    }

    /** The same point reads well since it was unplugged. */
    @Test
    void whatTheShortWentWithIsIt() {
        String[] before = {"unplugged battery", "look J1 clean", "V3 ohm .6"};
        Advice gone = advice(before[0], before[1], before[2], "unplugged J3", "V3 ohm 900");
        assertThat(gone.hypotheses().get(0).target()).isEqualTo("J3");
        assertThat(gone.hypotheses().get(0).probability()).isGreaterThan(0.6);
        // Once that is closed and the device is ill still, it is something else.
        Advice second = advice(
                before[0],
                before[1],
                before[2],
                "unplugged J3",
                "V3 ohm 900",
                "replaced J3",
                "V3 ohm 900",
                "plugged battery",
                "charger J1 12V 0.4A flat on battery in",
                "restarts");
        assertThat(probability(second, Code.SHORT, "J3")).isLessThan(0.3);
    }

    /** Told to block, a switch may pass its body diode's volts or none: what tells it is asked before it is blamed. */
    @Test
    void aSwitchThatIsNotToldToCloseIsNotOpen() {
        Advice off = advice(
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0.01A flat",
                "VIN v 12 charger",
                "VMAIN v .1 charger",
                "AG v 0 charger",
                "VMAIN d .43");
        Advice on = advice(
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0.01A flat",
                "VIN v 12 charger",
                "VMAIN v .1 charger",
                "AG v 15 charger",
                "VMAIN d .43");
        assertThat(probability(on, Code.OPEN, "Q1")).isGreaterThan(0.7);
        assertThat(probability(off, Code.OPEN, "Q1")).isLessThan(0.3);
        assertThat(steps(off)).doesNotContain("REPLACE Q1");
    }

    @Test
    void aMissingFunctionIsSoughtWhereItIsMade() {
        Advice mute = advice(
                "unplugged battery",
                "look J1 clean",
                "VMAIN d .43",
                "charger J1 12V 0.4A rising on",
                "boots",
                "missing display");
        assertThat(mute.next())
                .anyMatch(s -> s.action() == Action.CHECK_FITTED
                        && s.target().equals(Optional.of("J3"))
                        && s.reason() == Reason.FUNCTION_MISSING);
    }

    /** A contact warms by itself: nothing is lifted for it. */
    @Test
    void whatWarmsAtTheLeadIsLookedAtAgainFromElsewhere() {
        String[] shorted = {"unplugged battery", "look J1 clean", "VMAIN d .002"};
        Advice atLead =
                advice(shorted[0], shorted[1], shorted[2], "inj VMAIN 1V 4A .26V 4A at C3 leads 60mohm", "warm C3 9K");
        assertThat(steps(atLead)).doesNotContain("REMOVE C3");
        assertThat(atLead.next()).anyMatch(s -> s.action() == Action.IMAGE && s.reason() == Reason.LEAD_IS_WARM);
        Advice elsewhere =
                advice(shorted[0], shorted[1], shorted[2], "inj VMAIN 1V 4A .26V 4A at C4 leads 60mohm", "warm C3 9K");
        assertThat(steps(elsewhere)).contains("REMOVE C3");
        assertThat(probability(elsewhere, Code.SHORT, "C3")).isGreaterThan(0.8);
    }

    /** Volts before the coil and none behind it: the chip gives what does not arrive. */
    @Test
    void anOpenCoilIsNotItsChip() {
        Board board = PowerFixtures.withCoil();
        Advice open = advice(
                board,
                "unplugged battery",
                "look J1 clean",
                "charger J1 12V 0.03A flat on",
                "VMAIN v 12 charger",
                "EN3 v 3.2 charger",
                "SW v 3.3 charger",
                "V3 v 0 charger",
                "V3 d .42");
        assertThat(open.hypotheses().get(0).target()).isEqualTo("L1");
        assertThat(open.hypotheses().get(0).probability()).isGreaterThan(0.6);
        assertThat(steps(open)).contains("READ L1").doesNotContain("REPLACE U1");
    }

    /** It beeps by itself: whatever else shorts the rail, that one does not go back. */
    @Test
    void whatIsBadByItselfDoesNotGoBack() {
        String[] off = {"unplugged battery", "look J1 clean", "VMAIN d .002", "removed C3", "VMAIN d .002"};
        assertThat(steps(advice(off))).contains("FIT C3");
        assertThat(steps(advice(off[0], off[1], off[2], off[3], "across C3 ohm .2", off[4])))
                .doesNotContain("FIT C3");
    }
}
