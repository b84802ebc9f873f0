package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ResamplerTest {
    private static final int W = 19;
    private static final int H = 13;

    private static float[] picture(long seed) {
        Random random = new Random(seed);
        float[] picture = new float[W * H];
        for (int i = 0; i < picture.length; i++) {
            picture[i] = random.nextFloat();
        }
        return picture;
    }

    private static int inside(int at, int size) {
        return Math.min(size - 1, Math.max(0, at));
    }

    @ParameterizedTest
    @CsvSource({"0,0", "1,0", "0,-1", "-3,2", "7,-5", "18,12", "-40,40", "1000,-1000"})
    void wholePixelsAreMovedAndEdgesRepeat(int dx, int dy) {
        float[] in = picture(3);
        float[] out = new float[in.length];
        Resampler.shifted(in, W, H, dx, dy, out);
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                assertThat(out[y * W + x]).isCloseTo(in[inside(y + dy, H) * W + inside(x + dx, W)], within(1e-6f));
            }
        }
    }

    @ParameterizedTest
    @CsvSource({"0.3,0.7", "-0.6,0.2", "1.4,-2.3", "-6.5,4.25", "30.5,0.5", "-0.01,-0.99"})
    void somePixelsAreMovedLikeAllOfThem(double dx, double dy) {
        float[] in = picture(4);
        float[] whole = new float[in.length];
        Resampler.shifted(in, W, H, dx, dy, whole);
        for (int margin : new int[] {0, 2, 4}) {
            int edge = margin;
            int[] places = IntStream.range(0, in.length)
                    .filter(p -> p % W >= edge && p % W < W - edge && p / W >= edge && p / W < H - edge)
                    .toArray();
            float[] some = new float[places.length];
            Resampler.undoneAt(in, W, H, Motion.shift(dx, dy), places, margin, some);
            for (int i = 0; i < places.length; i++) {
                assertThat(some[i]).isCloseTo(whole[places[i]], within(2e-6f));
            }
        }
    }

    @ParameterizedTest
    @CsvSource({"0,0,0.01", "0.3,-0.8,-0.02", "2.4,1.7,0.005", "-5.5,3.25,0.03"})
    void whatHasTurnedIsTurnedBack(double dx, double dy, double turn) {
        Motion motion = new Motion(dx, dy, turn);
        float[] reference = new float[W * H];
        float[] moved = new float[W * H];
        // A plane: the cubic keeps it, wherever it is read.
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                reference[y * W + x] = 0.3f * x - 0.7f * y;
                // To first order, as the motion itself: where this pixel was in the reference.
                double u = x - dx + turn * (y - dy - Motion.middle(H));
                double v = y - dy - turn * (x - dx - Motion.middle(W));
                moved[y * W + x] = (float) (0.3 * u - 0.7 * v);
            }
        }
        float[] back = new float[W * H];
        Resampler.undone(moved, W, H, motion, back);
        int[] places = IntStream.range(0, W * H)
                .filter(p -> Math.abs(p % W - 9) < 2 && Math.abs(p / W - 6) < 2)
                .toArray();
        float[] some = new float[places.length];
        Resampler.undoneAt(moved, W, H, motion, places, 0, some);
        for (int i = 0; i < places.length; i++) {
            assertThat(back[places[i]]).isCloseTo(reference[places[i]], within(0.012f));
            assertThat(some[i]).isCloseTo(reference[places[i]], within(0.012f));
        }
    }

    @Test
    void turnedEdgesRepeat() {
        float[] flat = new float[W * H];
        Arrays.fill(flat, 3);
        float[] out = new float[W * H];
        Resampler.undone(flat, W, H, new Motion(40, -30, 0.05), out);
        for (float value : out) {
            assertThat(value).isCloseTo(3, within(2e-6f));
        }
    }

    @Test
    void halfAPixelLiesBetweenItsNeighbours() {
        float[] in = new float[W * H];
        for (int i = 0; i < in.length; i++) {
            in[i] = i % W < 9 ? 0 : 1;
        }
        float[] out = new float[in.length];
        Resampler.shifted(in, W, H, 0.5, 0, out);
        assertThat(out[5 * W + 8]).isCloseTo(0.5f, within(1e-6f));
        assertThat(out[5 * W + 4]).isZero();
        assertThat(out[5 * W + 13]).isCloseTo(1, within(1e-6f));
    }
}
