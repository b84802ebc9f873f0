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

class MotionEstimatorTest {
    private static final int W = 90;
    private static final int H = 70;
    private final Random random = new Random(11);

    /** Soft hills all over the picture, moved to the right and down, with noise. */
    private float[] scene(double dx, double dy, double noise) {
        return scene(Motion.shift(dx, dy), noise);
    }

    private float[] scene(Motion motion, double noise) {
        float[] picture = new float[W * H];
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                double value = 0;
                for (int i = 0; i < 9; i++) {
                    double u = x - motion.xOf(8 + 9.3 * i, 10 + (31 * i) % 53, H);
                    double v = y - motion.yOf(8 + 9.3 * i, 10 + (31 * i) % 53, W);
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
        MotionEstimator estimator = new MotionEstimator(scene(0, 0, 0.02), W, H);
        Motion motion = estimator.motion(scene(dx, dy, 0.02));
        assertThat(motion.xPx()).isCloseTo(dx, within(0.05));
        assertThat(motion.yPx()).isCloseTo(dy, within(0.05));
    }

    @ParameterizedTest
    @CsvSource({"0,0,0.005", "0.4,-0.7,-0.004", "1.6,0.8,0.012", "-5.2,4.6,-0.02"})
    void aTurnIsFoundToAHundredthOfADegreeOrSo(double dx, double dy, double turn) {
        MotionEstimator estimator = new MotionEstimator(scene(0, 0, 0.02), W, H);
        Motion found = estimator.motion(scene(new Motion(dx, dy, turn), 0.02));
        assertThat(found.turn()).isCloseTo(turn, within(0.0005));
        assertThat(found.xPx()).isCloseTo(dx, within(0.06));
        assertThat(found.yPx()).isCloseTo(dy, within(0.06));
    }

    @Test
    void withoutATurnNoneIsMadeOfNoiseOrOfWarmth() {
        MotionEstimator estimator = new MotionEstimator(scene(0, 0, 0.02), W, H);
        for (int f = 0; f < 30; f++) {
            float[] frame = scene(0.3 * Math.sin(f), 0.2, 0.02);
            for (int i = 0; i < frame.length; i++) {
                double r2 = Math.pow(i % W - 20, 2) + Math.pow(i / W - 50, 2);
                frame[i] += (float) (0.02 * f * Math.exp(-r2 / 120));
            }
            assertThat(estimator.motion(frame).turn()).as("frame %s", f).isZero();
        }
    }

    @Test
    void aCommonLevelIsNoShift() {
        MotionEstimator estimator = new MotionEstimator(scene(0, 0, 0), W, H);
        float[] warmer = scene(0.5, 0, 0);
        for (int i = 0; i < warmer.length; i++) {
            warmer[i] += 3;
        }
        assertThat(estimator.motion(warmer).xPx()).isCloseTo(0.5, within(0.02));
    }

    @Test
    void aFeaturelessPictureIsNotMovedAboutByItsNoise() {
        float[] flat = new float[W * H];
        Arrays.fill(flat, 295);
        MotionEstimator estimator = new MotionEstimator(noisy(flat), W, H);
        double most = 0;
        for (int f = 0; f < 20; f++) {
            Motion motion = estimator.motion(noisy(flat));
            most = Math.max(most, motion.sizePx(W, H));
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
        MotionEstimator plain = new MotionEstimator(frames.get(0), W, H);
        MotionEstimator ahead = new MotionEstimator(frames.get(0), W, H);
        List<MotionEstimator.Settled> settled =
                frames.parallelStream().map(ahead::fromStill).toList();
        for (int f = 0; f < frames.size(); f++) {
            int at = f;
            assertThat(ahead.motion(frames.get(f), () -> settled.get(at))).isEqualTo(plain.motion(frames.get(f)));
        }
    }

    @Test
    void onceTheCameraHasMovedTheFrameBeforeIsTheStart() {
        MotionEstimator estimator = new MotionEstimator(scene(0, 0, 0.02), W, H);
        assertThat(estimator.still()).isTrue();
        estimator.motion(scene(2, 0, 0.02));
        assertThat(estimator.still()).isFalse();
        Motion motion = estimator.motion(scene(2.3, 0, 0.02), () -> {
            throw new AssertionError("a moving picture does not start from nothing");
        });
        assertThat(motion.xPx()).isCloseTo(2.3, within(0.05));
        estimator.motion(scene(0.1, 0, 0.02));
        assertThat(estimator.still()).isTrue();
    }
}
