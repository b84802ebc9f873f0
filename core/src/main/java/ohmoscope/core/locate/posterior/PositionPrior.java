package ohmoscope.core.locate.posterior;

import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.numeric.Limit;

/**
 * What it costs that heat starts beside the place at which it is expected. Registration and copper may have moved the
 * picture a little; inside a large part the heat may start anywhere, but not outside of it.
 *
 * @param spot where it is expected, in the rectangle
 * @param xMm middle of the rectangle within which the heat may start
 * @param halfWMm of it, along its own axis; 0 where the spot is the only place
 * @param halfHMm likewise
 * @param angleRad of that axis
 * @param outsideMm one sigma of what moves the picture
 * @param insideMm one sigma of both, within the rectangle
 */
public record PositionPrior(
        HeatSource spot,
        double xMm,
        double yMm,
        double halfWMm,
        double halfHMm,
        double angleRad,
        double outsideMm,
        double insideMm) {
    /** Nothing moves a picture by four and a half sigmas: from here on each nat counts so many times. */
    private static final double FARTHEST_NATS = 10;

    private static final double BEYOND = 5;

    /** Degrees of freedom of what moves a clear picture: pours and lenses move some by far more than the usual. */
    private static final double HEAVY_TAILED = 3;

    /** Round one place. */
    public static PositionPrior of(HeatSource spot, double sigmaMm) {
        return new PositionPrior(spot, spot.xMm(), spot.yMm(), 0, 0, 0, sigmaMm, sigmaMm);
    }

    /** Nats. */
    public double cost(double placeXMm, double placeYMm) {
        double[] place = local(placeXMm, placeYMm);
        double[] expected = local(spot.xMm(), spot.yMm());
        double u = Limit.within(place[0], halfWMm);
        double v = Limit.within(place[1], halfHMm);
        double outside2 = square(place[0] - u, place[1] - v);
        double inside2 = square(u - expected[0], v - expected[1]);
        double nats = outside2 / (2 * outsideMm * outsideMm) + inside2 / (2 * insideMm * insideMm);
        return nats + (BEYOND - 1) * Math.max(0, nats - FARTHEST_NATS);
    }

    /**
     * What of a cost stays where the heat is so clear that likelihoods are divided by some doubt of the heat model: how a picture is
     * laid is no matter of that model. Where nothing is divided all of it does; else what heavier tails cost (Student's in two
     * dimensions), and never less than its own share.
     *
     * @param cost as {@link #cost}
     * @param doubt at least 1
     * @return nats
     */
    public static double kept(double cost, double doubt) {
        double heavy = (HEAVY_TAILED + 2) / 2 * Math.log1p(2 * cost / HEAVY_TAILED);
        return Math.max(cost / doubt, Math.min(cost, heavy));
    }

    private double[] local(double x, double y) {
        double dx = x - xMm;
        double dy = y - yMm;
        double cos = Math.cos(angleRad);
        double sin = Math.sin(angleRad);
        return new double[] {cos * dx + sin * dy, cos * dy - sin * dx};
    }

    private static double square(double u, double v) {
        return u * u + v * v;
    }
}
