package ohmoscope.core.instrument;

/**
 * A bench supply. Its limits are set and read back before anything flows; nothing here switches an output on but
 * {@link #on}.
 */
public interface Supply extends AutoCloseable {
    /**
     * What it shows.
     *
     * @param volts at its terminals
     * @param amps through them
     * @param on whether its output is on
     * @param limiting whether the current limit holds it
     * @param atNanos when, on the bench's one clock
     */
    record Shown(double volts, double amps, boolean on, boolean limiting, long atNanos) {}

    /** As it names itself. */
    String identity() throws InstrumentException;

    /**
     * Sets limits and protection, and reads them back; the output stays as it is.
     *
     * @return what it says that it was set to
     * @throws InstrumentException REFUSED where it does not stand where it was told to
     */
    SupplySetting set(SupplySetting setting) throws InstrumentException;

    /** @throws InstrumentException REFUSED where the output is not on after it */
    void on() throws InstrumentException;

    /** @throws InstrumentException where nobody can say that the output is off */
    void off() throws InstrumentException;

    Shown shown() throws InstrumentException;

    /** Tries to switch the output off, and lets go of it. */
    @Override
    void close();
}
