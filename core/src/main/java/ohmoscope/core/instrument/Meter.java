package ohmoscope.core.instrument;

import java.util.OptionalDouble;
import ohmoscope.core.evidence.Observation.ReadMode;

/** A meter that can be asked. */
public interface Meter extends AutoCloseable {
    /**
     * One reading.
     *
     * @param value in the unit of its mode; empty for over-range
     * @param atNanos when, on the bench's one clock
     */
    record Reading(ReadMode mode, OptionalDouble value, long atNanos) {}

    /** As it names itself. */
    String identity() throws InstrumentException;

    /** @throws InstrumentException REFUSED for a mode that it does not have */
    Reading read(ReadMode mode) throws InstrumentException;

    @Override
    void close();
}
