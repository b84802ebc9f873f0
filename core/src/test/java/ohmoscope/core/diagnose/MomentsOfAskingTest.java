package ohmoscope.core.diagnose;

import static ohmoscope.core.diagnose.MomentsTest.assertBefore;
import static ohmoscope.core.diagnose.MomentsTest.found;
import static ohmoscope.core.diagnose.MomentsTest.probability;
import static ohmoscope.core.diagnose.MomentsTest.steps;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import org.junit.jupiter.api.Test;

/** Moments of a board that must ask its port for more than five volts, each with what a practitioner would say to it. */
class MomentsOfAskingTest {
    private static final Board BOARD = PowerFixtures.withNegotiation();
    private static final String[] OPENED = {"unplugged battery", "look J1 clean"};
    private static final String[] STUCK = {
        "unplugged battery", "look J1 clean", "charger J1 5.1V 0.03A flat side a", "charger J1 5.1V 0.03A flat side b"
    };

    private static Advice after(String[] before, String... lines) {
        return MomentsTest.advice(
                BOARD, Stream.of(before, lines).flatMap(Stream::of).toArray(String[]::new));
    }

    private static Hypothesis first(Advice advice) {
        return advice.hypotheses().get(0);
    }

    private static boolean asks(Advice advice, Action action, String target, Reason reason) {
        return advice.next().stream()
                .anyMatch(s -> s.action() == action && s.target().equals(Optional.of(target)) && s.reason() == reason);
    }

    /** One regulator draws from either rail; more hangs on the one. */
    @Test
    void theMainRailIsTheOneThatMoreIsMadeOf() {
        assertThat(PowerTree.of(BOARD).mainRail()).isEqualTo("VSYS");
    }

    /** The board's own charger may wait: five volts are no sign that the rail behind it is cut off. */
    @Test
    void atFiveVoltsTheAlwaysOnRegulatorIsJudgedByItsOwnVolts() {
        Advice dead = after(STUCK, "VPORT v 5.1 charger", "VALW v 4.7 charger", "V3A v 0 charger", "V3A d .42");
        assertThat(first(dead))
                .matches(h -> h.code() == Code.DEAD_CONTROLLER && h.target().equals("U7"));
        assertThat(first(dead).probability()).isGreaterThan(0.6);
        Advice cut = after(STUCK, "VPORT v 5.1 charger", "VALW v 0 charger", "V3A v 0 charger", "VALW d .5");
        assertThat(first(cut)).matches(h -> h.code() == Code.OPEN && h.target().equals("D1"));
        assertThat(steps(cut)).contains("READ D1");
    }

    /** A line that is held down keeps the board from asking as well as a dead chip does. */
    @Test
    void aLineThatIsHeldDownExplainsWhyNothingIsAskedFor() {
        Advice held = after(STUCK, "V3A v 3.3 charger", "CC1 d .62", "CC2 d .05");
        assertThat(held.hypotheses().stream().limit(3).map(Hypothesis::target))
                .containsExactlyInAnyOrder("J1", "C9", "U5");
        assertThat(probability(held, Code.DEAD_CONTROLLER, "U5")).isLessThan(0.1);
        Advice free = after(STUCK, "V3A v 3.3 charger", "CC1 d .62", "CC2 d .61");
        assertThat(first(free))
                .matches(h -> h.code() == Code.DEAD_CONTROLLER && h.target().equals("U5"));
    }

    /** What stands before it is not shorted. */
    @Test
    void anOpenSenseResistorIsNotAShortBeforeIt() {
        Advice open = after(OPENED, "charger J1 20V 0.01A flat", "VSW v 20 charger", "VNEG v 0 charger", "VNEG d .45");
        assertThat(found(open, Finding.Code.PART_OPEN, "R9")).isTrue();
        assertThat(probability(open, Code.OPEN, "R9")).isGreaterThan(0.8);
        assertThat(probability(open, Code.SHORT, "C2")).isLessThan(0.02);
    }

    /** It carried the rail: off, it has shown on which side the short is, and no more. */
    @Test
    void aSenseResistorThatOnlyPartedTheRailGoesBack() {
        Advice parted = after(OPENED, "VNEG d .002", "VSW d .002", "removed R9", "VNEG d .002", "VSW d .45");
        assertThat(steps(parted)).contains("FIT R9", "INJECT VNEG").doesNotContain("REPLACE R9");
    }

    /** Who sets it is not on the map; what it reads tells all the same. */
    @Test
    void anEnableIsBelievedAsItWasRead() {
        String[] off = {"charger J1 20V 0.05A flat on", "VSYS v 12.6 charger", "V3 v 0 charger", "V3 d .42"};
        Advice asked = after(OPENED, off[0], off[1], off[2], "EN3 v 3.3 charger", "S3 v 0 charger", off[3]);
        assertThat(probability(asked, Code.DEAD_CONTROLLER, "U1")).isGreaterThan(0.8);
        assertThat(probability(asked, Code.NO_ENABLE, "EN3")).isLessThan(0.05);
        Advice unasked = after(OPENED, off[0], off[1], off[2], "EN3 v 0 charger", off[3]);
        assertThat(first(unasked).code()).isEqualTo(Code.NO_ENABLE);
        assertThat(steps(unasked)).contains("READ EN3").doesNotContain("REPLACE U1");
    }

    /** The chip's other rail stands, so it is enabled: what is missing behind the coil is the coil. */
    @Test
    void whatTheSameEnableAsksForIsAskedForToo() {
        Advice coil = after(
                OPENED,
                "charger J1 20V 0.4A flat on",
                "VSYS v 12.6 charger",
                "V3 v 3.3 charger",
                "V18 v 0 charger",
                "S18 v 1.8 charger",
                "V18 ohm 300");
        assertThat(first(coil)).matches(h -> h.code() == Code.OPEN && h.target().equals("L2"));
        assertBefore(coil, "READ L2", "REPLACE L2");
    }

    @Test
    void aPortThatWorksOneWayRoundIsReadLineByLine() {
        String[] ways = {
            "unplugged battery", "look J1 clean", "charger J1 20V 0.5A flat side a", "charger J1 5.1V 0A flat side b"
        };
        Advice one = after(ways);
        assertThat(probability(one, Code.DAMAGED_PORT, "J1")).isGreaterThan(0.6);
        assertThat(steps(one)).startsWith("READ CC1", "READ CC2").doesNotContain("READ VSYS");
        Advice cut = after(ways, "CC1 d .62", "CC2 d OL");
        assertThat(cut.next().get(0)).matches(s -> s.action() == Action.REPLACE && s.reason() == Reason.ONE_WAY_ROUND);
    }

    @Test
    void aLoosePlugIsSeatedBeforeAPartIsSuspected() {
        Advice loose = after(OPENED, "look J3 loose", "VSYS d .42", "charger J1 20V 0.6A flat on", "no picture");
        assertThat(loose.next().get(0).reason()).isEqualTo(Reason.SEEN_LOOSE);
        assertThat(first(loose))
                .matches(h -> h.code() == Code.NOT_FITTED && h.target().equals("J3"));
    }

    @Test
    void whatTheShortWentWithWhenItWasUnpluggedIsNotOnTheBoard() {
        Advice gone = after(OPENED, "V3 d .003", "unplugged J3", "V3 d .42");
        assertThat(asks(gone, Action.LOOK, "J3", Reason.CLEARED_UNPLUGGED)).isTrue();
    }

    @Test
    void aRailThatNothingOnTheMapMakesIsSoughtOnAGoodBoard() {
        String[] stands = {
            "charger J1 20V 0.3A flat on",
            "VSYS v 12.6 charger",
            "V3A v 3.3 charger",
            "V18 v 1.8 charger",
            "VX v 0 charger"
        };
        Advice all =
                after(OPENED, stands[0], stands[1], stands[2], stands[3], stands[4], "V3 v 3.3 charger", "VX ohm 200");
        assertThat(asks(all, Action.COMPARE_GOOD_BOARD, "VX", Reason.MAKER_NOT_ON_MAP))
                .isTrue();
        // Where another is missing, that comes first.
        Advice another =
                after(OPENED, stands[0], stands[1], stands[2], stands[3], stands[4], "V3 v 0 charger", "VX ohm 200");
        assertThat(another.next()).noneMatch(s -> s.reason() == Reason.MAKER_NOT_ON_MAP);
    }

    /** Held up from the bench the rail wakes the board: what should make it does not. */
    @Test
    void whatMakesTheRailThatHadToBeHeldIsAtFault() {
        Advice woken = after(STUCK, "bench V3A 3.3V 0.03A flat", "charger J1 20V 0.5A rising");
        assertThat(first(woken))
                .matches(h -> h.code() == Code.DEAD_CONTROLLER && h.target().equals("U7"));
        Advice asleep = after(STUCK, "bench V3A 3.3V 0.03A flat", "charger J1 5.1V 0.03A flat");
        assertThat(probability(asleep, Code.DEAD_CONTROLLER, "U7"))
                .isLessThan(probability(woken, Code.DEAD_CONTROLLER, "U7") / 3);
    }

    /** The cell sets its own net's volts; a gate that is left off lets no charge through. */
    @Test
    void aBatterySwitchThatNobodyClosesIsItsDriversFault() {
        String[] charging = {"charger J1 20V 0.45A flat on battery in", "does not charge", "VSYS v 12.6 charger"};
        Advice off = after(
                new String[] {}, charging[0], charging[1], charging[2], "VBAT v 10.8 charger", "BG v 12.6 charger");
        assertThat(first(off))
                .matches(h -> h.code() == Code.DEAD_CONTROLLER && h.target().equals("U6"));
        Advice on =
                after(new String[] {}, charging[0], charging[1], charging[2], "VBAT v 10.8 charger", "BG v 2 charger");
        assertThat(probability(on, Code.DEAD_CONTROLLER, "U6"))
                .isLessThan(probability(off, Code.DEAD_CONTROLLER, "U6") / 3);
    }

    /** Five volts on a rail that nothing makes yet came through the diode that should block them. */
    @Test
    void aDiodeThatFeedsBackIsReadAcrossFirst() {
        Advice fed = after(STUCK, "VSYS d .45", "VALW v 4.7 charger", "VSYS v 4.7 charger");
        assertThat(first(fed)).matches(h -> h.code() == Code.SHORT && h.target().equals("D2"));
        assertThat(steps(fed)).contains("READ D2").doesNotContain("REPLACE D2");
    }
}
