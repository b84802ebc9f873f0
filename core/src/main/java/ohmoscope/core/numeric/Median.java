package ohmoscope.core.numeric;

/** Values by their rank, by selection (Hoare, 1961): O(n) on the whole. The arrays are put in another order for it. */
public final class Median {
    /** The median absolute deviation of normal values is this part of their standard deviation. */
    public static final double NORMAL = 1.4826;

    private Median() {}

    /** Of the first values; 0 where there are none. */
    public static float of(float[] values, int count) {
        return of(values, 0, count);
    }

    /**
     * Of a stretch of values: the mean of the two middle ones where their number is even; 0 where there are none.
     *
     * @param to after the last one
     */
    public static float of(float[] values, int from, int to) {
        int count = to - from;
        if (count <= 0) {
            return 0;
        }
        int middle = from + count / 2;
        float high = select(values, from, to, middle);
        if (count % 2 == 1) {
            return high;
        }
        float low = values[from];
        for (int i = from + 1; i < middle; i++) {
            low = Math.max(low, values[i]);
        }
        return (low + high) / 2;
    }

    /** Of the first values the one that {@code rank} of them are not greater than. @param rank from 0, below their number */
    public static float ranked(float[] values, int count, int rank) {
        return select(values, 0, count, rank);
    }

    /** One standard deviation of the first values were they normal, by the median absolute deviation. */
    public static double spread(float[] values, int count) {
        float middle = of(values, count);
        for (int i = 0; i < count; i++) {
            values[i] = Math.abs(values[i] - middle);
        }
        return NORMAL * of(values, count);
    }

    /** Puts the value of rank {@code k} in its place, none greater before it, none less behind. */
    private static float select(float[] values, int from, int to, int k) {
        int left = from;
        int right = to - 1;
        while (left < right) {
            float pivot = middle(values[left], values[(left + right) >>> 1], values[right]);
            int i = left;
            int j = right;
            while (i <= j) {
                while (values[i] < pivot) {
                    i++;
                }
                while (values[j] > pivot) {
                    j--;
                }
                if (i <= j) {
                    float swap = values[i];
                    values[i++] = values[j];
                    values[j--] = swap;
                }
            }
            if (k <= j) {
                right = j;
            } else if (k >= i) {
                left = i;
            } else {
                return values[k];
            }
        }
        return values[k];
    }

    private static float middle(float a, float b, float c) {
        return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
    }
}
