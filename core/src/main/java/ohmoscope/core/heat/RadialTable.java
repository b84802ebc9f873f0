package ohmoscope.core.heat;

/**
 * Responses to one watt over distance, each a vector of {@code k} temporal components, for fast interpolation.
 *
 * <p>Building costs O({@link #RADII} × nodes) exponentials and k times as many products: about a millisecond.
 */
public final class RadialTable {
    public static final int RADII = 320;
    private final int k;
    private final double reachMm;
    private final float perRootMm;
    private final float[] values;

    /**
     * @param projected row j: temporal component j as weights on the kernel's nodes, see {@link #project}
     * @param reachMm beyond this the table holds the last value
     */
    public RadialTable(
            SlabParameters slab,
            boolean near,
            double spreadMm2,
            TimeKernel kernel,
            double[][] projected,
            double reachMm) {
        k = projected.length;
        this.reachMm = reachMm;
        perRootMm = (float) ((RADII - 1) / Math.sqrt(reachMm));
        values = new float[RADII * k];
        double[] overTime = new double[TimeKernel.NODES];
        double[] width = new double[TimeKernel.NODES];
        for (int n = 0; n < TimeKernel.NODES; n++) {
            width[n] = 4 * slab.diffusivityMm2PerS() * kernel.delayS(n) + 2 * spreadMm2;
            overTime[n] = SlabResponse.overTime(slab, near, kernel.delayS(n)) / (Math.PI * width[n]);
        }
        double[] at = new double[k];
        for (int i = 0; i < RADII; i++) {
            // Nodes are even in √r: fine where the response is steep.
            double r2 = Math.pow(reachMm * Math.pow(i / (RADII - 1.0), 2), 2);
            java.util.Arrays.fill(at, 0);
            for (int n = 0; n < TimeKernel.NODES; n++) {
                double exponent = r2 / width[n];
                if (exponent < 30) {
                    double value = overTime[n] * Math.exp(-exponent);
                    for (int j = 0; j < k; j++) {
                        at[j] += projected[j][n] * value;
                    }
                }
            }
            for (int j = 0; j < k; j++) {
                values[i * k + j] = (float) at[j];
            }
        }
    }

    /**
     * Temporal components as weights on the kernel's nodes.
     *
     * @param basis row j: weights of the times in component j
     */
    public static double[][] project(double[][] basis, TimeKernel kernel) {
        double[][] projected = new double[basis.length][TimeKernel.NODES];
        for (int j = 0; j < basis.length; j++) {
            for (int f = 0; f < kernel.times(); f++) {
                double b = basis[j][f];
                double[] row = kernel.row(f);
                for (int n = 0; n < TimeKernel.NODES; n++) {
                    projected[j][n] += b * row[n];
                }
            }
        }
        return projected;
    }

    public int components() {
        return k;
    }

    public double reachMm() {
        return reachMm;
    }

    /** Adds the response at a distance, linear between nodes (even in √r), to {@code out[offset … offset + k)}. */
    public void addTo(double rMm, float[] out, int offset) {
        float position = (float) Math.sqrt(rMm) * perRootMm;
        int i = Math.min(RADII - 2, (int) position);
        float part = Math.min(1, position - i);
        int low = i * k;
        for (int j = 0; j < k; j++) {
            float a = values[low + j];
            out[offset + j] += a + part * (values[low + k + j] - a);
        }
    }
}
