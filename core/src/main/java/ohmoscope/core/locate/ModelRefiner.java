package ohmoscope.core.locate;

import java.util.Arrays;
import java.util.List;
import ohmoscope.core.fit.Climb;
import ohmoscope.core.heat.SlabParameters;

/**
 * Lets the movie decide the board's diffusivity, the time across it, clock offset, lag and blur, at one source whose
 * place is free: the penalised likelihood is climbed by Nelder and Mead's simplex. Give it captures binned to a few thousand pixels.
 */
final class ModelRefiner {
    private static final int MAX_EVALUATIONS = 110;
    /** Prior standard deviations, natural logs but for the clock (seconds). */
    private static final double[] SIGMA = {0.6, 0.4, 0.05, 0.7, 0.3};

    private static final double FREE_SHIFT_MM = 0.8;
    private static final double[] STEP = {0.3, 0.3, 0.05, 0.5, 0.25, 0.3, 0.3};
    private static final double MAX_LOG = 0.9;
    /** Copper planes spread heat up to four times better than what the layers' list lets one expect. */
    private static final double MAX_DIFFUSIVITY_LOG = 1.5;

    private static final double MAX_OFFSET_S = 0.15;
    /** Nats between simplex values at which the climb ends. */
    private static final double SETTLED_NATS = 0.05;

    private ModelRefiner() {}

    /** A model and where it lies from the expected one: logs, a clock offset, and the source's shift. */
    record Refined(HeatModel model, double[] point) {
        static Refined expected(SlabParameters slab) {
            return new Refined(HeatModel.of(slab), unmoved());
        }

        /** What the model costs against its prior, nats. */
        double penalty() {
            return ModelRefiner.penalty(point);
        }
    }

    private static double penalty(double[] point) {
        double penalty = 0;
        for (int i = 0; i < SIGMA.length; i++) {
            penalty += Math.pow(point[i] / SIGMA[i], 2) / 2;
        }
        return penalty;
    }

    static double[] unmoved() {
        return new double[STEP.length];
    }

    /** @param from the point to begin at; from {@link #unmoved} the first simplex is twice as wide */
    static Refined refine(
            List<CaptureModel> captures,
            List<MovieFit.Nuisance> nuisances,
            MovieFit.Expected expected,
            HeatModel start,
            HeatSource source,
            double[] from) {
        boolean first = Arrays.equals(from, unmoved());
        double[] steps = Arrays.stream(STEP).map(v -> first ? v : v / 2).toArray();
        double[] best = Climb.up(
                point -> {
                    double penalty = penalty(point)
                            + (point[5] * point[5] + point[6] * point[6]) / (2 * FREE_SHIFT_MM * FREE_SHIFT_MM);
                    MovieFit fit = new MovieFit(captures, nuisances, expected, at(start, point));
                    return fit.total(source.moved(point[5], point[6])) - penalty;
                },
                from,
                steps,
                first ? MAX_EVALUATIONS : MAX_EVALUATIONS / 2,
                SETTLED_NATS);
        return new Refined(at(start, best), best);
    }

    private static HeatModel at(HeatModel start, double[] p) {
        return new HeatModel(
                start.slab().scaled(Math.exp(limited(p[0], MAX_DIFFUSIVITY_LOG)), Math.exp(limited(p[1], MAX_LOG))),
                start.offsetS() + limited(p[2], MAX_OFFSET_S),
                start.lagFactor() * Math.exp(limited(p[3], MAX_LOG)),
                start.blurPx() * Math.exp(limited(p[4], MAX_LOG)));
    }

    private static double limited(double value, double most) {
        return Math.max(-most, Math.min(most, value));
    }
}
