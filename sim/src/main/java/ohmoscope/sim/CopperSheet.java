package ohmoscope.sim;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.PointMm;

/**
 * A net's copper as a grid of resistors: a pour round its pads, uneven and with slots cut into it, so that it is no ideal
 * sheet. Solved by conjugate gradients, O(cells^1.5).
 */
final class CopperSheet {
    private static final double CELL_MM = 0.5;
    private static final double POUR_MM = 4;
    private static final double SHEET_SIEMENS = 2000;
    private static final double USUAL_UM = 35;
    private static final int SLOTS = 14;
    private static final int MOST_STEPS = 4000;
    private static final double SETTLED = 1e-9;

    private final double x0;
    private final double y0;
    private final int nx;
    private final int ny;
    private final double[] siemens;

    /** @param layers how many of the board's carry it */
    CopperSheet(Board board, String net, double layers, Random random) {
        Outline o = board.outline();
        x0 = o.minXMm();
        y0 = o.minYMm();
        nx = (int) Math.ceil((o.maxXMm() - x0) / CELL_MM) + 1;
        ny = (int) Math.ceil((o.maxYMm() - y0) / CELL_MM) + 1;
        siemens = new double[nx * ny];
        List<PointMm> pads = board.parts().stream()
                .flatMap(p -> p.pins().stream())
                .filter(p -> p.net().equals(net))
                .map(p -> new PointMm(p.xMm(), p.yMm()))
                .toList();
        double base = SHEET_SIEMENS * layers * board.copperUm() / USUAL_UM;
        for (PointMm pad : pads) {
            pour(pad, base);
        }
        for (int i = 0; i + 1 < pads.size(); i++) {
            trace(pads.get(i), pads.get(i + 1), base);
        }
        for (int c = 0; c < siemens.length; c++) {
            siemens[c] *= Math.exp(0.25 * Math.max(-2, Math.min(2, random.nextGaussian())));
        }
        for (int s = 0; s < SLOTS; s++) {
            slot(random);
        }
        for (PointMm pad : pads) {
            siemens[cell(pad)] = base;
        }
    }

    private void pour(PointMm pad, double base) {
        int reach = (int) (POUR_MM / CELL_MM);
        int i = column(pad);
        int j = row(pad);
        for (int y = Math.max(0, j - reach); y <= Math.min(ny - 1, j + reach); y++) {
            for (int x = Math.max(0, i - reach); x <= Math.min(nx - 1, i + reach); x++) {
                siemens[y * nx + x] = base;
            }
        }
    }

    /** What joins pours that stand apart, two millimetres wide. */
    private void trace(PointMm from, PointMm to, double base) {
        int steps = (int) Math.ceil(from.distanceMm(to.xMm(), to.yMm()) / CELL_MM) + 1;
        for (int s = 0; s <= steps; s++) {
            double share = (double) s / steps;
            int i = (int) Math.round((from.xMm() + share * (to.xMm() - from.xMm()) - x0) / CELL_MM);
            int j = (int) Math.round((from.yMm() + share * (to.yMm() - from.yMm()) - y0) / CELL_MM);
            for (int y = Math.max(0, j - 2); y <= Math.min(ny - 1, j + 2); y++) {
                for (int x = Math.max(0, i - 2); x <= Math.min(nx - 1, i + 2); x++) {
                    siemens[y * nx + x] = Math.max(siemens[y * nx + x], base);
                }
            }
        }
    }

    /** Much less copper along a short line: other traces cross there. */
    private void slot(Random random) {
        int x = random.nextInt(nx);
        int y = random.nextInt(ny);
        int length = 4 + random.nextInt(16);
        boolean along = random.nextBoolean();
        for (int k = 0; k < length; k++) {
            int u = along ? x + k : x;
            int v = along ? y : y + k;
            if (u < nx && v < ny) {
                siemens[v * nx + u] *= 0.15;
            }
        }
    }

    private int column(PointMm at) {
        return (int) Math.max(0, Math.min(nx - 1, Math.round((at.xMm() - x0) / CELL_MM)));
    }

    private int row(PointMm at) {
        return (int) Math.max(0, Math.min(ny - 1, Math.round((at.yMm() - y0) / CELL_MM)));
    }

    private int cell(PointMm at) {
        return row(at) * nx + column(at);
    }

    /** Volts everywhere against the sink, while one ampere goes from source to sink. */
    final class Potential {
        private final double[] volts;

        private Potential(double[] volts) {
            this.volts = volts;
        }

        double at(PointMm place) {
            return volts[cell(place)];
        }
    }

    Potential between(PointMm source, PointMm sink) {
        int n = nx * ny;
        double[] x = new double[n];
        double[] r = new double[n];
        int ground = cell(sink);
        r[cell(source)] += 1;
        r[ground] = 0;
        double[] p = r.clone();
        double[] ap = new double[n];
        double rr = dot(r, r);
        double start = rr;
        for (int step = 0; step < MOST_STEPS && rr > SETTLED * SETTLED * start; step++) {
            apply(p, ap, ground);
            double alpha = rr / dot(p, ap);
            for (int i = 0; i < n; i++) {
                x[i] += alpha * p[i];
                r[i] -= alpha * ap[i];
            }
            double next = dot(r, r);
            double beta = next / rr;
            rr = next;
            for (int i = 0; i < n; i++) {
                p[i] = r[i] + beta * p[i];
            }
        }
        return new Potential(x);
    }

    private static double dot(double[] a, double[] b) {
        double sum = 0;
        for (int i = 0; i < a.length; i++) {
            sum += a[i] * b[i];
        }
        return sum;
    }

    /** Currents that leave each cell; the sink is held at nothing. */
    private void apply(double[] volts, double[] amps, int ground) {
        Arrays.fill(amps, 0);
        for (int y = 0; y < ny; y++) {
            for (int x = 0; x < nx; x++) {
                int c = y * nx + x;
                if (x + 1 < nx) {
                    flow(volts, amps, c, c + 1);
                }
                if (y + 1 < ny) {
                    flow(volts, amps, c, c + nx);
                }
            }
        }
        amps[ground] = volts[ground];
    }

    private void flow(double[] volts, double[] amps, int a, int b) {
        if (siemens[a] > 0 && siemens[b] > 0) {
            double i = 2 * siemens[a] * siemens[b] / (siemens[a] + siemens[b]) * (volts[a] - volts[b]);
            amps[a] += i;
            amps[b] -= i;
        }
    }
}
