package ohmoscope.core.heat;

import java.util.List;

/**
 * A waveform seen at given times, as weights on a logarithmic grid of delays: response(t_f) = Σₙ A[f][n]·impulse(sₙ).
 * The source passes its heat on with a first-order lag. O(times × {@link #NODES}) to build.
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
        q[0] += SHORTEST_S;
        weights = new double[timesS.length][NODES];
        Relaxation relaxation = new Relaxation(waveform, lagS);
        for (int f = 0; f < timesS.length; f++) {
            double now = timesS[f] - offsetS;
            for (int n = 0, step = relaxation.last(); n < NODES; n++) {
                double at = now - delays[n];
                step = relaxation.stepBefore(at, step);
                if (step < 0) {
                    break;
                }
                weights[f][n] = q[n] * relaxation.value(at, step);
            }
        }
    }

    /**
     * The waveform itself behind such a lag, at each time: what flows out of a body in which it is released.
     *
     * @return relative to the waveform's mean while on
     */
    public static double[] lagged(Waveform waveform, double[] timesS, double offsetS, double lagS) {
        Relaxation relaxation = new Relaxation(waveform, lagS);
        double[] flow = new double[timesS.length];
        for (int f = 0; f < flow.length; f++) {
            double at = timesS[f] - offsetS;
            int step = relaxation.stepBefore(at, relaxation.last());
            flow[f] = step < 0 ? 0 : relaxation.value(at, step);
        }
        return flow;
    }

    /** The waveform behind its first-order lag: between two steps it nears the power of that time. */
    private static final class Relaxation {
        private final double lagS;
        private final double[] fromS;
        private final double[] power;
        private final double[] reached;

        Relaxation(Waveform waveform, double lagS) {
            this.lagS = lagS;
            List<Waveform.Step> steps = waveform.steps();
            fromS = new double[steps.size()];
            power = new double[steps.size()];
            reached = new double[steps.size()];
            for (int i = 0; i < steps.size(); i++) {
                fromS[i] = steps.get(i).tS();
                power[i] = steps.get(i).change() + (i > 0 ? power[i - 1] : 0);
                reached[i] = i > 0 ? value(fromS[i], i - 1) : 0;
            }
        }

        int last() {
            return fromS.length - 1;
        }

        /** The step that holds at a time, sought from a later one backwards; −1 before the first. */
        int stepBefore(double tS, int from) {
            int step = from;
            while (step >= 0 && fromS[step] >= tS) {
                step--;
            }
            return step;
        }

        double value(double tS, int step) {
            return power[step] + (reached[step] - power[step]) * DecayTable.at((tS - fromS[step]) / lagS);
        }
    }

    public double delayS(int node) {
        return delays[node];
    }

    /** Row f: the weights of the impulse response's nodes in the response at time f. Not to be modified. */
    double[] row(int f) {
        return weights[f];
    }

    /**
     * What each node of the impulse response weighs in a sum of the pictures.
     *
     * @param factors one a time
     */
    public double[] summed(double[] factors) {
        double[] sum = new double[NODES];
        for (int f = 0; f < weights.length; f++) {
            for (int n = 0; n < NODES; n++) {
                sum[n] += factors[f] * weights[f][n];
            }
        }
        return sum;
    }

    public int times() {
        return weights.length;
    }
}
