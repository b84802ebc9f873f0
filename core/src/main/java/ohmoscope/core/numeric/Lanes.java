package ohmoscope.core.numeric;

/** Loops over many sources at once; all arrays of one length but where said. */
public final class Lanes {
    private Lanes() {}

    /** {@code sum += values}. */
    public static void add(float[] sum, float[] values) {
        for (int c = 0; c < sum.length; c++) {
            sum[c] += values[c];
        }
    }

    /** {@code value -= mean}, {@code weighted = weight · value}. */
    public static void lessWeighed(float[] value, float[] mean, float weight, float[] weighted) {
        for (int c = 0; c < value.length; c++) {
            float left = value[c] - mean[c];
            value[c] = left;
            weighted[c] = weight * left;
        }
    }

    /**
     * Adds lanes times their factors, four at a time: the sum is read and written once for them.
     *
     * @param factors {@code count} of them from {@code at} on
     * @param lanes as many, from the first on
     */
    public static void addWeighed(float[] sum, float[] factors, int at, float[][] lanes, int count) {
        addWeighed(sum, 0, sum.length, factors, at, lanes, count);
    }

    /** The same for a stretch of every lane. @param to where it ends, not included */
    public static void addWeighed(float[] sum, int from, int to, float[] factors, int at, float[][] lanes, int count) {
        int i = 0;
        for (; i + 3 < count; i += 4) {
            addFour(
                    sum,
                    from,
                    to,
                    factors[at + i],
                    lanes[i],
                    factors[at + i + 1],
                    lanes[i + 1],
                    factors[at + i + 2],
                    lanes[i + 2],
                    factors[at + i + 3],
                    lanes[i + 3]);
        }
        for (; i < count; i++) {
            addOne(sum, from, to, factors[at + i], lanes[i]);
        }
    }

    private static void addOne(float[] sum, int from, int to, float a, float[] va) {
        for (int i = from; i < to; i++) {
            sum[i] += a * va[i];
        }
    }

    private static void addFour(
            float[] sum,
            int from,
            int to,
            float a,
            float[] va,
            float b,
            float[] vb,
            float c,
            float[] vc,
            float d,
            float[] vd) {
        for (int i = from; i < to; i++) {
            sum[i] += a * va[i] + b * vb[i] + c * vc[i] + d * vd[i];
        }
    }
}
