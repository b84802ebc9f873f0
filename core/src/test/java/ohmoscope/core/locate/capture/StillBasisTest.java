package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import ohmoscope.core.imaging.Projection;
import org.junit.jupiter.api.Test;

class StillBasisTest {
    private static final int W = 24;
    private static final int H = 18;
    private static final int K = 3;

    /** A scene with a bright body, as a camera sees it before the power. */
    private static float[] scene() {
        float[] scene = new float[W * H];
        for (int i = 0; i < scene.length; i++) {
            boolean body = i % W > 7 && i % W < 13 && i / W > 4 && i / W < 10;
            scene[i] = (float) (295 + (body ? 2 : 0) + 0.3 * Math.sin(i % W / 4.0));
        }
        return scene;
    }

    private static Projection still() {
        return new Projection(W, H, 1, K, new float[W * H * K], 0.05);
    }

    /** Nothing is known of any picture's strength. */
    private static StillBasis free(float[][] pictures, float[] weight) {
        double[] sigma = new double[pictures.length];
        Arrays.fill(sigma, Double.POSITIVE_INFINITY);
        return new StillBasis(pictures, sigma, weight, K, values -> {});
    }

    private static float[] weights(long seed) {
        float[] weight = new float[W * H * K];
        Random random = new Random(seed);
        for (int i = 0; i < weight.length; i++) {
            weight[i] = 0.5f + random.nextFloat();
        }
        return weight;
    }

    private static double size(float[] values) {
        double sum = 0;
        for (float v : values) {
            sum += (double) v * v;
        }
        return Math.sqrt(sum);
    }

    @Test
    void aShiftedSceneIsTakenOutWhole() {
        float[] scene = scene();
        float[][] pictures = StillPictures.of(scene, W, still(), Optional.empty());
        StillBasis basis = free(pictures, weights(1));
        // What a move by a tenth of a pixel adds: slope times the move, differently in each component.
        float[] moved = new float[W * H * K];
        for (int p = 0; p < W * H; p++) {
            for (int j = 0; j < K; j++) {
                moved[j * W * H + p] =
                        (j + 1) * (0.1f * pictures[0][p] - 0.05f * pictures[1][p]) + 0.2f * pictures[4][p];
            }
        }
        double before = size(moved);
        basis.takeOut(moved);
        assertThat(size(moved)).isLessThan(1e-3 * before);
    }

    @Test
    void takingOutTwiceIsTakingOutOnce() {
        StillBasis basis = free(StillPictures.of(scene(), W, still(), Optional.empty()), weights(2));
        float[] values = new float[W * H * K];
        Random random = new Random(3);
        for (int i = 0; i < values.length; i++) {
            values[i] = (float) random.nextGaussian();
        }
        basis.takeOut(values);
        float[] once = values.clone();
        basis.takeOut(values);
        for (int i = 0; i < values.length; i++) {
            assertThat(values[i]).isCloseTo(once[i], within(1e-4f));
        }
        float[] weighted = weights(2);
        for (int i = 0; i < weighted.length; i++) {
            weighted[i] *= once[i];
        }
        for (float share : basis.shares(weighted)) {
            assertThat(share).isCloseTo(0, within(1e-3f));
        }
    }

    @Test
    void aSpotIsMostlyLeft() {
        StillBasis basis = free(StillPictures.of(scene(), W, still(), Optional.empty()), weights(4));
        float[] spot = new float[W * H * K];
        for (int p = 0; p < W * H; p++) {
            double r2 = Math.pow(p % W - 17, 2) + Math.pow(p / W - 12, 2);
            for (int j = 0; j < K; j++) {
                spot[j * W * H + p] = (float) Math.exp(-r2 / 4);
            }
        }
        double before = size(spot);
        basis.takeOut(spot);
        assertThat(size(spot)).isGreaterThan(0.75 * before);
    }

    @Test
    void aPictureThatIsFaintBeforehandIsTakenOutInPart() {
        float[] picture = StillPictures.of(scene(), W, still(), Optional.empty())[7];
        double square = size(picture) * size(picture);
        // As strong beforehand as the frames tell it: half of it is believed.
        double[] sigma = {1 / Math.sqrt(square)};
        float[] ones = new float[W * H * K];
        Arrays.fill(ones, 1);
        StillBasis basis = new StillBasis(new float[][] {picture}, sigma, ones, K, values -> {});
        float[] values = new float[W * H * K];
        System.arraycopy(picture, 0, values, W * H, W * H);
        float share = basis.shares(values)[1];
        basis.takeOut(values);
        assertThat(size(values)).isCloseTo(0.5 * Math.sqrt(square), within(1e-4 * Math.sqrt(square)));
        // Products allow for the same: what is left of the picture's square.
        assertThat(square - share * share).isCloseTo(0.5 * square, within(1e-4 * square));
    }

    /** Held pictures that overlap, with free ones before and after: the answer is that of the most likely strengths. */
    @Test
    void heldPicturesAreWeighedTogether() {
        float[][] all = StillPictures.of(scene(), W, still(), Optional.empty());
        float[] overlapping = all[7].clone();
        for (int i = 0; i < overlapping.length; i++) {
            overlapping[i] += 0.7f * all[10][i] + 0.5f * all[4][i];
        }
        float[][] pictures = {all[7], overlapping, all[10], all[4]};
        double[] sigma = {0.1, 0.2, 0.15, Double.POSITIVE_INFINITY};
        float[] weight = weights(7);
        StillBasis basis = new StillBasis(pictures, sigma, weight, K, values -> {});
        float[] values = new float[W * H * K];
        Random random = new Random(8);
        for (int i = 0; i < values.length; i++) {
            values[i] = pictures[1][i % (W * H)] + 0.3f * (float) random.nextGaussian();
        }
        float[] left = values.clone();
        basis.takeOut(left);
        // Strengths of least squares with the priors: each is its prior's square times its product with what is left.
        double[] taken = new double[W * H];
        for (int p = 0; p < taken.length; p++) {
            taken[p] = values[p] - left[p];
        }
        for (int m = 0; m < 3; m++) {
            double strength = 0;
            for (int p = 0; p < taken.length; p++) {
                strength += sigma[m] * sigma[m] * weight[p] * pictures[m][p] * left[p];
            }
            assertThat(Math.abs(strength)).isGreaterThan(0.003);
            for (int p = 0; p < taken.length; p++) {
                taken[p] -= strength * pictures[m][p];
            }
        }
        double free = taken[W * 7 + 10] / pictures[3][W * 7 + 10];
        double agreement = 0;
        for (int p = 0; p < taken.length; p++) {
            assertThat(taken[p]).isCloseTo(free * pictures[3][p], within(2e-4));
            agreement += weight[p] * pictures[3][p] * left[p];
        }
        assertThat(agreement).isCloseTo(0, within(1e-2));
        // Products say the same of the square.
        float[] weighted = weight.clone();
        double whole = 0;
        double square = 0;
        for (int i = 0; i < weighted.length; i++) {
            weighted[i] *= values[i];
            whole += weighted[i] * values[i];
            square += weighted[i] * left[i];
        }
        for (float share : basis.shares(weighted)) {
            whole -= share * share;
        }
        assertThat(whole).isCloseTo(square, within(1e-4 * square));
    }

    @Test
    void onlyTheRoomsOwnShapesAreFaintBeforehand() {
        double[] sigma = StillPictures.sigma(17, 400);
        assertThat(sigma).hasSize(17);
        for (int m = 0; m < 17; m++) {
            if (m >= 7 && m < 16) {
                assertThat(sigma[m]).isCloseTo(2 * StillPictures.sigma(17, 100)[m], within(1e-12));
            } else {
                assertThat(sigma[m]).isInfinite();
            }
        }
    }

    @Test
    void aLeadIsAPictureOfItsOwn() {
        WireFinder.Wire wire = new WireFinder.Wire(4, 4, 1, 0, 1.6, 0.3, false);
        float[][] pictures = StillPictures.of(scene(), W, still(), Optional.of(wire));
        assertThat(pictures).hasDimensions(17, W * H);
        float[] line = pictures[16];
        assertThat(line[4 * W + 15]).isEqualTo(1);
        assertThat(line[4 * W]).isZero();
        assertThat(line[12 * W + 15]).isLessThan(1e-3f);
        assertThat(wire.hides(15, 4)).isFalse();
    }

    @Test
    void withoutPicturesNothingIsTaken() {
        StillBasis basis = free(new float[0][], weights(5));
        float[] values = weights(6);
        float[] before = values.clone();
        basis.takeOut(values);
        assertThat(values).isEqualTo(before);
    }
}
