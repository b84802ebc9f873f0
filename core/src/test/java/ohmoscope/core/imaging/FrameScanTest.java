package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class FrameScanTest {
    private static final int W = 96;
    private static final int H = 72;
    private static final int FRAMES = 40;
    private final Random random = new Random(5);
    private final CaptureSpec spec = Fixtures.capture(W, H, FRAMES, Fixtures.corners(40, 30, 2.2));

    /** Rectangles of other emissivity, moved by a fraction of a pixel. */
    private char[] scene(double dx, double dy, double level) {
        return scene(Motion.shift(dx, dy), level);
    }

    private char[] scene(Motion motion, double level) {
        char[] counts = new char[W * H];
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                double v = 0;
                for (int i = 0; i < 6; i++) {
                    double cx = motion.xOf(12 + 15 * i, 14 + 9 * i, H) - x;
                    double cy = motion.yOf(12 + 15 * i, 14 + 9 * i, W) - y;
                    v += 1.2 / (1 + Math.exp(3 * (Math.abs(cx) - 4))) / (1 + Math.exp(3 * (Math.abs(cy) - 3)));
                }
                double kelvin = 295 + v + level + 0.06 * random.nextGaussian();
                counts[y * W + x] = (char) Math.round(kelvin / 0.01);
            }
        }
        return counts;
    }

    private FrameScan scan(List<char[]> frames) throws IOException {
        return FrameScan.of(spec, Fixtures.frames(frames));
    }

    @Test
    void measuresTheNoise() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            frames.add(scene(0, 0, 0));
        }
        FrameScan scan = scan(frames);
        assertThat(scan.noiseK()).isCloseTo(0.06, within(0.004));
        assertThat(scan.steady()).isTrue();
        assertThat(scan.segments()).isEqualTo(1);
        assertThat(scan.driftK()).isLessThan(0.02);
        assertThat(scan.saturatedShare()).isZero();
    }

    /** A movie that is scanned as it comes is scanned as if it had been there from the start; so is a shaken one. */
    @Test
    void aGrowingMovieIsScannedAsIfItWereWhole() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            double dx = f < 6 ? 0 : 1.7 * Math.sin(f * 0.8);
            frames.add(f == 20 ? frames.get(19) : scene(dx, f < 30 ? 0 : 1.5, f < 25 ? 0 : 0.3));
        }
        FrameScan.Growing growing = new FrameScan.Growing();
        for (int now : new int[] {4, 8, 9, 9, 26, 39, FRAMES}) {
            CaptureSpec sofar = Fixtures.capture(W, H, now, Fixtures.corners(40, 30, 2.2));
            FrameScan scan = growing.of(sofar, Fixtures.frames(frames.subList(0, now)));
            FrameScan whole = FrameScan.of(sofar, Fixtures.frames(frames.subList(0, now)));
            assertThat(scan.segment()).as("%s frames", now).isEqualTo(whole.segment());
            assertThat(scan.motion()).isEqualTo(whole.motion());
            assertThat(scan.commonK()).isEqualTo(whole.commonK());
            assertThat(scan.noiseK()).isEqualTo(whole.noiseK());
            assertThat(scan.saturatedShare()).isEqualTo(whole.saturatedShare());
            assertThat(scan.dead()).isEqualTo(whole.dead());
            assertThat(scan.baseline()).isEqualTo(whole.baseline());
        }
        assertThat(growing.of(spec, Fixtures.frames(frames)).segments()).isGreaterThan(1);
    }

    @Test
    void findsTheShakeToATenthOfAPixel() throws IOException {
        List<char[]> frames = new ArrayList<>();
        double[] dx = new double[FRAMES];
        for (int f = 0; f < FRAMES; f++) {
            dx[f] = f < 6 ? 0 : 1.7 * Math.sin(f * 0.8);
            frames.add(scene(dx[f], -0.5 * dx[f], 0));
        }
        FrameScan scan = scan(frames);
        for (int f = 6; f < FRAMES; f++) {
            assertThat(scan.motion().get(f).xPx()).as("frame %s", f).isCloseTo(dx[f], within(0.1));
            assertThat(scan.motion().get(f).yPx()).isCloseTo(-0.5 * dx[f], within(0.1));
        }
        assertThat(scan.steady()).isFalse();
    }

    @Test
    void aCameraThatTurnsIsTurnedBack() throws IOException {
        List<char[]> frames = new ArrayList<>();
        double[] turn = new double[FRAMES];
        for (int f = 0; f < FRAMES; f++) {
            turn[f] = f < 6 ? 0 : 0.015 * Math.sin(f * 0.9);
            frames.add(scene(new Motion(0.4 * Math.cos(f), 0, turn[f]), 0));
        }
        FrameScan scan = scan(frames);
        double worstK = 0;
        float[] still = new float[W * H];
        for (int f = 6; f < FRAMES; f++) {
            if (Math.abs(turn[f]) > 0.004) {
                assertThat(scan.motion().get(f).turn()).as("frame %s", f).isCloseTo(turn[f], within(0.002));
            }
            float[] kelvin = new float[W * H];
            for (int i = 0; i < kelvin.length; i++) {
                kelvin[i] = frames.get(f)[i] * 0.01f;
            }
            float[] back = scan.stilled(spec, f, kelvin, still);
            double sum2 = 0;
            for (int i = 0; i < back.length; i++) {
                sum2 += Math.pow(back[i] - scan.baseline()[i], 2);
            }
            worstK = Math.max(worstK, Math.sqrt(sum2 / back.length));
        }
        // The noise of a frame is 0.06 K; parts that are 1.2 K off their board would leave four times that.
        assertThat(worstK).isLessThan(0.09);
    }

    @Test
    void aPictureBeforeAndOneAfterStayTogetherWhateverTheirLevels() throws IOException {
        FrameScan two = FrameScan.of(
                Fixtures.capture(W, H, 2, Fixtures.corners(40, 30, 2.2)),
                Fixtures.frames(List.of(scene(0, 0, 0), scene(0, 0, 0.4))));
        assertThat(two.segments()).isEqualTo(1);
        assertThat(two.commonK().get(1) - two.commonK().get(0)).isCloseTo(0.4, within(0.02));
        List<char[]> many = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            many.add(scene(0, 0, f >= 20 ? 0.4 : 0));
        }
        assertThat(scan(many).segments()).isEqualTo(2);
    }

    @Test
    void reZeroingStartsASegmentAndRepeatsAreLeftOut() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            boolean frozen = f > 15 && f < 20;
            frames.add(frozen ? frames.get(15) : scene(0, 0, f >= 20 ? 0.4 : 0));
        }
        FrameScan scan = scan(frames);
        assertThat(scan.repeatedFrames()).isEqualTo(4);
        assertThat(scan.segment().get(15)).isZero();
        assertThat(scan.segment().get(17)).isEqualTo(-1);
        assertThat(scan.segment().get(20)).isEqualTo(1);
        assertThat(scan.segments()).isEqualTo(2);
        assertThat(scan.driftK()).isCloseTo(0.4, within(0.03));
    }

    @Test
    void aNudgeStartsASegmentToo() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            frames.add(scene(f < 22 ? 0 : 0.8, 0, 0));
        }
        FrameScan scan = scan(frames);
        assertThat(scan.segment().get(21)).isZero();
        assertThat(scan.segment().get(22)).isEqualTo(1);
    }

    @Test
    void saturationIsCounted() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] frame = scene(0, 0, 0);
            frame[100] = 65535;
            frames.add(frame);
        }
        assertThat(scan(frames).saturatedShare()).isCloseTo(1.0 / (W * H), within(1e-9));
    }

    @Test
    void projectionDropsOffsetsAndKeepsWhatMoves() throws IOException {
        double[][] basis = new double[1][FRAMES];
        for (int f = 0; f < FRAMES; f++) {
            basis[0][f] = (f < FRAMES / 2 ? -1 : 1) / Math.sqrt(FRAMES);
        }
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] frame = scene(0, 0, 0);
            for (int y = 30; y < 40 && f >= FRAMES / 2; y++) {
                for (int x = 30; x < 40; x++) {
                    frame[y * W + x] += 50;
                }
            }
            frames.add(frame);
        }
        FrameScan scan = scan(frames);
        Projection movie = Projection.of(spec, Fixtures.frames(frames), scan, basis, 2);
        assertThat(movie.width()).isEqualTo(W / 2);
        double inside = movie.values()[17 * movie.width() + 17];
        double outside = movie.values()[5 * movie.width() + 40];
        assertThat(inside - outside).isCloseTo(0.5 * Math.sqrt(FRAMES) / 2, within(0.15));
        assertThat(movie.noiseK()).isCloseTo(scan.noiseK() / 2, within(1e-9));
        assertThat(movie.xPx(0)).isEqualTo(0.5);
    }

    @Test
    void pixelsThatStandStillOrBlinkAreFoundAndMended() throws IOException {
        int stuck = 20 * W + 30;
        int blinking = 50 * W + 70;
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] frame = scene(0, 0, 0);
            frame[stuck] = 31_000;
            frame[blinking] += (char) (random.nextBoolean() ? 300 : 0);
            frames.add(frame);
        }
        FrameScan scan = scan(frames);
        assertThat(scan.dead()).containsExactly(stuck, blinking);
        float[] picture = new float[W * H];
        java.util.Arrays.fill(picture, 2);
        picture[stuck] = 99;
        scan.mend(picture, W);
        assertThat(picture[stuck]).isEqualTo(2);
    }

    @Test
    void edgesOfAShakenPictureAreNotDead() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            frames.add(scene(f < 6 ? 0 : 1.4 * Math.sin(f * 0.9), 0, 0));
        }
        assertThat(scan(frames).dead()).isEmpty();
    }

    @Test
    void aFrameIsStilledByItsOwnShift() throws IOException {
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            frames.add(scene(f < 8 ? 0 : 1.3, 0, 0));
        }
        FrameScan shaken = scan(frames);
        float[] kelvin = new float[W * H];
        for (int i = 0; i < kelvin.length; i++) {
            kelvin[i] = (float) spec.kelvin(frames.get(20)[i]);
        }
        float[] baseline = shaken.baseline();
        float[] still = shaken.stilled(spec, 20, kelvin.clone(), new float[W * H]);
        double before = 0;
        double after = 0;
        for (int y = 6; y < H - 6; y++) {
            for (int x = 6; x < W - 6; x++) {
                before += Math.pow(kelvin[y * W + x] - baseline[y * W + x], 2);
                after += Math.pow(still[y * W + x] - baseline[y * W + x], 2);
            }
        }
        assertThat(after).isLessThan(0.3 * before);
        List<char[]> steady = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            steady.add(scene(0, 0, 0));
        }
        assertThat(scan(steady).stilled(spec, 20, kelvin, new float[W * H])).isSameAs(kelvin);
    }
}
