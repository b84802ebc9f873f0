package ohmoscope.core.locate.model;

import ohmoscope.core.board.Outline;
import ohmoscope.core.heat.RadialTable;

/** A source and its mirror images in the board's edges, with what a watt there does over distance. */
public final class Spot {
    private final RadialTable table;
    private final double[] xs;
    private final double[] ys;

    /** @param near whether it is on the side that is looked at */
    public Spot(HeatSource source, ResponseTables tables, boolean near, Outline outline) {
        this(tables.of(source, near), source.xMm(), source.yMm(), outline);
    }

    /** @param table of the source's response, as far as it reaches */
    public Spot(RadialTable table, double xMm, double yMm, Outline outline) {
        this.table = table;
        xs = Mirrors.images(xMm, outline.minXMm(), outline.maxXMm(), table.reachMm());
        ys = Mirrors.images(yMm, outline.minYMm(), outline.maxYMm(), table.reachMm());
    }

    /** Room to work in, for so many places; for one thread. */
    public static final class Scratch {
        private final float[] r2Mm2;
        private final int[] cells;
        private final int[] others;

        public Scratch(int most) {
            r2Mm2 = new float[most];
            cells = new int[most];
            others = new int[most];
        }
    }

    /** Adds its components at all places to {@code out[component · count + i]}. */
    public void addTo(Places places, float[] out, Scratch scratch) {
        int count = places.count();
        double reach2 = table.reachMm() * table.reachMm();
        boolean waiting = false;
        for (double sx : xs) {
            for (double sy : ys) {
                if (places.nearest2(sx, sy) < reach2) {
                    places.squares((float) sx, (float) sy, scratch.r2Mm2);
                    table.place(scratch.r2Mm2, waiting ? scratch.others : scratch.cells, count);
                    if (waiting) {
                        table.addTo(scratch.cells, scratch.others, count, out);
                    }
                    waiting = !waiting;
                }
            }
        }
        if (waiting) {
            table.addTo(scratch.cells, count, out);
        }
    }
}
