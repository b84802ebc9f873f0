package ohmoscope.core.heat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class SlabResponseTest {
    private static final SlabParameters SLAB = new SlabParameters(17, 100, 0.6, 2.4e-3);

    @Test
    void heatOverTheWholeBoardIsPowerInMinusLosses() {
        // Integrate θ·C over the plane, mean of both faces: P τ (1 − e^(−t/τ)), and what the outer sheets hold above
        // the mean of all three: a mode of which each has a half, dying away at 27/π² per τ₁.
        double t = 8;
        double sum = 0;
        double dr = 0.05;
        for (double r = dr / 2; r < 120; r += dr) {
            double mean = (SlabResponse.step(SLAB, true, r, t, 0.3) + SlabResponse.step(SLAB, false, r, t, 0.3)) / 2;
            sum += mean * SLAB.jouleMm2PerK() * 2 * Math.PI * r * dr;
        }
        double expected = SLAB.lossS() * (1 - Math.exp(-t / SLAB.lossS())) + SLAB.crossS() * Math.PI * Math.PI / 54;
        assertThat(sum).isCloseTo(expected, within(0.002 * expected));
    }

    @Test
    void twoDimensionalLimitFollowsTheExponentialIntegral() {
        // Thin board, no loss: θ(0, t) grows with the logarithm of time at rate P/(4πkd) per e-fold.
        SlabParameters thin = new SlabParameters(17, 1e9, 1e-4, 2.4e-3);
        double difference =
                SlabResponse.step(thin, true, 0, 20, 0.3) - SlabResponse.step(thin, true, 0, 20 / Math.E, 0.3);
        double expected = 1 / (4 * Math.PI * 17 * 2.4e-3);
        assertThat(difference).isCloseTo(expected, within(0.02 * expected));
    }

    @Property(tries = 40)
    void closerIsWarmerAndLaterIsWarmer(
            @ForAll @DoubleRange(min = 0.1, max = 15) double r, @ForAll @DoubleRange(min = 0.2, max = 10) double t) {
        double here = SlabResponse.step(SLAB, true, r, t, 0.4);
        assertThat(here).isGreaterThanOrEqualTo(SlabResponse.step(SLAB, true, r + 0.5, t, 0.4));
        assertThat(here).isLessThanOrEqualTo(SlabResponse.step(SLAB, true, r, t + 0.5, 0.4));
        assertThat(here).isGreaterThanOrEqualTo(SlabResponse.step(SLAB, false, r, t, 0.4));
    }

    @Test
    void theFarFaceWaitsAboutTheCrossingTime() {
        double early = SlabResponse.step(SLAB, false, 0, 0.05, 0.3);
        double late = SlabResponse.step(SLAB, false, 0, 2, 0.3);
        assertThat(early / late).isLessThan(0.01);
        assertThat(SlabResponse.step(SLAB, true, 0, 0, 0.3)).isZero();
    }

    @Test
    void tablesAgreeWithTheQuadrature() {
        double[] times = {0, 0.5, 1, 2, 4, 7};
        TimeKernel kernel = new TimeKernel(Waveform.stepAt(0), times, 0, 1e-4);
        double[][] each = new double[times.length][times.length];
        for (int f = 0; f < times.length; f++) {
            each[f][f] = 1;
        }
        RadialTable table = new RadialTable(SLAB, true, 0.4, ProjectedKernel.of(each, kernel), 40);
        for (double r : new double[] {0, 0.7, 2.3, 6, 14}) {
            float[] out = at(table, r, times.length);
            for (int f = 1; f < times.length; f++) {
                double exact = SlabResponse.step(SLAB, true, r, times[f], 0.4);
                double atCentre = SlabResponse.step(SLAB, true, 0, times[f], 0.4);
                assertThat((double) out[f]).as("r %s t %s", r, times[f]).isCloseTo(exact, within(0.02 * atCentre));
            }
            assertThat(out[0]).isZero();
        }
    }

    @Test
    void expectedParametersFollowTheBoard() {
        SlabParameters expected = SlabParameters.expected(Fixtures.board());
        assertThat(expected.diffusivityMm2PerS()).isBetween(3.0, 30.0);
        assertThat(expected.lossS()).isBetween(60.0, 200.0);
        assertThat(expected.crossS()).isBetween(0.3, 1.2);
        assertThat(expected.jouleMm2PerK()).isCloseTo(2.4e-3, within(1e-9));
    }

    @Test
    void aPulseIsAStepLessALaterStep() {
        double[] times = {3.0};
        double[][] one = {{1}};
        float[] pulse = response(new Waveform(List.of(new Waveform.Step(0, 1), new Waveform.Step(1, -1))), times, one);
        float[] first = response(Waveform.stepAt(0), times, one);
        float[] second = response(Waveform.stepAt(1), times, one);
        assertThat(pulse[0]).isCloseTo(first[0] - second[0], within(2e-3f * first[0]));
    }

    private static float[] response(Waveform waveform, double[] times, double[][] basis) {
        TimeKernel kernel = new TimeKernel(waveform, times, 0, 0.1);
        RadialTable table = new RadialTable(SLAB, true, 0.4, ProjectedKernel.of(basis, kernel), 30);
        return at(table, 1.5, 1);
    }

    private static float[] at(RadialTable table, double rMm, int components) {
        float[] out = new float[components];
        int[] cell = new int[1];
        table.place(new float[] {(float) (rMm * rMm)}, cell, 1);
        table.addTo(cell, 1, out);
        return out;
    }

    @Test
    void beyondTheTablesEndThereIsNothing() {
        TimeKernel kernel = new TimeKernel(Waveform.stepAt(0), new double[] {2}, 0, 0.1);
        RadialTable table = new RadialTable(SLAB, true, 0.4, ProjectedKernel.of(new double[][] {{1}}, kernel), 10);
        assertThat(at(table, 10, 1)[0]).isZero();
        assertThat(at(table, 25, 1)[0]).isZero();
        assertThat(at(table, 9, 1)[0]).isPositive();
    }

    @Test
    void manyPulsesAreTheSumOfTheirSteps() {
        List<Waveform.Step> steps = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            steps.add(new Waveform.Step(0.5 * i, i % 2 == 0 ? 1 : -1));
        }
        double[] times = {0.1, 2.2, 3.7, 5.5, 9};
        for (double t : times) {
            double sum = 0;
            for (Waveform.Step step : steps) {
                sum += step.change() * response(Waveform.stepAt(step.tS()), new double[] {t}, new double[][] {{1}})[0];
            }
            float train = response(new Waveform(steps), new double[] {t}, new double[][] {{1}})[0];
            double all = response(Waveform.stepAt(0), new double[] {9}, new double[][] {{1}})[0];
            assertThat((double) train).as("at %s", t).isCloseTo(sum, within(0.01 * all));
        }
    }
}
