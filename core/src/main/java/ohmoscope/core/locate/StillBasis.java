package ohmoscope.core.locate;

import java.util.function.Consumer;
import java.util.stream.IntStream;

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
        for (int m = 0; m < pictures; m++) {
            float[] picture = new float[k * n];
            for (int j = 0; j < k; j++) {
                System.arraycopy(still[m], 0, picture, j * n, n);
            }
            unstripe.accept(picture);
            System.arraycopy(picture, 0, unit, m * k * n, k * n);
        }
        IntStream.range(0, k).parallel().forEach(j -> orthonormalise(j, still));
    }

    /** One component's pictures, by Gram and Schmidt. */
    private void orthonormalise(int j, float[][] still) {
        float[] weighted = new float[n];
        for (int m = 0; m < pictures; m++) {
            int own = (m * k + j) * n;
            double before = square(still[m], 0, j, weighted);
            for (int other = 0; other < m; other++) {
                weigh(unit, own, j, weighted);
                float share = (float) Dot.of(weighted, 0, unit, (other * k + j) * n, n);
                subtract(unit, own, j, other, share);
            }
            double left = square(unit, own, j, weighted);
            float by = left > LEFT * before && left > 0 ? (float) (1 / Math.sqrt(left)) : 0;
            for (int p = own; p < own + n; p++) {
                unit[p] *= by;
            }
        }
    }

    private double square(float[] values, int from, int component, float[] weighted) {
        weigh(values, from, component, weighted);
        return Dot.of(weighted, 0, values, from, n);
    }

    private void weigh(float[] values, int from, int component, float[] weighted) {
        for (int p = 0; p < n; p++) {
            weighted[p] = weight[component * n + p] * values[from + p];
        }
    }

    private void subtract(float[] values, int at, int component, int picture, float share) {
        int from = (picture * k + component) * n;
        for (int p = 0; p < n; p++) {
            values[at + p] -= share * unit[from + p];
        }
    }

    /** How many products {@link #shares(float[])} returns. */
    int shares() {
        return pictures * k;
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

    /** The same of values that are nothing but at a few pixels. @param weighted {@code [component · at.length + i]} */
    float[] shares(int[] at, float[] weighted) {
        float[] shares = new float[pictures * k];
        for (int s = 0; s < shares.length; s++) {
            int from = s % k * at.length;
            for (int i = 0; i < at.length; i++) {
                shares[s] += weighted[from + i] * unit[s * n + at[i]];
            }
        }
        return shares;
    }

    /** Takes every picture out, in place. */
    void takeOut(float[] values) {
        float[] weighted = new float[values.length];
        for (int i = 0; i < values.length; i++) {
            weighted[i] = weight[i] * values[i];
        }
        float[] shares = shares(weighted);
        for (int i = 0; i < shares.length; i++) {
            subtract(values, i % k * n, i % k, i / k, shares[i]);
        }
    }
}
