package ohmoscope.core.circuit;

import ohmoscope.core.board.Part;

/** An edit of the circuit that a fault makes. A fault belongs to a part and leaves the board with it. */
public sealed interface Fault {
    /** The part, or for a missing enable the net, that has it. */
    String target();

    /** Whether a part has it, as the board is: it goes with its part, and a dud comes with the new one. */
    default boolean in(Part part, BoardState state) {
        boolean renewed = state.renewed().contains(part.ref());
        boolean itsOwn = this instanceof Dead dead && dead.asFitted() == renewed || !(this instanceof Dead) && !renewed;
        return state.has(part) && itsOwn && !state.unplugged().contains(part.ref());
    }

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

    /**
     * A chip that does nothing: it converts, drives and negotiates no more.
     *
     * @param asFitted whether it is the one that was put in: a dud, or its joints; that fault comes with the renewal
     */
    record Dead(String target, boolean asFitted) implements Fault {
        public Dead(String target) {
            this(target, false);
        }
    }

    /** A net that should be active and is not. */
    record Inactive(String target) implements Fault {}
}
