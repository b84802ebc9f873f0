package ohmoscope.core.circuit;

/**
 * What an unpowered meter reads between two nets.
 *
 * @param mode what it is set to
 * @param net the net of the probe that is not the reference
 * @param to the other net; ground as a rule
 * @param redOnReference whether red is on {@code to}, so that a chip's own junctions conduct
 */
public record Meter(Mode mode, String net, String to, boolean redOnReference) {
    /** The same with its leads changed over. */
    public Meter turned() {
        return new Meter(mode, net, to, !redOnReference);
    }

    /** Each mode's unit is in its name. */
    public enum Mode {
        DIODE_VOLTS,
        OHMS
    }
}
