package ohmoscope.core.locate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.inject.FaultResistance;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WattsPriorTest {
    private static FaultResistance measured(double ohms, double sigma, double amps) {
        return new FaultResistance(ohms, sigma, ohms + 0.05, amps, amps * (ohms + 0.05));
    }

    /** A likelihood that peaks at so many watts, one sigma wide so many. */
    private static double evidence(WattsPrior prior, double watts, double sigma) {
        return prior.logEvidence(watts, 0, 0, 1 / (sigma * sigma));
    }

    @ParameterizedTest
    @CsvSource({"0.3, 0.05", "0.05, 0.4", "0, 1", "2, 0.01"})
    void aNormalOneHasItsMomentsAndItsDensity(double mean, double sigma) {
        WattsPrior prior = WattsPrior.normal(mean, sigma);
        if (mean > 4 * sigma) {
            assertThat(prior.mean()).isCloseTo(mean, within(0.02 * sigma));
            assertThat(prior.sigma()).isCloseTo(sigma, within(0.03 * sigma));
        } else {
            assertThat(prior.mean()).isGreaterThan(mean);
            assertThat(prior.sigma()).isLessThan(sigma);
        }
        double one = evidence(prior, mean + sigma, 1e-3 * sigma);
        double two = evidence(prior, mean + 2 * sigma, 1e-3 * sigma);
        assertThat(one - two).isCloseTo(1.5, within(0.05));
    }

    @Test
    void aLikelihoodThatSaysNothingIsWorthNothing() {
        WattsPrior prior = WattsPrior.of(measured(0.03, 0.003, 2));
        assertThat(evidence(prior, 0, 1e3)).isCloseTo(0, within(1e-3));
    }

    @Test
    void theTableAndTheParabolaMeet() {
        WattsPrior prior = WattsPrior.of(measured(0.03, 0.003, 2));
        double peak = 0.05;
        double table = evidence(prior, peak, 0.0601 * peak);
        double parabola = evidence(prior, peak, 0.0599 * peak);
        assertThat(table - parabola).isCloseTo(Math.log(0.0601 / 0.0599), within(0.02));
    }

    @Test
    void aFaultOfKnownOhmsReleasesNeitherNothingNorMore() {
        // 4 A² × 30 mΩ: 0.12 W, of which about three quarters are seen.
        WattsPrior prior = WattsPrior.of(measured(0.03, 0.003, 2));
        assertThat(prior.mean()).isBetween(0.08, 0.11);
        double usual = evidence(prior, 0.09, 1e-4);
        assertThat(usual - evidence(prior, 0.004, 1e-4)).isGreaterThan(6);
        assertThat(usual - evidence(prior, 0.6, 1e-4)).isGreaterThan(6);
    }

    @Test
    void ohmsThatCouldBeAlmostNothingLeaveLittleHeatPossible() {
        WattsPrior unsure = WattsPrior.of(measured(0.005, 0.006, 2));
        double usual = evidence(unsure, 0.012, 1e-4);
        assertThat(usual - evidence(unsure, 0.008, 1e-4)).isLessThan(2);
        // Below 0 is a slip of the leads' ohms, no heat below 0.
        assertThat(WattsPrior.of(measured(-0.004, 0.004, 2)).mean()).isPositive();
    }

    @Test
    void softFaultsAreNotCutOff() {
        assertThat(WattsPrior.of(measured(40, 0.5, 0.1)).mean()).isBetween(0.2, 0.35);
    }
}
