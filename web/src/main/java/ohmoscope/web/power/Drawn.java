package ohmoscope.web.power;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.TraceReading;

/**
 * How the device was powered while a trace was taken.
 *
 * @param port the connector
 * @param side which way round a plug was
 */
public record Drawn(
        PowerSource from, Optional<String> port, Optional<String> side, BatteryState battery, DeviceState state) {

    /** The entry that a trace belongs to. @param stored the name that it is kept under */
    public Power entry(int seq, String stored, TraceReading reading) {
        boolean high = reading.shape() == TraceShape.COLLAPSE || reading.shape() == TraceShape.BURST_THEN_ZERO;
        double amps = high
                ? reading.peakAmps()
                : reading.shape() == TraceShape.PULSING ? reading.meanAmps() : reading.restAmps();
        return new Power(
                seq,
                from,
                port,
                Optional.empty(),
                side,
                Optional.of(battery),
                reading.volts(),
                OptionalDouble.of(Math.round(amps * 1e4) / 1e4),
                state,
                Optional.of(reading.shape()),
                Optional.of("traces/" + stored));
    }
}
