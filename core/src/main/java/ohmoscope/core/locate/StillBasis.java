package ohmoscope.core.locate;

import java.util.function.Consumer;

/**
 * Still pictures in every component, free of stripes and orthonormal under the weights, so that taking them out is a
 * projection. Memory: pixels × pictures × components floats.
 */
final class StillBasis {
    /** Of a picture this share must be left when stripes and other pictures are out, or it is noise. */
    private static final double LEFT = 1e-3;

    private final float[] weight;
    private final int n;
    private final int k;
    private final int pictures;
    private final float[] unit;

    /**
     * @param still pictures over the pixels
     * @param weight {@code [component · pixels + pixel]}
     * @param unstripe takes stripes out of such an array, in place
     */
    StillBasis(float[][] still, float[] weight, int k, Consumer<float[]> unstripe) {
        this.weight = weight;
        this.k = k;
        n = weight.length / k;
        pictures = still.length;
        unit = new float[pictures * k * n];
        float[] picture = new float[k * n];
        for (int m = 0; m < pictures; m++) {
            for (int j = 0; j < k; j++) {
                System.arraycopy(still[m], 0, picture, j * n, n);
            }
            double[] before = squares(picture);
            unstripe.accept(picture);
            for (int other = 0; other < m; other++) {
                takeOut(picture, other);
            }
            scale(picture, before, squares(picture));
            System.arraycopy(picture, 0, unit, m * k * n, k * n);
        }
    }

    private void scale(float[] picture, double[] before, double[] left) {
        for (int j = 0; j < k; j++) {
            float by = left[j] > LEFT * before[j] && left[j] > 0 ? (float) (1 / Math.sqrt(left[j])) : 0;
            for (int p = j * n; p < j * n + n; p++) {
                picture[p] *= by;
            }
        }
    }

    private double[] squares(float[] values) {
        float[] weighted = weighted(values);
        double[] sums = new double[k];
        for (int j = 0; j < k; j++) {
            sums[j] = Dot.of(weighted, j * n, values, j * n, n);
        }
        return sums;
    }

    private float[] weighted(float[] values) {
        float[] weighted = new float[values.length];
        for (int p = 0; p < values.length; p++) {
            weighted[p] = weight[p] * values[p];
        }
        return weighted;
    }

    private void takeOut(float[] values, int picture) {
        float[] weighted = weighted(values);
        for (int j = 0; j < k; j++) {
            subtract(values, j, picture, (float) Dot.of(weighted, j * n, unit, (picture * k + j) * n, n));
        }
    }

    private void subtract(float[] values, int component, int picture, float share) {
        int to = component * n;
        int from = (picture * k + component) * n;
        for (int p = 0; p < n; p++) {
            values[to + p] -= share * unit[from + p];
        }
    }

    /**
     * Products with each picture, {@code [picture · k + component]}.
     *
     * @param weighted values times weights
     */
    float[] shares(float[] weighted) {
        float[] shares = new float[pictures * k];
        for (int i = 0; i < shares.length; i++) {
            shares[i] = (float) Dot.of(weighted, i % k * n, unit, i * n, n);
        }
        return shares;
    }

    /** Takes every picture out, in place. */
    void takeOut(float[] values) {
        float[] shares = shares(weighted(values));
        for (int i = 0; i < shares.length; i++) {
            subtract(values, i % k, i / k, shares[i]);
        }
    }
}
