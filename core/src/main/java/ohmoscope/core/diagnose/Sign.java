package ohmoscope.core.diagnose;

/**
 * What one entry says about one net.
 *
 * @param value the reading, in the unit of its mode; infinite for over-range; ohms for an injection
 * @param seq the entry's number
 * @param epoch the circuit it was taken in
 */
public record Sign(String net, Says says, double value, int seq, int epoch, Unit unit) {
    /** In what the value is. */
    public enum Unit {
        DIODE_VOLTS,
        OHMS,
        VOLTS
    }

    /** The kinds of statement. */
    public enum Says {
        /** Joined to ground by next to nothing. */
        SHORTED,
        /** Well below what a good board reads, yet no dead short. */
        LOW,
        /** As a good board reads. */
        GOOD,
        /** Low, and that is what this rail reads. */
        BY_DESIGN,
        /** No short; more is not known. */
        CLEAR,
        /** Above what a good board reads, or over-range. */
        HIGH,
        /** Powered: about its voltage. */
        PRESENT,
        /** Powered: next to nothing. */
        ABSENT,
        /** Powered: something between. */
        HALF,
        /** Powered from where it should not be. */
        BACKFED,
        /** The injected current met the leads alone. */
        INTO_GROUND,
        /** No current flowed although the rail is shorted. */
        NO_CONTACT;

        public boolean unpowered() {
            return ordinal() <= HIGH.ordinal();
        }

        public boolean notShorted() {
            return this == GOOD || this == BY_DESIGN || this == CLEAR || this == HIGH;
        }
    }
}
