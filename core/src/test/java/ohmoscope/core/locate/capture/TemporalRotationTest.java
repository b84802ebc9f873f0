package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import ohmoscope.core.locate.Grids;
import org.ejml.simple.SimpleMatrix;
import org.junit.jupiter.api.Test;

class TemporalRotationTest {
    private static final int K = 4;
    private static final double[] DRIFT = {0.5, -0.5, 0.5, 0.5};

    /** Noise of one, and a board that is not at rest: broad waves, all in one course. */
    private static float[] residual(Pixels pixels, double size) {
        Random random = new Random(3);
        float[] residual = new float[K * pixels.count()];
        for (int p = 0; p < pixels.count(); p++) {
            double wave = size * Math.sin(pixels.xMm()[p] / 6.0) * Math.cos(pixels.yMm()[p] / 9.0);
            for (int j = 0; j < K; j++) {
                residual[j * pixels.count() + p] = (float) (random.nextGaussian() + DRIFT[j] * wave);
            }
        }
        return residual;
    }

    private static double along(double[] axis, double[] course) {
        double sum = 0;
        for (int j = 0; j < axis.length; j++) {
            sum += axis[j] * course[j];
        }
        return Math.abs(sum);
    }

    private static double most(double[][] axes, double[] course) {
        double most = 0;
        for (double[] axis : axes) {
            most = Math.max(most, along(axis, course));
        }
        return most;
    }

    @Test
    void whatMovesAllOverThePictureBecomesOneComponent() {
        Pixels pixels = Grids.of(80, 100, 1, 0);
        double[][] axes = TemporalRotation.of(residual(pixels, 1), K, pixels, Scales.of(pixels, 1));
        assertThat(most(axes, DRIFT)).isGreaterThan(0.99);
    }

    @Test
    void whatBodiesMirrorBecomesOneToo() {
        Pixels pixels = Grids.of(80, 100, 1, 0);
        double[] mirrored = {0, 0.8, 0, 0.6};
        float[] residual = residual(pixels, 0);
        for (int p = 0; p < pixels.count(); p += 3) {
            pixels.patch()[p] = 6;
            double strength = 2 * Math.sin(p);
            for (int j = 0; j < K; j++) {
                residual[j * pixels.count() + p] += (float) (mirrored[j] * strength);
            }
        }
        assertThat(most(TemporalRotation.of(residual, K, pixels, Scales.of(pixels, 1)), mirrored))
                .isGreaterThan(0.98);
    }

    @Test
    void nothingIsLostByTurning() {
        Pixels pixels = Grids.of(30, 40, 1, 0);
        float[] residual = residual(pixels, 1);
        double[][] axes = TemporalRotation.of(residual, K, pixels, Scales.of(pixels, 1));
        for (int a = 0; a < K; a++) {
            for (int b = 0; b <= a; b++) {
                assertThat(along(axes[a], axes[b])).isCloseTo(a == b ? 1 : 0, within(1e-6));
            }
        }
        float[] turned = TemporalRotation.turned(axes, residual);
        for (int p = 0; p < pixels.count(); p += 7) {
            double before = 0;
            double after = 0;
            for (int j = 0; j < K; j++) {
                before += Math.pow(residual[j * pixels.count() + p], 2);
                after += Math.pow(turned[j * pixels.count() + p], 2);
            }
            assertThat(after).isCloseTo(before, within(1e-4 * before));
        }
    }

    @Test
    void picturesAndTheirTimesTurnAlike() {
        double[][] axes = {{0.6, 0.8}, {-0.8, 0.6}};
        double[][] basis = {{1, 0, 2}, {0, 3, 1}};
        double[][] turned = TemporalRotation.turned(axes, basis);
        assertThat(turned[0]).containsExactly(new double[] {0.6, 2.4, 2}, within(1e-12));
        // One pixel whose components are the basis' weights of the last time.
        assertThat(TemporalRotation.turned(axes, new float[] {2, 1}))
                .containsExactly((float) turned[0][2], (float) turned[1][2]);
    }

    @Test
    void farVectorsCountLittle() {
        float[] vectors = new float[2 * 400];
        Random random = new Random(5);
        for (int i = 0; i < 400; i++) {
            boolean far = i % 40 == 0;
            vectors[2 * i] = (float) (random.nextGaussian() * (far ? 0.1 : 1));
            vectors[2 * i + 1] = (float) (random.nextGaussian() * 0.2 + (far ? 30 : 0));
        }
        SimpleMatrix scatter = TemporalRotation.scatter(vectors, 400, 2);
        assertThat(scatter.get(1, 1)).isLessThan(scatter.get(0, 0));
    }
}
