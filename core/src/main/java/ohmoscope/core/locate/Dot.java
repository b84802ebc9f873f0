package ohmoscope.core.locate;

/** Sums of products over long runs of single precision, in lanes that the compiler makes vector instructions of. */
final class Dot {
    private static final int LANES = 128;

    private Dot() {}

    /** Σ a[fromA + i]·b[fromB + i] over {@code count} entries. */
    static double of(float[] a, int fromA, float[] b, int fromB, int count) {
        float[] lane = new float[LANES];
        int i = 0;
        for (; i + LANES <= count; i += LANES) {
            for (int l = 0; l < LANES; l++) {
                lane[l] += a[fromA + i + l] * b[fromB + i + l];
            }
        }
        double sum = 0;
        for (; i < count; i++) {
            sum += a[fromA + i] * b[fromB + i];
        }
        float s0 = 0;
        float s1 = 0;
        float s2 = 0;
        float s3 = 0;
        for (int l = 0; l < LANES; l += 4) {
            s0 += lane[l];
            s1 += lane[l + 1];
            s2 += lane[l + 2];
            s3 += lane[l + 3];
        }
        return sum + s0 + s1 + s2 + s3;
    }

    static double of(float[] a, float[] b) {
        return of(a, 0, b, 0, a.length);
    }
}
