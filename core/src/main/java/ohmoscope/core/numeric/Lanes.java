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
     * Adds four lanes times their factors.
     *
     * @param factors four of them from {@code at} on
     * @param lanes likewise from {@code first} on
     */
    public static void addFour(float[] sum, float[] factors, int at, float[][] lanes, int first) {
        addFour(
                sum,
                factors[at],
                lanes[first],
                factors[at + 1],
                lanes[first + 1],
                factors[at + 2],
                lanes[first + 2],
                factors[at + 3],
                lanes[first + 3]);
    }

    /** The same with the factors given. */
    public static void addFour(
            float[] sum, float a, float[] va, float b, float[] vb, float c, float[] vc, float d, float[] vd) {
        for (int i = 0; i < sum.length; i++) {
            sum[i] += a * va[i] + b * vb[i] + c * vc[i] + d * vd[i];
        }
    }
}
