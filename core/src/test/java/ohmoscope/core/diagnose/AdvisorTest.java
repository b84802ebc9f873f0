package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.spy;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.core.reading.Says;
import org.junit.jupiter.api.Test;

class AdvisorTest {
    private final Advisor advisor = new Advisor(PowerFixtures.board());
    private final List<Observation> entries = new ArrayList<>();

    private int seq() {
        return entries.size() + 1;
    }

    private AdvisorTest read(ReadMode mode, String net, double value) {
        Optional<PowerSource> power = mode == ReadMode.VOLTS ? Optional.of(PowerSource.CHARGER) : Optional.empty();
        entries.add(new Read(
                seq(),
                mode,
                Optional.of(net),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Double.isFinite(value) ? OptionalDouble.of(value) : OptionalDouble.empty(),
                Optional.empty(),
                power));
        return this;
    }

    private AdvisorTest change(ChangeAction action, String target) {
        entries.add(new Change(seq(), action, target, action.usuallyHot()));
        return this;
    }

    private AdvisorTest look(String target, LookFinding finding) {
        entries.add(new Look(seq(), target, finding));
        return this;
    }

    private AdvisorTest run(RunFinding finding) {
        entries.add(new Run(seq(), finding, Optional.empty()));
        return this;
    }

    private AdvisorTest warm(String ref, WarmthMeans means) {
        entries.add(new Warm(
                seq(),
                Optional.of(ref),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Optional.empty(),
                Optional.of(means),
                OptionalDouble.of(3),
                OptionalDouble.empty(),
                false));
        return this;
    }

    private AdvisorTest power(BatteryState battery, double volts, double amps, TraceShape shape) {
        entries.add(new Power(
                seq(),
                PowerSource.CHARGER,
                Optional.of("J1"),
                Optional.empty(),
                Optional.empty(),
                Optional.of(battery),
                OptionalDouble.of(volts),
                OptionalDouble.of(amps),
                DeviceState.OFF,
                Optional.of(shape),
                Optional.empty()));
        return this;
    }

    private AdvisorTest inject(String net, double set, double limit, double volts, double amps) {
        entries.add(new Inject(
                seq(),
                net,
                Optional.of("C3"),
                OptionalDouble.of(set),
                OptionalDouble.of(limit),
                OptionalDouble.of(volts),
                OptionalDouble.of(amps),
                OptionalDouble.of(0.05),
                Optional.empty(),
                Optional.empty()));
        return this;
    }

    private Advice advice() {
        return advice(Schools.DEFAULT);
    }

    private Advice advice(Schools schools) {
        return advisor.advise(Optional.empty(), "", entries, schools);
    }

    private static boolean says(Advice advice, Finding.Code code, String place) {
        return advice.findings().stream().anyMatch(f -> f.is(code, place));
    }

    private static boolean stops(Advice advice, Stop.Code code) {
        return advice.stops().stream().anyMatch(s -> s.code() == code);
    }

    private static List<Step.Action> actions(Advice advice) {
        return advice.next().stream().map(Step::action).toList();
    }

    @Test
    void nothingKnownStartsWithALook() {
        Advice advice = advice();
        assertThat(advice.findings()).isEmpty();
        assertThat(advice.stops()).isEmpty();
        assertThat(actions(advice)).contains(Step.Action.LOOK, Step.Action.READ).doesNotContain(Step.Action.REMOVE);
    }

    @Test
    void probabilitiesSumToOneAtMost() {
        read(ReadMode.DIODE, "VMAIN", 0.002).read(ReadMode.OHMS, "V3", 700);
        double sum = advice().hypotheses().stream()
                .mapToDouble(Hypothesis::probability)
                .sum();
        assertThat(sum).isBetween(0.9, 1 + 1e-9);
    }

    @Test
    void shortedRailIsInjectedLowAndNeverPowered() {
        Advice advice = read(ReadMode.OHMS, "VMAIN", 0.3).advice();
        assertThat(says(advice, Finding.Code.RAIL_SHORTED, "VMAIN")).isTrue();
        assertThat(stops(advice, Stop.Code.DO_NOT_POWER)).isTrue();
        assertThat(actions(advice)).doesNotContain(Step.Action.POWER);
        Step inject = advice.next().stream()
                .filter(s -> s.action() == Step.Action.INJECT)
                .findFirst()
                .orElseThrow();
        assertThat(inject.target()).hasValue("VMAIN");
        assertThat(inject.setVolts().getAsDouble()).isLessThanOrEqualTo(1.0);
    }

    @Test
    void coreIsLowByDesign() {
        Advice advice = read(ReadMode.OHMS, "VCORE", 4).advice();
        assertThat(says(advice, Finding.Code.READING_BY_DESIGN, "VCORE")).isTrue();
        assertThat(says(advice, Finding.Code.RAIL_SHORTED, "VCORE")).isFalse();
        assertThat(advice.stops()).isEmpty();
    }

    @Test
    void warmCapacitorOnAShortedRailIsTheFaultAndComesOff() {
        Advice advice = read(ReadMode.OHMS, "VMAIN", 0.1)
                .inject("VMAIN", 1, 2, 0.16, 2)
                .warm("C4", WarmthMeans.CAMERA)
                .advice();
        assertThat(advice.leading()).hasValueSatisfying(h -> {
            assertThat(h.code()).isEqualTo(Hypothesis.Code.SHORT);
            assertThat(h.target()).isEqualTo("C4");
        });
        assertThat(advice.next().get(0)).satisfies(s -> {
            assertThat(s.action()).isEqualTo(Step.Action.REMOVE);
            assertThat(s.target()).hasValue("C4");
        });
    }

    @Test
    void liquidFilmIsStoppedAsFlammable() {
        Advice advice =
                read(ReadMode.OHMS, "VMAIN", 0.1).warm("C4", WarmthMeans.LIQUID).advice();
        assertThat(stops(advice, Stop.Code.FLAMMABLE)).isTrue();
    }

    @Test
    void removalThatFreesTheRailConvicts() {
        read(ReadMode.DIODE, "VMAIN", 0.002).change(ChangeAction.REMOVED, "C3");
        assertThat(stops(advice(), Stop.Code.HOT_BOARD)).isTrue();
        assertThat(advice().next().get(0).action()).isEqualTo(Step.Action.COOL);
        Advice advice = read(ReadMode.DIODE, "VMAIN", 0.43).advice();
        assertThat(says(advice, Finding.Code.SHORT_CLEARED, "VMAIN")).isTrue();
        assertThat(stops(advice, Stop.Code.DO_NOT_POWER)).isFalse();
        assertThat(stops(advice, Stop.Code.HOT_BOARD)).isFalse();
        assertThat(advice.leading().orElseThrow().target()).isEqualTo("C3");
        assertThat(advice.leading().orElseThrow().probability()).isGreaterThan(0.9);
    }

    @Test
    void removalForNothingAcquitsAndIsPutBack() {
        Advice advice = read(ReadMode.DIODE, "VMAIN", 0.002)
                .change(ChangeAction.REMOVED, "C3")
                .read(ReadMode.DIODE, "VMAIN", 0.002)
                .advice();
        assertThat(says(advice, Finding.Code.SHORT_REMAINS, "VMAIN")).isTrue();
        double acquitted = advice.hypotheses().stream()
                .filter(h -> h.target().equals("C3"))
                .mapToDouble(Hypothesis::probability)
                .sum();
        assertThat(acquitted).isLessThan(0.02);
        assertThat(advice.next())
                .anyMatch(s -> s.action() == Step.Action.FIT && s.target().equals(Optional.of("C3")));
    }

    @Test
    void openFuseBetweenTwoReadings() {
        Advice advice = power(BatteryState.OUT, 12, 0, TraceShape.FLAT)
                .read(ReadMode.VOLTS, "VBUS", 12)
                .read(ReadMode.VOLTS, "VIN", 0)
                .read(ReadMode.OHMS, "VIN", 30_000)
                .advice();
        assertThat(says(advice, Finding.Code.PART_OPEN, "F1")).isTrue();
        assertThat(advice.leading().orElseThrow().target()).isEqualTo("F1");
        assertThat(advice.findings()).anyMatch(f -> f.code() == Finding.Code.DRAW_NONE);
    }

    @Test
    void dividerArithmeticFindsTheLeakingDriver() {
        Advice advice = power(BatteryState.OUT, 12, 0.4, TraceShape.FLAT)
                .read(ReadMode.VOLTS, "VMAIN", 12)
                .read(ReadMode.VOLTS, "VBAT", 11.9)
                .read(ReadMode.VOLTS, "BG", 3.2)
                .read(ReadMode.VOLTS, "PD", 1.75)
                .read(ReadMode.VOLTS, "BEN", 0)
                .advice();
        assertThat(says(advice, Finding.Code.RAIL_BACKFED, "VBAT")).isTrue();
        assertThat(says(advice, Finding.Code.PART_LEAKY, "Q3")).isTrue();
        assertThat(advice.leading().orElseThrow().code()).isEqualTo(Hypothesis.Code.LEAKY);
    }

    @Test
    void currentThatMeetsTheLeadsAloneIsGround() {
        Advice advice =
                read(ReadMode.OHMS, "VMAIN", 0.5).inject("VMAIN", 1, 3, 0.15, 3).advice();
        assertThat(says(advice, Finding.Code.INJECTED_INTO_GROUND, "VMAIN")).isTrue();
        assertThat(says(advice, Finding.Code.RAIL_SHORTED, "VMAIN")).isTrue();
        assertThat(actions(advice).subList(0, 2)).contains(Step.Action.INJECT);
    }

    @Test
    void tooManyVoltsAndAmpsAreStopped() {
        Advice advice = inject("VCORE", 5, 6, 0.5, 6).advice();
        assertThat(stops(advice, Stop.Code.OVER_NOMINAL)).isTrue();
        assertThat(stops(advice, Stop.Code.LEAD_RATING)).isTrue();
        Step inject = advice.next().stream()
                .filter(s -> s.action() == Step.Action.INJECT)
                .findFirst()
                .orElseThrow();
        assertThat(inject.setVolts().getAsDouble()).isLessThanOrEqualTo(0.9);
    }

    @Test
    void thinLeadsAreStoppedSoonerAndAskedForLess() {
        Schools usual = Schools.DEFAULT;
        Schools thin = new Schools(
                usual.meter(),
                usual.lead(),
                usual.proof(),
                usual.injection(),
                usual.port(),
                usual.warmth(),
                usual.memory(),
                1.5);
        AdvisorTest thinLeads = read(ReadMode.OHMS, "VMAIN", 0.5).inject("VMAIN", 0.9, 1.7, 0.05, 2);
        Advice advice = thinLeads.advice(thin);
        assertThat(stops(advice, Stop.Code.LEAD_RATING)).isTrue();
        assertThat(stops(thinLeads.advice(), Stop.Code.LEAD_RATING)).isFalse();
        assertThat(advice.next().stream().flatMapToDouble(s -> s.limitAmps().stream()))
                .allMatch(a -> a < 1.5);
    }

    @Test
    void injectingWithTheBatteryInIsStopped() {
        Advice advice = power(BatteryState.IN, 12, 3.4, TraceShape.COLLAPSE)
                .inject("VMAIN", 1, 2, 0.16, 2)
                .advice();
        assertThat(stops(advice, Stop.Code.BATTERY_CONNECTED)).isTrue();
        assertThat(advice.next().get(0).action()).isEqualTo(Step.Action.DISCONNECT);
        change(ChangeAction.DISCONNECTED, "battery");
        assertThat(stops(advice(), Stop.Code.BATTERY_CONNECTED)).isFalse();
    }

    @Test
    void touchingPinsForbidPowerUntilThePortIsExchanged() {
        Advice advice = look("J1", LookFinding.PINS_TOUCHING).advice();
        assertThat(stops(advice, Stop.Code.DO_NOT_POWER)).isTrue();
        assertThat(advice.next().get(0)).satisfies(s -> {
            assertThat(s.action()).isEqualTo(Step.Action.REMOVE);
            assertThat(s.target()).hasValue("J1");
        });
        assertThat(actions(advice)).doesNotContain(Step.Action.POWER, Step.Action.INJECT);
        assertThat(stops(change(ChangeAction.REPLACED, "J1").advice(), Stop.Code.DO_NOT_POWER))
                .isFalse();
    }

    @Test
    void whatWasUnpluggedIsAskedFor() {
        Advice advice = change(ChangeAction.DISCONNECTED, "J3")
                .change(ChangeAction.REPLACED, "J1")
                .run(RunFinding.NO_PICTURE)
                .advice();
        assertThat(advice.next())
                .anyMatch(s ->
                        s.action() == Step.Action.CHECK_FITTED && s.target().equals(Optional.of("J3")));
    }

    @Test
    void repairThatNobodyReadAgainIsNotProven() {
        Advice advice = read(ReadMode.DIODE, "VMAIN", 0.002)
                .change(ChangeAction.REPLACED, "C3")
                .run(RunFinding.BOOTS)
                .advice();
        assertThat(stops(advice, Stop.Code.NOT_PROVEN)).isTrue();
        assertThat(stops(read(ReadMode.DIODE, "VMAIN", 0.44).advice(), Stop.Code.NOT_PROVEN))
                .isFalse();
    }

    @Test
    void unpluggingTheBatteryLeavesUnpoweredReadingsStanding() {
        Advice advice = read(ReadMode.OHMS, "VMAIN", 0.3)
                .change(ChangeAction.DISCONNECTED, "battery")
                .advice();
        assertThat(says(advice, Finding.Code.RAIL_SHORTED, "VMAIN")).isTrue();
    }

    /** The order in which alike parts stand in the file says nothing about which is shorted. */
    @Test
    void equalCapacitorsShareTheSuspicion() {
        Advice advice = read(ReadMode.OHMS, "VMAIN", 0.05).advice();
        double c3 = probability(advice, "C3");
        assertThat(c3).isPositive();
        assertThat(probability(advice, "C4")).isEqualTo(c3);
    }

    private static double probability(Advice advice, String ref) {
        return advice.hypotheses().stream()
                .filter(h -> h.target().equals(ref) && h.code() == Hypothesis.Code.SHORT)
                .mapToDouble(Hypothesis::probability)
                .findFirst()
                .orElse(0);
    }

    @Test
    void theFramesAreToldWhereTheOtherEvidenceLeans() {
        read(ReadMode.DIODE, "VMAIN", 0.002).look("C3", LookFinding.CRACKED).look("C4", LookFinding.CLEAN);
        Map<String, Double> leaning = advisor.leaning("", entries);
        assertThat(leaning.get("C3")).isGreaterThan(4 * leaning.get("C4"));
        assertThat(leaning.get("C5")).as("on a rail that reads well").isLessThan(0.2 * leaning.get("C4"));
        assertThat(leaning.values()).allMatch(v -> v >= 0.02 && v <= 50);
    }

    @Test
    void whatTheCameraSawIsNotToldToTheFramesAgain() {
        read(ReadMode.DIODE, "VMAIN", 0.002);
        Map<String, Double> before = advisor.leaning("", entries);
        warm("C4", WarmthMeans.CAMERA);
        assertThat(advisor.leaning("", entries)).isEqualTo(before);
        assertThat(advisor.leaning("", List.of())).isEmpty();
    }

    @Test
    void eachEntryIsWeighedByLeavingItOut() {
        read(ReadMode.DIODE, "VMAIN", 0.002);
        String burnt = PowerFixtures.board()
                .partsOn("VMAIN")
                .filter(p -> p.ref().startsWith("C"))
                .findFirst()
                .orElseThrow()
                .ref();
        look(burnt, LookFinding.BURNT);
        List<EntryWeight> weights = advisor.weigh("", entries, java.util.Set.of(burnt));
        assertThat(weights).extracting(EntryWeight::seq).contains(2);
        assertThat(weights.stream()
                        .filter(w -> w.seq() == 2)
                        .findFirst()
                        .orElseThrow()
                        .factor(burnt))
                .isGreaterThan(2);
        assertThat(weights.get(0).factor("not asked for")).isEqualTo(1);
    }

    @Test
    void whatTheCameraFoundIsNotWeighedAmongTheMetersEntries() {
        read(ReadMode.DIODE, "VMAIN", 0.002);
        String ref =
                PowerFixtures.board().partsOn("VMAIN").findFirst().orElseThrow().ref();
        warm(ref, WarmthMeans.CAMERA);
        assertThat(advisor.weigh("", entries, java.util.Set.of(ref)))
                .extracting(EntryWeight::seq)
                .doesNotContain(2);
    }

    /** Single readings are judged still, and what must not be done is said, where the circuit cannot be computed. */
    @Test
    void aCircuitThatDoesNotSettleIsNotJudged() {
        BoardIndex board = new BoardIndex(PowerFixtures.board());
        Twin twin = spy(new Twin(board));
        doThrow(new ArithmeticException("the network of 9 nodes did not settle"))
                .when(twin)
                .between(anyString(), anyString(), any(), any());
        read(ReadMode.OHMS, "VMAIN", 0.2);

        Advice advice = new Advisor(board, twin).advise(Optional.of("VMAIN"), "", entries);

        assertThat(advice.notJudged()).hasValueSatisfying(why -> assertThat(why).contains("did not settle"));
        assertThat(advice.hypotheses()).isEmpty();
        assertThat(advice.signs())
                .singleElement()
                .satisfies(sign -> assertThat(sign.says()).isEqualTo(Says.SHORTED));
        assertThat(advice.stops()).isNotEmpty();
    }
}
