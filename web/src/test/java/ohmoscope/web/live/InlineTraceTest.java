package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.function.DoubleUnaryOperator;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.TraceReading;
import ohmoscope.core.instrument.InlineMeter.Sample;
import org.junit.jupiter.api.Test;

class InlineTraceTest {
    private final InlineTrace trace = new InlineTrace();
    private double endedS = Double.NaN;

    /** Ten samples a second; the charger goes in after two. */
    private void run(double seconds, DoubleUnaryOperator amps) {
        for (int i = 0; i < 10 * seconds; i++) {
            double t = i / 10.0;
            double since = t - 2;
            Sample sample = new Sample(
                    since < 0 ? 0.02 : 5.1,
                    since < 0 ? 0.001 : amps.applyAsDouble(since),
                    7_000_000_000L + (long) (t * 1e9));
            if (trace.add(List.of(sample))) {
                assertThat(endedS).isNaN();
                endedS = since;
            }
        }
    }

    @Test
    void aLevelThatStaysIsToldAfterAFewSeconds() {
        run(20, since -> since < 0.5 ? 0.02 : 0.31);
        assertThat(endedS).isBetween(5.0, 6.0);
        TraceReading reading = trace.reading().orElseThrow();
        assertThat(reading.restAmps()).isCloseTo(0.31, within(0.01));
        assertThat(trace.runs()).isFalse();
        // From the moment it went in, with a little before.
        assertThat(trace.drawing().t()[0]).isBetween(-0.5, 0.0);
    }

    @Test
    void whatPulsesIsRecordedLongEnoughToBeToldSo() {
        run(40, since -> since % 1 < 0.25 ? 0.8 : 0.02);
        assertThat(endedS).isBetween(19.9, 20.5);
        assertThat(trace.reading().orElseThrow().shape()).isEqualTo(TraceShape.PULSING);
    }

    @Test
    void nothingIsRecordedBeforeItGoesIn() {
        run(1.9, since -> 0);
        assertThat(trace.runs()).isFalse();
        assertThat(trace.trace()).isEmpty();
        assertThat(trace.drawing().t().length).isLessThan(8);
    }

    @Test
    void theHandMayHaveSeenEnough() {
        run(4, since -> 0.31);
        assertThat(trace.runs()).isTrue();
        trace.end();
        assertThat(trace.runs()).isFalse();
        assertThat(trace.reading().orElseThrow().shape()).isNotNull();
        assertThat(endedS).isNaN();
    }
}
