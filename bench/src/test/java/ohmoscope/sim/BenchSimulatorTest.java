package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleWriter;
import ohmoscope.sim.BenchSetup.Camera;
import ohmoscope.sim.BenchSetup.Supply;
import ohmoscope.sim.BenchSetup.View;
import org.junit.jupiter.api.Test;

/** The engine against the simulated bench, and the bench against itself. */
class BenchSimulatorTest {
    private static final Board BOARD = DemoBoards.beck();
    private static final Camera SMALL = new Camera(80, 60, 8, 1.5, 0.06, 0.2, 1, 0.03, 0.2);

    private static BenchSetup setup(Map<String, Double> faults, Supply supply, Side side, long seed) {
        return new BenchSetup(
                BOARD,
                "T-" + seed,
                "test",
                Instant.parse("2026-01-01T00:00:00Z"),
                faults,
                "VBAT",
                "C28",
                faults.isEmpty() ? "GND" : "VBAT",
                supply,
                List.of(new View(side, Optional.empty())),
                SMALL,
                seed);
    }

    private static final Supply STRONG = new Supply(1, 2.5, 0.05, 5, 1);

    private static LocateResult locate(Bundle bundle) throws IOException {
        return new Locator().locate(bundle.locateInput(), Progress.SILENT);
    }

    private static byte[] bytes(Bundle bundle) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        BundleWriter.zip(bundle, out);
        return out.toByteArray();
    }

    @Test
    void theSameSeedGivesTheSameBytes() throws IOException {
        BenchSetup setup = setup(Map.of("C66", 0.1), STRONG, Side.TOP, 3);
        byte[] first = bytes(BenchSimulator.run(setup).bundle());
        assertThat(bytes(BenchSimulator.run(setup).bundle())).isEqualTo(first);
        assertThat(bytes(BenchSimulator.run(setup(Map.of("C66", 0.1), STRONG, Side.TOP, 4))
                        .bundle()))
                .isNotEqualTo(first);
    }

    @Test
    void theSupplyShowsOhmsLaw() {
        BenchSimulator.Run run = BenchSimulator.run(setup(Map.of("C66", 0.5), STRONG, Side.TOP, 5));
        var on = run.bundle().supplyLog().orElseThrow().onSpans().get(0);
        assertThat(on.amps()).isCloseTo(run.truth().amps(), within(0.003));
        assertThat(on.volts()).isCloseTo(1.0, within(0.003));
        assertThat(run.truth().watts())
                .isCloseTo(run.truth().amps() * run.truth().amps() * 0.5, within(1e-9));
        assertThat(run.truth().ref()).contains("C66");
    }

    @Test
    void aShortedCapacitorIsFound() throws IOException {
        String fault = bankPart(3);
        LocateResult result = locate(BenchSimulator.run(setup(Map.of(fault, 0.08), STRONG, sideOf(fault), 11))
                .bundle());
        assertThat(result.suspects().get(0).part().ref()).isEqualTo(fault);
        assertThat(result.verdict()).isEqualTo(Verdict.PART);
        Part part = BOARD.part(fault).orElseThrow();
        assertThat(result.source().orElseThrow().xMm()).isCloseTo(part.xMm(), within(1.2));
        assertThat(result.source().orElseThrow().yMm()).isCloseTo(part.yMm(), within(1.2));
        assertThat(result.resistance().orElseThrow().low()).isLessThan(0.08);
        assertThat(result.resistance().orElseThrow().high()).isGreaterThan(0.08);
        double sum =
                result.suspects().stream().mapToDouble(Suspect::probability).sum();
        assertThat(sum + result.noneProbability() + result.elsewhereProbability())
                .isLessThanOrEqualTo(1 + 1e-9);
    }

    private static String bankPart(int index) {
        return BOARD.partsOn("VBAT")
                .filter(p -> p.packageName().equals("0603") && p.side() == Side.TOP)
                .map(Part::ref)
                .toList()
                .get(index);
    }

    private static Side sideOf(String ref) {
        return BOARD.part(ref).orElseThrow().side();
    }

    @Test
    void fromTheOtherSideItAsksToTurnTheBoard() throws IOException {
        String fault = bankPart(2);
        LocateResult result = locate(BenchSimulator.run(setup(Map.of(fault, 0.3), STRONG, Side.BOTTOM, 12))
                .bundle());
        assertThat(result.verdict()).isNotEqualTo(Verdict.PART);
        assertThat(result.suspects().stream().limit(3).map(s -> s.part().ref())).contains(fault);
    }

    @Test
    void currentIntoGroundFindsNothing() throws IOException {
        LocateResult result = locate(BenchSimulator.run(setup(Map.of(), new Supply(0.2, 2, 0.05, 5, 1), Side.TOP, 13))
                .bundle());
        assertThat(result.verdict()).isEqualTo(Verdict.NONE);
        assertThat(result.source()).isEmpty();
        assertThat(result.warnings()).containsKey(Warning.INJECTED_INTO_GROUND);
    }

    @Test
    void theOrderOfPartsDoesNotMatter() throws IOException {
        String fault = bankPart(4);
        Bundle bundle = BenchSimulator.run(setup(Map.of(fault, 0.08), STRONG, sideOf(fault), 14))
                .bundle();
        List<Part> shuffled = new ArrayList<>(BOARD.parts());
        Collections.shuffle(shuffled, new Random(1));
        Board other = new Board(
                BOARD.name(),
                BOARD.revision(),
                BOARD.outline(),
                BOARD.thicknessMm(),
                BOARD.copperLayers(),
                BOARD.copperUm(),
                BOARD.nets(),
                shuffled,
                BOARD.testPoints(),
                BOARD.fiducials());
        LocateInput input = bundle.locateInput();
        LocateInput permuted = new LocateInput(
                other, input.rail(), input.injection(), input.supplyLog(), input.captures(), input.observations());
        Map<String, Double> first = probabilities(new Locator().locate(input, Progress.SILENT));
        Map<String, Double> second = probabilities(new Locator().locate(permuted, Progress.SILENT));
        first.forEach(
                (ref, p) -> assertThat(second.getOrDefault(ref, 0.0)).as(ref).isCloseTo(p, within(1e-6)));
    }

    private static Map<String, Double> probabilities(LocateResult result) {
        Map<String, Double> map = new TreeMap<>();
        result.suspects().stream()
                .filter(s -> s.probability() > 1e-6)
                .forEach(s -> map.put(s.part().ref(), s.probability()));
        return map;
    }

    @Test
    void setupsRefuseWhatTheBoardDoesNotHave() {
        assertThatThrownBy(() -> setup(Map.of("C999", 0.1), STRONG, Side.TOP, 1))
                .hasMessageContaining("C999");
        assertThatThrownBy(() -> setup(Map.of("C66", -1.0), STRONG, Side.TOP, 1))
                .hasMessageContaining("above 0");
        assertThatThrownBy(() -> new Supply(1, 2, 0.05, 5, 0)).hasMessageContaining("pulses");
        assertThatThrownBy(() -> new Camera(4, 60, 8, 1, 0.1, 0, 0, 0, 0)).hasMessageContaining("width");
    }

    @Test
    void opticsKeepTheHeatAndMoveIt() {
        float[] scene = new float[31 * 21];
        scene[10 * 31 + 15] = 100;
        float[] seen = CameraOptics.blurredAndMoved(scene, 31, 21, 0.8, 2.5, -1.25);
        double sum = 0;
        double x = 0;
        double y = 0;
        for (int p = 0; p < seen.length; p++) {
            sum += seen[p];
            x += seen[p] * (p % 31);
            y += seen[p] * (p / 31);
        }
        assertThat(sum).isCloseTo(100, within(1e-3));
        assertThat(x / sum).isCloseTo(17.5, within(0.02));
        assertThat(y / sum).isCloseTo(8.75, within(0.02));
    }
}
