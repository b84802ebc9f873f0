package ohmoscope.core.heat;

import java.util.ArrayList;
import java.util.List;
import org.ejml.simple.SimpleMatrix;
import org.ejml.simple.SimpleSVD;

/**
 * The few time courses in which any source on this board must move: principal components of the slab's responses over
 * plausible distances, diffusivities, sides, lags and clock offsets, with a constant per camera segment taken out.
 * Projecting on them keeps what tells sources apart and drops offsets, so a capture of any length becomes a handful of
 * pictures.
 */
public final class TemporalBasis {
    private static final double[] RADII_MM = {0.2, 0.8, 1.6, 3, 5, 8, 13};
    private static final double[] DIFFUSIVITY_FACTORS = {0.5, 1.2, 3};
    private static final double[] LAGS_S = {0.05, 0.4, 2.5};
    private static final double SPREAD_MM2 = 0.3;
    /** Energy of the responses that may be lost, relative. */
    private static final double LOST_ENERGY = 2e-5;

    private static final int MAX_COMPONENTS = 8;

    private TemporalBasis() {}

    /**
     * @param segment for each time, its camera segment, or −1 when the frame is left out
     * @return rows of orthonormal weights over the times; each row sums to zero in every segment and is zero where a
     *     frame is left out. The last row is a steady trend, in which bodies that warm or cool by themselves move; the
     *     others are free of it. Empty when nothing was switched while the camera looked.
     */
    public static double[][] of(SlabParameters slab, Waveform waveform, double[] timesS, List<Integer> segment) {
        List<double[]> family = new ArrayList<>();
        for (double lag : LAGS_S) {
            TimeKernel kernel = new TimeKernel(waveform, timesS, 0, lag);
            for (double factor : DIFFUSIVITY_FACTORS) {
                for (int side = 0; side < 2; side++) {
                    addResponses(family, slab.scaled(factor, 1), side == 0, kernel, segment);
                }
            }
        }
        for (double offset : new double[] {-0.1, 0.1}) {
            addResponses(family, slab, true, new TimeKernel(waveform, timesS, offset, 0.15), segment);
        }
        double[] trend = timesS.clone();
        removeSegmentMeans(trend, segment);
        double length = norm(trend);
        if (family.isEmpty() || !(length > 0)) {
            return new double[0][];
        }
        for (int f = 0; f < trend.length; f++) {
            trend[f] /= length;
        }
        for (double[] response : family) {
            double along = 0;
            for (int f = 0; f < trend.length; f++) {
                along += trend[f] * response[f];
            }
            for (int f = 0; f < trend.length; f++) {
                response[f] -= along * trend[f];
            }
        }
        List<double[]> basis = principal(family, timesS.length);
        basis.add(trend);
        return basis.toArray(double[][]::new);
    }

    private static void addResponses(
            List<double[]> family, SlabParameters slab, boolean near, TimeKernel kernel, List<Integer> segment) {
        for (double r : RADII_MM) {
            double[] response = new double[kernel.times()];
            for (int n = 0; n < TimeKernel.NODES; n++) {
                double value = SlabResponse.impulse(slab, near, r, kernel.delayS(n), SPREAD_MM2);
                for (int f = 0; f < response.length; f++) {
                    response[f] += kernel.row(f)[n] * value;
                }
            }
            removeSegmentMeans(response, segment);
            double norm = norm(response);
            if (norm > 1e-9) {
                // Half-way between equal weight and energy weight: far responses count, near ones count more.
                double scale = 1 / Math.sqrt(norm);
                for (int f = 0; f < response.length; f++) {
                    response[f] *= scale;
                }
                family.add(response);
            }
        }
    }

    private static double norm(double[] course) {
        double sum = 0;
        for (double v : course) {
            sum += v * v;
        }
        return Math.sqrt(sum);
    }

    static void removeSegmentMeans(double[] course, List<Integer> segment) {
        int segments = segment.stream().mapToInt(Integer::intValue).max().orElse(-1) + 1;
        double[] sum = new double[segments];
        int[] count = new int[segments];
        for (int f = 0; f < course.length; f++) {
            if (segment.get(f) >= 0) {
                sum[segment.get(f)] += course[f];
                count[segment.get(f)]++;
            }
        }
        for (int f = 0; f < course.length; f++) {
            int s = segment.get(f);
            course[f] = s < 0 ? 0 : course[f] - sum[s] / count[s];
        }
    }

    private static List<double[]> principal(List<double[]> family, int times) {
        SimpleSVD<SimpleMatrix> svd = new SimpleMatrix(family.toArray(double[][]::new)).svd(true);
        double[] singular = svd.getSingularValues();
        double left = 0;
        for (double value : singular) {
            left += value * value;
        }
        double lost = LOST_ENERGY * left;
        List<double[]> basis = new ArrayList<>();
        for (int i = 0; i < singular.length && basis.size() < MAX_COMPONENTS && left > lost; i++) {
            left -= singular[i] * singular[i];
            double[] weights = new double[times];
            for (int f = 0; f < times; f++) {
                weights[f] = svd.getV().get(f, i);
            }
            basis.add(weights);
        }
        return basis;
    }
}
