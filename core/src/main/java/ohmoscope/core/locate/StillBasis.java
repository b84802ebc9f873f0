package ohmoscope.core.locate;

import java.util.Arrays;
import java.util.function.Consumer;

/**
 * Still pictures in every component, free of stripes and orthonormal under the weights, so that taking them out is a
 * projection. Memory: pixels × pictures × components floats, kept together by pixel for the loops' sake.
 */
final class StillBasis {
    /** Of a picture this share must be left when stripes and other pictures are out, or it is noise. */
    private static final double LEFT = 1e-3;

    /** Pixels whose products are summed in single precision. */
    private static final int RUN = 256;

    private final float[] weight;
    private final int k;
    private final int each;
    private final float[] unit;

    /**
     * @param weight {@code [pixel · k + component]}
     * @param unstripe takes stripes out of such an array, in place
     */
    StillBasis(CaptureModel.Pixels pixels, float[] weight, int k, Consumer<float[]> unstripe) {
        this.weight = weight;
        this.k = k;
        float[][] still = pixels.still();
        each = still.length * k;
        unit = new float[pixels.count() * each];
        float[][] made = new float[still.length][];
        for (int m = 0; m < still.length; m++) {
            float[] picture = new float[pixels.count() * k];
            for (int p = 0; p < pixels.count(); p++) {
                Arrays.fill(picture, p * k, p * k + k, still[m][p]);
            }
            double[] before = squares(picture);
            unstripe.accept(picture);
            for (int other = 0; other < m; other++) {
                takeOut(picture, made[other]);
            }
            scale(picture, before, squares(picture));
            made[m] = picture;
            for (int p = 0; p < pixels.count(); p++) {
                System.arraycopy(picture, p * k, unit, p * each + m * k, k);
            }
        }
    }

    private void scale(float[] picture, double[] before, double[] left) {
        float[] by = new float[k];
        for (int j = 0; j < k; j++) {
            by[j] = left[j] > LEFT * before[j] && left[j] > 0 ? (float) (1 / Math.sqrt(left[j])) : 0;
        }
        for (int p = 0; p < picture.length; p += k) {
            for (int j = 0; j < k; j++) {
                picture[p + j] *= by[j];
            }
        }
    }

    private double[] squares(float[] values) {
        double[] sums = new double[k];
        for (int p = 0; p < values.length; p += k) {
            for (int j = 0; j < k; j++) {
                sums[j] += (double) weight[p + j] * values[p + j] * values[p + j];
            }
        }
        return sums;
    }

    private void takeOut(float[] values, float[] one) {
        double[] along = new double[k];
        for (int p = 0; p < values.length; p += k) {
            for (int j = 0; j < k; j++) {
                along[j] += weight[p + j] * values[p + j] * one[p + j];
            }
        }
        for (int p = 0; p < values.length; p += k) {
            for (int j = 0; j < k; j++) {
                values[p + j] -= (float) along[j] * one[p + j];
            }
        }
    }

    /** Weighted products with each picture, {@code [picture · k + component]}. */
    float[] shares(float[] values) {
        double[] total = new double[each];
        float[] sum = new float[each];
        float[] weighted = new float[each];
        for (int p = 0; p * k < values.length && each > 0; p++) {
            boolean any = false;
            for (int j = 0; j < k; j++) {
                weighted[j] = weight[p * k + j] * values[p * k + j];
                any |= weighted[j] != 0;
            }
            if (any) {
                for (int i = k; i < each; i += k) {
                    System.arraycopy(weighted, 0, weighted, i, k);
                }
                int at = p * each;
                for (int i = 0; i < each; i++) {
                    sum[i] += weighted[i] * unit[at + i];
                }
            }
            if (p % RUN == RUN - 1) {
                drain(sum, total);
            }
        }
        drain(sum, total);
        for (int i = 0; i < each; i++) {
            sum[i] = (float) total[i];
        }
        return sum;
    }

    private static void drain(float[] sum, double[] total) {
        for (int i = 0; i < sum.length; i++) {
            total[i] += sum[i];
            sum[i] = 0;
        }
    }

    /** Takes every picture out, in place. */
    void takeOut(float[] values) {
        float[] shares = shares(values);
        for (int p = 0; p * k < values.length; p++) {
            for (int i = 0; i < each; i++) {
                values[p * k + i % k] -= shares[i] * unit[p * each + i];
            }
        }
    }
}
