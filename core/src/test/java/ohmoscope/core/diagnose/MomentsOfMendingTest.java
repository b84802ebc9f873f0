package ohmoscope.core.diagnose;

import static ohmoscope.core.diagnose.MomentsTest.assertBefore;
import static ohmoscope.core.diagnose.MomentsTest.found;
import static ohmoscope.core.diagnose.MomentsTest.probability;
import static ohmoscope.core.diagnose.MomentsTest.steps;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import org.junit.jupiter.api.Test;

/** Moments while a board is put right, proven and put together again, each with what a practitioner would say to it. */
class MomentsOfMendingTest {
    private static final Board BOARD = PowerFixtures.board();
    private static final Board ASKING = PowerFixtures.withNegotiation();
    private static final String[] OPENED = {"unplugged battery", "look J1 clean"};
    /** The main rail was shorted by C3, which is off. */
    private static final String[] FREED = {
        "unplugged battery", "look J1 clean", "VMAIN d .002", "warm C3 2K", "removed C3", "VMAIN d .42"
    };

    private static Advice after(Board board, String[] before, String... lines) {
        return MomentsTest.advice(
                board, Stream.of(before, lines).flatMap(Stream::of).toArray(String[]::new));
    }

    private static Advice after(String[] before, String... lines) {
        return after(BOARD, before, lines);
    }

    private static Hypothesis first(Advice advice) {
        return advice.hypotheses().get(0);
    }

    private static boolean stops(Advice advice, Stop.Code code) {
        return advice.stops().stream().anyMatch(s -> s.code() == code);
    }

    private static List<Reason> reasons(Advice advice) {
        return advice.next().stream().map(Step::reason).toList();
    }

    /** Liquid and a cell: the cell first, and no power before it is clean and dry. */
    @Test
    void aWetBoardLosesItsCellBeforeAllElse() {
        Advice wet = MomentsTest.advice(BOARD, "look J1 wet");
        assertThat(wet.next().get(0)).matches(s -> s.reason() == Reason.WET && s.action() == Action.DISCONNECT);
        assertBefore(wet, "LOOK J1", "POWER");
        assertThat(reasons(wet)).contains(Reason.CLEAN_FIRST);
        Advice cleaned = MomentsTest.advice(BOARD, "look J1 wet", "unplugged battery", "cleaned J1");
        assertThat(reasons(cleaned)).doesNotContain(Reason.WET, Reason.CLEAN_FIRST);
    }

    /** What conducts on a corroded port may be the dirt. */
    @Test
    void aCorrodedPortIsCleanedBeforeItIsRenewed() {
        Advice line = after(ASKING, OPENED, "look J1 corroded", "CC1 d .62", "CC2 d .1");
        assertBefore(line, "LOOK J1", "REPLACE J1");
        Advice clean = after(
                ASKING, OPENED, "look J1 corroded", "CC2 d .1", "cleaned J1", "CC2 d .62", "VPORT d .5", "VSYS d .42");
        assertThat(steps(clean)).contains("POWER").doesNotContain("REPLACE J1");
        assertThat(probability(clean, Code.DAMAGED_PORT, "J1"))
                .isLessThan(probability(line, Code.DAMAGED_PORT, "J1") / 3);
    }

    @Test
    void theCellComesOutBeforeAMeterOrHeatGoesOnTheBoard() {
        Advice tried = after(FREED, "plugged battery");
        assertThat(steps(tried)).startsWith("DISCONNECT battery").contains("REPLACE C3");
        Advice unread = after(OPENED, "VMAIN d .002", "warm C3 2K", "removed C3", "plugged battery");
        assertThat(steps(unread)).startsWith("DISCONNECT battery", "READ VMAIN");
        assertThat(steps(after(FREED))).doesNotContain("DISCONNECT battery");
    }

    /** With the cell in and the device on, the rails of the proof are read in volts. */
    @Test
    void aDeviceThatRunsIsProvenWithoutTakingItApart() {
        Advice on = after(OPENED, "V3 d .002", "replaced U1", "V3 d .42", "charger J1 12V .6A rising on battery in");
        Step main = on.next().stream()
                .filter(s -> s.target().equals(Optional.of("VMAIN")))
                .findFirst()
                .orElseThrow();
        assertThat(main.probe().flatMap(Step.Probe::power)).isPresent();
        assertThat(steps(on)).doesNotContain("DISCONNECT battery");
    }

    /** One capacitor more takes no short away. */
    @Test
    void whatIsPutBackDoesNotEndAShort() {
        Advice back = after(OPENED, "VMAIN d .002", "warm C3 2K", "removed C3", "VMAIN d .002", "fitted C3");
        assertThat(found(back, Finding.Code.RAIL_SHORTED, "VMAIN")).isTrue();
        assertThat(stops(back, Stop.Code.DO_NOT_POWER)).isTrue();
        assertThat(steps(back)).contains("INJECT VMAIN").doesNotContain("POWER");
        assertThat(probability(back, Code.SHORT, "C3")).isLessThan(0.2);
    }

    /** One volt is below any junction's knee: what takes an ampere of it is a short. */
    @Test
    void aSupplyAtALowLimitThatIsTakenUpShowsAShort() {
        Advice taken = after(FREED, "bench VMAIN 1V 0.9A flat");
        assertThat(found(taken, Finding.Code.RAIL_SHORTED, "VMAIN")).isTrue();
        assertThat(found(taken, Finding.Code.SHORT_REMAINS, "VMAIN")).isFalse();
        assertThat(steps(taken)).contains("INJECT VMAIN").doesNotContain("FIT C3");
        assertThat(probability(taken, Code.SHORT, "C3")).isLessThan(0.3);
        Advice idle = after(FREED, "bench VMAIN 1V 0.002A flat");
        assertThat(found(idle, Finding.Code.RAIL_SHORTED, "VMAIN")).isFalse();
    }

    /** It was free, it was fed, it is shorted: no contact, and not the part that was renewed alone. */
    @Test
    void aShortThatComesAgainUnderPowerIsLookedForAnew() {
        Advice again = after(FREED, "fitted C3", "VMAIN d .42", "charger J1 12V .03A flat", "VMAIN d .002");
        assertThat(reasons(again)).doesNotContain(Reason.READINGS_DISAGREE);
        assertThat(probability(again, Code.SHORT, "C3")).isLessThan(0.5);
        assertThat(probability(again, Code.SHORT, "C4")).isGreaterThan(0.1);
    }

    @Test
    void aRailThatWentDownWithANewPartAsksForItsJoints() {
        Advice port = after(ASKING, OPENED, "VPORT d .5", "replaced J1", "VPORT d .002");
        assertThat(port.next().get(0)).matches(s -> s.reason() == Reason.NEW_JOINTS);
        assertThat(port.next().get(0).target()).contains("J1");
        Advice chip = after(OPENED, "V3 d .002", "warm U1 2K", "removed U1", "V3 d .42", "fitted U1", "V3 d .002");
        assertBefore(chip, "LOOK U1", "REMOVE U1");
    }

    @Test
    void aNewPortThatWorksOneWayRoundIsLookedAt() {
        Advice oneWay = after(
                ASKING,
                OPENED,
                "removed J1",
                "fitted J1",
                "VPORT d .5",
                "charger J1 20V 0.5A flat side a",
                "charger J1 5.1V 0A flat side b");
        assertThat(steps(oneWay)).startsWith("LOOK J1");
    }

    @Test
    void aCellThatWasNeverPluggedBackTakesNoCharge() {
        Advice out = after(FREED, "charger J1 12V .02A flat", "does not charge");
        assertThat(steps(out)).startsWith("CHECK_FITTED battery").doesNotContain("CHECK_FITTED J2");
        assertThat(first(out))
                .matches(h -> h.code() == Code.NOT_FITTED && h.target().equals("J2"));
        Advice in = after(FREED, "charger J1 12V .02A flat battery in", "does not charge");
        assertThat(probability(in, Code.NOT_FITTED, "J2")).isLessThan(0.05);
    }

    /** The first is found and gone; what holds the second down is asked for by itself. */
    @Test
    void aSecondRailThatIsShortedIsAFaultOfItsOwn() {
        Advice second = after(FREED, "V3 d .002");
        assertThat(probability(second, Code.SHORT, "C3")).isLessThan(0.1);
        assertThat(probability(second, Code.SHORT, "C5")).isGreaterThan(0.2);
        assertThat(steps(second)).contains("INJECT V3");
    }

    @Test
    void aFunctionThatIsMissingHangsOnThePartsThatAreCalledSo() {
        Advice mute = after(
                FREED,
                "charger J1 12V .02A flat",
                "plugged battery",
                "charger J1 12V .6A rising on battery in",
                "boots",
                "missing supervisor");
        assertThat(first(mute).target()).isEqualTo("U3");
    }

    /** The new one drops as much: what it feeds takes the current, and the divider says how many ohms it has. */
    @Test
    void aRenewedResistorThatDropsAgainIsAVictim() {
        Board board = PowerFixtures.withSupplyResistor();
        String[] first = {"charger J1 12V 0.03A flat", "VIN v 12 charger", "VDDS v 3.9 charger"};
        Advice before = after(board, OPENED, first);
        Advice renewed = after(
                board,
                OPENED,
                first[0],
                first[1],
                first[2],
                "replaced R9",
                "charger J1 12V 0.85A flat",
                "VDDS v 3.7 charger");
        assertThat(probability(before, Code.OPEN, "R9")).isGreaterThan(0.3);
        assertThat(probability(renewed, Code.OPEN, "R9")).isLessThan(0.05);
        assertThat(probability(renewed, Code.SHORT, "U3") + probability(renewed, Code.SHORT, "C7"))
                .isGreaterThan(0.6);
        assertThat(steps(renewed)).contains("READ VDDS").doesNotContain("REPLACE R9");
    }

    @Test
    void aLineThatReadsLowOnceIsReadOnceMore() {
        String[] low = {"DP d .05", "CC1 d .62", "CC2 d .61"};
        Advice once = after(ASKING, OPENED, low);
        assertThat(once.next())
                .anyMatch(s -> s.reason() == Reason.ONCE_MORE && s.target().equals(Optional.of("DP")));
        Advice twice = after(ASKING, OPENED, low[0], low[1], low[2], "DP d .05");
        assertThat(reasons(twice)).doesNotContain(Reason.ONCE_MORE);
        assertThat(holdsDown(twice)).isGreaterThan(0.6).isGreaterThan(1.5 * holdsDown(once));
    }

    private static double holdsDown(Advice advice) {
        return probability(advice, Code.DAMAGED_PORT, "J1") + probability(advice, Code.SHORT, "U5");
    }

    /** The meter showed the cell's volts too. */
    @Test
    void whatWasReadWithTheCellInIsReadAgain() {
        Advice live = MomentsTest.advice(BOARD, "look J1 clean", "charger J1 12V .02A flat battery in", "VMAIN d .12");
        assertThat(steps(live)).startsWith("DISCONNECT battery", "READ VMAIN");
        assertThat(reasons(live)).contains(Reason.READ_LIVE);
    }

    @Test
    void aDeviceThatDoesNotChargeIsReadAtTheSwitchBeforeItsCell() {
        Advice idle = MomentsTest.advice(
                ASKING,
                "look J1 clean",
                "charger J1 20V 0.1A flat on battery in",
                "does not charge",
                "VSYS v 12.6 charger",
                "VBAT v 11.1 charger");
        assertThat(idle.next())
                .anyMatch(
                        s -> s.reason() == Reason.WAY_TO_THE_CELL && s.target().equals(Optional.of("BG")));
        assertThat(idle.next())
                .noneMatch(
                        s -> s.reason() == Reason.WAY_TO_THE_CELL && s.target().equals(Optional.of("VBAT")));
    }

    /** Its own net reads nothing while it is in: it, or a short that it switched itself off into. */
    @Test
    void aCellThatGivesNothingIsBlamedOnceItsRailIsFree() {
        Advice none = MomentsTest.advice(BOARD, "look J1 clean", "plugged battery", "VBAT v 0 battery", "dead");
        assertThat(first(none))
                .matches(h -> h.code() == Code.BATTERY && h.target().equals("J2"));
        assertBefore(none, "READ VBAT", "REPLACE J2");
        Advice stands = MomentsTest.advice(
                BOARD, "look J1 clean", "plugged battery", "VBAT v 7.4 battery", "VMAIN v 0 battery", "dead");
        assertThat(probability(stands, Code.BATTERY, "J2")).isLessThan(0.1);
    }

    @Test
    void aPortThatIsFedFromInsideIsBackfed() {
        Advice alive = MomentsTest.advice(BOARD, "look J1 clean", "plugged battery", "VBUS v 7.1 battery");
        assertThat(found(alive, Finding.Code.RAIL_BACKFED, "VBUS")).isTrue();
    }

    /** Fed with a quarter of its volts, it takes next to nothing: that proves, and says nothing of what it stands at. */
    @Test
    void aRailThatTakesNothingAtALowLimitIsNotLow() {
        Advice fed = after(FREED, "bench VMAIN 3V 0.003A flat");
        assertThat(found(fed, Finding.Code.RAIL_LOW, "VMAIN")).isFalse();
        assertThat(found(fed, Finding.Code.SHORT_CLEARED, "VMAIN")).isTrue();
    }

    @Test
    void whatWasPluggedBackBeforeTheShortIsUnpluggedFirst() {
        Advice display = after(OPENED, "unplugged J3", "V3 d .42", "plugged J3", "V3 d .002");
        assertBefore(display, "DISCONNECT J3", "INJECT V3");
    }

    /** A coil that is warm carries the current: what takes it is behind the coil. */
    @Test
    void aWarmCoilPointsAtTheConverterBehindIt() {
        Board board = PowerFixtures.withCoil();
        Advice cold = after(board, OPENED, "V3 d .002", "inject V3 1V 2A .08V 2A");
        Advice warm = after(board, OPENED, "V3 d .002", "inject V3 1V 2A .08V 2A", "warm L1 1.5K");
        assertThat(first(warm))
                .matches(h -> h.code() == Code.SHORT && h.target().equals("U1"));
        assertThat(probability(warm, Code.SHORT, "U1")).isGreaterThan(2 * probability(cold, Code.SHORT, "U1"));
    }

    /** The coil came off and parted the rail: it is no repair, and what is held down is its chip's. */
    @Test
    void aCoilThatOnlyPartedItsRailIsNoCulprit() {
        Board board = PowerFixtures.withCoil();
        Advice parted = after(board, OPENED, "V3 d .002", "removed L1", "V3 d .42", "SW d .002");
        assertThat(first(parted))
                .matches(h -> h.code() == Code.SHORT && h.target().equals("U1"));
        assertThat(steps(parted)).startsWith("LOOK U1").doesNotContain("REPLACE L1");
    }

    @Test
    void aNewPortThroughWhichNothingFlowsIsLookedAt() {
        Advice silent = after(
                ASKING,
                OPENED,
                "replaced J1",
                "VPORT d .5",
                "charger J1 5.1V 0A flat side a",
                "charger J1 5.1V 0A flat side b");
        assertThat(silent.next().get(0).reason()).isEqualTo(Reason.NEW_PORT_SILENT);
    }

    /** All chips of a device that runs are warm. */
    @Test
    void warmthInADeviceThatRunsSaysLess() {
        String[] runs = {"VMAIN d .42", "charger J1 12V .6A rising on", "boots"};
        Advice atWork = after(OPENED, runs[0], runs[1], runs[2], "restarts", "warm U1 6K");
        assertThat(probability(atWork, Code.SHORT, "U1")).isLessThan(0.5);
        assertThat(steps(atWork)).doesNotContain("REPLACE U1", "REMOVE U1");
    }
}
