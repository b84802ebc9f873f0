package ohmoscope.instruments;

import ohmoscope.core.instrument.InstrumentException;

/** A line to an instrument: one thread at a time. */
public interface Wire extends AutoCloseable {
    void tell(String line) throws InstrumentException;

    /** @return the answer, without its end */
    String ask(String line) throws InstrumentException;

    @Override
    void close();
}
