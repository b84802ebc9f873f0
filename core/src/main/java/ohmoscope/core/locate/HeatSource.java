package ohmoscope.core.locate;

import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;

/**
 * A source of heat on a face of the board.
 *
 * @param footprintMm2 σ² of its footprint
 * @param lagS between power in it and heat in the board
 * @param body in which the heat is released: it stands above its board as long as it is
 */
record HeatSource(double xMm, double yMm, Side side, double footprintMm2, double lagS, Optional<Part> body) {
    /** Heat released in the board itself, or in what no camera can tell from it. */
    HeatSource(double xMm, double yMm, Side side, double footprintMm2, double lagS) {
        this(xMm, yMm, side, footprintMm2, lagS, Optional.empty());
    }

    HeatSource moved(double dxMm, double dyMm) {
        return at(xMm + dxMm, yMm + dyMm);
    }

    /** The body stays where it is: what moves is the place at which the board is fed. */
    HeatSource at(double otherXMm, double otherYMm) {
        return new HeatSource(otherXMm, otherYMm, side, footprintMm2, lagS, body);
    }

    /** The same heat on a face, of no part's. */
    HeatSource on(Side face) {
        return new HeatSource(xMm, yMm, face, footprintMm2, lagS);
    }
}
