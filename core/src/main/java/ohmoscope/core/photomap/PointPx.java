package ohmoscope.core.photomap;

import ohmoscope.core.board.Check;

/** A place in a picture; (0, 0) is the centre of its top-left pixel, y down. */
public record PointPx(double xPx, double yPx) {
    private static final double FARTHEST_PX = 100_000;

    public PointPx {
        Check.within("x_px", xPx, -FARTHEST_PX, FARTHEST_PX);
        Check.within("y_px", yPx, -FARTHEST_PX, FARTHEST_PX);
    }
}
