package ohmoscope.core.locate;

import ohmoscope.core.board.Side;

/**
 * Where the heat starts, from the heat alone.
 *
 * @param sigmaMm one-sigma radius: the heat's own bound, the picture's registration, and what uneven copper does
 * @param majorMm one-sigma half axis along {@code axisDeg}
 * @param minorMm the other half axis
 * @param axisDeg counter-clockwise from the x axis
 * @param watts heat released there while the power is on
 */
public record SourceEstimate(
        double xMm,
        double yMm,
        Side side,
        double sigmaMm,
        double majorMm,
        double minorMm,
        double axisDeg,
        double watts) {
    /** One-sigma radius were the copper even: the Cramér–Rao bound of the heat's place, and the registration. */
    public double boundMm() {
        return Math.sqrt(
                Math.max(0, sigmaMm * sigmaMm - Judgement.UNEVEN_AT_SOURCE_MM * Judgement.UNEVEN_AT_SOURCE_MM));
    }
}
