package ohmoscope.core.rework;

import java.util.List;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;

/** What heats the board from one side. */
public sealed interface Heating {
    Side side();

    /** Kelvin above the room of what heats: all rises are in proportion to it. */
    double riseK(double roomC);

    /** Air over a place. */
    record Air(Side side, double xMm, double yMm, Jet jet) implements Heating {
        @Override
        public double riseK(double roomC) {
            return jet.airC() - roomC;
        }
    }

    /**
     * A pad under a tip.
     *
     * @param kelvinPerWatt how far it gets above the board round it for a watt that goes through it
     */
    record Pad(PointMm at, double kelvinPerWatt) {}

    /**
     * A tip, or two, at a part's pads.
     *
     * @param wattsPerK between tip and each pad, solder on both
     */
    record Tip(Side side, List<Pad> pads, double tipC, double wattsPerK) implements Heating {
        public Tip {
            pads = List.copyOf(pads);
        }

        @Override
        public double riseK(double roomC) {
            return tipC - roomC;
        }
    }
}
