package ohmoscope.core.instrument;

import java.util.List;

/** A meter in the supply's line or at a port that says volts and amperes by itself. */
public interface InlineMeter extends AutoCloseable {
    /** @param atNanos when its line had come, on the bench's one clock */
    record Sample(double volts, double amps, long atNanos) {}

    /**
     * What it said since it was last asked, the oldest first; empty where it has been silent.
     *
     * @throws InstrumentException LOST where it has gone, GARBLED where many lines running are no two numbers
     */
    List<Sample> since() throws InstrumentException;

    @Override
    void close();
}
