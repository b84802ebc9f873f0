package ohmoscope.core.locate.model;

import java.util.Arrays;
import java.util.stream.IntStream;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.numeric.Median;

/**
 * How far the slab model may be off at each pixel: a share of the heat that shows there once what stands still is out;
 * and in each component a share of what was taken out of it with that. Neighbours are off together, so the variance
 * counts as often as there are pixels in reach; a body is off as one.
 */
public final class ModelError {
    /** Over this distance uneven copper keeps the model's error alike, mm. */
    private static final double CORRELATION_MM = 2.5;

    /** Heat is smoothed over squares of this many camera pixels. */
    private static final int SMOOTH_PX = 5;

    /** Of what the still pictures take out, about this share is left in, squared: so they are off on bare board. */
    public static final double LEFT_IN = 0.08;

    /** While nothing has been explained, much of what they take out is heat. */
    public static final double LEFT_IN_AT_FIRST = 0.02;

    /** On a body, whose emissivity draws what moves, they are off by so many times as much, squared. */
    private static final double LEFT_IN_ON_BODIES = 2;

    /**
     * At this distance from the source the model is off as much as the settings say, mm; relative to the heat there its
     * error grows with the distance, as that of any path through uneven copper does.
     */
    private static final double SETTLED_MM = 8;

    /** Limits of what that does to the error, squared. */
    private static final double LEAST_GROWTH = 0.1;

    private static final double MOST_GROWTH = 10;

    private final Pixels pixels;
    private final double noiseK;
    private final double[] counts;

    /** @param noiseK of a pixel */
    private ModelError(Pixels pixels, double noiseK) {
        this.pixels = pixels;
        this.noiseK = noiseK;
        float[] ones = new float[pixels.count()];
        Arrays.fill(ones, 1);
        counts = integrated(ones, 0);
    }

    /**
     * Fills the pixels' variances with the model's error.
     *
     * @param cleaned {@code [component · pixels + pixel]}, kelvin, without stripes and still pictures
     * @param noiseK of a pixel
     * @param pitchMm of a pixel
     * @param stride how many of the movie's pixels a pixel is, along each side
     */
    public static void fill(
            Pixels pixels, float[] cleaned, int k, double noiseK, double pitchMm, int stride, LocateSettings settings) {
        float[] energy = new float[pixels.count()];
        ModelError error = new ModelError(pixels, noiseK);
        for (int j = 0; j < k; j++) {
            error.addEnergy(cleaned, j * energy.length, reach(stride), energy);
        }
        double together = together(pitchMm);
        double body2 = settings.bodyError() * settings.bodyError();
        for (int p = 0; p < energy.length; p++) {
            double board = pixels.boardError()[p] * pixels.boardError()[p] * together;
            pixels.modelVariance()[p] = (float) ((board + body2 * pixels.patch()[p]) * Math.max(0, energy[p]));
        }
    }

    /** The pixels' variances by the model's error once it is known where the heat starts, kelvin². */
    public static float[] round(Pixels pixels, HeatSource source) {
        float[] variance = pixels.modelVariance().clone();
        for (int p = 0; p < variance.length; p++) {
            double x = pixels.xMm()[p] - source.xMm();
            double y = pixels.yMm()[p] - source.yMm();
            double growth = (x * x + y * y) / (SETTLED_MM * SETTLED_MM);
            variance[p] *= (float) Math.max(LEAST_GROWTH, Math.min(MOST_GROWTH, growth));
        }
        return variance;
    }

    /**
     * What the still pictures leave in of what they took out, by component: as much as they took out there.
     *
     * @param removed {@code [component · pixels + pixel]}, kelvin: what they and the stripes took out
     * @return variances, kelvin², the same shape
     */
    public static float[] leftIn(
            Pixels pixels, float[] removed, double share, int k, double noiseK, double pitchMm, int stride) {
        int n = pixels.count();
        ModelError error = new ModelError(pixels, noiseK);
        double together = together(pitchMm);
        float[] left = new float[k * n];
        IntStream.range(0, k).parallel().forEach(j -> {
            float[] own = Arrays.copyOfRange(removed, j * n, j * n + n);
            centre(own);
            float[] energy = new float[n];
            error.addEnergy(own, 0, reach(stride), energy);
            for (int p = 0; p < n; p++) {
                left[j * n + p] =
                        (float) (share * (together + LEFT_IN_ON_BODIES * pixels.patch()[p]) * Math.max(0, energy[p]));
            }
        });
        return left;
    }

    private static double together(double pitchMm) {
        return Math.max(1, CORRELATION_MM * CORRELATION_MM / (pitchMm * pitchMm));
    }

    private static int reach(int stride) {
        return Math.max(1, SMOOTH_PX / stride / 2);
    }

    private static void centre(float[] values) {
        float median = Median.of(values.clone(), values.length);
        for (int p = 0; p < values.length; p++) {
            values[p] -= median;
        }
    }

    /** Adds a component's square, smoothed, noise taken off; kelvin². */
    private void addEnergy(float[] values, int from, int reach, float[] energy) {
        double[] sums = integrated(values, from);
        for (int p = 0; p < energy.length; p++) {
            double count = box(counts, p, reach);
            double mean = box(sums, p, reach) / count;
            energy[p] += (float) (mean * mean - noiseK * noiseK / count);
        }
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
