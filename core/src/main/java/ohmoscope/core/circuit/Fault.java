package ohmoscope.core.circuit;

/** An edit of the circuit that a fault makes. A fault belongs to a part and leaves the board with it. */
public sealed interface Fault {
    /** The part, or for a missing enable the net, that has it. */
    String target();

    /** A path between two nets that should not be there: a short or a leak. {@code ohms} above 0. */
    record Bridge(String target, String netA, String netB, double ohms) implements Fault {
        public Bridge {
            if (!(ohms > 0)) {
                throw new IllegalArgumentException("ohms must be above 0, was " + ohms);
            }
        }
    }

    /** A part that should conduct, and does not, or not enough: {@code ohms} is what is left. */
    record Open(String target, double ohms) implements Fault {
        /** What an open part still passes. */
        public static final double NOTHING_OHMS = 50e6;

        public Open(String target) {
            this(target, NOTHING_OHMS);
        }
    }

    /** A chip that does nothing: it converts, drives and negotiates no more. */
    record Dead(String target) implements Fault {}

    /** A net that should be active and is not. */
    record Inactive(String target) implements Fault {}
}
