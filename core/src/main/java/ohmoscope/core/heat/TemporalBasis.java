package ohmoscope.core.heat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.DecompositionFactory_DDRM;
import org.ejml.interfaces.decomposition.EigenDecomposition_F64;
import org.ejml.simple.SimpleMatrix;

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

    private static final int MAX_COMPONENTS = 6;

    private TemporalBasis() {}

    /**
     * @param segment for each time, its camera segment, or −1 when the frame is left out
     * @return rows of orthonormal weights over the times; each row sums to zero in every segment and is zero where a
     *     frame is left out. The last row is a steady trend, in which bodies that warm or cool by themselves move; the
     *     others are free of it. Empty when nothing was switched while the camera looked.
     */
    public static double[][] of(SlabParameters slab, Waveform waveform, double[] timesS, List<Integer> segment) {
        List<Course> courses = new ArrayList<>();
        for (double lag : LAGS_S) {
            for (double factor : DIFFUSIVITY_FACTORS) {
                for (int side = 0; side < 2; side++) {
                    courses.add(new Course(slab.scaled(factor, 1), side == 0, 0, lag));
                }
            }
        }
        courses.add(new Course(slab, true, -0.1, 0.15));
        courses.add(new Course(slab, true, 0.1, 0.15));
        List<double[]> family = courses.parallelStream()
                .flatMap(course -> responses(course, waveform, timesS, segment))
                .toList();
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

    /** A board, a side, a clock and a lag that a source could have. */
    private record Course(SlabParameters slab, boolean near, double offsetS, double lagS) {}

    private static Stream<double[]> responses(
            Course course, Waveform waveform, double[] timesS, List<Integer> segment) {
        TimeKernel kernel = new TimeKernel(waveform, timesS, course.offsetS(), course.lagS());
        return Arrays.stream(RADII_MM)
                .mapToObj(r -> response(course, r, kernel, segment))
                .flatMap(Optional::stream);
    }

    private static Optional<double[]> response(Course course, double rMm, TimeKernel kernel, List<Integer> segment) {
        double[] impulse = new double[TimeKernel.NODES];
        for (int n = 0; n < impulse.length; n++) {
            impulse[n] = SlabResponse.impulse(course.slab(), course.near(), rMm, kernel.delayS(n), SPREAD_MM2);
        }
        double[] response = new double[kernel.times()];
        for (int f = 0; f < response.length; f++) {
            double[] row = kernel.row(f);
            for (int n = 0; n < impulse.length; n++) {
                response[f] += row[n] * impulse[n];
            }
        }
        removeSegmentMeans(response, segment);
        double norm = norm(response);
        if (norm <= 1e-9) {
            return Optional.empty();
        }
        // Half-way between equal weight and energy weight: far responses count, near ones count more.
        double scale = 1 / Math.sqrt(norm);
        for (int f = 0; f < response.length; f++) {
            response[f] *= scale;
        }
        return Optional.of(response);
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
        // The squares of the singular values, from the family's products: what is kept is far above rounding.
        SimpleMatrix all = new SimpleMatrix(family.toArray(double[][]::new));
        EigenDecomposition_F64<DMatrixRMaj> eigen = DecompositionFactory_DDRM.eig(family.size(), true, true);
        if (!eigen.decompose(all.mult(all.transpose()).getDDRM())) {
            return new ArrayList<>();
        }
        int[] falling = IntStream.range(0, family.size())
                .boxed()
                .sorted(Comparator.comparingDouble(i -> -eigen.getEigenvalue(i).getReal()))
                .mapToInt(Integer::intValue)
                .toArray();
        double left = all.elementPower(2).elementSum();
        double lost = LOST_ENERGY * left;
        List<double[]> basis = new ArrayList<>();
        for (int i = 0; i < falling.length && basis.size() < MAX_COMPONENTS && left > lost; i++) {
            double energy = eigen.getEigenvalue(falling[i]).getReal();
            left -= energy;
            SimpleMatrix course = all.transpose()
                    .mult(SimpleMatrix.wrap(eigen.getEigenVector(falling[i])))
                    .divide(Math.sqrt(energy));
            basis.add(course.getDDRM().getData().clone());
        }
        return basis;
    }
}
