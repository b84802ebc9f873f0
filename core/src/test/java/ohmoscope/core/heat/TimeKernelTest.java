package ohmoscope.core.heat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import ohmoscope.core.heat.Waveform.Step;
import org.junit.jupiter.api.Test;

class TimeKernelTest {
    @Test
    void aStepBehindItsLagNearsOne() {
        double[] flow = TimeKernel.lagged(Waveform.stepAt(1), new double[] {0.5, 1, 1.5, 2, 6}, 0, 0.5);
        assertThat(flow[0]).isZero();
        assertThat(flow[1]).isZero();
        assertThat(flow[2]).isCloseTo(1 - Math.exp(-1), within(1e-3));
        assertThat(flow[3]).isCloseTo(1 - Math.exp(-2), within(1e-3));
        assertThat(flow[4]).isCloseTo(1, within(1e-3));
    }

    @Test
    void aClockOffsetMovesItAsAWhole() {
        double[] times = {1.2, 1.7, 2.9};
        double[] moved = {1.3, 1.8, 3.0};
        assertThat(TimeKernel.lagged(Waveform.stepAt(1), moved, 0.1, 0.4))
                .containsExactly(TimeKernel.lagged(Waveform.stepAt(1), times, 0, 0.4), within(1e-6));
    }

    @Test
    void aPulseFallsAgain() {
        Waveform pulse = new Waveform(List.of(new Step(0, 1), new Step(1, -1)));
        double[] flow = TimeKernel.lagged(pulse, new double[] {1, 1.5, 4}, 0, 0.3);
        assertThat(flow[0]).isCloseTo(1 - Math.exp(-1 / 0.3), within(2e-3));
        assertThat(flow[1]).isCloseTo(flow[0] * Math.exp(-0.5 / 0.3), within(2e-3));
        assertThat(flow[2]).isCloseTo(0, within(1e-3));
    }

    @Property(tries = 40)
    void itNeverLeavesWhatThePowerDoes(@ForAll @DoubleRange(min = 0.02, max = 4) double lagS) {
        Waveform train =
                new Waveform(List.of(new Step(0.5, 1.2), new Step(1.5, -1.2), new Step(2.5, 0.8), new Step(3.5, -0.8)));
        double[] times = new double[100];
        for (int f = 0; f < times.length; f++) {
            times[f] = 0.06 * f;
        }
        for (double flow : TimeKernel.lagged(train, times, 0, lagS)) {
            assertThat(flow).isBetween(-1e-3, 1.201);
        }
    }
}
