package ohmoscope.core.locate.capture;

import org.ejml.simple.SimpleEVD;
import org.ejml.simple.SimpleMatrix;

/**
 * Time courses as mixtures of temporal components. What moves by itself while the camera looks (the room's mirror image
 * on shiny bodies, a board that is not at rest) does so in one or two courses all over the picture: turning the
 * components so that each such course becomes one of them lets the weights drop it and keep the rest. Nothing is lost by
 * turning.
 */
public final class TemporalRotation {
    private static final int ROUNDS = 3;
    private static final double LEAST = 1e-9;

    private TemporalRotation() {}

    /**
     * The courses in which what a fit leaves unexplained moves; orthonormal, in no order that matters.
     *
     * @param residual {@code [component · pixels + pixel]}, kelvin; not modified
     * @param scales the same pixels cut into squares
     * @return one a row, in components
     */
    public static double[][] of(float[] residual, int k, Pixels pixels, Scales scales) {
        SimpleMatrix sum = SimpleMatrix.identity(k).scale(LEAST);
        for (Squares squares : scales.coarse()) {
            // As a pixel's variance would have to be, were neighbours free of each other.
            sum = added(sum, squares, residual, k, squares.side() * squares.side());
        }
        Squares onBodies = scales.onBodies();
        double patch = 0;
        for (int p = 0; p < pixels.count(); p++) {
            patch += pixels.patch()[p];
        }
        return axes(added(sum, onBodies, residual, k, patch / Math.max(1, onBodies.count())));
    }

    private static SimpleMatrix added(SimpleMatrix sum, Squares squares, float[] residual, int k, double by) {
        if (!squares.enough()) {
            return sum;
        }
        int n = squares.of().length;
        float[] vectors = new float[squares.count() * k];
        for (int j = 0; j < k; j++) {
            float[] means = squares.means(residual, j * n);
            for (int i = 0; i < means.length; i++) {
                vectors[i * k + j] = means[i];
            }
        }
        return sum.plus(scatter(vectors, squares.count(), k).scale(by));
    }

    /**
     * A scatter in which far points count little (a few rounds of Cauchy weights).
     *
     * @param vectors {@code [i · k + component]}, the first {@code n} of them
     */
    public static SimpleMatrix scatter(float[] vectors, int n, int k) {
        SimpleMatrix scatter = SimpleMatrix.identity(k);
        for (int round = 0; round < ROUNDS; round++) {
            double[] inverse = scatter.plus(SimpleMatrix.identity(k).scale(LEAST))
                    .invert()
                    .getDDRM()
                    .getData();
            double[] next = new double[k * k];
            double total = 0;
            for (int i = 0; i < n; i++) {
                double distance = 0;
                for (int a = 0; a < k; a++) {
                    double along = 0;
                    for (int b = 0; b < k; b++) {
                        along += inverse[a * k + b] * vectors[i * k + b];
                    }
                    distance += along * vectors[i * k + a];
                }
                double weight = round == 0 ? 1 : 1 / (1 + distance / k);
                total += weight;
                for (int a = 0; a < k; a++) {
                    double by = weight * vectors[i * k + a];
                    for (int b = 0; b < k; b++) {
                        next[a * k + b] += by * vectors[i * k + b];
                    }
                }
            }
            scatter = new SimpleMatrix(k, k, true, next).divide(total);
        }
        return scatter;
    }

    /** Principal axes, one a row. */
    public static double[][] axes(SimpleMatrix scatter) {
        SimpleEVD<SimpleMatrix> eigen = scatter.eig();
        double[][] axes = new double[scatter.getNumRows()][];
        for (int a = 0; a < axes.length; a++) {
            axes[a] = eigen.getEigenVector(a).getDDRM().getData();
        }
        return axes;
    }

    /** A temporal basis in turned components. @param basis row j: weights of the times in component j */
    public static double[][] turned(double[][] axes, double[][] basis) {
        double[][] turned = new double[axes.length][basis[0].length];
        for (int a = 0; a < axes.length; a++) {
            for (int j = 0; j < basis.length; j++) {
                for (int f = 0; f < basis[j].length; f++) {
                    turned[a][f] += axes[a][j] * basis[j][f];
                }
            }
        }
        return turned;
    }

    /** Pictures in turned components. @param values {@code [component · pixels + pixel]} */
    public static float[] turned(double[][] axes, float[] values) {
        int k = axes.length;
        int n = values.length / k;
        float[] turned = new float[values.length];
        for (int a = 0; a < k; a++) {
            for (int j = 0; j < k; j++) {
                float by = (float) axes[a][j];
                for (int p = 0; p < n; p++) {
                    turned[a * n + p] += by * values[j * n + p];
                }
            }
        }
        return turned;
    }
}
