package ohmoscope.core.locate.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.stream.IntStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.Pixels;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Which pixels of a capture are believed, and how far. */
class CapturePreparerTest {
    private static final int W = 92;
    private static final int H = 72;
    private static final int FRAMES = 40;
    private static final ProbePlace TIP = new ProbePlace(20, 8, Side.TOP, Optional.empty());
    private static final Part CAN =
            Part.of("SH1", PartKind.SHIELD, Side.TOP, 24, 22, 8, 6, List.of(new Pin("1", "GND", 20.5, 22)));

    private final CaptureSpec spec = Fixtures.capture(W, H, FRAMES, Fixtures.corners(40, 30, 2.2));

    private static Board board() {
        Board plain = Fixtures.board();
        List<Part> parts = new ArrayList<>(plain.parts());
        parts.add(CAN);
        return Fixtures.with(plain, plain.nets(), parts);
    }

    /** What stands still in every frame, so that the camera can be seen to stand still as well. */
    private static int squares(int p) {
        return p % W / 8 % 2 == p / W / 8 % 2 ? 300 : 0;
    }

    private static List<char[]> frames() {
        Random random = new Random(5);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] counts = new char[W * H];
            for (int p = 0; p < counts.length; p++) {
                counts[p] = (char) (29500 + squares(p) + 4 * random.nextGaussian());
            }
            frames.add(counts);
        }
        return frames;
    }

    private CapturePreparer.Prepared prepared(Waveform waveform, ProbePlace at) throws IOException {
        return preparer(waveform, at, CapturePreparer.Scans.whole()).prepare(first(FRAMES));
    }

    private LocateInput.Capture first(int count) {
        return new LocateInput.Capture(
                Fixtures.capture(W, H, count, spec.registration()), Fixtures.frames(frames().subList(0, count)));
    }

    private static CapturePreparer preparer(Waveform waveform, ProbePlace at, CapturePreparer.Scans scans) {
        Board board = board();
        Injection injection = new Injection(
                "VSYS",
                Optional.of(at),
                Optional.empty(),
                OptionalDouble.of(0.3),
                OptionalDouble.of(2),
                OptionalDouble.empty(),
                OptionalDouble.empty());
        return new CapturePreparer(
                board, SlabParameters.expected(board), waveform, Optional.of(injection), LocateSettings.DEFAULT, scans);
    }

    private Pixels pixels(ProbePlace at) throws IOException {
        return prepared(Waveform.stepAt(1.5), at).model().orElseThrow().pixels();
    }

    private static double mm(Pixels pixels, int p) {
        return Math.hypot(pixels.xMm()[p] - TIP.xMm(), pixels.yMm()[p] - TIP.yMm());
    }

    @Test
    void roundTheTipTheModelIsTrustedAsLittleAsOnABody() throws IOException {
        Pixels pixels = pixels(TIP);
        int near = 0;
        for (int p = 0; p < pixels.count(); p++) {
            float usual = (float) LocateSettings.DEFAULT.boardError();
            float doubted = (float) LocateSettings.DEFAULT.bodyError();
            if (mm(pixels, p) < 2.4) {
                assertThat(pixels.boardError()[p]).isEqualTo(doubted);
                near++;
            } else if (mm(pixels, p) > 2.6) {
                assertThat(pixels.boardError()[p]).isEqualTo(usual);
            }
        }
        assertThat(near).isGreaterThan(50);
    }

    @Test
    void aTipOnTheOtherFaceIsNotInThePicture() throws IOException {
        Pixels pixels = pixels(new ProbePlace(20, 8, Side.BOTTOM, Optional.empty()));
        assertThat(pixels.boardError()).containsOnly((float) LocateSettings.DEFAULT.boardError());
    }

    @Test
    void whatLiesOffTheBoardOrOnACanIsLeftOut() throws IOException {
        Pixels pixels = pixels(TIP);
        for (int p = 0; p < pixels.count(); p++) {
            assertThat(pixels.xMm()[p]).isBetween(0f, 40f);
            assertThat(pixels.yMm()[p]).isBetween(0f, 30f);
            assertThat(CAN.covers(pixels.xMm()[p], pixels.yMm()[p], 0)).isFalse();
        }
        // 40 × 30 mm less the can, at 2.2 pixels a millimetre, less a rim.
        assertThat(pixels.count()).isBetween(4800, 5600);
    }

    @Test
    void aCameraThatSawNothingSwitchedTellsNothingOfHeat() throws IOException {
        CapturePreparer.Prepared silent = prepared(Waveform.stepAt(1000), TIP);
        assertThat(silent.model()).isEmpty();
        assertThat(silent.scan().segments()).isEqualTo(1);
    }

    /** Scans of a movie that is still being taken. */
    private static CapturePreparer.Scans growing() {
        return new CapturePreparer.Scans() {
            @Override
            public FrameScan of(LocateInput.Capture capture) throws IOException {
                return FrameScan.of(capture.spec(), capture.frames());
            }

            @Override
            public boolean grow() {
                return true;
            }
        };
    }

    /** A component's picture less its mean, which is every frame's level and says nothing. */
    private static double[] levelled(float[] picture) {
        double mean = IntStream.range(0, picture.length)
                .mapToDouble(p -> picture[p])
                .average()
                .orElseThrow();
        return IntStream.range(0, picture.length)
                .mapToDouble(p -> picture[p] - mean)
                .toArray();
    }

    @ParameterizedTest
    @EnumSource(CapturePreparer.Weights.class)
    void grownFromSumsOfItsFramesACaptureIsWhatAllItsFramesComeTo(CapturePreparer.Weights weights) throws IOException {
        CapturePreparer preparer = preparer(Waveform.stepAt(1.5), TIP, growing());
        CapturePreparer.Prepared before = preparer.prepare(first(28));
        CapturePreparer.Prepared middle = preparer.grown(before, before.model().orElseThrow(), first(33), weights)
                .orElseThrow();
        CaptureModel grown = preparer.grown(middle, middle.model().orElseThrow(), first(FRAMES), weights)
                .flatMap(CapturePreparer.Prepared::model)
                .orElseThrow();
        assertThat(grown.pixels().xMm())
                .isEqualTo(before.model().orElseThrow().pixels().xMm());
        assertThat(grown.time().frames()).isEqualTo(FRAMES);
        double[][] basis = grown.time().basis();
        List<char[]> frames = frames();
        for (int j = 0; j < basis.length; j++) {
            double[] one = new double[basis.length];
            one[j] = 1;
            float[] direct = new float[grown.count()];
            for (int p = 0; p < direct.length; p++) {
                int at = grown.pixels().row()[p] * W + grown.pixels().column()[p];
                for (int f = 0; f < FRAMES; f++) {
                    direct[p] += (float) (basis[j][f] * (frames.get(f)[at] - 29500) * spec.kelvinPerCount());
                }
            }
            double[] mixed = levelled(grown.matched(one));
            double[] all = levelled(direct);
            double apart = IntStream.range(0, all.length)
                    .mapToDouble(p -> Math.abs(mixed[p] - all[p]))
                    .max()
                    .orElseThrow();
            assertThat(apart).as("component %d", j).isLessThan(2e-4);
        }
    }

    @Test
    void aCaptureThatIsNotToGrowCannot() throws IOException {
        CapturePreparer whole = preparer(Waveform.stepAt(1.5), TIP, CapturePreparer.Scans.whole());
        CapturePreparer.Prepared before = whole.prepare(first(28));
        assertThat(whole.grown(before, before.model().orElseThrow(), first(FRAMES), CapturePreparer.Weights.KEPT))
                .isEmpty();
    }
}
