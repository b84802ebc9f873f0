package ohmoscope.core.circuit;

import ohmoscope.core.board.Part;

/**
 * An edit of the circuit that a fault makes. A fault belongs to a part and leaves the board with it; what is
 * {@link #asFitted} comes with the part that is put in its place: a dud, its joints, solder between its pins.
 */
public sealed interface Fault {
    /** The part, or for a missing enable the net, that has it. */
    String target();

    /** Whether it is the renewed part's. */
    default boolean asFitted() {
        return false;
    }

    /** Whether a part has it, as the board is. */
    default boolean in(Part part, BoardState state) {
        boolean renewed = state.renewed().contains(part.ref());
        return state.has(part) && asFitted() == renewed && !state.unplugged().contains(part.ref());
    }

    /** A path between two nets that should not be there: a short or a leak. {@code ohms} above 0. */
    record Bridge(String target, String netA, String netB, double ohms, boolean asFitted) implements Fault {
        public Bridge {
            if (!(ohms > 0)) {
                throw new IllegalArgumentException("ohms must be above 0, was " + ohms);
            }
        }

        public Bridge(String target, String netA, String netB, double ohms) {
            this(target, netA, netB, ohms, false);
        }

        /** The same fault of other hardness. */
        public Bridge of(double otherOhms) {
            return new Bridge(target, netA, netB, otherOhms, asFitted);
        }
    }

    /** A part that should conduct, and does not, or not enough: {@code ohms} is what is left. */
    record Open(String target, double ohms, boolean asFitted) implements Fault {
        /** What an open part still passes. */
        public static final double NOTHING_OHMS = 50e6;

        public Open(String target) {
            this(target, NOTHING_OHMS, false);
        }

        public Open(String target, double ohms) {
            this(target, ohms, false);
        }

        /** The same fault, with more or less left. */
        public Open of(double otherOhms) {
            return new Open(target, otherOhms, asFitted);
        }
    }

    /** A chip that does nothing: it converts, drives and negotiates no more. */
    record Dead(String target, boolean asFitted) implements Fault {
        public Dead(String target) {
            this(target, false);
        }
    }

    /** A chip that works, but for one of its outputs: {@code net} is not made. */
    record NoOutput(String target, String net) implements Fault {}

    /** A net that should be active and is not. */
    record Inactive(String target) implements Fault {}
}
