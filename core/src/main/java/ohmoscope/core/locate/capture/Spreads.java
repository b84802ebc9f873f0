package ohmoscope.core.locate.capture;

import java.util.Arrays;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Median;

/**
 * How far pixels without heat scatter, by component: the camera's noise, bodies' changing reflections, and smooth
 * structure of the picture that has nothing to do with the injection. Robust (median absolute deviation).
 *
 * <p>What neighbouring pixels share does not average out. So scatter is measured on means over squares of several
 * sizes, and what exceeds the noise counts as often as the square has pixels.
 */
public final class Spreads {
    private final double noise2;
    private final double[] boardExtra2;
    private final double[] bodyExtra2;

    private Spreads(double noise2, double[] boardExtra2, double[] bodyExtra2) {
        this.noise2 = noise2;
        this.boardExtra2 = boardExtra2;
        this.bodyExtra2 = bodyExtra2;
    }

    public static Spreads none(double noiseK, int k) {
        return new Spreads(noiseK * noiseK, new double[k], new double[k]);
    }

    /**
     * Variance of a pixel, kelvin².
     *
     * @param patch pixels on its body, 0 on bare board
     */
    public double variance(int component, double patch) {
        return noise2 + Math.max(boardExtra2[component], bodyExtra2[component] * patch);
    }

    /**
     * @param residual {@code [component · pixels + pixel]}, kelvin; not modified
     * @param noiseK of a pixel
     * @param scales the same pixels cut into squares
     * @param allowedFor {@code [component · pixels + pixel]}, kelvin²: what bare board may be off by for reasons that are
     *     counted by themselves, such as the heat model's error; where a picture is full of heat most of what is left is that
     */
    public static Spreads of(float[] residual, int k, Pixels pixels, double noiseK, Scales scales, float[] allowedFor) {
        double noise2 = noiseK * noiseK;
        double[] board = new double[k];
        double[] body = new double[k];
        IntStream.range(0, k).parallel().forEach(j -> {
            float[] level = new float[pixels.count()];
            System.arraycopy(residual, j * level.length, level, 0, level.length);
            float[] allowed = Arrays.copyOfRange(allowedFor, j * level.length, (j + 1) * level.length);
            takeMedians(level, pixels.row(), pixels.rows());
            takeMedians(level, pixels.column(), pixels.columns());
            for (Squares squares : scales.onBoard()) {
                board[j] = Math.max(board[j], beyond(level, allowed, squares) - noise2);
            }
            body[j] = Math.max(0, variance(level, scales.onBodies()) - noise2);
        });
        return new Spreads(noise2, board, body);
    }

    /**
     * Robust variance, as a pixel's would have to be were neighbours free of each other, beyond what is allowed for: the
     * median of what each square by itself would say.
     */
    private static double beyond(float[] level, float[] allowed, Squares squares) {
        if (!squares.enough()) {
            return 0;
        }
        float[] means = squares.means(level, 0);
        float[] known = squares.means(allowed, 0);
        float middle = Median.of(means.clone(), means.length);
        double pixels = squares.side() * squares.side();
        for (int i = 0; i < means.length; i++) {
            means[i] = (float) (Math.pow(Median.NORMAL * (means[i] - middle), 2) * pixels - known[i]);
        }
        return Median.of(means, means.length);
    }

    /** Robust variance of the means over squares. */
    private static double variance(float[] level, Squares squares) {
        if (!squares.enough()) {
            return 0;
        }
        float[] means = squares.means(level, 0);
        return Math.pow(Median.spread(means, means.length), 2);
    }

    private static void takeMedians(float[] level, int[] line, int lines) {
        int[] start = new int[lines + 1];
        for (int l : line) {
            start[l + 1]++;
        }
        for (int l = 0; l < lines; l++) {
            start[l + 1] += start[l];
        }
        float[] sorted = new float[level.length];
        int[] next = start.clone();
        for (int p = 0; p < level.length; p++) {
            sorted[next[line[p]]++] = level[p];
        }
        float[] median = new float[lines];
        for (int l = 0; l < lines; l++) {
            median[l] = Median.of(sorted, start[l], start[l + 1]);
        }
        for (int p = 0; p < level.length; p++) {
            level[p] -= median[line[p]];
        }
    }
}
