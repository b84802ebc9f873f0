package ohmoscope.core.locate;

import java.util.Arrays;

/**
 * How far the slab model may be off at each pixel: a share of the heat that shows there once what stands still is out,
 * and as large a share of what was taken out with that. Neighbours are off together, so the variance counts as often as
 * there are pixels in reach; a body is off as one.
 */
final class ModelError {
    /** Over this distance uneven copper keeps the model's error alike, mm. */
    private static final double CORRELATION_MM = 2.5;

    /** Heat is smoothed over squares of this many camera pixels. */
    private static final int SMOOTH_PX = 5;

    /** Of what the still pictures take out, about this share is left in, squared: so they are off on bare board. */
    private static final double LEFT_IN = 0.01;

    /** On a body, whose emissivity draws what moves, they are off by so many times as much, squared. */
    private static final double LEFT_IN_ON_BODIES = 16;

    private final Pixels pixels;
    private final int k;
    private final double noiseK;

    /** @param noiseK of a pixel */
    private ModelError(Pixels pixels, int k, double noiseK) {
        this.pixels = pixels;
        this.k = k;
        this.noiseK = noiseK;
    }

    /**
     * Fills the pixels' variances.
     *
     * @param data {@code [component · pixels + pixel]}, kelvin
     * @param cleaned the same without stripes and still pictures
     * @param noiseK of a pixel
     * @param pitchMm of a pixel
     * @param stride how many of the movie's pixels a pixel is, along each side
     */
    static void fill(
            Pixels pixels,
            float[] data,
            float[] cleaned,
            int k,
            double noiseK,
            double pitchMm,
            int stride,
            LocateSettings settings) {
        ModelError error = new ModelError(pixels, k, noiseK);
        float[] energy = error.energy(cleaned, reach(stride));
        float[] removed = new float[data.length];
        for (int i = 0; i < removed.length; i++) {
            removed[i] = data[i] - cleaned[i];
        }
        error.centre(removed);
        float[] still = error.energy(removed, reach(stride));
        double together = Math.max(1, CORRELATION_MM * CORRELATION_MM / (pitchMm * pitchMm));
        double body2 = settings.bodyError() * settings.bodyError();
        for (int p = 0; p < energy.length; p++) {
            double board = pixels.boardError()[p] * pixels.boardError()[p] * together;
            pixels.modelVariance()[p] = (float) ((board + body2 * pixels.patch()[p]) * energy[p]
                    + LEFT_IN * (together + LEFT_IN_ON_BODIES * pixels.patch()[p]) * still[p]);
        }
    }

    private static int reach(int stride) {
        return Math.max(1, SMOOTH_PX / stride / 2);
    }

    private void centre(float[] values) {
        int n = pixels.count();
        for (int j = 0; j < k; j++) {
            float[] sorted = Arrays.copyOfRange(values, j * n, j * n + n);
            Arrays.sort(sorted);
            for (int p = 0; p < n; p++) {
                values[j * n + p] -= sorted[n / 2];
            }
        }
    }

    /** Squared length of the component vector, smoothed, noise taken off; kelvin². */
    private float[] energy(float[] cleaned, int reach) {
        int n = pixels.count();
        float[] energy = new float[n];
        float[] ones = new float[n];
        Arrays.fill(ones, 1);
        double[] counts = integrated(ones, 0);
        for (int j = 0; j < k; j++) {
            double[] sums = integrated(cleaned, j * n);
            for (int p = 0; p < n; p++) {
                double count = box(counts, p, reach);
                double mean = box(sums, p, reach) / count;
                energy[p] += (float) (mean * mean - noiseK * noiseK / count);
            }
        }
        for (int p = 0; p < n; p++) {
            energy[p] = Math.max(0, energy[p]);
        }
        return energy;
    }

    /** Sums over all rows and columns up to a pixel. */
    private double[] integrated(float[] values, int from) {
        int w = pixels.columns() + 1;
        double[] sums = new double[(pixels.rows() + 1) * w];
        for (int p = 0; p < pixels.count(); p++) {
            sums[(pixels.row()[p] + 1) * w + pixels.column()[p] + 1] += values[from + p];
        }
        for (int y = 1; y <= pixels.rows(); y++) {
            double row = 0;
            for (int x = 1; x < w; x++) {
                row += sums[y * w + x];
                sums[y * w + x] = sums[(y - 1) * w + x] + row;
            }
        }
        return sums;
    }

    private double box(double[] sums, int p, int reach) {
        int w = pixels.columns() + 1;
        int left = Math.max(0, pixels.column()[p] - reach);
        int right = Math.min(pixels.columns(), pixels.column()[p] + reach + 1);
        int top = Math.max(0, pixels.row()[p] - reach);
        int bottom = Math.min(pixels.rows(), pixels.row()[p] + reach + 1);
        return sums[bottom * w + right] - sums[top * w + right] - sums[bottom * w + left] + sums[top * w + left];
    }
}
