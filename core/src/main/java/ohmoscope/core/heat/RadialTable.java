package ohmoscope.core.heat;

/**
 * Responses to one watt over distance, each a vector of {@code k} temporal components, for fast interpolation.
 *
 * <p>Building costs O({@link #RADII} × nodes × k) products: some tenths of a millisecond.
 */
public final class RadialTable {
    public static final int RADII = 220;

    /** Just below the last node, so that there is always a node above. */
    private static final float LAST = RADII - 1.001f;

    private final int k;
    private final double reachMm;
    private final float perRootMm;
    private final float[] values;

    /**
     * @param projected row j: temporal component j as weights on the kernel's nodes, see {@link #project}
     * @param reachMm there and beyond the response is taken as nothing
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
        double[] perMm2 = new double[TimeKernel.NODES];
        for (int n = 0; n < TimeKernel.NODES; n++) {
            perMm2[n] = 1 / (4 * slab.diffusivityMm2PerS() * kernel.delayS(n) + 2 * spreadMm2);
            overTime[n] = SlabResponse.overTime(slab, near, kernel.delayS(n)) * perMm2[n] / Math.PI;
        }
        float[][] held = new float[k][TimeKernel.NODES];
        for (int n = 0; n < TimeKernel.NODES; n++) {
            for (int j = 0; j < k; j++) {
                held[j][n] = (float) (projected[j][n] * overTime[n]);
            }
        }
        float[] falling = new float[TimeKernel.NODES];
        for (int i = 0; i < RADII; i++) {
            // Nodes are even in √r: fine where the response is steep.
            double r2 = Math.pow(reachMm * Math.pow(i / (RADII - 1.0), 2), 2);
            for (int n = 0; n < TimeKernel.NODES; n++) {
                falling[n] = Falling.at(r2 * perMm2[n]);
            }
            for (int j = 0; j < k && i < RADII - 2; j++) {
                values[j * RADII + i] = sum(falling, held[j]);
            }
        }
    }

    private static float sum(float[] falling, float[] held) {
        double even = 0;
        double odd = 0;
        for (int n = 0; n + 1 < falling.length; n += 2) {
            even += falling[n] * held[n];
            odd += falling[n + 1] * held[n + 1];
        }
        return (float) (even + odd);
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

    /** Where a distance lies between the nodes: the whole part is the node below. Beyond the reach, the last nodes. */
    public float position(double rMm) {
        return Math.min(LAST, (float) Math.sqrt(rMm) * perRootMm);
    }

    /**
     * Adds a component's response at many distances, linear between nodes (even in √r), to {@code out[offset + i]}.
     *
     * @param nodes whole parts of the positions, see {@link #position}
     * @param parts what is left of them, 0 to 1
     */
    public void addTo(int component, int[] nodes, float[] parts, float[] out, int offset) {
        int base = component * RADII;
        for (int i = 0; i < nodes.length; i++) {
            int node = base + nodes[i];
            float low = values[node];
            out[offset + i] += low + parts[i] * (values[node + 1] - low);
        }
    }
}
