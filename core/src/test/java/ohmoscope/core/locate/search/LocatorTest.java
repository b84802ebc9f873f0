package ohmoscope.core.locate.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.UnaryOperator;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.heat.ProjectedKernel;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.StandsOut;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.model.Places;
import ohmoscope.core.locate.model.Spot;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A whole search on frames that the slab itself has drawn. */
class LocatorTest {
    private static final int W = 92;
    private static final int H = 72;
    private static final int FRAMES = 70;
    private static final double PX_PER_MM = 2.2;
    private static final double NOISE_K = 0.04;
    private static final double ON_S = 1.5;
    private static final double VOLTS = 0.1;

    private final Board board = Fixtures.board();
    private final CaptureSpec spec = Fixtures.capture(W, H, FRAMES, Fixtures.corners(40, 30, PX_PER_MM));
    private final Random random = new Random(31);

    private static SupplyLog supply(double watts) {
        return Fixtures.log(ON_S, FRAMES, FRAMES * 0.1, VOLTS, watts / VOLTS);
    }

    /** What a watt at a place does to every pixel in every frame, {@code [frame · pixels + pixel]}. */
    private float[] perWatt(double xMm, double yMm, boolean near) {
        double[][] each = new double[FRAMES][FRAMES];
        for (int f = 0; f < FRAMES; f++) {
            each[f][f] = 1;
        }
        TimeKernel kernel = new TimeKernel(Waveform.stepAt(ON_S), spec.times(), 0, 0.1);
        RadialTable table = new RadialTable(
                SlabParameters.expected(board).scaled(1.2, 1), near, 0.3, ProjectedKernel.of(each, kernel), 60);
        float[] x = new float[W * H];
        float[] y = new float[W * H];
        for (int p = 0; p < W * H; p++) {
            x[p] = (float) ((p % W - 2) / PX_PER_MM);
            y[p] = (float) (30 - (p / W - 2) / PX_PER_MM);
        }
        float[] out = new float[W * H * FRAMES];
        new Spot(table, xMm, yMm, board.outline()).addTo(new Places(x, y, W * H), out, new Spot.Scratch(W * H));
        return out;
    }

    private LocateInput hunt(double xMm, double yMm, boolean near, double watts, UnaryOperator<char[]> camera) {
        float[] perWatt = perWatt(xMm, yMm, near);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] counts = new char[W * H];
            for (int p = 0; p < counts.length; p++) {
                double kelvin = 295 + watts * perWatt[f * W * H + p] + NOISE_K * random.nextGaussian();
                counts[p] = (char) Math.round(kelvin / 0.01);
            }
            frames.add(camera.apply(counts));
        }
        return new LocateInput(
                board,
                "VSYS",
                Optional.empty(),
                supply(Math.max(watts, 0.05)),
                List.of(new LocateInput.Capture(spec, Fixtures.frames(frames))),
                List.of());
    }

    private LocateInput hunt(double xMm, double yMm, double watts) {
        return hunt(xMm, yMm, true, watts, UnaryOperator.identity());
    }

    private static LocateResult locate(LocateInput input) throws IOException {
        return new Locator().locate(input, Progress.SILENT);
    }

    /** A single pixel that goes hot with the power misleads the eye, and no heat model. */
    @ParameterizedTest
    @ValueSource(strings = {"C1", "C3", "C6"})
    void aPlainPlateLooksAtTheWholeSpot(String ref) throws IOException {
        Part part = board.part(ref).orElseThrow();
        AtomicInteger frame = new AtomicInteger();
        LocateInput input = hunt(part.xMm(), part.yMm(), true, 0.1, counts -> {
            counts[W + 3] += (char) (10 * frame.getAndIncrement());
            return counts;
        });
        assertThat(ByPlate.ranked(input).get(0).ref()).isEqualTo(ref);
        assertThat(ByEye.ranked(input).get(0).ref()).isNotEqualTo(ref);
    }

    @Test
    void aPlateWithoutPowerHasNoOpinion() throws IOException {
        LocateInput dark = new LocateInput(
                board,
                "VSYS",
                Optional.empty(),
                SupplyLog.empty(),
                hunt(10, 10, 0.1).captures(),
                List.of());
        assertThat(ByPlate.ranked(dark)).hasSameSizeAs(ByEye.ranked(dark));
    }

    @ParameterizedTest
    @ValueSource(strings = {"C1", "C3", "C6"})
    void theWarmCapacitorOfARowIsNamed(String ref) throws IOException {
        Part part = board.part(ref).orElseThrow();
        LocateResult result = locate(hunt(part.xMm(), part.yMm(), 0.1));
        assertThat(result.suspects().get(0).part().ref()).isEqualTo(ref);
        assertThat(result.verdict()).isEqualTo(Verdict.PART);
        assertThat(result.suspects().get(0).probability()).isGreaterThan(0.9);
        SourceEstimate source = result.source().orElseThrow();
        assertThat(Math.hypot(source.xMm() - part.xMm(), source.yMm() - part.yMm()))
                .isLessThan(0.4);
        assertThat(source.boundMm().orElseThrow()).isLessThan(source.sigmaMm());
        assertThat(source.watts()).isCloseTo(0.1, within(0.03));
    }

    @Test
    void thePicturesByThemselvesShowItToo() throws IOException {
        StandsOut plain = locate(hunt(24, 14, 0.1)).standsOut().orElseThrow();
        assertThat(plain.ref()).isEqualTo("C4");
        assertThat(plain.plainly()).isTrue();
        assertThat(locate(hunt(24, 14, 0)).standsOut().map(StandsOut::plainly)).isNotEqualTo(Optional.of(true));
    }

    /** What the frames would have shown is told, and is shown: well above it a part is named, well below none is. */
    @Test
    void whatWouldHaveBeenSeenIsSeen() throws IOException {
        double limit = locate(hunt(24, 14, 0)).seenFromWatts().orElseThrow();
        assertThat(limit).isBetween(1e-4, 0.05);
        LocateResult above = locate(hunt(24, 14, 2 * limit));
        assertThat(above.suspects().get(0).part().ref()).isEqualTo("C4");
        assertThat(above.noneProbability()).isLessThan(0.01);
        assertThat(locate(hunt(24, 14, 0.05 * limit)).suspects().get(0).probability())
                .isLessThan(0.5);
    }

    @Test
    void probabilitiesAddUpToOne() throws IOException {
        LocateResult result = locate(hunt(24, 14, 0.03));
        double parts =
                result.suspects().stream().mapToDouble(Suspect::probability).sum();
        assertThat(parts + result.noneProbability() + result.elsewhereProbability())
                .isCloseTo(1, within(1e-6));
        assertThat(result.suspects()).isSortedAccordingTo((a, b) -> Double.compare(b.probability(), a.probability()));
    }

    @Test
    void noiseIsNothing() throws IOException {
        LocateResult result = locate(hunt(24, 14, 0));
        assertThat(result.verdict()).isEqualTo(Verdict.NONE);
        assertThat(result.noneProbability()).isGreaterThan(0.8);
        assertThat(result.source()).isEmpty();
        assertThat(result.warnings()).containsKey(Warning.TOO_LITTLE_POWER);
        assertThat(result.blind()).isFalse();
    }

    @Test
    void heatWhereNoPartOfTheRailStandsIsSomethingElse() throws IOException {
        LocateResult result = locate(hunt(8, 5, 0.2));
        assertThat(result.verdict()).isNotEqualTo(Verdict.PART);
        assertThat(result.elsewhereProbability()).isGreaterThan(0.5);
        SourceEstimate source = result.source().orElseThrow();
        assertThat(source.xMm()).isCloseTo(8, within(0.5));
        assertThat(source.yMm()).isCloseTo(5, within(0.5));
    }

    @Test
    void deadPixelsAndARezeroingDoNotMatter() throws IOException {
        int[] frame = {0};
        LocateResult result = locate(hunt(20, 14, true, 0.1, counts -> {
            int level = frame[0]++ > 40 ? 70 : 0;
            for (int p = 0; p < counts.length; p++) {
                counts[p] += (char) level;
            }
            for (int p = 500; p < counts.length; p += 997) {
                counts[p] = 31_000;
            }
            return counts;
        }));
        assertThat(result.suspects().get(0).part().ref()).isEqualTo("C3");
        assertThat(result.captures().get(0).scan().segments()).isEqualTo(2);
        assertThat(result.captures().get(0).scan().dead()).hasSize(7);
        assertThat(result.warnings()).containsKey(Warning.CAMERA_DRIFT);
    }

    @Test
    void heatFromTheOtherSideComesSlowlyAndWide() throws IOException {
        LocateResult near = locate(hunt(24, 14, true, 0.15, UnaryOperator.identity()));
        LocateResult far = locate(hunt(24, 14, false, 0.15, UnaryOperator.identity()));
        assertThat(near.source().orElseThrow().side()).isEqualTo(Side.TOP);
        assertThat(far.source().orElseThrow().majorMm())
                .isGreaterThan(near.source().orElseThrow().majorMm());
        // No part of this rail stands below.
        assertThat(far.verdict()).isNotEqualTo(Verdict.PART);
        assertThat(far.elsewhereProbability()).isGreaterThan(0.5);
        assertThat(far.source().orElseThrow().side()).isEqualTo(Side.BOTTOM);
        assertThat(far.source().orElseThrow().xMm()).isCloseTo(24, within(1.5));
        assertThat(far.source().orElseThrow().yMm()).isCloseTo(14, within(1.5));
    }

    @Test
    void theSameFramesGiveTheSameAnswer() throws IOException {
        LocateInput input = hunt(28, 14, 0.06);
        LocateResult once = locate(input);
        LocateResult again = locate(input);
        assertThat(again.suspects().get(0).probability())
                .isCloseTo(once.suspects().get(0).probability(), within(1e-9));
        assertThat(again.source().map(SourceEstimate::xMm))
                .isEqualTo(once.source().map(SourceEstimate::xMm));
    }

    @Test
    void withoutPowerWhileTheCameraLooksNothingCanBeTold() throws IOException {
        LocateInput lit = hunt(24, 14, 0.1);
        LocateInput silent =
                new LocateInput(board, "VSYS", Optional.empty(), SupplyLog.empty(), lit.captures(), List.of());
        LocateResult result = locate(silent);
        assertThat(result.blind()).isTrue();
        assertThat(result.captures()).hasSize(1);
        assertThat(result.captures().get(0).scan().noiseK()).isCloseTo(NOISE_K, within(0.005));
    }
}
