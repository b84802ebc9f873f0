package ohmoscope.core.heat;

import ohmoscope.core.numeric.Lanes;

/**
 * Responses to one watt over distance, each a vector of {@code k} temporal components, for fast interpolation.
 *
 * <p>Building costs O({@link #RADII} × nodes × k) products: some tenths of a millisecond.
 */
public final class RadialTable {
    public static final int RADII = 220;

    /** Nodes of the kernel worked on at a time; their number is a multiple of this. */
    private static final int TOGETHER = 4;

    /** Just below the last node, so that there is always a node above. */
    private static final float LAST = RADII - 1.001f;

    private final int k;
    private final double reachMm;
    private final float perRootMm;
    /** {@code [component][node]}; the last two nodes are nothing. */
    private final float[][] values;

    /**
     * @param spreadMm2 σ² of the source's footprint
     * @param reachMm there and beyond the response is taken as nothing
     */
    public RadialTable(SlabParameters slab, boolean near, double spreadMm2, ProjectedKernel kernel, double reachMm) {
        k = kernel.weights().length;
        this.reachMm = reachMm;
        perRootMm = (float) ((RADII - 1) / Math.sqrt(reachMm));
        float[] r2Mm2 = new float[RADII];
        for (int i = 0; i < RADII; i++) {
            // Nodes are even in √r: fine where the response is steep.
            r2Mm2[i] = (float) Math.pow(reachMm * Math.pow(i / (RADII - 1.0), 2), 2);
        }
        float[][] sums = new float[k][RADII];
        float[][] falling = new float[TOGETHER][RADII];
        for (int from = 0; from < TimeKernel.NODES; from += TOGETHER) {
            float[][] overTime = new float[k][TOGETHER];
            for (int m = 0; m < TOGETHER; m++) {
                double delay = kernel.delaysS()[from + m];
                double perMm2 = 1 / (4 * slab.diffusivityMm2PerS() * delay + 2 * spreadMm2);
                double strength = SlabResponse.overTime(slab, near, delay) * perMm2 / Math.PI;
                Falling.at(r2Mm2, (float) perMm2, falling[m]);
                for (int j = 0; j < k; j++) {
                    overTime[j][m] = (float) (kernel.weights()[j][from + m] * strength);
                }
            }
            for (int j = 0; j < k; j++) {
                Lanes.addWeighed(sums[j], overTime[j], 0, falling, TOGETHER);
            }
        }
        values = sums;
        for (float[] component : values) {
            component[RADII - 2] = 0;
            component[RADII - 1] = 0;
        }
    }

    public int components() {
        return k;
    }

    public double reachMm() {
        return reachMm;
    }

    /**
     * Where distances lie between the nodes; beyond the reach, just below the last one.
     *
     * @param r2Mm2 squares of the distances; overwritten
     * @param nodes whole parts of the positions, written
     * @param parts what is left of them, 0 to 1, written
     * @param count how many there are
     */
    public void place(float[] r2Mm2, int[] nodes, float[] parts, int count) {
        for (int i = 0; i < count; i++) {
            r2Mm2[i] = Math.min(LAST, (float) Math.sqrt((float) Math.sqrt(r2Mm2[i])) * perRootMm);
        }
        for (int i = 0; i < count; i++) {
            nodes[i] = (int) r2Mm2[i];
            parts[i] = r2Mm2[i] - nodes[i];
        }
    }

    /**
     * Adds the response at many distances, linear between nodes (even in √r), to {@code out[component · count + i]}.
     *
     * @param nodes whole parts of the positions, see {@link #place}
     * @param parts what is left of them, 0 to 1
     * @param count how many there are
     */
    public void addTo(int[] nodes, float[] parts, int count, float[] out) {
        // Component by component: inner loops over the places are long, and there are few components.
        for (int j = 0; j < k; j++) {
            float[] component = values[j];
            int at = j * count;
            for (int i = 0; i < count; i++) {
                float low = component[nodes[i]];
                out[at + i] += low + parts[i] * (component[nodes[i] + 1] - low);
            }
        }
    }
}
