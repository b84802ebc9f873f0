package ohmoscope.core.locate;

import java.util.OptionalDouble;
import ohmoscope.core.board.Side;

/**
 * Where the heat starts, from the heat alone.
 *
 * @param sigmaMm one-sigma radius: the heat's own bound, the picture's registration, what uneven copper does, and how
 *     directly the place is seen
 * @param majorMm one-sigma half axis along {@code axisDeg}
 * @param minorMm the other half axis
 * @param axisDeg counter-clockwise from the x axis
 * @param watts heat released there while the power is on
 * @param boundMm one-sigma radius by the Cramér–Rao bound of the heat's place and the registration alone; empty in
 *     results of earlier versions
 */
public record SourceEstimate(
        double xMm,
        double yMm,
        Side side,
        double sigmaMm,
        double majorMm,
        double minorMm,
        double axisDeg,
        double watts,
        OptionalDouble boundMm) {
    public SourceEstimate {
        boundMm = boundMm == null ? OptionalDouble.empty() : boundMm;
    }

    /** How much of {@code sigmaMm} is owed to uneven copper and to what hides the place; empty where the bound is. */
    public OptionalDouble beyondBoundMm() {
        return boundMm.isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(Math.sqrt(Math.max(0, Math.pow(sigmaMm, 2) - Math.pow(boundMm.getAsDouble(), 2))));
    }
}
