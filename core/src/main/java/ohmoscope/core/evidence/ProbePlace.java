package ohmoscope.core.evidence;

import java.util.Optional;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.Side;

/** Where a lead touches the board. {@code ref} names the part whose pad it is, when known. */
public record ProbePlace(double xMm, double yMm, Side side, Optional<String> ref) {
    public ProbePlace {
        Check.coordinateMm("x_mm", xMm);
        Check.coordinateMm("y_mm", yMm);
    }
}
