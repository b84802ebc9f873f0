package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Checked against the same unknowns written out in full: nuisances, the source, its body. */
class SourceEquationsTest {
    private static final int NUISANCES = 2;
    private static final double BODY_PRECISION = 0.3;

    /** Products of random columns with each other and with data that they make. */
    private static final class Written {
        private final double[][] gram = new double[NUISANCES + 2][NUISANCES + 2];
        private final double[] rhs = new double[NUISANCES + 2];

        Written(long seed, double[] truth) {
            Random random = new Random(seed);
            double[][] columns = new double[NUISANCES + 2][40];
            double[] data = new double[40];
            for (int i = 0; i < columns.length; i++) {
                for (int p = 0; p < 40; p++) {
                    columns[i][p] = 0.4 + random.nextGaussian();
                    data[p] += truth[i] * columns[i][p];
                }
            }
            for (int i = 0; i < columns.length; i++) {
                for (int p = 0; p < 40; p++) {
                    rhs[i] += columns[i][p] * data[p];
                    for (int j = 0; j < columns.length; j++) {
                        gram[i][j] += columns[i][p] * columns[j][p];
                    }
                }
            }
        }

        SourceEquations equations(double share) {
            double[][] nuisance = new double[NUISANCES][NUISANCES];
            double[] with = new double[NUISANCES];
            for (int i = 0; i < NUISANCES; i++) {
                with[i] = rhs[i];
                System.arraycopy(gram[i], 0, nuisance[i], 0, NUISANCES);
            }
            SourceEquations equations = new SourceEquations(nuisance, with);
            equations.add(products(share));
            equations.add(products(1 - share));
            return equations;
        }

        /** A share of everything that the source and its body say, as of one capture of several. */
        private SourceProducts products(double share) {
            int s = NUISANCES;
            int b = NUISANCES + 1;
            return new SourceProducts(
                    share * gram[s][s],
                    share * rhs[s],
                    new double[] {share * gram[0][s], share * gram[1][s]},
                    Optional.of(new SourceProducts.Own(
                            share * gram[b][b], share * rhs[b], share * gram[s][b], new double[] {
                                share * gram[0][b], share * gram[1][b]
                            })));
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void amplitudesAndTheBodysKelvinAreFoundBack(long seed) {
        Written written = new Written(seed, new double[] {0.7, 0.2, 1.5, -0.8});
        SourceEquations solved = written.equations(0.35).bodySolved(1e-9);
        double[] amplitudes = new double[NUISANCES + 1];
        solved.solve(amplitudes, 1e-9);
        assertThat(amplitudes).containsExactly(new double[] {0.7, 0.2, 1.5}, within(1e-4));
        assertThat(solved.bodyK(amplitudes)).isCloseTo(-0.8, within(1e-4));
    }

    @Test
    void solvingForTheBodyFirstIsSolvingForAllAtOnce() {
        Written written = new Written(9, new double[] {0.7, 0.2, 1.5, 0.6});
        double[] together = new double[NUISANCES + 2];
        double[][] gram = new double[NUISANCES + 2][];
        for (int i = 0; i < gram.length; i++) {
            gram[i] = written.gram[i].clone();
        }
        gram[NUISANCES + 1][NUISANCES + 1] += BODY_PRECISION;
        double gain = NonNegativeFit.solve(gram, written.rhs, together);
        SourceEquations solved = written.equations(0.5).bodySolved(BODY_PRECISION);
        double[] amplitudes = new double[NUISANCES + 1];
        double inSteps = solved.solve(amplitudes, 1e-9);
        assertThat(amplitudes[NUISANCES]).isCloseTo(together[NUISANCES], within(1e-6));
        assertThat(solved.bodyK(amplitudes)).isCloseTo(together[NUISANCES + 1], within(1e-6));
        // What integrating the amplitude costs, and what the body gains alone, stand beside the plain gain.
        double source = gram[NUISANCES][NUISANCES]
                - Math.pow(gram[NUISANCES][NUISANCES + 1], 2) / gram[NUISANCES + 1][NUISANCES + 1];
        double body = solved.bodyGain(BODY_PRECISION);
        double square = gram[NUISANCES + 1][NUISANCES + 1];
        double withoutPrice = inSteps + Math.log(source) + body - Math.log(BODY_PRECISION / square);
        assertThat(withoutPrice).isCloseTo(gain, within(1e-6 * gain));
    }

    @Test
    void aLooselyKnownBodyPaysForItsFreedom() {
        SourceEquations equations = new Written(5, new double[] {0.7, 0.2, 1.5, 0}).equations(0.5);
        assertThat(equations.bodySolved(1e-6).bodyGain(1e-6))
                .isLessThan(equations.bodySolved(1).bodyGain(1));
    }

    @Test
    void expectedWattsPullTheSource() {
        Written written = new Written(6, new double[] {0.7, 0.2, 1.5, 0});
        SourceEquations free = written.equations(0.5);
        assertThat(free.sourcePrecision()).isCloseTo(written.gram[NUISANCES][NUISANCES], within(1e-9));
        SourceEquations held = written.equations(0.5);
        held.expect(0.5, 1e6);
        double[] amplitudes = new double[NUISANCES + 1];
        held.solve(amplitudes, 1e-9);
        assertThat(amplitudes[NUISANCES]).isCloseTo(0.5, within(1e-3));
        assertThat(held.seesOwnBody()).isTrue();
        assertThat(new SourceEquations(new double[0][0], new double[0]).seesOwnBody())
                .isFalse();
    }
}
