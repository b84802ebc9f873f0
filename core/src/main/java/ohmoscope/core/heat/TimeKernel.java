package ohmoscope.core.heat;

import java.util.List;

/**
 * A waveform seen at given times, as weights on a logarithmic grid of delays: response(t_f) = Σₙ A[f][n]·impulse(sₙ).
 * The source passes its heat on with a first-order lag. O(times × steps × {@link #NODES}) to build.
 */
public final class TimeKernel {
    /** Delays in the grid; responses are right to a percent of the source's own. */
    public static final int NODES = 120;

    private static final double SHORTEST_S = 4e-4;
    private final double[] delays = new double[NODES];
    private final double[][] weights;

    /**
     * @param timesS when the picture is taken, seconds
     * @param offsetS added to the waveform's times: the supply's clock against the camera's
     * @param lagS time constant between power in the part and heat in the board, above 0
     */
    public TimeKernel(Waveform waveform, double[] timesS, double offsetS, double lagS) {
        double longest = 0.1;
        for (double t : timesS) {
            longest = Math.max(longest, t - waveform.firstOnS() - offsetS);
        }
        double ratio = Math.pow(longest / SHORTEST_S, 1.0 / (NODES - 1));
        double[] q = new double[NODES];
        for (int n = 0; n < NODES; n++) {
            delays[n] = SHORTEST_S * Math.pow(ratio, n);
            // Trapezoid in log delay; the first node also stands for everything shorter.
            q[n] = delays[n] * Math.log(ratio) * (n == 0 || n == NODES - 1 ? 0.5 : 1);
        }
        // Towards zero the near face's response falls as one over the root of the delay: twice its last value's area.
        q[0] += 2 * SHORTEST_S;
        weights = new double[timesS.length][NODES];
        List<Waveform.Step> steps = waveform.steps();
        for (int f = 0; f < timesS.length; f++) {
            for (Waveform.Step step : steps) {
                double since = timesS[f] - step.tS() - offsetS;
                for (int n = 0; n < NODES && delays[n] < since; n++) {
                    weights[f][n] += step.change() * q[n] * -Math.expm1(-(since - delays[n]) / lagS);
                }
            }
        }
    }

    public double delayS(int node) {
        return delays[node];
    }

    /** Row f: the weights of the impulse response's nodes in the response at time f. Not to be modified. */
    double[] row(int f) {
        return weights[f];
    }

    public int times() {
        return weights.length;
    }
}
