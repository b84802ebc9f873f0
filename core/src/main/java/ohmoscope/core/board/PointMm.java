package ohmoscope.core.board;

/** A place in board axes, in millimetres. */
public record PointMm(double xMm, double yMm) {
    public PointMm {
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
    }

    /** Straight distance in millimetres. */
    public double distanceMm(double otherXMm, double otherYMm) {
        return Math.hypot(xMm - otherXMm, yMm - otherYMm);
    }
}
