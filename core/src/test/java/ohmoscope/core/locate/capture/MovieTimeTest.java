package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.heat.ProjectedKernel;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;
import org.junit.jupiter.api.Test;

class MovieTimeTest {
    private static final double[] TIMES = {0, 1, 2, 3, 4};
    private static final double[][] BASIS = {{1, 1, 1, 1, 1}, {-2, -1, 0, 1, 2}};
    private final MovieTime time = new MovieTime(Waveform.stepAt(1.5), TIMES, BASIS);

    @Test
    void kernelsOfOneClockAndLagAreMadeOnce() {
        ProjectedKernel kernel = time.kernel(0.02, 0.1);
        assertThat(time.kernel(0.02, 0.1)).isSameAs(kernel);
        assertThat(time.kernel(0.03, 0.1)).isNotSameAs(kernel);
        assertThat(time.kernel(0.02, 0.2)).isNotSameAs(kernel);
    }

    @Test
    void aKernelIsTheTimesOwnSeenThroughTheComponents() {
        ProjectedKernel kernel = time.kernel(0, 0.1);
        assertThat(kernel.delaysS()).hasSize(TimeKernel.NODES).isSorted();
        double[][] each = new double[TIMES.length][TIMES.length];
        for (int f = 0; f < TIMES.length; f++) {
            each[f][f] = 1;
        }
        ProjectedKernel own = ProjectedKernel.of(each, new TimeKernel(Waveform.stepAt(1.5), TIMES, 0, 0.1));
        for (int n = 0; n < TimeKernel.NODES; n++) {
            double sum = 0;
            double slope = 0;
            for (int f = 0; f < TIMES.length; f++) {
                sum += own.weights()[f][n];
                slope += (f - 2) * own.weights()[f][n];
            }
            assertThat(kernel.weights()[0][n]).isCloseTo(sum, within(1e-9));
            assertThat(kernel.weights()[1][n]).isCloseTo(slope, within(1e-9));
        }
        // Before the power nothing has flowed.
        assertThat(own.weights()[0]).containsOnly(0);
        assertThat(own.weights()[1]).containsOnly(0);
    }

    @Test
    void whatFlowsBehindALagComesLater() {
        assertThat(time.components()).isEqualTo(2);
        assertThat(time.longestS()).isEqualTo(2.5);
        double[] prompt = time.flow(0, 1e-3);
        double[] slow = time.flow(0, 2);
        assertThat(prompt[0]).isCloseTo(3, within(1e-3));
        assertThat(prompt[1]).isCloseTo(3, within(1e-3));
        assertThat(slow[0]).isBetween(0.5, 2.0);
        // A clock that runs late by a second hides one frame's power.
        assertThat(time.flow(1, 1e-3)[0]).isCloseTo(2, within(1e-3));
    }
}
