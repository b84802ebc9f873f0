package ohmoscope.core.numeric;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

class MedianTest {
    @Test
    void theMedianIsThatOfTheSortedValues() {
        Random random = new Random(7);
        for (int round = 0; round < 300; round++) {
            int n = 1 + random.nextInt(60);
            float[] values = new float[n + 3];
            for (int i = 0; i < values.length; i++) {
                // Few different values, so that many are alike.
                values[i] = random.nextInt(round % 5 == 0 ? 3 : 1000);
            }
            float[] sorted = Arrays.copyOf(values, n);
            Arrays.sort(sorted);
            float expected = n % 2 == 1 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
            assertThat(Median.ranked(values.clone(), n, n / 3)).isEqualTo(sorted[n / 3]);
            float[] beyond = Arrays.copyOfRange(values, n, n + 3);
            assertThat(Median.of(values, n)).isEqualTo(expected);
            assertThat(Arrays.copyOfRange(values, n, n + 3)).isEqualTo(beyond);
            Arrays.sort(values, 0, n);
            assertThat(Arrays.copyOf(values, n)).isEqualTo(sorted);
        }
    }

    @Test
    void ofAStretchNothingElseCountsOrMoves() {
        float[] values = {9, 9, 5, 1, 3, -9, -9};
        assertThat(Median.of(values, 2, 5)).isEqualTo(3);
        assertThat(values).startsWith(9, 9).endsWith(-9, -9);
        assertThat(Median.of(values, 4, 4)).isZero();
    }

    @Test
    void theSpreadOfNormalValuesIsTheirDeviationAndOutliersDoNotCount() {
        Random random = new Random(3);
        float[] values = new float[4000];
        for (int i = 0; i < values.length; i++) {
            values[i] = (float) (i % 10 == 0 ? 1e6 : 7 + 0.3 * random.nextGaussian());
        }
        assertThat(Median.spread(values, values.length)).isCloseTo(0.34, within(0.03));
    }
}
