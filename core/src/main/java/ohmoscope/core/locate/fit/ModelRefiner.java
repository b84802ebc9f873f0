package ohmoscope.core.locate.fit;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CaptureModel.Column;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.numeric.Limit;
import org.ejml.simple.SimpleMatrix;

/**
 * Lets the movies decide the board's diffusivity, the time across it, each capture's clock, lag and blur, at one source
 * whose place is free: damped Gauss–Newton steps (Levenberg and Marquardt) on what the fit explains, amplitudes solved anew at
 * each point (Golub and Pereyra's variable projection). Give it captures binned to a few thousand pixels. A step costs a
 * fit for each unknown, on all cores.
 */
public final class ModelRefiner {
    private static final int MOST_STEPS = 6;
    private static final int MOST_TRIES = 3;
    private static final int CLOCK = 2;
    private static final int SHIFT_X = 5;
    private static final int SHIFT_Y = 6;
    /** From here on, one for each further capture's clock. */
    private static final int LATER_CLOCKS = 7;

    /** Prior standard deviations: natural logs but for the clock (seconds) and the source's shift (mm). */
    private static final double[] SIGMA = {0.45, 0.28, 0.05, 0.7, 0.3, 0.8, 0.8};

    private static final double[] DIFFERENCE = {0.15, 0.15, 0.02, 0.3, 0.15, 0.15, 0.15};

    /** Copper planes spread heat up to three times better than what the layers' list lets one expect. */
    private static final double[] MOST = {1.2, 0.9, 0.15, 0.9, 0.9, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};

    /** No step goes farther than so many prior deviations. */
    private static final double FARTHEST = 1.2;
    /** A gain below this many nats, or below this share of what is explained, ends the climb. */
    private static final double SETTLED_NATS = 0.05;

    private static final double SETTLED_SHARE = 1e-3;

    private final List<CaptureModel> captures;
    private final List<MovieFit.Nuisance> nuisances;
    private final WattsPrior expected;
    private final HeatModel start;
    private final HeatSource source;

    private ModelRefiner(
            List<CaptureModel> captures,
            List<MovieFit.Nuisance> nuisances,
            WattsPrior expected,
            HeatModel start,
            HeatSource source) {
        this.captures = captures;
        this.nuisances = nuisances;
        this.expected = expected;
        this.start = start;
        this.source = source;
    }

    /** A model and where it lies from the expected one: logs, a clock offset, and the source's shift. */
    public record Refined(HeatModel model, double[] point) {
        public static Refined expected(SlabParameters slab) {
            return new Refined(HeatModel.of(slab), unmoved());
        }

        /** What the model costs against its prior, nats. */
        double penalty() {
            return ModelRefiner.penalty(point) - shiftPenalty(point);
        }
    }

    private static double penalty(double[] point) {
        double penalty = 0;
        for (int i = 0; i < point.length; i++) {
            penalty += penalty(point, i);
        }
        return penalty;
    }

    private static double shiftPenalty(double[] point) {
        return penalty(point, SHIFT_X) + penalty(point, SHIFT_Y);
    }

    private static double penalty(double[] point, int i) {
        return Math.pow(point[i] / sigma(i), 2) / 2;
    }

    private static double sigma(int i) {
        return SIGMA[kind(i)];
    }

    /** All clocks are of one kind. */
    private static int kind(int i) {
        return i < LATER_CLOCKS ? i : CLOCK;
    }

    public static double[] unmoved() {
        return new double[SIGMA.length];
    }

    /** @param from the point to begin at */
    public static Refined refine(
            List<CaptureModel> captures,
            List<MovieFit.Nuisance> nuisances,
            WattsPrior expected,
            HeatModel start,
            HeatSource source,
            double[] from) {
        double[] every = Arrays.copyOf(from, LATER_CLOCKS + Math.max(0, captures.size() - 1));
        double[] best = new ModelRefiner(captures, nuisances, expected, start, source).climbed(every);
        return new Refined(at(start, best), best);
    }

    /** The fit under a point's model, and what it explains at that point. */
    private record Seen(MovieFit fit, MovieFit.Explained explained) {}

    private Seen seen(double[] point) {
        MovieFit fit = new MovieFit(captures, nuisances, expected, at(start, point));
        return new Seen(fit, explained(fit, point));
    }

    private MovieFit.Explained explained(MovieFit fit, double[] point) {
        return fit.explained(source.moved(point[SHIFT_X], point[SHIFT_Y]));
    }

    private static double value(Seen seen, double[] point) {
        return seen.explained().logLikelihood() - penalty(point);
    }

    private double[] climbed(double[] from) {
        double[] point = from;
        Seen here = seen(point);
        double damping = 0.1;
        double gained = Double.POSITIVE_INFINITY;
        for (int step = 0; step < MOST_STEPS && gained > settled(here.explained()); step++) {
            List<List<Column>> slopes = slopes(point, here);
            gained = 0;
            for (int tried = 0; tried < MOST_TRIES && gained <= 0; tried++) {
                double[] next = next(point, here.explained(), slopes, damping);
                Seen there = seen(next);
                gained = value(there, next) - value(here, point);
                damping *= gained > 0 ? 0.3 : 6;
                if (gained > 0) {
                    point = next;
                    here = there;
                }
            }
        }
        return point;
    }

    private static double settled(MovieFit.Explained here) {
        return Math.max(SETTLED_NATS, SETTLED_SHARE * here.logLikelihood());
    }

    /** What a little of each unknown changes. */
    private List<List<Column>> slopes(double[] point, Seen here) {
        return IntStream.range(0, point.length)
                .parallel()
                .mapToObj(i -> {
                    double[] beside = point.clone();
                    // Towards the expected value, where nothing is limited.
                    double difference = DIFFERENCE[kind(i)];
                    double by = beside[i] > 0 ? -difference : difference;
                    beside[i] += by;
                    // The source's place is none of the model's.
                    boolean moved = i == SHIFT_X || i == SHIFT_Y;
                    MovieFit.Explained changed =
                            moved ? explained(here.fit(), beside) : seen(beside).explained();
                    return IntStream.range(0, captures.size())
                            .mapToObj(c -> here.explained()
                                    .columns()
                                    .get(c)
                                    .slope(changed.columns().get(c), by))
                            .toList();
                })
                .toList();
    }

    private double[] next(double[] point, MovieFit.Explained here, List<List<Column>> slopes, double damping) {
        int n = point.length;
        SimpleMatrix curvature = new SimpleMatrix(n, n);
        SimpleMatrix rise = new SimpleMatrix(n, 1);
        for (int i = 0; i < n; i++) {
            double precision = 1 / (sigma(i) * sigma(i));
            for (int j = 0; j <= i; j++) {
                double product = MovieFit.Explained.product(slopes.get(i), slopes.get(j));
                curvature.set(i, j, product);
                curvature.set(j, i, product);
            }
            double data = -MovieFit.Explained.product(slopes.get(i), here.columns());
            for (int c = 0; c < captures.size(); c++) {
                data += captures.get(c).withData(slopes.get(i).get(c));
            }
            rise.set(i, 0, data - point[i] * precision);
            curvature.set(i, i, (curvature.get(i, i) + precision) * (1 + damping));
        }
        SimpleMatrix move = curvature.solve(rise);
        double[] next = point.clone();
        for (int i = 0; i < n; i++) {
            next[i] = Limit.within(next[i] + Limit.within(move.get(i, 0), FARTHEST * sigma(i)), MOST[kind(i)]);
        }
        return next;
    }

    private static HeatModel at(HeatModel start, double[] p) {
        List<Double> later = Arrays.stream(p, LATER_CLOCKS, p.length).boxed().toList();
        return new HeatModel(
                start.slab().scaled(Math.exp(p[0]), Math.exp(p[1])),
                start.offsetS() + p[CLOCK],
                start.lagFactor() * Math.exp(p[3]),
                start.blurPx() * Math.exp(p[4]),
                later);
    }
}
