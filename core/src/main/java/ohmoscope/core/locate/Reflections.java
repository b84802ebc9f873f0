package ohmoscope.core.locate;

import java.util.stream.IntStream;
import ohmoscope.core.imaging.Projection;
import org.ejml.simple.SimpleEVD;
import org.ejml.simple.SimpleMatrix;

/**
 * Shiny bodies mirror the room, and the room changes while the camera looks: all of them in one time course, each by its
 * own strength. Turning the temporal components so that this course is one of them lets the weights drop it and keep the
 * rest.
 */
final class Reflections {
    private static final int REACH = 6;
    private static final int ROUNDS = 3;
    private static final int ENOUGH = 40;

    private Reflections() {}

    /** A rotated movie and its basis. */
    record Turned(Projection movie, double[][] basis) {}

    /** @param patch pixels on the body that covers each pixel, 0 on bare board, negative where the pixel does not count */
    static Turned turn(Projection movie, double[][] basis, float[] patch) {
        int k = movie.components();
        int w = movie.width();
        float[] contrast = new float[movie.values().length];
        int n = 0;
        for (int p = 0; p < patch.length; p++) {
            if (patch[p] > 0 && surroundings(movie, patch, p % w, p / w, contrast, n * k)) {
                n++;
            }
        }
        if (n < ENOUGH) {
            return new Turned(movie, basis);
        }
        double[][] axes = axes(contrast, n, k);
        double[][] turned = new double[k][basis[0].length];
        for (int a = 0; a < k; a++) {
            for (int j = 0; j < k; j++) {
                for (int f = 0; f < basis[0].length; f++) {
                    turned[a][f] += axes[a][j] * basis[j][f];
                }
            }
        }
        float[] values = new float[movie.values().length];
        IntStream.range(0, patch.length).parallel().forEach(p -> {
            for (int a = 0; a < k; a++) {
                float sum = 0;
                for (int j = 0; j < k; j++) {
                    sum += (float) axes[a][j] * movie.values()[p * k + j];
                }
                values[p * k + a] = sum;
            }
        });
        Projection rotated = new Projection(movie.width(), movie.height(), movie.binPx(), k, values, movie.noiseK());
        return new Turned(rotated, turned);
    }

    /** The pixel less the mean of the bare board round it; false when there is too little of that. */
    private static boolean surroundings(Projection movie, float[] patch, int x, int y, float[] out, int offset) {
        int k = movie.components();
        int w = movie.width();
        int h = movie.height();
        double[] sum = new double[k];
        int count = 0;
        for (int yy = Math.max(0, y - REACH); yy <= Math.min(h - 1, y + REACH); yy += 2) {
            for (int xx = Math.max(0, x - REACH); xx <= Math.min(w - 1, x + REACH); xx += 2) {
                if (patch[yy * w + xx] == 0) {
                    for (int j = 0; j < k; j++) {
                        sum[j] += movie.values()[(yy * w + xx) * k + j];
                    }
                    count++;
                }
            }
        }
        for (int j = 0; j < k && count > 4; j++) {
            out[offset + j] = (float) (movie.values()[(y * w + x) * k + j] - sum[j] / count);
        }
        return count > 4;
    }

    /** Principal axes, one a row, of a scatter in which far points count little (a few rounds of Cauchy weights). */
    private static double[][] axes(float[] contrast, int n, int k) {
        SimpleMatrix scatter = SimpleMatrix.identity(k);
        for (int round = 0; round < ROUNDS; round++) {
            double[] inverse = scatter.plus(SimpleMatrix.identity(k).scale(1e-9))
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
                        along += inverse[a * k + b] * contrast[i * k + b];
                    }
                    distance += along * contrast[i * k + a];
                }
                double weight = round == 0 ? 1 : 1 / (1 + distance / k);
                total += weight;
                for (int a = 0; a < k; a++) {
                    double by = weight * contrast[i * k + a];
                    for (int b = 0; b < k; b++) {
                        next[a * k + b] += by * contrast[i * k + b];
                    }
                }
            }
            scatter = new SimpleMatrix(k, k, true, next).divide(total);
        }
        SimpleEVD<SimpleMatrix> eigen = scatter.eig();
        double[][] axes = new double[k][];
        for (int a = 0; a < k; a++) {
            axes[a] = eigen.getEigenVector(a).getDDRM().getData();
        }
        return axes;
    }
}
