package ohmoscope.core.fit;

import java.util.function.ToDoubleFunction;
import org.hipparchus.exception.MathIllegalStateException;
import org.hipparchus.optim.InitialGuess;
import org.hipparchus.optim.MaxEval;
import org.hipparchus.optim.SimpleValueChecker;
import org.hipparchus.optim.nonlinear.scalar.GoalType;
import org.hipparchus.optim.nonlinear.scalar.ObjectiveFunction;
import org.hipparchus.optim.nonlinear.scalar.noderiv.NelderMeadSimplex;
import org.hipparchus.optim.nonlinear.scalar.noderiv.SimplexOptimizer;

/** Goes up a function by a simplex (Nelder and Mead, 1965) and brings back the best point met within a budget. */
public final class Climb {
    private Climb() {}

    /**
     * @param value to be made large
     * @param from where to begin
     * @param steps the first simplex' edges, one an unknown, none 0
     * @param evaluations at most
     * @param settled the climb ends when the simplex' values differ by less
     */
    public static double[] up(
            ToDoubleFunction<double[]> value, double[] from, double[] steps, int evaluations, double settled) {
        double[][] best = {from.clone()};
        double[] bestValue = {Double.NEGATIVE_INFINITY};
        SimplexOptimizer optimizer = new SimplexOptimizer(new SimpleValueChecker(-1, settled));
        try {
            optimizer.optimize(
                    new MaxEval(evaluations),
                    new ObjectiveFunction(point -> {
                        double reached = value.applyAsDouble(point);
                        if (reached > bestValue[0]) {
                            bestValue[0] = reached;
                            best[0] = point.clone();
                        }
                        return reached;
                    }),
                    GoalType.MAXIMIZE,
                    new InitialGuess(from),
                    new NelderMeadSimplex(steps));
        } catch (MathIllegalStateException outOfEvaluations) {
            // The best point so far is as good as any that this budget buys.
        }
        return best[0];
    }
}
