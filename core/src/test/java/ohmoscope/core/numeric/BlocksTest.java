package ohmoscope.core.numeric;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BlocksTest {
    private final Random random = new Random(4);

    private float[] values(int count) {
        float[] values = new float[count];
        for (int i = 0; i < count; i++) {
            values[i] = random.nextFloat() - 0.3f;
        }
        return values;
    }

    private static double product(float[] a, int fromA, float[] b, int fromB, int count) {
        double sum = 0;
        for (int i = 0; i < count; i++) {
            sum += (double) a[fromA + i] * b[fromB + i];
        }
        return sum;
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 5, 127, 255, 256, 257, 1024, 1500})
    void aRunComesBackAsItWas(int count) {
        float[] values = values(count + 9);
        float[][] blocks = Blocks.of(values, 4, count);
        float[] back = new float[count + 9];
        Blocks.copy(blocks, back, 4, count);
        for (int i = 0; i < back.length; i++) {
            boolean within = i >= 4 && i < count + 4;
            assertThat(back[i]).isEqualTo(within ? values[i] : 0);
            if (within) {
                assertThat(Blocks.at(blocks, i - 4)).isEqualTo(values[i]);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 200, 256, 300, 1023, 1280, 2000})
    void productsOfBlocksAreThoseOfTheirRuns(int count) {
        float[] a = values(count);
        float[] b = values(count);
        float[][] blocksA = Blocks.of(a, 0, count);
        float[][] blocksB = Blocks.of(b, 0, count);
        assertThat(Blocks.dot(blocksA, blocksB)).isCloseTo(product(a, 0, b, 0, count), within(1e-4 * count));
        float[][] both = Blocks.product(blocksA, blocksB);
        Blocks.add(both, -0.5f, blocksA);
        Blocks.scale(both, 3);
        for (int i = 0; i < count; i++) {
            assertThat(Blocks.at(both, i)).isCloseTo(3 * (a[i] * b[i] - 0.5f * a[i]), within(1e-5f));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 5, 127, 128, 129, 256, 1000})
    void sumsOfProductsMayBeginAnywhere(int count) {
        float[] a = values(count + 3);
        float[] b = values(count + 7);
        assertThat(Dot.of(a, 3, b, 7, count)).isCloseTo(product(a, 3, b, 7, count), within(1e-4));
        assertThat(Dot.of(a, a)).isCloseTo(product(a, 0, a, 0, a.length), within(1e-4));
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 3, 4, 7, 8})
    void anyNumberOfLanesIsAddedOverItsStretch(int count) {
        float[][] lanes = new float[count][];
        for (int l = 0; l < count; l++) {
            lanes[l] = values(20);
        }
        float[] factors = values(count + 2);
        float[] sum = new float[20];
        Lanes.addWeighed(sum, 5, 17, factors, 2, lanes, count);
        for (int i = 0; i < sum.length; i++) {
            double expected = 0;
            for (int l = 0; l < count && i >= 5 && i < 17; l++) {
                expected += factors[l + 2] * lanes[l][i];
            }
            assertThat((double) sum[i]).isCloseTo(expected, within(1e-5));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 3, 64, 129})
    void lanesAreWorkedOnOneLikeTheOther(int sources) {
        float[][] lanes = {values(sources), values(sources), values(sources), values(sources), values(sources)};
        float[] factors = {9, 0.5f, -1, 2, 0.25f};
        float[] sum = values(sources);
        float[] before = sum.clone();
        Lanes.addWeighed(sum, factors, 1, Arrays.copyOfRange(lanes, 1, 5), 4);
        Lanes.add(sum, lanes[0]);
        float[] mean = values(sources);
        float[] left = lanes[0].clone();
        float[] weighted = new float[sources];
        Lanes.lessWeighed(left, mean, 4, weighted);
        for (int c = 0; c < sources; c++) {
            float expected =
                    before[c] + 0.5f * lanes[1][c] - lanes[2][c] + 2 * lanes[3][c] + 0.25f * lanes[4][c] + lanes[0][c];
            assertThat(sum[c]).isCloseTo(expected, within(1e-5f));
            assertThat(left[c]).isEqualTo(lanes[0][c] - mean[c]);
            assertThat(weighted[c]).isEqualTo(4 * left[c]);
        }
    }
}
