package ohmoscope.web.power;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.TraceReading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class TraceWordsTest {
    private static TraceReading reading(TraceShape shape, double rest, double peak) {
        return new TraceReading(
                shape,
                rest,
                peak,
                rest,
                OptionalDouble.of(5.1),
                OptionalDouble.of(19.2),
                OptionalDouble.of(1.6),
                OptionalDouble.of(9),
                3,
                0.4,
                0.003);
    }

    @ParameterizedTest
    @CsvSource({
        "FLAT, Flat at 40 mA.",
        "PULSING, Pulsing up to 900 mA every 1.6 s.",
        "RISING, 'Rising to 40 mA in 3 levels, within 9.0 s.'",
        "SPIKE_THEN_ZERO, 'A spike of 900 mA for 400 ms, then 40 mA.'",
        "COLLAPSE, The source collapses from 19.2 V to 5.1 V at 900 mA.",
        "BURST_THEN_ZERO, '900 mA for 400 ms, then shut off to 40 mA.'"
    })
    void theShapeWithItsNumbers(TraceShape shape, String words) {
        assertThat(TraceWords.shape(reading(shape, 0.04, 0.9))).isEqualTo(words);
    }

    @ParameterizedTest
    @EnumSource(TraceShape.class)
    void everyShapeMeansSomething(TraceShape shape) {
        assertThat(TraceWords.meaning(shape)).endsWith(".").hasSizeGreaterThan(20);
    }

    @Test
    void theDevicesOwnExpectationStandsBeside() {
        Optional<PortExpectation> port = Optional.of(new PortExpectation(
                Optional.of(new Range(19, 20)),
                Optional.of(new Range(0, 0.05)),
                Optional.of(new Range(0.5, 2.5)),
                Optional.empty(),
                false));
        TraceReading waiting = reading(TraceShape.FLAT, 0.04, 0.05);
        assertThat(TraceWords.expected(port, waiting, DeviceState.OFF))
                .extracting(TraceWords.Compared::words)
                .containsExactly(
                        "Charger volts 19 V to 20 V: it is below.", "Standby draw 0 A to 50 mA: it is within.");
        assertThat(TraceWords.expected(port, waiting, DeviceState.ON).get(1).words())
                .isEqualTo("Running draw 500 mA to 2.5 A: it is below.");
        assertThat(TraceWords.expected(Optional.empty(), waiting, DeviceState.ON))
                .isEmpty();
    }
}
