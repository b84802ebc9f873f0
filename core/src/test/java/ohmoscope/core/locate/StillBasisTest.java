package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
        StillBasis basis = new StillBasis(pictures, weights(1), K, values -> {});
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
        StillBasis basis =
                new StillBasis(StillPictures.of(scene(), W, still(), Optional.empty()), weights(2), K, values -> {});
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
        StillBasis basis =
                new StillBasis(StillPictures.of(scene(), W, still(), Optional.empty()), weights(4), K, values -> {});
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
        StillBasis basis = new StillBasis(new float[0][], weights(5), K, values -> {});
        float[] values = weights(6);
        float[] before = values.clone();
        basis.takeOut(values);
        assertThat(values).isEqualTo(before);
    }
}
