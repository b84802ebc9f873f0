package ohmoscope.core.numeric;

/** Sums of products over long runs of single precision. */
public final class Dot {
    private Dot() {}

    /** Σ a[fromA + i]·b[fromB + i] over {@code count} entries. */
    public static double of(float[] a, int fromA, float[] b, int fromB, int count) {
        float[] lane = new float[Blocks.SIZE];
        float[] left = new float[Blocks.SIZE];
        float[] right = new float[Blocks.SIZE];
        int i = 0;
        for (; i + Blocks.SIZE <= count; i += Blocks.SIZE) {
            System.arraycopy(a, fromA + i, left, 0, Blocks.SIZE);
            System.arraycopy(b, fromB + i, right, 0, Blocks.SIZE);
            Blocks.addProduct(lane, left, right);
        }
        double sum = Blocks.sum(lane);
        for (; i < count; i++) {
            sum += a[fromA + i] * b[fromB + i];
        }
        return sum;
    }

    public static double of(float[] a, float[] b) {
        return of(a, 0, b, 0, a.length);
    }
}
