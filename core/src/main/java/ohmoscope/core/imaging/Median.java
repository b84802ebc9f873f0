package ohmoscope.core.imaging;

/** The median of the first values of an array, which are put in another order for it. O(n) on the whole. */
final class Median {
    private Median() {}

    static float of(float[] values, int count) {
        if (count == 0) {
            return 0;
        }
        int middle = count / 2;
        float high = select(values, count, middle);
        if (count % 2 == 1) {
            return high;
        }
        float low = values[0];
        for (int i = 1; i < middle; i++) {
            low = Math.max(low, values[i]);
        }
        return (low + high) / 2;
    }

    /** Puts the value of rank {@code k} in its place, none greater before it, none less behind (Hoare, 1961). */
    private static float select(float[] values, int count, int k) {
        int left = 0;
        int right = count - 1;
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
