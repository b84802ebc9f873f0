package ohmoscope.core.imaging;

import java.util.Arrays;

/** The median of the first values of an array, which is sorted in place up to there. O(n log n). */
final class Median {
    private Median() {}

    static float of(float[] values, int count) {
        if (count == 0) {
            return 0;
        }
        Arrays.sort(values, 0, count);
        return count % 2 == 1 ? values[count / 2] : (values[count / 2 - 1] + values[count / 2]) / 2;
    }
}
