package ohmoscope.sim;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PointMm;

/** Square cells over a board's outline, row by row; those outside the outline are no board. */
final class CellGrid {
    /** A part is laid on the cells by so many points a cell along each side. */
    private static final int POINTS_A_CELL = 3;

    private final double cellMm;
    private final int nx;
    private final int ny;
    private final double x0;
    private final double y0;
    private final boolean[] solid;

    CellGrid(Outline outline, double cellMm) {
        this.cellMm = cellMm;
        x0 = outline.minXMm();
        y0 = outline.minYMm();
        nx = Math.max(4, (int) Math.ceil((outline.maxXMm() - x0) / cellMm));
        ny = Math.max(4, (int) Math.ceil((outline.maxYMm() - y0) / cellMm));
        solid = new boolean[nx * ny];
        Outline.Inside inside = outline.inside();
        for (int c = 0; c < solid.length; c++) {
            solid[c] = inside.test(xMm(c), yMm(c));
        }
    }

    /**
     * Cells and how much of something each has.
     *
     * @param share sums up to 1
     */
    record Footprint(int[] cells, double[] share) {
        private static Footprint of(Map<Integer, Double> weights) {
            double sum =
                    weights.values().stream().mapToDouble(Double::doubleValue).sum();
            return new Footprint(
                    weights.keySet().stream().mapToInt(Integer::intValue).toArray(),
                    weights.values().stream().mapToDouble(w -> w / sum).toArray());
        }

        double largestShare() {
            double largest = 0;
            for (double s : share) {
                largest = Math.max(largest, s);
            }
            return largest;
        }
    }

    int columns() {
        return nx;
    }

    int rows() {
        return ny;
    }

    int count() {
        return solid.length;
    }

    boolean solid(int cell) {
        return solid[cell];
    }

    double xMm(int cell) {
        return x0 + (cell % nx + 0.5) * cellMm;
    }

    double yMm(int cell) {
        return y0 + (cell / nx + 0.5) * cellMm;
    }

    /** The cells round a place, so that their shares' middle is that place and not the middle of a cell. */
    Footprint at(double x, double y) {
        Map<Integer, Double> weights = new TreeMap<>();
        add(x, y, weights);
        return Footprint.of(weights);
    }

    /** The cells under a part; their shares' middle is the part's. */
    Footprint under(Part part) {
        List<PointMm> corners = part.corners();
        PointMm from = corners.get(0);
        PointMm along = corners.get(1);
        PointMm across = corners.get(3);
        int n = points(from, along);
        int m = points(from, across);
        Map<Integer, Double> weights = new TreeMap<>();
        for (int i = 0; i < n; i++) {
            for (int j = 0; j < m; j++) {
                double s = (i + 0.5) / n;
                double t = (j + 0.5) / m;
                add(
                        from.xMm() + s * (along.xMm() - from.xMm()) + t * (across.xMm() - from.xMm()),
                        from.yMm() + s * (along.yMm() - from.yMm()) + t * (across.yMm() - from.yMm()),
                        weights);
            }
        }
        return Footprint.of(weights);
    }

    private int points(PointMm from, PointMm to) {
        return Math.max(1, (int)
                Math.ceil(POINTS_A_CELL * Math.hypot(to.xMm() - from.xMm(), to.yMm() - from.yMm()) / cellMm));
    }

    private void add(double x, double y, Map<Integer, Double> weights) {
        Corner corner = corner(x, y);
        double a = corner.along();
        double b = corner.across();
        double[] share = {(1 - b) * (1 - a), (1 - b) * a, b * (1 - a), b * a};
        double found = 0;
        for (int q = 0; q < share.length; q++) {
            int cell = corner.cell() + q / 2 * nx + q % 2;
            if (solid[cell] && share[q] > 0) {
                weights.merge(cell, share[q], Double::sum);
                found += share[q];
            }
        }
        if (found == 0) {
            weights.merge(nearest(x, y), 1.0, Double::sum);
        }
    }

    /** The first of the four cells round a place, and how far the place is from its middle to the next ones', 0 to 1. */
    private record Corner(int cell, double along, double across) {}

    private Corner corner(double x, double y) {
        int i = lowest(x - x0, nx);
        int j = lowest(y - y0, ny);
        return new Corner(j * nx + i, part(x - x0, i), part(y - y0, j));
    }

    private int lowest(double along, int count) {
        return (int) Math.floor(Math.max(0, Math.min(count - 1.001, along / cellMm - 0.5)));
    }

    private double part(double along, int lowest) {
        return Math.max(0, Math.min(1, along / cellMm - 0.5 - lowest));
    }

    private int nearest(double x, double y) {
        int best = 0;
        for (int c = 1; c < count(); c++) {
            if (solid[c]
                    && (!solid[best]
                            || Math.hypot(xMm(c) - x, yMm(c) - y) < Math.hypot(xMm(best) - x, yMm(best) - y))) {
                best = c;
            }
        }
        return best;
    }

    /** A field between the cells' middles, bilinear. */
    double between(float[] field, double x, double y) {
        Corner corner = corner(x, y);
        double a = corner.along();
        double b = corner.across();
        int c = corner.cell();
        return (1 - b) * ((1 - a) * field[c] + a * field[c + 1])
                + b * ((1 - a) * field[c + nx] + a * field[c + nx + 1]);
    }
}
