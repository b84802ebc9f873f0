package ohmoscope.core.locate;

import ohmoscope.core.board.Side;

/**
 * A source of heat on a face of the board.
 *
 * @param footprintMm2 σ² of its footprint
 * @param lagS between power in it and heat in the board
 */
record HeatSource(double xMm, double yMm, Side side, double footprintMm2, double lagS) {
    HeatSource moved(double dxMm, double dyMm) {
        return new HeatSource(xMm + dxMm, yMm + dyMm, side, footprintMm2, lagS);
    }

    HeatSource at(double otherXMm, double otherYMm) {
        return new HeatSource(otherXMm, otherYMm, side, footprintMm2, lagS);
    }
}
