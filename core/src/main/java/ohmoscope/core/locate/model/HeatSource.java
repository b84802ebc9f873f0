package ohmoscope.core.locate.model;

import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;

/**
 * A source of heat on a face of the board.
 *
 * @param footprintMm2 σ² of its footprint
 * @param lagS between power in it and heat in the board
 * @param body in which the heat is released: it stands above its board as long as it is
 * @param bodyDxMm how far beside its place on the board the body is looked for, mm
 * @param bodyDyMm likewise
 */
public record HeatSource(
        double xMm,
        double yMm,
        Side side,
        double footprintMm2,
        double lagS,
        Optional<Part> body,
        double bodyDxMm,
        double bodyDyMm) {
    /** A body where the board says. */
    public HeatSource(double xMm, double yMm, Side side, double footprintMm2, double lagS, Optional<Part> body) {
        this(xMm, yMm, side, footprintMm2, lagS, body, 0, 0);
    }

    /** Heat released in the board itself, or in what no camera can tell from it. */
    public HeatSource(double xMm, double yMm, Side side, double footprintMm2, double lagS) {
        this(xMm, yMm, side, footprintMm2, lagS, Optional.empty());
    }

    public HeatSource moved(double dxMm, double dyMm) {
        return at(xMm + dxMm, yMm + dyMm);
    }

    /** The body stays where it is: what moves is the place at which the board is fed. */
    public HeatSource at(double otherXMm, double otherYMm) {
        return new HeatSource(otherXMm, otherYMm, side, footprintMm2, lagS, body, bodyDxMm, bodyDyMm);
    }

    /** Body and feed together, as when the picture lies beside the board. */
    public HeatSource carried(double dxMm, double dyMm) {
        return new HeatSource(xMm + dxMm, yMm + dyMm, side, footprintMm2, lagS, body, bodyDxMm + dxMm, bodyDyMm + dyMm);
    }

    /** Whether the body is looked for where the board says. */
    public boolean bodyInPlace() {
        return bodyDxMm == 0 && bodyDyMm == 0;
    }

    /** The same heat on a face, of no part's. */
    public HeatSource on(Side face) {
        return new HeatSource(xMm, yMm, face, footprintMm2, lagS);
    }
}
