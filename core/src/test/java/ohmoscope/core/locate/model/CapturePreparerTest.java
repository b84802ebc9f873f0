package ohmoscope.core.locate.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
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
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.Pixels;
import org.junit.jupiter.api.Test;

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

    private CapturePreparer.Prepared prepared(Waveform waveform, ProbePlace at) throws IOException {
        Random random = new Random(5);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] counts = new char[W * H];
            for (int p = 0; p < counts.length; p++) {
                counts[p] = (char) (29500 + 4 * random.nextGaussian());
            }
            frames.add(counts);
        }
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
                        board,
                        SlabParameters.expected(board),
                        waveform,
                        Optional.of(injection),
                        LocateSettings.DEFAULT,
                        CapturePreparer.Scans.whole())
                .prepare(new LocateInput.Capture(spec, Fixtures.frames(frames)));
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
}
