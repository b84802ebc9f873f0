package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class GrownBasisTest {
    private static final int HAD = 40;
    private static final int NOW = 52;

    /** Slow cosines over so many frames: orthonormal, each without a mean. */
    private static double[][] cosines(int frames, int count) {
        double[][] rows = new double[count][frames];
        for (int j = 0; j < count; j++) {
            for (int f = 0; f < frames; f++) {
                rows[j][f] = Math.sqrt(2.0 / frames) * Math.cos(Math.PI * (j + 1) * (f + 0.5) / frames);
            }
        }
        return rows;
    }

    private static int[] blocksOf(int size) {
        return IntStream.range(0, HAD).map(f -> f / size).toArray();
    }

    private static double dot(double[] a, double[] b) {
        return IntStream.range(0, Math.min(a.length, b.length))
                .mapToDouble(f -> a[f] * b[f])
                .sum();
    }

    @Test
    void rowsAreOrthonormalFreeOfAMeanAndTheSameWithinABlock() {
        GrownBasis grown =
                GrownBasis.of(cosines(HAD, 3), cosines(NOW, 3), blocksOf(4)).orElseThrow();
        for (int j = 0; j < 3; j++) {
            double[] row = grown.rows()[j];
            assertThat(row).hasSize(NOW);
            for (int i = 0; i <= j; i++) {
                assertThat(dot(row, grown.rows()[i])).isCloseTo(i == j ? 1 : 0, within(1e-9));
            }
            assertThat(IntStream.range(0, NOW).mapToDouble(f -> row[f]).sum()).isCloseTo(0, within(1e-9));
            for (int f = 0; f < HAD; f++) {
                assertThat(row[f]).isCloseTo(grown.ofBlocks()[j][f / 4], within(1e-12));
            }
        }
    }

    @Test
    void withoutNewFramesAndWithBlocksOfOneItIsWhatThereWas() {
        double[][] had = cosines(HAD, 3);
        double[][] turned = TemporalRotation.turned(new double[][] {{0, 0.6, 0.8}, {1, 0, 0}, {0, -0.8, 0.6}}, had);
        GrownBasis grown = GrownBasis.of(turned, had, blocksOf(1)).orElseThrow();
        for (int j = 0; j < 3; j++) {
            assertThat(grown.rows()[j]).containsExactly(turned[j], within(1e-9));
        }
    }

    @Test
    void aFewFramesMoreChangeTheComponentsLittle() {
        double[][] had = cosines(HAD, 3);
        GrownBasis grown = GrownBasis.of(had, cosines(HAD + 1, 3), blocksOf(2)).orElseThrow();
        for (int j = 0; j < 3; j++) {
            assertThat(dot(grown.rows()[j], had[j])).isGreaterThan(0.95);
        }
    }

    @Test
    void aFrameThatIsLeftOutHasNoWeight() {
        int[] block = blocksOf(4);
        block[5] = -1;
        GrownBasis grown =
                GrownBasis.of(cosines(HAD, 2), cosines(NOW, 2), block).orElseThrow();
        assertThat(grown.rows()[0][5]).isZero();
        assertThat(grown.rows()[1][5]).isZero();
    }

    @Test
    void blocksThatAreTooCoarseForWhatIsWantedSaySo() {
        double[][] wanted = new double[1][HAD];
        for (int f = 0; f < HAD; f++) {
            wanted[0][f] = (f % 2 == 0 ? 1 : -1) / Math.sqrt(HAD);
        }
        assertThat(GrownBasis.of(cosines(HAD, 1), wanted, blocksOf(4))).isEmpty();
        assertThat(GrownBasis.of(cosines(HAD, 2), wanted, blocksOf(1)))
                .as("fewer components than there were")
                .isEmpty();
    }
}
