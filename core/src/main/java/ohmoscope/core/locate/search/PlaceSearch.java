package ohmoscope.core.locate.search;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.PositionPrior;
import ohmoscope.core.numeric.Limit;

/** Seeks the place near a given one at which heat explains the frames best. */
public final class PlaceSearch {
    private static final int NEWTON_STEPS = 2;
    private static final double STEP_MM = 0.25;
    private static final int MOST_STEPS = 40;
    private static final int MOST_SETTLING_STEPS = 3;
    /** A step too far is halved as often. */
    private static final int MOST_HALVES = 3;

    /** A step shorter than this is the last. */
    private static final double SETTLED_MM = 0.02;

    private static final double LEAST_GAIN_NATS = 1e-6;
    /** A place is never better known than this, per mm². */
    private static final double LEAST_PRECISION = 1e-3;

    private final Function<HeatSource, Score> fit;
    private final Way way;

    /** @param fit asked by several threads */
    public PlaceSearch(Function<HeatSource, Score> fit) {
        this(fit, Way.FED);
    }

    /** @param way how the places tried are reached */
    public PlaceSearch(Function<HeatSource, Score> fit, Way way) {
        this.fit = fit;
        this.way = way;
    }

    /** What takes a source to a place beside the expected one. */
    public enum Way {
        /** Copper: it is fed there, its body stays. */
        FED,
        /** A picture that lies beside the board: its body is there too. */
        LAID;

        public HeatSource moved(HeatSource source, Shift shift) {
            return this == FED ? source.moved(shift.dxMm(), shift.dyMm()) : source.carried(shift.dxMm(), shift.dyMm());
        }
    }

    /** How far from where the board says, mm. */
    public record Shift(double dxMm, double dyMm) {
        private Shift by(double x, double y) {
            return new Shift(dxMm + x, dyMm + y);
        }
    }

    /** A place and how well it explains the frames, nats. */
    public record Top(HeatSource source, double logLikelihood) {}

    private double at(HeatSource source) {
        return fit.apply(source).logLikelihood();
    }

    /** Log-likelihood at a shift from the expected spot, less what that costs. */
    public double penalised(PositionPrior positionPrior, Shift shift) {
        HeatSource moved = way.moved(positionPrior.spot(), shift);
        return at(moved) - positionPrior.cost(moved.xMm(), moved.yMm());
    }

    /** The shift that is likeliest together with its prior: two guarded Newton steps on a quadratic stencil. */
    public Shift shifted(PositionPrior positionPrior) {
        Shift best = new Shift(0, 0);
        double value = at(positionPrior.spot());
        double h = STEP_MM;
        double floor = 1 / (positionPrior.insideMm() * positionPrior.insideMm());
        double farthest = 2 * positionPrior.insideMm();
        for (int step = 0; step < NEWTON_STEPS; step++) {
            List<Shift> tried = new ArrayList<>(List.of(best.by(h, 0), best.by(-h, 0), best.by(0, h), best.by(0, -h)));
            double[] beside = tried.parallelStream()
                    .mapToDouble(shift -> penalised(positionPrior, shift))
                    .toArray();
            tried.add(best.by(
                    newton(beside[0], beside[1], value, floor, farthest),
                    newton(beside[2], beside[3], value, floor, farthest)));
            for (int t = 0; t < tried.size(); t++) {
                double reached = t < beside.length ? beside[t] : penalised(positionPrior, tried.get(t));
                if (reached > value) {
                    value = reached;
                    best = tried.get(t);
                }
            }
        }
        return best;
    }

    /** A step along one axis, from the values ahead, behind and here. */
    private static double newton(double ahead, double behind, double here, double floor, double farthest) {
        double slope = (ahead - behind) / (2 * STEP_MM);
        double curvature = Math.max(floor, (2 * here - ahead - behind) / (STEP_MM * STEP_MM));
        return Limit.within(slope / curvature, farthest);
    }

    /** Goes up the likelihood along the axes, by ever smaller steps. */
    public Top climbed(HeatSource from, double widestMm, double leastMm) {
        HeatSource at = from;
        double value = at(at);
        double step = widestMm;
        for (int i = 0; i < MOST_STEPS && step > leastMm; i++) {
            List<HeatSource> tried =
                    List.of(at.moved(step, 0), at.moved(-step, 0), at.moved(0, step), at.moved(0, -step));
            double[] reached = tried.parallelStream().mapToDouble(this::at).toArray();
            double before = value;
            for (int t = 0; t < reached.length; t++) {
                if (reached[t] > value + LEAST_GAIN_NATS) {
                    value = reached[t];
                    at = tried.get(t);
                }
            }
            if (value == before) {
                step /= 2;
            }
        }
        return new Top(at, value);
    }

    /**
     * A place that has been settled, and how well it is known.
     *
     * @param covariance mm², from the likelihood's curvature
     */
    public record Settled(HeatSource source, double[][] covariance) {
        /** One sigma, the mean of both axes. */
        double sigmaMm() {
            return Math.sqrt((covariance[0][0] + covariance[1][1]) / 2);
        }

        /** Whether another place lies within what is known of this one, and is itself no less well known. */
        boolean agrees(Settled other, double sigmas, double besidesMm) {
            double apart = Math.hypot(other.source.xMm() - source.xMm(), other.source.yMm() - source.yMm());
            double most = besidesMm + sigmas * sigmaMm();
            return apart <= most && other.sigmaMm() <= most;
        }
    }

    /** The top near a place not far from it: Newton's steps along both axes at once. */
    public Settled settled(HeatSource from) {
        HeatSource at = from;
        double value = at(at);
        Bend bend = bend(at, value);
        for (int step = 0; step < MOST_SETTLING_STEPS; step++) {
            double[] move = bend.toTop();
            double x = Limit.within(move[0], STEP_MM);
            double y = Limit.within(move[1], STEP_MM);
            HeatSource next = at.moved(x, y);
            double reached = at(next);
            for (int half = 0; half < MOST_HALVES && reached <= value; half++) {
                x /= 2;
                y /= 2;
                next = at.moved(x, y);
                reached = at(next);
            }
            if (reached <= value) {
                break;
            }
            at = next;
            value = reached;
            if (Math.hypot(move[0], move[1]) < SETTLED_MM) {
                break;
            }
            bend = bend(at, value);
        }
        return new Settled(at, bend.covariance());
    }

    /**
     * The likelihood round a place to second order.
     *
     * @param x slope, per mm
     * @param xx curvature downwards, per mm²; above 0, as is that of any direction
     */
    private record Bend(double x, double y, double xx, double yy, double xy) {
        double[][] covariance() {
            double det = xx * yy - xy * xy;
            return new double[][] {{yy / det, -xy / det}, {-xy / det, xx / det}};
        }

        double[] toTop() {
            double[][] c = covariance();
            return new double[] {c[0][0] * x + c[0][1] * y, c[1][0] * x + c[1][1] * y};
        }
    }

    private Bend bend(HeatSource source, double value) {
        double h = STEP_MM;
        double[][] offsets = {{h, 0}, {-h, 0}, {0, h}, {0, -h}, {h, h}, {-h, -h}};
        double[] v = Arrays.stream(offsets)
                .parallel()
                .mapToDouble(o -> at(source.moved(o[0], o[1])))
                .toArray();
        double alongX = (2 * value - v[0] - v[1]) / (h * h);
        double alongY = (2 * value - v[2] - v[3]) / (h * h);
        double both = (2 * value - v[4] - v[5]) / (h * h);
        double xx = Math.max(alongX, LEAST_PRECISION);
        double yy = Math.max(alongY, LEAST_PRECISION);
        double xy = Limit.within((both - alongX - alongY) / 2, 0.98 * Math.sqrt(xx * yy));
        return new Bend((v[0] - v[1]) / (2 * h), (v[2] - v[3]) / (2 * h), xx, yy, xy);
    }
}
