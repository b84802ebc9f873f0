package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Schools.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.inject.InjectionPlan.Estimate;
import ohmoscope.core.inject.InjectionPlan.Rung;
import ohmoscope.core.inject.InjectionPlan.StopWhen;
import ohmoscope.core.inject.InjectionReview.Sign;
import org.junit.jupiter.api.Test;

class InjectionPlanTest {
    private static final Means.Leads LEADS = new Means.Leads(0.05, 4);
    private static final Means.Bench BENCH = new Means.Bench(30, 5);
    private static final Means.Camera CAMERA = new Means.Camera(0.5, 0.06, 9, 0.4);

    private final BoardIndex board = new BoardIndex(PowerFixtures.board());
    private final Twin twin = new Twin(board);
    private final List<Observation> entries = new ArrayList<>();

    private InjectionPlan plan(String rail, Estimate fault, Means.Leads leads, Means.Camera camera, Injection school) {
        return InjectionPlan.of(
                board, rail, twin.island(rail, BoardState.WHOLE), fault, leads, BENCH, camera, 0.5, school);
    }

    private static Estimate ohms(double ohms) {
        return new Estimate(ohms, 0.6 * ohms, 1.5 * ohms);
    }

    @Test
    void theLadderClimbsAndNeverPassesWhatAnythingBears() {
        for (double r : new double[] {0.005, 0.05, 0.5, 5, 40}) {
            InjectionPlan plan = plan("VMAIN", ohms(r), LEADS, CAMERA, Injection.LOW_AND_CLIMB);
            assertThat(plan.rungs()).as("%s ohms", r).isNotEmpty();
            double before = 0;
            for (Rung rung : plan.rungs()) {
                assertThat(rung.setVolts()).isLessThanOrEqualTo(plan.ceilingVolts());
                assertThat(rung.limitAmps()).isLessThanOrEqualTo(4);
                assertThat(rung.amps()).isLessThanOrEqualTo(rung.limitAmps() + 1e-9);
                assertThat(rung.watts()).isGreaterThanOrEqualTo(before * 0.999);
                assertThat(rung.watts()).isCloseTo(rung.amps() * rung.amps() * r, within(1e-9));
                before = rung.watts();
            }
        }
    }

    @Test
    void theCeilingIsTheLowestThatConductsToTheRail() {
        // VMAIN (12 V) reaches the battery's rail (7.4 V) through the switch's body diode.
        InjectionPlan plan = plan("VMAIN", ohms(0.05), LEADS, CAMERA, Injection.LOW_AND_CLIMB);
        assertThat(plan.ceilingVolts()).isEqualTo(7.4);
        assertThat(plan.ceilingNet()).isEqualTo("VBAT");
    }

    @Test
    void aHarderShortNeedsMoreCurrentAndIsSilentLonger() {
        InjectionPlan hard = plan("VMAIN", ohms(0.01), LEADS, CAMERA, Injection.LOW_AND_CLIMB);
        InjectionPlan soft = plan("VMAIN", ohms(1), LEADS, CAMERA, Injection.LOW_AND_CLIMB);
        assertThat(hard.rungs().get(0).silent()).isTrue();
        double hardAmps =
                hard.rungs().get(hard.enough().orElse(hard.rungs().size() - 1)).amps();
        double softAmps = soft.rungs().get(soft.enough().orElseThrow()).amps();
        assertThat(hardAmps).isGreaterThan(softAmps);
    }

    @Test
    void theClimbEndsForAReason() {
        assertThat(plan("VMAIN", ohms(0.003), new Means.Leads(0.05, 1.1), CAMERA, Injection.LOW_AND_CLIMB)
                        .rungs())
                .anySatisfy(r -> assertThat(r.stopWhen()).isEqualTo(StopWhen.LEADS_AT_THEIR_RATING));
        InjectionPlan poor = plan("VMAIN", ohms(0.003), LEADS, new Means.Camera(2, 0.5, 2, 2), Injection.LOW_AND_CLIMB);
        assertThat(poor.enough()).isEmpty();
        assertThat(poor.rungs().get(poor.rungs().size() - 1).pulses())
                .as("pulses are what is left")
                .isEqualTo(10);
        InjectionPlan sharp = plan("VMAIN", ohms(0.3), LEADS, CAMERA, Injection.LOW_AND_CLIMB);
        assertThat(sharp.rungs().get(sharp.enough().orElseThrow()).stopWhen()).isEqualTo(StopWhen.SHARP_ENOUGH);
    }

    @Test
    void theOtherSchoolHoldsTheRailsVoltageBehindALimit() {
        InjectionPlan plan = plan("V3", ohms(4), LEADS, CAMERA, Injection.RAIL_VOLTAGE);
        assertThat(plan.rungs()).allSatisfy(r -> {
            assertThat(r.setVolts()).isEqualTo(plan.ceilingVolts());
            assertThat(r.limitAmps()).isLessThanOrEqualTo(2);
        });
    }

    @Test
    void aWarmSpotScalesWithWatts() {
        WarmSpot spot = new WarmSpot(SlabParameters.expected(board.board()), CAMERA, true, 8, 0.4);
        assertThat(spot.riseK(0.2)).isCloseTo(2 * spot.riseK(0.1), within(1e-9));
        assertThat(spot.sigmaMm(0.2)).isCloseTo(spot.sigmaMm(0.1) / 2, within(1e-9));
        assertThat(spot.sigmaMm(0)).isInfinite();
        assertThat(spot.radiusMm(0.1, 0.1)).isGreaterThan(spot.radiusMm(0.1, 1));
        WarmSpot far = new WarmSpot(SlabParameters.expected(board.board()), CAMERA, false, 8, 0.4);
        assertThat(far.riseK(0.1)).isLessThan(spot.riseK(0.1));
        assertThat(far.sigmaMm(0.1)).as("the other side is blurred").isGreaterThan(spot.sigmaMm(0.1));
        WarmSpot closer = new WarmSpot(
                SlabParameters.expected(board.board()), new Means.Camera(0.25, 0.06, 9, 0.2), true, 8, 0.4);
        assertThat(closer.sigmaMm(0.1)).isLessThan(spot.sigmaMm(0.1));
    }

    private InjectionPlanTest shown(double set, double limit, double volts, double amps) {
        entries.add(new Inject(
                entries.size() + 1,
                "VMAIN",
                Optional.empty(),
                OptionalDouble.of(set),
                OptionalDouble.of(limit),
                OptionalDouble.of(volts),
                OptionalDouble.of(amps),
                OptionalDouble.of(0.05),
                Optional.<TraceShape>empty(),
                Optional.empty()));
        return this;
    }

    private InjectionReview review() {
        Advice advice = new Advisor(board.board()).advise(Optional.of("VMAIN"), "", entries);
        return InjectionReview.of("VMAIN", entries, advice::sign);
    }

    @Test
    void aStraightLineIsAResistance() {
        shown(0.3, 1, 0.08, 1).shown(0.3, 2, 0.16, 2);
        assertThat(review().ohms().orElseThrow()).isCloseTo(0.03, within(1e-6));
        assertThat(review().signs()).containsExactly(Sign.CURRENT_LIMITED);
        Estimate e = review().estimate(OptionalDouble.empty());
        assertThat(e.low()).isLessThan(0.03);
        assertThat(e.high()).isGreaterThan(0.03);
    }

    @Test
    void whatIsNoLineIsSaid() {
        entries.add(Fixtures.diode(1, "VMAIN", 0.003));
        assertThat(shown(1, 2, 1, 0.002).review().signs()).containsExactly(Sign.CONTACT_LOST);
        entries.clear();
        assertThat(shown(1, 2, 1, 0.01).review().signs())
                .as("a rail of a hundred ohms")
                .isEmpty();
        entries.clear();
        assertThat(shown(0.3, 1, 0.051, 1).review().signs()).contains(Sign.INTO_GROUND);
        entries.clear();
        assertThat(shown(0.3, 1, 0.25, 0.2).shown(1, 3, 0.7, 2.5).review().signs())
                .contains(Sign.JUNCTION);
        entries.clear();
        assertThat(shown(0.3, 1, 0.08, 1).shown(0.5, 3, 0.36, 3).review().signs())
                .contains(Sign.RISES_WITH_HEAT);
        entries.clear();
        assertThat(shown(0.5, 3, 0.3, 3).shown(0.5, 3, 0.5, 0.001).review().signs())
                .contains(Sign.BURNED_OPEN);
    }

    @Test
    void aReworkBeginsANewLine() {
        shown(0.3, 1, 0.08, 1);
        entries.add(Fixtures.removed(2, "C3"));
        assertThat(review().points()).isEmpty();
        assertThat(review().estimate(OptionalDouble.of(2)).ohms()).isEqualTo(2);
    }

    @Test
    void meansAreChecked() {
        assertThatThrownBy(() -> new Means.Leads(-1, 4)).hasMessageContaining("lead_ohms");
        assertThatThrownBy(() -> new Means.Camera(0, 0.05, 9, 0.3)).hasMessageContaining("pixel_mm");
        assertThatThrownBy(() -> new Estimate(1, 2, 3)).isInstanceOf(IllegalArgumentException.class);
    }
}
