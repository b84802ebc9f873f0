package ohmoscope.core.locate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import ohmoscope.core.locate.model.SourceProducts;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Checked against the same unknowns written out in full: nuisances, the source, its body. */
class SourceEquationsTest {
    private static final int NUISANCES = 2;
    private static final double BODY_PRECISION = 0.3;
    private static final WattsPrior ANY = WattsPrior.normal(1, 1e4);

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

        /** Log-likelihood at so many watts, the nuisances at their best. */
        double atBest(double watts) {
            double[][] nuisances = new double[NUISANCES][];
            double[] with = new double[NUISANCES];
            for (int i = 0; i < NUISANCES; i++) {
                nuisances[i] = Arrays.copyOf(gram[i], NUISANCES);
                with[i] = rhs[i] - watts * gram[i][NUISANCES];
            }
            double gain = NonNegativeFit.solve(nuisances, with, new double[NUISANCES]);
            return (gain + watts * (2 * rhs[NUISANCES] - watts * gram[NUISANCES][NUISANCES])) / 2;
        }

        SourceEquations equations(double share, WattsPrior expected) {
            double[][] nuisance = new double[NUISANCES][NUISANCES];
            double[] with = new double[NUISANCES];
            for (int i = 0; i < NUISANCES; i++) {
                with[i] = rhs[i];
                System.arraycopy(gram[i], 0, nuisance[i], 0, NUISANCES);
            }
            SourceEquations equations = new SourceEquations(nuisance, with, expected);
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
        SourceEquations solved = written.equations(0.35, ANY).bodySolved(1e-9);
        double[] amplitudes = new double[NUISANCES + 1];
        solved.evidence(amplitudes);
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
        gram[NUISANCES][NUISANCES] += ANY.precision();
        double[] rhs = written.rhs.clone();
        rhs[NUISANCES] += ANY.mean() * ANY.precision();
        double gain = NonNegativeFit.solve(gram, rhs, together);
        SourceEquations solved = written.equations(0.5, ANY).bodySolved(BODY_PRECISION);
        double[] amplitudes = new double[NUISANCES + 1];
        solved.evidence(amplitudes);
        assertThat(amplitudes[NUISANCES]).isCloseTo(together[NUISANCES], within(1e-6));
        assertThat(solved.bodyK(amplitudes)).isCloseTo(together[NUISANCES + 1], within(1e-6));
    }

    /** Against the same integral summed up, the nuisances solved anew for each number of watts. */
    @ParameterizedTest
    @CsvSource({"0.7, 0.2, 1.5, 1.5, 0.4", "0.7, 0, 0.1, 0.5, 0.3", "0, 0, -0.4, 0.3, 0.2", "0.7, 0.2, 1.5, 0, 40"})
    void theWattsAreIntegratedOutUnderTheirPrior(double first, double second, double watts, double mean, double sigma) {
        Written written = new Written(12, new double[] {first, second, watts, 0});
        WattsPrior prior = WattsPrior.normal(mean, sigma);
        SourceEquations equations = written.equations(0.4, prior);
        double[] amplitudes = new double[NUISANCES + 1];
        double evidence = equations.evidence(amplitudes);

        double step = Math.min(1e-3, sigma / 200);
        double top = Double.NEGATIVE_INFINITY;
        double sum = 0;
        double normal = 0;
        for (double w = step / 2; w < Math.max(4, mean + 5 * sigma); w += step) {
            double off = (w - mean) / sigma;
            normal += Math.exp(-off * off / 2) * step;
            double log = written.atBest(w) - off * off / 2;
            if (log > top) {
                sum *= Math.exp(top - log);
                top = log;
            }
            sum += Math.exp(log - top) * step;
        }
        assertThat(evidence).isCloseTo(top + Math.log(sum / normal), within(0.05));
    }

    @Test
    void aLooselyKnownBodyPaysForItsFreedom() {
        SourceEquations equations = new Written(5, new double[] {0.7, 0.2, 1.5, 0}).equations(0.5, ANY);
        assertThat(equations.bodySolved(1e-6).bodyGain(1e-6))
                .isLessThan(equations.bodySolved(1).bodyGain(1));
    }

    @Test
    void expectedWattsPullTheSource() {
        Written written = new Written(6, new double[] {0.7, 0.2, 1.5, 0});
        SourceEquations free = written.equations(0.5, ANY);
        assertThat(free.sourcePrecision()).isCloseTo(written.gram[NUISANCES][NUISANCES], within(1e-9));
        SourceEquations held = written.equations(0.5, WattsPrior.normal(0.5, 1e-3));
        double[] amplitudes = new double[NUISANCES + 1];
        held.evidence(amplitudes);
        assertThat(amplitudes[NUISANCES]).isCloseTo(0.5, within(1e-3));
        assertThat(held.seesOwnBody()).isTrue();
        assertThat(new SourceEquations(new double[0][0], new double[0], ANY).seesOwnBody())
                .isFalse();
    }
}
