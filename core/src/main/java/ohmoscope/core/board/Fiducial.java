package ohmoscope.core.board;

import java.util.Optional;

/**
 * A mark by which a picture is laid over the board.
 *
 * @param side empty when it can be seen from both
 */
public record Fiducial(String name, Optional<Side> side, double xMm, double yMm) {
    public Fiducial {
        Check.text("name", name);
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
    }
}
