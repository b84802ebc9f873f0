package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.DoubleUnaryOperator;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.TraceShape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Every shape, as meters of very different speed, noise and offset would show it. */
class TraceReadingTest {
    private static final double SECONDS = 20;

    private static Trace trace(
            DoubleUnaryOperator volts,
            DoubleUnaryOperator amps,
            double rate,
            double noise,
            double offset,
            double missing) {
        Random random = new Random(5);
        List<double[]> rows = new ArrayList<>();
        for (int i = 0; i <= SECONDS * rate; i++) {
            double t = i / rate;
            if (random.nextDouble() >= missing) {
                rows.add(new double[] {
                    t,
                    volts.applyAsDouble(t) + noise * random.nextGaussian(),
                    amps.applyAsDouble(t) + offset + noise * random.nextGaussian()
                });
            }
        }
        return new Trace(
                rows.stream().mapToDouble(r -> r[0]).toArray(),
                Optional.of(rows.stream().mapToDouble(r -> r[1]).toArray()),
                Optional.of(rows.stream().mapToDouble(r -> r[2]).toArray()));
    }

    private static DoubleUnaryOperator amps(TraceShape shape) {
        return switch (shape) {
            case FLAT -> t -> 0.12;
            case PULSING -> t -> (t % 1.6) < 0.7 ? 0.9 : 0.02;
            case RISING -> t -> t < 2 ? 0.05 : t < 6 ? 0.35 : t < 11 ? 0.8 : 1.4;
            case SPIKE_THEN_ZERO -> t -> t > 1 && t < 1.4 ? 1.1 : 0.01;
            case COLLAPSE -> t -> t < 2 ? 0.02 : 3.1;
            case BURST_THEN_ZERO -> t -> t > 1 && t < 4 ? 2.4 : 0.01;
        };
    }

    private static DoubleUnaryOperator volts(TraceShape shape) {
        return shape == TraceShape.COLLAPSE ? t -> t < 2 ? 5.1 : 1.2 : t -> t < 1 ? 5.1 : 9.0;
    }

    @ParameterizedTest
    @CsvSource({
        "10, 0.002, 0, 0",
        "3, 0.005, 0.02, 0",
        "100, 0.01, -0.015, 0.1",
        "1000, 0.02, 0.03, 0.3",
        "25, 0.01, 0, 0.25"
    })
    void eachShapeWhateverTheMeter(double rate, double noise, double offset, double missing) {
        for (TraceShape shape : TraceShape.values()) {
            Trace trace = trace(volts(shape), amps(shape), rate, noise, offset, missing);
            assertThat(TraceReading.of(trace).shape())
                    .as("%s at %s Hz", shape, rate)
                    .isEqualTo(shape);
        }
    }

    @ParameterizedTest
    @CsvSource({"FLAT", "RISING", "COLLAPSE", "BURST_THEN_ZERO"})
    void slowMetersSeeTheSlowShapes(TraceShape shape) {
        Trace trace = trace(volts(shape), amps(shape), 2, 0.004, 0.01, 0);
        assertThat(TraceReading.of(trace).shape()).isEqualTo(shape);
    }

    @Test
    void theNumbersAreThoseOfTheTrace() {
        TraceReading pulses = TraceReading.of(trace(t -> 5.1, amps(TraceShape.PULSING), 50, 0.01, 0, 0));
        assertThat(pulses.periodS().orElseThrow()).isCloseTo(1.6, within(0.05));
        assertThat(pulses.peakAmps()).isCloseTo(0.9, within(0.04));
        TraceReading boot = TraceReading.of(trace(volts(TraceShape.RISING), amps(TraceShape.RISING), 50, 0.005, 0, 0));
        assertThat(boot.steps()).isEqualTo(4);
        assertThat(boot.restAmps()).isCloseTo(1.4, within(0.02));
        assertThat(boot.volts().orElseThrow()).isCloseTo(9, within(0.05));
        assertThat(boot.startVolts().orElseThrow()).isCloseTo(5.1, within(0.05));
        assertThat(boot.riseS().orElseThrow()).isCloseTo(9, within(0.3));
        assertThat(boot.noiseAmps()).isCloseTo(0.005, within(0.002));
    }

    @Test
    void aRampRisesAndABusyLoadDoesNotPulse() {
        assertThat(TraceReading.of(trace(t -> 12, t -> 0.1 + 0.05 * t, 20, 0.005, 0, 0))
                        .shape())
                .isEqualTo(TraceShape.RISING);
        assertThat(TraceReading.of(trace(t -> 12, t -> 0.8 + 0.04 * Math.sin(3 * t), 20, 0.005, 0, 0))
                        .shape())
                .isEqualTo(TraceShape.FLAT);
    }

    @Test
    void whatIsNoTraceIsRefused() {
        double[] four = {0, 1, 2, 3};
        assertThatThrownBy(() -> new Trace(new double[] {0, 1, 2}, Optional.empty(), Optional.of(new double[3])))
                .hasMessageContaining("at least 4 rows");
        assertThatThrownBy(() -> new Trace(new double[] {0, 1, 1, 2}, Optional.empty(), Optional.of(four)))
                .hasMessageContaining("row 3");
        assertThatThrownBy(() -> new Trace(four, Optional.empty(), Optional.empty()))
                .isInstanceOf(InvalidMember.class);
        assertThatThrownBy(() -> new Trace(four, Optional.empty(), Optional.of(new double[] {0, Double.NaN, 0, 0})))
                .hasMessageContaining("row 2");
    }
}
