package ohmoscope.core.locate;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import ohmoscope.core.locate.MovieFit.Score;

/** Seeks the place near a given one at which heat explains the frames best. */
final class PlaceSearch {
    private static final int NEWTON_STEPS = 2;
    private static final double STEP_MM = 0.25;
    private static final int MOST_STEPS = 40;
    private static final double LEAST_GAIN_NATS = 1e-6;
    /** A place is never better known than this, per mm². */
    private static final double LEAST_PRECISION = 1e-3;

    private final Function<HeatSource, Score> fit;

    /** @param fit asked by several threads */
    PlaceSearch(Function<HeatSource, Score> fit) {
        this.fit = fit;
    }

    /** How far from where the board says, mm. */
    record Shift(double dxMm, double dyMm) {
        private Shift by(double x, double y) {
            return new Shift(dxMm + x, dyMm + y);
        }
    }

    /** A place and how well it explains the frames, nats. */
    record Top(HeatSource source, double logLikelihood) {}

    private double at(HeatSource source) {
        return fit.apply(source).logLikelihood();
    }

    /** Log-likelihood at a shift from the expected spot, less what that costs. */
    double penalised(Leeway leeway, Shift shift) {
        HeatSource moved = leeway.spot().moved(shift.dxMm(), shift.dyMm());
        return at(moved) - leeway.cost(moved.xMm(), moved.yMm());
    }

    /** The shift that is likeliest together with its prior: two guarded Newton steps on a quadratic stencil. */
    Shift shifted(Leeway leeway) {
        Shift best = new Shift(0, 0);
        double value = at(leeway.spot());
        double h = STEP_MM;
        double floor = 1 / (leeway.insideMm() * leeway.insideMm());
        double farthest = 2 * leeway.insideMm();
        for (int step = 0; step < NEWTON_STEPS; step++) {
            List<Shift> tried = new ArrayList<>(List.of(best.by(h, 0), best.by(-h, 0), best.by(0, h), best.by(0, -h)));
            double[] beside = tried.parallelStream()
                    .mapToDouble(shift -> penalised(leeway, shift))
                    .toArray();
            tried.add(best.by(
                    newton(beside[0], beside[1], value, floor, farthest),
                    newton(beside[2], beside[3], value, floor, farthest)));
            for (int t = 0; t < tried.size(); t++) {
                double reached = t < beside.length ? beside[t] : penalised(leeway, tried.get(t));
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
        return limited(slope / curvature, farthest);
    }

    private static double limited(double value, double most) {
        return Math.max(-most, Math.min(most, value));
    }

    /** Goes up the likelihood along the axes, by ever smaller steps. */
    Top climbed(HeatSource from, double widestMm, double leastMm) {
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

    /** Of the place, mm², from the likelihood's curvature there. */
    double[][] covariance(Top top) {
        double h = STEP_MM;
        double value = top.logLikelihood();
        double[][] offsets = {{h, 0}, {-h, 0}, {0, h}, {0, -h}, {h, h}, {-h, -h}, {h, -h}, {-h, h}};
        double[] v = Arrays.stream(offsets)
                .parallel()
                .mapToDouble(o -> at(top.source().moved(o[0], o[1])))
                .toArray();
        double xx = Math.max((2 * value - v[0] - v[1]) / (h * h), LEAST_PRECISION);
        double yy = Math.max((2 * value - v[2] - v[3]) / (h * h), LEAST_PRECISION);
        double xy = -(v[4] + v[5] - v[6] - v[7]) / (4 * h * h);
        xy = limited(xy, 0.98 * Math.sqrt(xx * yy));
        double det = xx * yy - xy * xy;
        return new double[][] {{yy / det, -xy / det}, {-xy / det, xx / det}};
    }
}
