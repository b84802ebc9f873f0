package ohmoscope.core.locate.capture;

import java.util.Comparator;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Blocks;

/**
 * Still pictures in every component, free of stripes, as units whose products with a picture say how much of it is to be
 * taken out. Pictures of any strength are orthonormal under the weights, so taking them out is a projection. One whose
 * strength is known beforehand to be about nothing is held to it: it is taken out in part only, by as much as the most
 * likely strengths of all of them ask for. Memory: pixels × pictures × components floats.
 */
public final class StillBasis {
    /** Of a picture this share must be left when stripes and other pictures are out, or it is noise. */
    private static final double LEFT = 1e-3;

    private final float[] weight;
    private final int n;
    private final int k;
    private final int pictures;
    private final double[] sigma;

    /** {@code [picture · k + component]}, each a run of blocks. */
    private final float[][][] unit;

    /**
     * @param still pictures over the pixels
     * @param sigma how strong each may be in a component, one deviation; infinite where nothing is known of that
     * @param weight {@code [component · pixels + pixel]}
     * @param unstripe takes stripes out of such an array, in place; several threads ask for it
     */
    public StillBasis(float[][] still, double[] sigma, float[] weight, int k, Consumer<float[]> unstripe) {
        this.weight = weight;
        this.k = k;
        this.sigma = sigma;
        n = weight.length / k;
        pictures = still.length;
        unit = new float[pictures * k][][];
        IntStream.range(0, pictures).parallel().forEach(m -> {
            float[] picture = new float[k * n];
            for (int j = 0; j < k; j++) {
                System.arraycopy(still[m], 0, picture, j * n, n);
            }
            unstripe.accept(picture);
            for (int j = 0; j < k; j++) {
                unit[m * k + j] = Blocks.of(picture, j * n, n);
            }
        });
        int[] freeFirst = IntStream.range(0, pictures)
                .boxed()
                .sorted(Comparator.comparing(m -> held(m)))
                .mapToInt(Integer::intValue)
                .toArray();
        IntStream.range(0, k).parallel().forEach(j -> orthonormalise(j, still, freeFirst));
    }

    /**
     * One component's pictures: the free ones by Gram and Schmidt, then each held one into the inverse of the covariance
     * that those before it have made (Sherman and Morrison).
     */
    private void orthonormalise(int j, float[][] still, int[] freeFirst) {
        float[][] weights = Blocks.of(weight, j * n, n);
        for (int i = 0; i < pictures; i++) {
            int m = freeFirst[i];
            float[][] own = unit[m * k + j];
            double before = square(Blocks.of(still[m], 0, n), weights);
            float[][] weighted = Blocks.product(weights, own);
            for (int done = 0; done < i; done++) {
                int other = freeFirst[done];
                float[][] out = unit[other * k + j];
                Blocks.add(own, (float) -Blocks.dot(weighted, out), out);
                // A free unit is a projection: what is left may stand for the whole, to less rounding.
                if (!held(other)) {
                    weighted = Blocks.product(weights, own);
                }
            }
            double left = Blocks.dot(weighted, own);
            double precision = left + 1 / (sigma[m] * sigma[m]);
            Blocks.scale(own, left > LEFT * before ? (float) (1 / Math.sqrt(precision)) : 0);
        }
    }

    private boolean held(int picture) {
        return sigma[picture] < Double.POSITIVE_INFINITY;
    }

    private static double square(float[][] values, float[][] weights) {
        return Blocks.dot(Blocks.product(weights, values), values);
    }

    /** How many products {@link #shares(float[])} returns. */
    public int shares() {
        return pictures * k;
    }

    /**
     * A stretch of a picture in one component.
     *
     * @param share counted as in {@link #shares(float[])}
     * @param out overwritten from its beginning
     */
    public void copy(int share, int from, int count, float[] out) {
        for (int i = 0; i < count; i++) {
            out[i] = Blocks.at(unit[share], from + i);
        }
    }

    /**
     * Products with each picture, {@code [picture · k + component]}.
     *
     * @param weighted values times weights
     */
    public float[] shares(float[] weighted) {
        float[] shares = new float[pictures * k];
        for (int j = 0; j < k; j++) {
            shares(Blocks.of(weighted, j * n, n), j, shares);
        }
        return shares;
    }

    private void shares(float[][] weighted, int j, float[] shares) {
        for (int m = 0; m < pictures; m++) {
            shares[m * k + j] = (float) Blocks.dot(weighted, unit[m * k + j]);
        }
    }

    /** The same of values that are nothing but at a few pixels. @param weighted {@code [component · at.length + i]} */
    public float[] shares(int[] at, float[] weighted) {
        float[] shares = new float[pictures * k];
        for (int s = 0; s < shares.length; s++) {
            int from = s % k * at.length;
            for (int i = 0; i < at.length; i++) {
                shares[s] += weighted[from + i] * Blocks.at(unit[s], at[i]);
            }
        }
        return shares;
    }

    /** Takes every picture out, in place. */
    public void takeOut(float[] values) {
        IntStream.range(0, k).parallel().forEach(j -> {
            float[][] own = Blocks.of(values, j * n, n);
            float[] shares = new float[pictures * k];
            shares(Blocks.product(Blocks.of(weight, j * n, n), own), j, shares);
            for (int m = 0; m < pictures; m++) {
                Blocks.add(own, -shares[m * k + j], unit[m * k + j]);
            }
            Blocks.copy(own, values, j * n, n);
        });
    }
}
