package ohmoscope.core.reading;

/** In what a reading's value is. */
public enum Unit {
    DIODE_VOLTS,
    OHMS,
    VOLTS
}
