package ohmoscope.sim;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.sim.BenchSetup.Oddities;

/**
 * Heat in a board by finite volumes: some layers (usually three), copper that differs from place to place, parts as
 * bodies of their own on either face, loss to still air. Explicit Euler at two thirds of the stability limit; O(cells) a step.
 */
public final class HeatSolver {
    private static final double VOLUMETRIC = 2.0e-3;
    /** W/(m·K) through the board. */
    private static final double THROUGH = 0.45;
    /** W/(mm²·K) of one face. */
    private static final double FACE_LOSS = 10.5e-6;
    /** W/(mm²·K) between a body and the board under it, besides its pins. */
    private static final double BODY_CONTACT = 2.2e-3;
    /** W/K of one soldered end of a body of {@link #SMALL_MM2}, the way through its ceramic included; grows with its width. */
    private static final double SOLDERED_END = 8e-3;

    private static final double SMALL_MM2 = 0.18;
    private static final double WIDEST_END_MM2 = 1;
    /** Bodies with more pins have leads, each W/K; of many only those nearest the heat carry it. */
    private static final int ENDS = 3;

    private static final double LEAD = 6e-3;
    private static final int LEADS = 8;
    /** J/(mm³·K) of ceramic, epoxy and metal, roughly. */
    private static final double BODY_HEAT = 2.6e-3;

    private static final double RIM_SHARE = 0.03;
    private static final double STABLE_SHARE = 0.66;

    private final int layers;
    private final double cellMm;
    private final CellGrid grid;
    private final int nx;
    private final int ny;
    /** W/K to the four neighbours of a cell in its layer. */
    private final float[] west;

    private final float[] east;
    private final float[] above;
    private final float[] below;
    /** W/K that a cell gives away altogether, negative: of a layer with a face, and of one within. */
    private final float[] faceOwn;

    private final float[] innerOwn;
    /** The neighbours' rises, each at the cell's own index. */
    private final float[] fromWest;

    private final float[] fromEast;
    private final float[] fromAbove;
    private final float[] fromBelow;
    private final float through;
    private final double cellHeat;
    private final float faceLoss;
    private final double stepS;
    private float[][] rise;
    private float[][] next;
    private final float[][] power;
    private final List<Body> bodies = new ArrayList<>();
    /** W/K from the air to each cell of the face that is blown at; empty while the air is still. */
    private float[] airGain = new float[0];

    private float[] airRise = new float[0];
    private int blown;
    private double airStepS = Double.POSITIVE_INFINITY;

    /** One part's body. */
    private static final class Body {
        private final Part part;
        private final CellGrid.Footprint under;
        private final double heat;
        /** To all cells together, W/K. */
        private final double toBoard;

        private final double loss;
        private double rise;
        private double watts;
        private double airGain;
        private double airRise;

        /** Takes its own place from the board that is bare. */
        void blown(Air air, CellGrid grid, double[] bare, double cellMm2) {
            double area = part.wMm() * part.hMm();
            double open = area
                    + (part.kind() == PartKind.SHIELD
                            ? 0
                            : (part.wMm() + part.hMm()) * part.heightMm().orElse(0.8));
            double gain = 0;
            double heat = 0;
            for (int i = 0; i < under.cells().length; i++) {
                int c = under.cells()[i];
                double here = under.share()[i] * air.wattsPerMm2K(grid.xMm(c), grid.yMm(c));
                gain += here;
                heat += here * air.riseK(grid.xMm(c), grid.yMm(c));
                bare[c] -= under.share()[i] * area / cellMm2;
            }
            airGain = gain * open;
            airRise = gain > 0 ? heat / gain : 0;
        }

        Body(Part part, CellGrid.Footprint under, double heatFactor, double contactFactor) {
            this.part = part;
            this.under = under;
            double area = part.wMm() * part.hMm();
            heat = area * part.heightMm().orElse(0.8) * BODY_HEAT * heatFactor;
            // A can stands on its rim; the rest of it is air.
            double touching = part.kind() == PartKind.SHIELD ? RIM_SHARE : 1;
            toBoard = (touching * area * BODY_CONTACT + soldered(part, area)) * contactFactor;
            loss = area * FACE_LOSS;
        }
    }

    private static double soldered(Part part, double area) {
        int pins = part.pins().size();
        if (part.kind() == PartKind.SHIELD) {
            return 0;
        }
        boolean leaded = pins > ENDS;
        return leaded
                ? Math.min(LEADS, pins) * LEAD
                : pins * SOLDERED_END * Math.sqrt(Math.min(WIDEST_END_MM2, area) / SMALL_MM2);
    }

    /**
     * @param cellMm side of a cell, mm
     * @param unevenness how much copper differs from place to place, relative, one standard deviation
     */
    public HeatSolver(Board board, double cellMm, double unevenness, Random random) {
        this(board, cellMm, unevenness, Oddities.NONE, random);
    }

    /** The same with bodies that differ and islands of copper. */
    public HeatSolver(Board board, double cellMm, double unevenness, Oddities oddities, Random random) {
        this.cellMm = cellMm;
        layers = oddities.layers();
        grid = new CellGrid(board.outline(), cellMm);
        nx = grid.columns();
        ny = grid.rows();
        double layerMm = board.thicknessMm() / layers;
        double copperMm = Math.min(board.thicknessMm() / 2, board.copperLayers() * board.copperUm() * 1e-3 * 0.55);
        // W/K between two cells of one layer; copper is shared out over the layers.
        double base = oddities.copperFactor() * (0.35e-3 * board.thicknessMm() + 0.39 * copperMm) / layers;
        float[] conductance = unevenCopper(base, unevenness, random);
        islands(conductance, oddities.islands(), random);
        west = links(conductance, -1, 0);
        east = links(conductance, 1, 0);
        above = links(conductance, 0, -1);
        below = links(conductance, 0, 1);
        fromWest = new float[nx * ny];
        fromEast = new float[nx * ny];
        fromAbove = new float[nx * ny];
        fromBelow = new float[nx * ny];
        cellHeat = VOLUMETRIC * layerMm * cellMm * cellMm;
        through = (float) (THROUGH * 1e-3 * cellMm * cellMm / layerMm);
        faceLoss = (float) (FACE_LOSS * cellMm * cellMm);
        faceOwn = own(faceLoss);
        innerOwn = own(0);
        double most = 0;
        for (float g : conductance) {
            most = Math.max(most, g);
        }
        rise = new float[layers][nx * ny];
        next = new float[layers][nx * ny];
        power = new float[layers][nx * ny];
        for (Part part : board.parts()) {
            bodies.add(new Body(
                    part,
                    grid.under(part),
                    oddFactor(oddities.bodySpread(), random),
                    oddFactor(oddities.bodySpread(), random)));
        }
        double stiffest = 4 * most + 2 * through + faceLoss;
        double stiffestBody =
                bodies.stream().mapToDouble(b -> b.toBoard / b.heat).max().orElse(0);
        double worstCell = bodies.stream()
                        .mapToDouble(b -> b.toBoard * b.under.largestShare())
                        .max()
                        .orElse(0)
                + stiffest;
        stepS = STABLE_SHARE * Math.min(2 * cellHeat / (2 * worstCell), 1 / Math.max(1e-9, stiffestBody));
    }

    private float[] unevenCopper(double base, double unevenness, Random random) {
        double[] field = new double[nx * ny];
        for (int wave = 0; wave < 24; wave++) {
            double length = 3 + 22 * random.nextDouble();
            double angle = 2 * Math.PI * random.nextDouble();
            double phase = 2 * Math.PI * random.nextDouble();
            double kx = 2 * Math.PI * Math.cos(angle) / length;
            double ky = 2 * Math.PI * Math.sin(angle) / length;
            for (int c = 0; c < field.length; c++) {
                field[c] += Math.sin(kx * grid.xMm(c) + ky * grid.yMm(c) + phase) / Math.sqrt(12);
            }
        }
        float[] g = new float[nx * ny];
        for (int c = 0; c < g.length; c++) {
            g[c] = (float) (base * Math.max(0.25, 1 + unevenness * field[c]));
        }
        return g;
    }

    private static double oddFactor(double spread, Random random) {
        return spread > 0 ? Math.exp(spread * Math.max(-2, Math.min(2, random.nextGaussian()))) : 1;
    }

    /** Rectangles of plane, or of none. */
    private void islands(float[] conductance, int count, Random random) {
        for (int i = 0; i < count; i++) {
            double factor = random.nextBoolean() ? 1.4 + 0.5 * random.nextDouble() : 0.4 + 0.3 * random.nextDouble();
            int w = (int) ((4 + 16 * random.nextDouble()) / cellMm);
            int h = (int) ((4 + 16 * random.nextDouble()) / cellMm);
            int x = random.nextInt(nx);
            int y = random.nextInt(ny);
            for (int v = y; v < Math.min(ny, y + h); v++) {
                for (int u = x; u < Math.min(nx, x + w); u++) {
                    conductance[v * nx + u] *= (float) factor;
                }
            }
        }
    }

    /** Heat released in a part's body from now on, watts. */
    public void heatPart(String ref, double watts) {
        bodies.stream().filter(b -> b.part.ref().equals(ref)).forEach(b -> b.watts = watts);
    }

    /** Heat released in the board's face at a place from now on, watts; adds to what is there. */
    public void heatPlace(double x, double y, Side side, double watts) {
        CellGrid.Footprint at = grid.at(x, y);
        for (int i = 0; i < at.cells().length; i++) {
            power[layer(side)][at.cells()[i]] += (float) (watts * at.share()[i]);
        }
    }

    /** Air that blows at one face. */
    public interface Air {
        /** W/(mm²·K) at a place. */
        double wattsPerMm2K(double xMm, double yMm);

        /** How far the air there is above the room, kelvin. */
        double riseK(double xMm, double yMm);
    }

    /**
     * Blows at a face from now on: at bare board, and at the bodies' lids and half of their sides. Replaces what blew before.
     * The step is made for still air; where the air's heat is no longer small beside a cell's own, it is cut further.
     */
    public void blow(Side side, Air air) {
        blown = layer(side);
        airGain = new float[nx * ny];
        airRise = new float[nx * ny];
        double[] bare = new double[nx * ny];
        Arrays.fill(bare, 1);
        for (Body body : bodies) {
            if (layer(body.part.side()) == blown) {
                body.blown(air, grid, bare, cellMm * cellMm);
            }
        }
        for (int c = 0; c < airGain.length; c++) {
            double open = grid.solid(c) ? Math.max(0, bare[c]) : 0;
            airGain[c] = (float) (open * air.wattsPerMm2K(grid.xMm(c), grid.yMm(c)) * cellMm * cellMm);
            airRise[c] = (float) air.riseK(grid.xMm(c), grid.yMm(c));
        }
        double most = 0;
        for (Body body : bodies) {
            most = Math.max(most, body.airGain / body.heat);
        }
        airStepS = most > 0 ? STABLE_SHARE / most : Double.POSITIVE_INFINITY;
    }

    private void airInto(double dt) {
        float by = (float) (dt / cellHeat);
        float[] t = rise[blown];
        float[] out = next[blown];
        for (int c = 0; c < airGain.length; c++) {
            out[c] += by * airGain[c] * (airRise[c] - t[c]);
        }
    }

    /** Rise of a face where it lies under a part, the coolest and the hottest cell, kelvin. */
    public double[] underK(int partIndex) {
        Body body = bodies.get(partIndex);
        float[] face = rise[layer(body.part.side())];
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (int c : body.under.cells()) {
            low = Math.min(low, face[c]);
            high = Math.max(high, face[c]);
        }
        return new double[] {low, high};
    }

    /** Switches every source off. */
    public void clearHeat() {
        for (float[] layer : power) {
            Arrays.fill(layer, 0);
        }
        bodies.forEach(b -> b.watts = 0);
    }

    /** Goes on by some seconds. */
    public void advance(double seconds) {
        int steps = Math.max(1, (int) Math.ceil(seconds / Math.min(stepS, airStepS)));
        double dt = seconds / steps;
        for (int s = 0; s < steps; s++) {
            step(dt);
        }
    }

    private void step(double dt) {
        float perHeat = (float) (dt / cellHeat);
        for (int l = 0; l < layers; l++) {
            layer(l, perHeat);
        }
        airInto(dt);
        for (Body body : bodies) {
            int layer = layer(body.part.side());
            double into = body.watts - body.loss * body.rise + body.airGain * (body.airRise - body.rise);
            for (int i = 0; i < body.under.cells().length; i++) {
                int c = body.under.cells()[i];
                double flow = body.toBoard * body.under.share()[i] * (body.rise - rise[layer][c]);
                into -= flow;
                next[layer][c] += (float) (dt * flow / cellHeat);
            }
            body.rise += dt * into / body.heat;
        }
        float[][] swap = rise;
        rise = next;
        next = swap;
    }

    /**
     * One layer. The neighbours are copied into place first, so that every loop runs over arrays at one and the same index:
     * only then does it take many cells at once.
     */
    private void layer(int l, float perHeat) {
        float[] t = rise[l];
        float[] out = next[l];
        int cells = t.length;
        System.arraycopy(t, 0, fromWest, 1, cells - 1);
        System.arraycopy(t, 1, fromEast, 0, cells - 1);
        System.arraycopy(t, 0, fromAbove, nx, cells - nx);
        System.arraycopy(t, nx, fromBelow, 0, cells - nx);
        boolean face = l == 0 || l == layers - 1;
        across(
                out,
                power[l],
                face ? faceOwn : innerOwn,
                t,
                rise[Math.max(0, l - 1)],
                rise[Math.min(layers - 1, l + 1)],
                through);
        along(out, west, fromWest, east, fromEast);
        along(out, above, fromAbove, below, fromBelow);
        onwards(out, t, perHeat);
    }

    private static void across(
            float[] flow, float[] heat, float[] own, float[] t, float[] up, float[] down, float through) {
        for (int c = 0; c < flow.length; c++) {
            flow[c] = heat[c] + own[c] * t[c] + through * (up[c] + down[c]);
        }
    }

    private static void along(float[] flow, float[] g, float[] t, float[] h, float[] u) {
        for (int c = 0; c < flow.length; c++) {
            flow[c] += g[c] * t[c] + h[c] * u[c];
        }
    }

    private static void onwards(float[] flow, float[] t, float perHeat) {
        for (int c = 0; c < flow.length; c++) {
            flow[c] = t[c] + perHeat * flow[c];
        }
    }

    /** What a cell loses per kelvin of its own, W/K, as a negative number. */
    private float[] own(float loss) {
        float[] own = new float[nx * ny];
        for (int c = 0; c < own.length; c++) {
            own[c] = grid.solid(c) ? -(loss + 2 * through + west[c] + east[c] + above[c] + below[c]) : 0;
        }
        return own;
    }

    /** Conductance to the neighbour that many cells on; none where either is no board, or past the end of a row. */
    private float[] links(float[] conductance, int dx, int dy) {
        float[] links = new float[conductance.length];
        for (int y = 0; y < ny; y++) {
            for (int x = 0; x < nx; x++) {
                int c = y * nx + x;
                boolean inside = x + dx >= 0 && x + dx < nx && y + dy >= 0 && y + dy < ny;
                int to = c + dy * nx + dx;
                if (inside && grid.solid(c) && grid.solid(to)) {
                    links[c] = between(conductance[c], conductance[to]);
                }
            }
        }
        return links;
    }

    private static float between(float a, float b) {
        return 2 * a * b / (a + b);
    }

    /** Rise of a face at a place, kelvin, bilinear between cells. */
    public double faceK(double x, double y, Side side) {
        return grid.between(rise[layer(side)], x, y);
    }

    /** Which layer a face is. */
    private int layer(Side side) {
        return side == Side.TOP ? 0 : layers - 1;
    }

    /** Rise of a part's lid, kelvin. */
    public double lidK(int partIndex) {
        return bodies.get(partIndex).rise;
    }

    /** Heat stored in board and bodies against the start, joules. */
    public double storedJoules() {
        double sum = 0;
        for (float[] layer : rise) {
            for (int c = 0; c < layer.length; c++) {
                sum += grid.solid(c) ? layer[c] * cellHeat : 0;
            }
        }
        for (Body body : bodies) {
            sum += body.rise * body.heat;
        }
        return sum;
    }

    /** Heat that leaves to the air now, watts. */
    public double lossWatts() {
        double sum = 0;
        for (Side side : Side.values()) {
            float[] face = rise[layer(side)];
            for (int c = 0; c < grid.count(); c++) {
                sum += grid.solid(c) ? face[c] * faceLoss : 0;
            }
        }
        for (Body body : bodies) {
            sum += body.rise * body.loss;
        }
        return sum;
    }
}
