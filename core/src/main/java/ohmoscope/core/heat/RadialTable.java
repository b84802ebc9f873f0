package ohmoscope.core.heat;

import ohmoscope.core.numeric.Lanes;

/**
 * Responses to one watt over distance, each a vector of {@code k} temporal components, to be read many million times:
 * at the next of {@link #CELLS} distances, which lie closer than any pixel (even in √r: 0.01 mm apart near the source, 0.1 mm at 80 mm).
 *
 * <p>Building costs O({@link #RADII} × nodes × k) products: some tenths of a millisecond; the cells between the radii are
 * interpolated.
 */
public final class RadialTable {
    private static final int RADII = 220;

    /** A power of two, so that a masked index is known to be inside. */
    private static final int CELLS = 2048;

    /** Nodes of the kernel worked on at a time; their number is a multiple of this. */
    private static final int TOGETHER = 4;

    private static final float LAST = CELLS - 1;

    private final int k;
    private final double reachMm;
    private final float perRootMm;
    /** {@code [component][cell]}; the last ones are nothing. */
    private final float[][] values;

    /**
     * @param spreadMm2 σ² of the source's footprint
     * @param reachMm there and beyond the response is taken as nothing
     */
    public RadialTable(
            SlabParameters slab,
            Sheets sheets,
            boolean near,
            double spreadMm2,
            ProjectedKernel kernel,
            double reachMm) {
        k = kernel.weights().length;
        this.reachMm = reachMm;
        perRootMm = (float) ((CELLS - 1) / Math.sqrt(reachMm));
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
                double strength = SlabResponse.overTime(slab, sheets, near, delay) * perMm2 / Math.PI;
                DecayTable.at(r2Mm2, (float) perMm2, falling[m]);
                for (int j = 0; j < k; j++) {
                    overTime[j][m] = (float) (kernel.weights()[j][from + m] * strength);
                }
            }
            for (int j = 0; j < k; j++) {
                Lanes.addWeighed(sums[j], overTime[j], 0, falling, TOGETHER);
            }
        }
        values = new float[k][CELLS];
        for (int j = 0; j < k; j++) {
            sums[j][RADII - 2] = 0;
            sums[j][RADII - 1] = 0;
            between(sums[j], values[j]);
        }
    }

    /** Of a board of few sheets. */
    public RadialTable(SlabParameters slab, boolean near, double spreadMm2, ProjectedKernel kernel, double reachMm) {
        this(slab, Sheets.FEW, near, spreadMm2, kernel, reachMm);
    }

    private static void between(float[] radii, float[] cells) {
        for (int c = 0; c < CELLS; c++) {
            float position = Math.min(RADII - 1.001f, c * ((RADII - 1f) / (CELLS - 1)));
            int low = (int) position;
            cells[c] = radii[low] + (position - low) * (radii[low + 1] - radii[low]);
        }
    }

    public int components() {
        return k;
    }

    public double reachMm() {
        return reachMm;
    }

    /**
     * The cells in which distances lie; beyond the reach, the last one.
     *
     * @param r2Mm2 squares of the distances; overwritten
     * @param cells written
     * @param count how many there are
     */
    public void place(float[] r2Mm2, int[] cells, int count) {
        for (int i = 0; i < count; i++) {
            r2Mm2[i] = Math.min(LAST, (float) Math.sqrt((float) Math.sqrt(r2Mm2[i])) * perRootMm + 0.5f);
        }
        for (int i = 0; i < count; i++) {
            cells[i] = (int) r2Mm2[i];
        }
    }

    /**
     * Adds the response at many distances to {@code out[component · count + i]}.
     *
     * @param cells see {@link #place}
     * @param count how many there are
     */
    public void addTo(int[] cells, int count, float[] out) {
        // Component by component: inner loops over the places are long, and there are few components.
        for (int j = 0; j < k; j++) {
            add(values[j], cells, count, out, j * count);
        }
    }

    /** The same for two places of a source at once: what is added to is read and written once for them. */
    public void addTo(int[] cells, int[] others, int count, float[] out) {
        for (int j = 0; j < k; j++) {
            add(values[j], cells, others, count, out, j * count);
        }
    }

    private static void add(float[] of, int[] cells, int count, float[] out, int at) {
        int mask = of.length - 1;
        for (int i = 0; i < count; i++) {
            out[at + i] += of[cells[i] & mask];
        }
    }

    private static void add(float[] of, int[] cells, int[] others, int count, float[] out, int at) {
        int mask = of.length - 1;
        for (int i = 0; i < count; i++) {
            out[at + i] += of[cells[i] & mask] + of[others[i] & mask];
        }
    }
}
