package ohmoscope.core.locate.capture;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import ohmoscope.core.heat.ProjectedKernel;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;

/**
 * How a movie was compressed over time, and what that makes of the waveform behind a lag. Kernels are kept: heat models
 * that differ in the board alone share them. Safe for several threads.
 */
public final class MovieTime {
    private final Waveform waveform;
    private final double[] timesS;
    private final double[][] basis;
    private final Map<Key, ProjectedKernel> kernels = new ConcurrentHashMap<>();

    private record Key(double offsetS, double lagS) {}

    /**
     * @param timesS of the frames, rising; kept
     * @param basis row j: weights of the times in component j; kept
     */
    public MovieTime(Waveform waveform, double[] timesS, double[][] basis) {
        this.waveform = waveform;
        this.timesS = timesS;
        this.basis = basis;
    }

    /** The same in turned components. @param axes one a row */
    public MovieTime turned(double[][] axes) {
        return new MovieTime(waveform, timesS, TemporalRotation.turned(axes, basis));
    }

    /** Row j: weights of the times in component j; not to be modified. */
    public double[][] basis() {
        return basis;
    }

    public int frames() {
        return timesS.length;
    }

    public int components() {
        return basis.length;
    }

    /** From the first power to the last frame, seconds. */
    public double longestS() {
        return timesS[timesS.length - 1] - waveform.firstOnS();
    }

    /** @param offsetS the supply's clock against the camera's */
    public ProjectedKernel kernel(double offsetS, double lagS) {
        return kernels.computeIfAbsent(
                new Key(offsetS, lagS),
                key -> ProjectedKernel.of(basis, new TimeKernel(waveform, timesS, offsetS, lagS)));
    }

    /** What flows from a lagging source into the board, by temporal component, a watt in the end. */
    public double[] flow(double offsetS, double lagS) {
        double[] flow = TimeKernel.lagged(waveform, timesS, offsetS, lagS);
        double[] components = new double[basis.length];
        for (int j = 0; j < basis.length; j++) {
            components[j] = dot(basis[j], flow);
        }
        return components;
    }

    /**
     * Weights of the components that give the amplitude of a course that follows the power, in units of its end. What drifts
     * evenly gives nothing.
     *
     * @param lagsS behind which it follows, and by what shares
     */
    public double[] template(double[] lagsS, double[] shares) {
        double[] template = new double[basis.length];
        for (int i = 0; i < lagsS.length; i++) {
            double[] flow = flow(0, lagsS[i]);
            for (int j = 0; j < template.length; j++) {
                template[j] += shares[i] * flow[j];
            }
        }
        double[] drift = new double[basis.length];
        for (int j = 0; j < basis.length; j++) {
            drift[j] = dot(basis[j], timesS);
        }
        double drifts = dot(drift, template) / Math.max(Double.MIN_NORMAL, dot(drift, drift));
        for (int j = 0; j < template.length; j++) {
            template[j] -= drifts * drift[j];
        }
        double square = Math.max(Double.MIN_NORMAL, dot(template, template));
        for (int j = 0; j < template.length; j++) {
            template[j] /= square;
        }
        return template;
    }

    private static double dot(double[] a, double[] b) {
        double sum = 0;
        for (int i = 0; i < a.length; i++) {
            sum += a[i] * b[i];
        }
        return sum;
    }
}
