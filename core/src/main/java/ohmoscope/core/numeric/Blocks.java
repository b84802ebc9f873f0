package ohmoscope.core.numeric;

/**
 * Runs of values cut into arrays of one length, the last one filled up with zeros. Loops that read several of them at
 * one and the same index are what the compiler makes vector instructions of; with offsets of their own it does not.
 */
public final class Blocks {
    /** Values a block: a power of two, some of them in the nearest cache. */
    public static final int SIZE = 256;

    private Blocks() {}

    /** A run of values, copied. */
    public static float[][] of(float[] values, int from, int count) {
        float[][] blocks = new float[(count + SIZE - 1) / SIZE][SIZE];
        for (int b = 0; b < blocks.length; b++) {
            System.arraycopy(values, from + b * SIZE, blocks[b], 0, Math.min(SIZE, count - b * SIZE));
        }
        return blocks;
    }

    /** Back where they came from. */
    public static void copy(float[][] blocks, float[] values, int from, int count) {
        for (int b = 0; b < blocks.length; b++) {
            System.arraycopy(blocks[b], 0, values, from + b * SIZE, Math.min(SIZE, count - b * SIZE));
        }
    }

    /** Entry {@code i} of the run. */
    public static float at(float[][] blocks, int i) {
        return blocks[i / SIZE][i % SIZE];
    }

    /** Element by element. */
    public static float[][] product(float[][] a, float[][] b) {
        float[][] product = new float[a.length][SIZE];
        for (int i = 0; i < a.length; i++) {
            multiply(a[i], b[i], product[i]);
        }
        return product;
    }

    /** {@code a += by · b}. */
    public static void add(float[][] a, float by, float[][] b) {
        for (int i = 0; i < a.length; i++) {
            add(a[i], by, b[i]);
        }
    }

    public static void scale(float[][] a, float by) {
        for (float[] block : a) {
            for (int i = 0; i < block.length; i++) {
                block[i] *= by;
            }
        }
    }

    /** Σ a·b. */
    public static double dot(float[][] a, float[][] b) {
        float[] lane = new float[SIZE];
        int i = 0;
        for (; i + 3 < a.length; i += 4) {
            addProducts(lane, a[i], b[i], a[i + 1], b[i + 1], a[i + 2], b[i + 2], a[i + 3], b[i + 3]);
        }
        for (; i < a.length; i++) {
            addProduct(lane, a[i], b[i]);
        }
        return sum(lane);
    }

    /** {@code lane += a · b}, element by element; all of one length. */
    public static void addProduct(float[] lane, float[] a, float[] b) {
        for (int i = 0; i < lane.length; i++) {
            lane[i] += a[i] * b[i];
        }
    }

    private static void addProducts(
            float[] lane,
            float[] a0,
            float[] b0,
            float[] a1,
            float[] b1,
            float[] a2,
            float[] b2,
            float[] a3,
            float[] b3) {
        for (int i = 0; i < lane.length; i++) {
            lane[i] += a0[i] * b0[i] + a1[i] * b1[i] + a2[i] * b2[i] + a3[i] * b3[i];
        }
    }

    private static void multiply(float[] a, float[] b, float[] product) {
        for (int i = 0; i < product.length; i++) {
            product[i] = a[i] * b[i];
        }
    }

    /** {@code a += by · b}. */
    public static void add(float[] a, float by, float[] b) {
        for (int i = 0; i < a.length; i++) {
            a[i] += by * b[i];
        }
    }

    /** Of an array whose length is a multiple of four. */
    public static float sum(float[] lane) {
        float s0 = 0;
        float s1 = 0;
        float s2 = 0;
        float s3 = 0;
        for (int i = 0; i < lane.length; i += 4) {
            s0 += lane[i];
            s1 += lane[i + 1];
            s2 += lane[i + 2];
            s3 += lane[i + 3];
        }
        return s0 + s1 + (s2 + s3);
    }
}
