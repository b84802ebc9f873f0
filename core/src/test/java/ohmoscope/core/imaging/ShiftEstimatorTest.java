package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShiftEstimatorTest {
    private static final int W = 90;
    private static final int H = 70;
    private final Random random = new Random(11);

    /** Soft hills all over the picture, moved to the right and down, with noise. */
    private float[] scene(double dx, double dy, double noise) {
        float[] picture = new float[W * H];
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                double value = 0;
                for (int i = 0; i < 9; i++) {
                    double u = x - dx - (8 + 9.3 * i);
                    double v = y - dy - (10 + (31 * i) % 53);
                    value += (1 + i % 3) * Math.exp(-(u * u + v * v) / 18);
                }
                picture[y * W + x] = (float) (295 + value + noise * random.nextGaussian());
            }
        }
        return picture;
    }

    @ParameterizedTest
    @CsvSource({"0,0", "0.31,-0.22", "1.4,0.9", "-3.2,2.6", "7.5,-6.1"})
    void aShiftIsFoundToAFewHundredthsOfAPixel(double dx, double dy) {
        ShiftEstimator estimator = new ShiftEstimator(scene(0, 0, 0.02), W, H);
        double[] shift = estimator.shift(scene(dx, dy, 0.02));
        assertThat(shift[0]).isCloseTo(dx, within(0.05));
        assertThat(shift[1]).isCloseTo(dy, within(0.05));
    }

    @Test
    void aCommonLevelIsNoShift() {
        ShiftEstimator estimator = new ShiftEstimator(scene(0, 0, 0), W, H);
        float[] warmer = scene(0.5, 0, 0);
        for (int i = 0; i < warmer.length; i++) {
            warmer[i] += 3;
        }
        assertThat(estimator.shift(warmer)[0]).isCloseTo(0.5, within(0.02));
    }

    @Test
    void aFeaturelessPictureIsNotMovedAboutByItsNoise() {
        float[] flat = new float[W * H];
        Arrays.fill(flat, 295);
        ShiftEstimator estimator = new ShiftEstimator(noisy(flat), W, H);
        double most = 0;
        for (int f = 0; f < 20; f++) {
            double[] shift = estimator.shift(noisy(flat));
            most = Math.max(most, Math.hypot(shift[0], shift[1]));
        }
        assertThat(most).isLessThan(0.75);
    }

    private float[] noisy(float[] picture) {
        float[] noisy = picture.clone();
        for (int i = 0; i < noisy.length; i++) {
            noisy[i] += (float) (0.05 * random.nextGaussian());
        }
        return noisy;
    }

    @Test
    void askedBeforehandOrAtTheTimeTheAnswerIsTheSame() {
        List<float[]> frames = IntStream.range(0, 12)
                .mapToObj(f -> scene(0.3 * Math.sin(f), 0.2 * Math.cos(f), 0.02))
                .toList();
        ShiftEstimator plain = new ShiftEstimator(frames.get(0), W, H);
        ShiftEstimator ahead = new ShiftEstimator(frames.get(0), W, H);
        List<ShiftEstimator.Settled> settled =
                frames.parallelStream().map(ahead::fromStill).toList();
        for (int f = 0; f < frames.size(); f++) {
            int at = f;
            assertThat(ahead.shift(frames.get(f), () -> settled.get(at))).isEqualTo(plain.shift(frames.get(f)));
        }
    }

    @Test
    void onceTheCameraHasMovedTheFrameBeforeIsTheStart() {
        ShiftEstimator estimator = new ShiftEstimator(scene(0, 0, 0.02), W, H);
        assertThat(estimator.still()).isTrue();
        estimator.shift(scene(2, 0, 0.02));
        assertThat(estimator.still()).isFalse();
        double[] shift = estimator.shift(scene(2.3, 0, 0.02), () -> {
            throw new AssertionError("a moving picture does not start from nothing");
        });
        assertThat(shift[0]).isCloseTo(2.3, within(0.05));
        estimator.shift(scene(0.1, 0, 0.02));
        assertThat(estimator.still()).isTrue();
    }
}
