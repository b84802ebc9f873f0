package ohmoscope.core.locate.capture;

import java.util.stream.IntStream;
import ohmoscope.core.imaging.Projection;

/**
 * Shiny bodies mirror the room, and the room changes while the camera looks: all of them in one time course, each by its
 * own strength, which is made one of the temporal components.
 *
 * @see TemporalRotation
 */
public final class Reflections {
    private static final int REACH = 6;
    private static final int ENOUGH = 40;

    private Reflections() {}

    /** A rotated movie and its basis. */
    public record Turned(Projection movie, double[][] basis) {}

    /** @param patch pixels on the body that covers each pixel, 0 on bare board, negative where the pixel does not count */
    public static Turned turn(Projection movie, double[][] basis, float[] patch) {
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
        double[][] axes = TemporalRotation.axes(TemporalRotation.scatter(contrast, n, k));
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
        return new Turned(rotated, TemporalRotation.turned(axes, basis));
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
}
