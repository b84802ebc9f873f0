package ohmoscope.core.imaging;

import ohmoscope.core.board.Check;

/** One place clicked in the picture and where it is on the board. (0, 0) px is the centre of the top-left pixel. */
public record RegistrationPair(double xPx, double yPx, double xMm, double yMm) {
    public RegistrationPair {
        Check.within("px", xPx, -1e5, 1e5);
        Check.within("px", yPx, -1e5, 1e5);
        Check.coordinateMm("mm", xMm);
        Check.coordinateMm("mm", yMm);
    }
}
