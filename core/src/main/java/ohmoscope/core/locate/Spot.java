package ohmoscope.core.locate;

import ohmoscope.core.board.Outline;
import ohmoscope.core.heat.RadialTable;

/** A source and its mirror images in the board's edges, with what a watt there does over distance. */
final class Spot {
    private final RadialTable table;
    private final double[] xs;
    private final double[] ys;

    /** @param near whether it is on the side that is looked at */
    Spot(HeatSource source, ResponseTables tables, boolean near, Outline outline) {
        this(tables.of(source, near), source.xMm(), source.yMm(), outline);
    }

    /** @param table of the source's response, as far as it reaches */
    Spot(RadialTable table, double xMm, double yMm, Outline outline) {
        this.table = table;
        xs = Mirrors.images(xMm, outline.minXMm(), outline.maxXMm(), table.reachMm());
        ys = Mirrors.images(yMm, outline.minYMm(), outline.maxYMm(), table.reachMm());
    }

    /** Room to work in, for so many places; for one thread. */
    static final class Scratch {
        private final float[] r2Mm2;
        private final int[] nodes;
        private final float[] parts;

        Scratch(int most) {
            r2Mm2 = new float[most];
            nodes = new int[most];
            parts = new float[most];
        }
    }

    /**
     * Adds its components at the first {@code count} places to {@code out[component · count + i]}.
     *
     * @param xMm places on the board
     */
    void addTo(float[] xMm, float[] yMm, int count, float[] out, Scratch scratch) {
        float[] r2 = scratch.r2Mm2;
        for (double sx : xs) {
            for (double sy : ys) {
                float fx = (float) sx;
                float fy = (float) sy;
                for (int i = 0; i < count; i++) {
                    float dx = xMm[i] - fx;
                    float dy = yMm[i] - fy;
                    r2[i] = dx * dx + dy * dy;
                }
                table.place(r2, scratch.nodes, scratch.parts, count);
                table.addTo(scratch.nodes, scratch.parts, count, out);
            }
        }
    }
}
