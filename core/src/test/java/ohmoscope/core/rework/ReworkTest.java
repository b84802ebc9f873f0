package ohmoscope.core.rework;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.rework.Way.Method;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReworkTest {
    private final Board board = PowerFixtures.board();

    private ReworkPlan plan(Board of, String ref, Kit kit) {
        return Rework.plan(of, of.part(ref).orElseThrow(), kit, SlabParameters.expected(of), List.of(), 23, 1);
    }

    private static Way way(ReworkPlan plan, Method method) {
        return plan.ways().stream()
                .filter(w -> w.method() == method)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aSmallPartHasAllWaysAndTheSafeOnesStandFirst() {
        ReworkPlan plan = plan(board, "C3", Kit.USUAL);
        assertThat(plan.ways()).extracting(Way::method).contains(Method.values());
        List<Boolean> safe = plan.ways().stream().map(Way::safe).toList();
        assertThat(safe.lastIndexOf(true)).isLessThan(safe.contains(false) ? safe.indexOf(false) : safe.size());
        assertThat(plan.best()).isPresent();
        Way iron = way(plan, Method.IRON);
        assertThat(iron.jointC()).isGreaterThan(230);
        assertThat(iron.peaks()).allSatisfy(p -> assertThat(p.celsius()).isLessThan(150));
    }

    @Test
    void aChipIsNotForATipAndItsLastJointMelts() {
        ReworkPlan plan = plan(board, "U4", Kit.USUAL);
        assertThat(plan.ways())
                .extracting(Way::method)
                .doesNotContain(Method.IRON, Method.COLD_LEVER)
                .contains(Method.AIR, Method.AIR_PREHEATED, Method.LOW_MELT);
        Way air = way(plan, Method.AIR);
        assertThat(air.meltsAtS()).isPresent();
        assertThat(air.jointC()).isGreaterThanOrEqualTo(232);
        assertThat(air.heatedS()).isCloseTo(air.meltsAtS().getAsDouble() + 2, within(0.3));
        Way mixed = way(plan, Method.LOW_MELT);
        assertThat(mixed.setC().orElseThrow()).isLessThan(air.setC().orElseThrow());
        assertThat(mixed.peaks().get(0).celsius()).isLessThan(air.peaks().get(0).celsius());
    }

    /** Whatever is called safe melts its joints and leaves every neighbour that has a hard limit below it. */
    @Test
    void whatIsCalledSafeIs() {
        for (String ref : List.of("C1", "J2", "Q1", "U1", "U3", "R2")) {
            for (Way way : plan(board, ref, Kit.USUAL).ways()) {
                boolean harms = way.peaks().stream()
                        .anyMatch(p -> p.limit().hard() && p.mostC() > p.limit().celsius());
                boolean melts = way.meltsAtS().isPresent() || way.method() == Method.COLD_LEVER;
                assertThat(way.safe()).as(ref + " " + way.method()).isEqualTo(melts && !harms);
            }
        }
    }

    @Test
    void withoutAKitThereIsOnlyTheBladeAndForAChipNothing() {
        Kit none = new Kit(Optional.empty(), Optional.empty(), Optional.empty(), false, false, false);
        assertThat(plan(board, "C3", none).ways()).extracting(Way::method).containsExactly(Method.COLD_LEVER);
        assertThat(plan(board, "U4", none).ways()).isEmpty();
        assertThat(plan(board, "U4", none).best()).isEmpty();
    }

    /** Their solder melts whatever lies over them: tape holds them where they are. */
    @Test
    void smallNeighboursThatFloatAreTapedDown() {
        Kit bare = new Kit(Kit.USUAL.air(), Kit.USUAL.iron(), Optional.empty(), true, true, false);
        Kit tape = new Kit(Kit.USUAL.air(), Kit.USUAL.iron(), Optional.empty(), true, true, true);
        Part c3 = board.part("C3").orElseThrow();
        Part beside =
                Part.of("C98", PartKind.CAPACITOR, Side.TOP, c3.xMm() + c3.wMm() / 2 + 1, c3.yMm(), 1, 0.5, List.of());
        Board crowded = with(beside);
        Way loose = way(plan(crowded, "C3", bare), Method.AIR);
        Way held = way(plan(crowded, "C3", tape), Method.AIR);
        assertThat(loose.taped()).isEmpty();
        assertThat(held.taped()).contains("C98");
        assertThat(held.peaks()).isEqualTo(loose.peaks());
        assertThat(held.risk()).isLessThan(loose.risk());
        assertThat(held.peaks().stream().filter(p -> held.taped().contains(p.ref())))
                .allMatch(p -> p.over() && !p.limit().hard() && !p.otherSide());
        assertThat(way(plan(crowded, "C3", tape), Method.IRON).taped()).isEmpty();
    }

    /** Air that cannot get hot enough is shown, and not called safe. */
    @Test
    void weakAirDoesNotMelt() {
        Kit weak = new Kit(
                Optional.of(new Kit.Air(List.of(5.0), 200, 20)), Optional.empty(), Optional.empty(), false, true, true);
        Way air = way(plan(board, "U4", weak), Method.AIR);
        assertThat(air.meltsAtS()).isEmpty();
        assertThat(air.safe()).isFalse();
        assertThat(air.setC()).hasValue(200);
    }

    @Test
    void aPartWithoutAPlaceIsRefusedAndOneThatIsOffIsPlannedAllTheSame() {
        Board beside = with(Part.of("C99", PartKind.CAPACITOR, Side.TOP, -40, 10, 1, 0.5, List.of()));
        assertThatThrownBy(() -> plan(beside, "C99", Kit.USUAL))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("C99");
        Part c3 = board.part("C3").orElseThrow();
        assertThat(Rework.plan(board, c3, Kit.USUAL, List.of("C3"), 23, 1).best())
                .isPresent();
    }

    @Test
    void aSensitiveNeighbourIsScreenedOrTheWayIsNotCalledSafe() {
        Part c3 = board.part("C3").orElseThrow();
        Part near = sensitive(c3.xMm() + 4, c3.yMm());
        Board crowded = with(near);
        Optional<Kit.Air> wide = Optional.of(new Kit.Air(List.of(12.0), 450, 40));
        Kit screens = new Kit(wide, Kit.USUAL.iron(), Optional.empty(), true, true, false);
        Way air = way(plan(crowded, "C3", screens), Method.AIR);
        Way.Peak peak = air.peaks().stream()
                .filter(p -> p.ref().equals("U9"))
                .findFirst()
                .orElseThrow();
        assertThat(peak.limit().why()).isEqualTo(HeatLimit.Why.SENSITIVE);
        assertThat(air.screened()).contains("U9");
        assertThat(peak.screened()).isTrue();
        Kit bare = new Kit(wide, Kit.USUAL.iron(), Optional.empty(), true, false, false);
        Way open = way(plan(crowded, "C3", bare), Method.AIR);
        assertThat(open.screened()).isEmpty();
        assertThat(open.peaks().stream()
                        .filter(p -> p.ref().equals("U9"))
                        .findFirst()
                        .orElseThrow()
                        .celsius())
                .isGreaterThan(peak.celsius());
    }

    private static Part sensitive(double xMm, double yMm) {
        Part plain = Part.of("U9", PartKind.IC, Side.TOP, xMm, yMm, 3, 3, List.of());
        return new Part(
                plain.ref(),
                plain.kind(),
                plain.statedRole(),
                "",
                OptionalDouble.empty(),
                "",
                Side.TOP,
                xMm,
                yMm,
                0,
                3,
                3,
                OptionalDouble.empty(),
                List.of(),
                OptionalDouble.empty(),
                true,
                List.of(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    private Board with(Part more) {
        List<Part> parts = new ArrayList<>(board.parts());
        parts.add(more);
        return board.withParts(parts);
    }

    @Test
    void aCanOverThePartComesOffFirst() {
        Part u1 = board.part("U1").orElseThrow();
        Board canned = with(Part.of("SH1", PartKind.SHIELD, Side.TOP, u1.xMm(), u1.yMm(), 8, 8, List.of()));
        assertThat(plan(canned, "U1", Kit.USUAL).first()).containsExactly("SH1");
        assertThat(plan(canned, "C1", Kit.USUAL).first()).isEmpty();
    }

    @Test
    void padsSideBySideOnDifferentNetsAreListenedTo() {
        ReworkPlan plan = plan(board, "U1", Kit.USUAL);
        assertThat(plan.bridges())
                .isNotEmpty()
                .allSatisfy(b -> assertThat(b.netA()).isNotEqualTo(b.netB()));
    }

    @Test
    void strongerAirMeltsSoonerAndTheBenchLearnsThat() {
        Part u4 = board.part("U4").orElseThrow();
        Jet usual = new Jet(6, 30, 400, 1);
        double melts = melts(u4, usual);
        double told = melts(u4, new Jet(6, 30, 400, 1.5));
        assertThat(told).isLessThan(melts);
        List<AirGain.Told> three = Collections.nCopies(6, new AirGain.Told(melts, told, 1));
        assertThat(AirGain.of(three)).isBetween(1.2, 1.75);
        assertThat(AirGain.of(List.of())).isEqualTo(1);
        assertThat(AirGain.of(List.of(new AirGain.Told(10, 600, 1)))).isGreaterThanOrEqualTo(0.4);
    }

    private double melts(Part part, Jet jet) {
        HeatedBoard.Run run = new HeatedBoard(board, part, SlabParameters.expected(board), Set.of())
                .heated(new Heating.Air(part.side(), part.xMm(), part.yMm(), jet), Set.of(), 23, 0);
        while (run.coolestK(part.ref()) < 209 && run.seconds() < 300) {
            run.advance(0.5);
        }
        return run.seconds();
    }

    @Test
    void aBypassAmongManyMayStayOffAndAnOnlyOneNot() {
        Part c3 = board.part("C3").orElseThrow();
        LeaveOff few = LeaveOff.of(board, c3, List.of()).orElseThrow();
        assertThat(few.verdict()).isEqualTo(LeaveOff.Verdict.REPLACE);
        assertThat(few.others()).isEqualTo(1);
        assertThat(few.share()).hasValue(0.5);
        List<Part> parts = new ArrayList<>(board.parts());
        for (int i = 0; i < 5; i++) {
            parts.add(new Part(
                    "C2" + i,
                    PartKind.CAPACITOR,
                    Optional.empty(),
                    "10u",
                    OptionalDouble.empty(),
                    "0603",
                    Side.TOP,
                    60 + 2 * i,
                    40,
                    0,
                    1.6,
                    0.8,
                    OptionalDouble.empty(),
                    c3.pins(),
                    OptionalDouble.empty(),
                    false,
                    List.of(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty()));
        }
        LeaveOff many = LeaveOff.of(board.withParts(parts), c3, List.of("C4")).orElseThrow();
        assertThat(many.others()).isEqualTo(5);
        assertThat(many.share().orElseThrow()).isCloseTo(1 / 6.0, within(1e-9));
        assertThat(LeaveOff.of(board, board.part("U1").orElseThrow(), List.of()))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"100n,1e-7", "4u7,4.7e-6", "22 uF / 6.3 V,2.2e-5", "10u,1e-5", "'4,7µ',4.7e-6", "33pF,3.3e-11"})
    void valuesOfCapacitorsAreRead(String value, double farads) {
        assertThat(PartValue.farads(value).orElseThrow()).isCloseTo(farads, within(1e-4 * farads));
    }

    @Test
    void whatIsNoCapacitanceIsNone() {
        for (String value : List.of("", "10k", "u", "4.7u7", "controller")) {
            assertThat(PartValue.farads(value)).as(value).isEmpty();
        }
    }

    @Test
    void aKitThatCannotBeIsRefused() {
        assertThatThrownBy(() -> new Kit.Air(List.of(), 400, 30))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("air.nozzles_mm");
        assertThatThrownBy(() -> new Kit.Iron(5_000)).hasMessageContaining("iron.most_c");
        assertThat(new Kit.Air(List.of(8.0, 3.0, 8.0), 400, 30).nozzlesMm()).containsExactly(3.0, 8.0);
    }
}
