package ohmoscope.core.rework;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.DoubleStream;
import java.util.stream.IntStream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;

/**
 * Part of a board as two faces of square cells, with the parts as bodies of their own, while something heats it: explicit
 * Euler at two thirds of its stability limit. O(cells + bodies) a step. Temperatures are kelvin above the room.
 */
public final class HeatedBoard {
    private static final double CELL_MM = 1.5;
    /** What lies farther off takes up little of the heat while a part is worked on. */
    private static final double REACH_MM = 40;

    private static final double STABLE_SHARE = 0.66;
    /** J/(mm³·K) of ceramic, epoxy, metal. */
    private static final double BODY_HEAT = 2.5e-3;
    /** W/K of a two-pin part's ends together, and W/(mm²·K) of what lies under any body. */
    private static final double ENDS_W_PER_K = 0.03;

    private static final double UNDER_W_PER_MM2_K = 2.2e-3;
    private static final double PIN_W_PER_K = 6e-3;
    private static final int PINS_THAT_COUNT = 8;
    private static final double USUAL_HEIGHT_MM = 0.8;
    /** W/(mm²·K) of one face to the room: air, and what glows at 150 °C. */
    private static final double LOSS = 14e-6;
    /** What a screen lets through of the air's heat; tape, of a thin layer, hardly holds it back, and is left out. */
    private static final double THROUGH_SCREEN = 0.15;
    /** So far beyond a body its screen reaches. */
    private static final double SCREEN_MM = 1;
    /** A can touches the board with its rim only. */
    private static final double RIM_SHARE = 0.03;
    /** A cell is looked at in so many points along each side. */
    private static final int POINTS = 3;

    private final SlabParameters slab;
    private final Part about;
    private final double left;
    private final double low;
    private final int nx;
    private final int ny;
    private final boolean[] solid;
    private final float[] east;
    private final float[] west;
    private final float[] north;
    private final float[] south;
    /** W/K that a cell gives away altogether but to what heats it, negative. */
    private final float[] own;

    private final List<Body> bodies = new ArrayList<>();
    /** Where a reference's body stands among them: asked for by the thousand while a run goes on. */
    private final Map<String, Integer> places = new HashMap<>();

    private final double[][] bare;
    private final double cellHeat;
    private final double through;

    /** @param cells that it stands on, each with its share of it */
    private record Body(
            Part part, int face, int[] cells, double[] share, double heat, double toBoard, double openMm2) {}

    /**
     * @param about whose surroundings are looked at
     * @param gone references of what is not on the board any more
     */
    public HeatedBoard(Board board, Part about, SlabParameters slab, Set<String> gone) {
        this.slab = slab;
        this.about = about;
        Outline outline = board.outline();
        left = Math.max(outline.minXMm(), about.xMm() - REACH_MM);
        low = Math.max(outline.minYMm(), about.yMm() - REACH_MM);
        nx = cells(Math.min(outline.maxXMm(), about.xMm() + REACH_MM) - left);
        ny = cells(Math.min(outline.maxYMm(), about.yMm() + REACH_MM) - low);
        solid = new boolean[nx * ny];
        Outline.Inside inside = outline.inside();
        for (int c = 0; c < solid.length; c++) {
            solid[c] = inside.test(xMm(c), yMm(c));
        }
        // Each face has half of the board's heat and of its copper.
        cellHeat = slab.jouleMm2PerK() / 2 * CELL_MM * CELL_MM;
        double along = slab.diffusivityMm2PerS() * slab.jouleMm2PerK() / 2;
        // Two nodes pass heat as a slab does whose slowest mode across dies away in crossS.
        through = cellHeat / (2 * slab.crossS());
        east = new float[nx * ny];
        west = new float[nx * ny];
        north = new float[nx * ny];
        south = new float[nx * ny];
        own = new float[nx * ny];
        for (int c = 0; c < solid.length; c++) {
            if (c % nx + 1 < nx && solid[c] && solid[c + 1]) {
                east[c] = (float) along;
                west[c + 1] = (float) along;
            }
            if (c + nx < solid.length && solid[c] && solid[c + nx]) {
                north[c] = (float) along;
                south[c + nx] = (float) along;
            }
        }
        for (int c = 0; c < solid.length; c++) {
            double given = through + LOSS * CELL_MM * CELL_MM + east[c] + west[c] + north[c] + south[c];
            own[c] = solid[c] ? (float) -given : 0;
        }
        bare = new double[2][nx * ny];
        for (double[] face : bare) {
            Arrays.fill(face, 1);
        }
        for (Part part : board.parts()) {
            if (!gone.contains(part.ref())) {
                stand(part);
            }
        }
    }

    private static int cells(double mm) {
        return Math.max(1, (int) Math.ceil(mm / CELL_MM));
    }

    private double xMm(int cell) {
        return left + (cell % nx + 0.5) * CELL_MM;
    }

    private double yMm(int cell) {
        return low + (cell / nx + 0.5) * CELL_MM;
    }

    private static int face(Side side) {
        return side == Side.TOP ? 0 : 1;
    }

    private int cellAt(double x, double y) {
        int column = (int) Math.floor((x - left) / CELL_MM);
        int row = (int) Math.floor((y - low) / CELL_MM);
        return column < 0 || row < 0 || column >= nx || row >= ny ? -1 : row * nx + column;
    }

    /** Lays a part on its cells by points over its body, at least one. */
    private void stand(Part part) {
        double[] share = new double[nx * ny];
        int across = points(part.wMm());
        int up = points(part.hMm());
        double angle = Math.toRadians(part.rotDeg());
        int on = 0;
        for (int i = 0; i < across; i++) {
            for (int j = 0; j < up; j++) {
                double u = ((i + 0.5) / across - 0.5) * part.wMm();
                double v = ((j + 0.5) / up - 0.5) * part.hMm();
                int c = cellAt(
                        part.xMm() + u * Math.cos(angle) - v * Math.sin(angle),
                        part.yMm() + u * Math.sin(angle) + v * Math.cos(angle));
                if (c >= 0 && solid[c]) {
                    share[c]++;
                    on++;
                }
            }
        }
        if (on == 0) {
            return;
        }
        int[] at = IntStream.range(0, share.length).filter(c -> share[c] > 0).toArray();
        double[] of = new double[at.length];
        double area = part.wMm() * part.hMm();
        int face = face(part.side());
        for (int i = 0; i < at.length; i++) {
            of[i] = share[at[i]] / on;
            bare[face][at[i]] = Math.max(0, bare[face][at[i]] - of[i] * area / (CELL_MM * CELL_MM));
        }
        double height = part.heightMm().orElse(USUAL_HEIGHT_MM);
        double sides = 2 * (part.wMm() + part.hMm()) * height;
        boolean can = part.kind() == PartKind.SHIELD;
        double ends = part.pins().size() > 3
                ? Math.min(PINS_THAT_COUNT, part.pins().size()) * PIN_W_PER_K
                : ENDS_W_PER_K * Math.sqrt(area);
        places.put(part.ref(), bodies.size());
        bodies.add(new Body(
                part,
                face,
                at,
                of,
                area * height * BODY_HEAT,
                can ? RIM_SHARE * area * UNDER_W_PER_MM2_K : ends + area * UNDER_W_PER_MM2_K,
                can ? area : area + sides / 2));
    }

    private static int points(double mm) {
        return Math.max(1, (int) Math.ceil(POINTS * mm / CELL_MM));
    }

    /**
     * Begins to heat.
     *
     * @param screened references of what is kept from the air
     * @param preheatK how warm the whole board was made before, and is kept from below
     */
    public Run heated(Heating heating, Set<String> screened, double roomC, double preheatK) {
        return new Run(heating, screened, roomC, preheatK);
    }

    /** One heating as it goes on. Not for several threads. */
    public final class Run {
        private final double roomRiseK;
        private final float[][] gain = new float[2][nx * ny];
        private final float[][] toward = new float[2][nx * ny];
        private final float[][] environs = new float[2][nx * ny];
        private final double[] bodyGain;
        private final double[] bodyToward;
        private final double[] bodyRise;
        private final float[][] rise = new float[2][nx * ny];
        private final float[][] flow = new float[2][nx * ny];
        private final float[] beside = new float[nx * ny];
        private final double preheatK;
        /** The face that is kept warm from below: the one that is not worked on. */
        private final int under;

        private final double stepS;
        private boolean on = true;
        private double seconds;
        private double joules;

        private Run(Heating heating, Set<String> screened, double roomC, double preheatK) {
            this.preheatK = preheatK;
            under = 1 - face(heating.side());
            roomRiseK = heating.riseK(roomC);
            bodyGain = new double[bodies.size()];
            bodyToward = new double[bodies.size()];
            bodyRise = new double[bodies.size()];
            Arrays.fill(bodyRise, preheatK);
            for (int c = 0; c < solid.length; c++) {
                rise[0][c] = solid[c] ? (float) preheatK : 0;
                rise[1][c] = rise[0][c];
                environs[under][c] = (float) (LOSS * CELL_MM * CELL_MM * rise[0][c]);
            }
            if (heating instanceof Heating.Air air) {
                blow(air, screened);
            } else if (heating instanceof Heating.Tip tip) {
                touch(tip);
            }
            stepS = STABLE_SHARE * 2 / fastest();
        }

        private void blow(Heating.Air air, Set<String> screened) {
            double middle = air.jet().middle();
            int f = face(air.side());
            double[] open = bare[f].clone();
            for (Body body : bodies) {
                if (body.face() == f && screened.contains(body.part().ref())) {
                    cover(body.part(), air, open);
                }
            }
            for (int c = 0; c < open.length; c++) {
                double r = Math.hypot(xMm(c) - air.xMm(), yMm(c) - air.yMm());
                gain[f][c] = solid[c] ? (float) (middle * air.jet().fallen(r) * open[c] * CELL_MM * CELL_MM) : 0;
                toward[f][c] = (float) (roomRiseK * air.jet().unmixed(r));
            }
            for (int b = 0; b < bodies.size(); b++) {
                Body body = bodies.get(b);
                if (body.face() == f) {
                    blow(air, middle, b, screened.contains(body.part().ref()) ? THROUGH_SCREEN : 1);
                }
            }
        }

        /** A large body is blown at unevenly: the mean over its cells. */
        private void blow(Heating.Air air, double middle, int b, double let) {
            Body body = bodies.get(b);
            double strength = 0;
            double heat = 0;
            for (int i = 0; i < body.cells().length; i++) {
                int c = body.cells()[i];
                double r = Math.hypot(xMm(c) - air.xMm(), yMm(c) - air.yMm());
                double here = body.share()[i] * air.jet().fallen(r);
                strength += here;
                heat += here * air.jet().unmixed(r);
            }
            bodyGain[b] = let * middle * strength * body.openMm2();
            bodyToward[b] = roomRiseK * heat / strength;
        }

        /** A screen ends where the air is wanted. */
        private void cover(Part part, Heating.Air air, double[] open) {
            for (int c = 0; c < open.length; c++) {
                boolean wanted = about.side() == air.side() && about.covers(xMm(c), yMm(c), SCREEN_MM);
                if (!wanted && part.covers(xMm(c), yMm(c), SCREEN_MM)) {
                    open[c] *= THROUGH_SCREEN;
                }
            }
        }

        /** Under a pad heat is held up by how little of the board it touches: so the joint is hot long before the board. */
        private void touch(Heating.Tip tip) {
            int f = face(tip.side());
            for (Heating.Pad pad : tip.pads()) {
                int c = cellAt(pad.at().xMm(), pad.at().yMm());
                if (c >= 0 && solid[c]) {
                    double own = 1 / (1 / tip.wattsPerK() + pad.kelvinPerWatt());
                    gain[f][c] += (float) own;
                    toward[f][c] = (float) roomRiseK;
                }
            }
        }

        /** The coolest of the joints that a tip heats. */
        public double tippedK(Heating.Tip tip) {
            int f = face(tip.side());
            double coolest = Double.POSITIVE_INFINITY;
            for (Heating.Pad pad : tip.pads()) {
                int c = cellAt(pad.at().xMm(), pad.at().yMm());
                double board = c >= 0 ? rise[f][c] : 0;
                double share = pad.kelvinPerWatt() / (pad.kelvinPerWatt() + 1 / tip.wattsPerK());
                coolest = Math.min(coolest, board + (roomRiseK - board) * share);
            }
            return coolest;
        }

        private double fastest() {
            double[] most = new double[2];
            for (int f = 0; f < 2; f++) {
                for (float g : gain[f]) {
                    most[f] = Math.max(most[f], g);
                }
            }
            double along = 4 * slab.diffusivityMm2PerS() * slab.jouleMm2PerK() / 2;
            double cell = along + through + LOSS * CELL_MM * CELL_MM + Math.max(most[0], most[1]);
            double rate = 0;
            for (int b = 0; b < bodies.size(); b++) {
                Body body = bodies.get(b);
                double share = Arrays.stream(body.share()).max().orElse(0);
                rate = Math.max(rate, (cell + body.toBoard() * share) / cellHeat);
                rate = Math.max(rate, (body.toBoard() + bodyGain[b]) / body.heat());
            }
            return 2 * Math.max(rate, cell / cellHeat);
        }

        /** Takes the heat away; what was warmed goes on to spread. */
        public void off() {
            on = false;
        }

        public double seconds() {
            return seconds;
        }

        /** Goes on by some seconds. */
        public void advance(double bySeconds) {
            int steps = Math.max(1, (int) Math.ceil(bySeconds / stepS));
            double dt = bySeconds / steps;
            for (int s = 0; s < steps; s++) {
                step(dt);
            }
            seconds += bySeconds;
        }

        private void step(double dt) {
            for (int f = 0; f < 2; f++) {
                flowInto(f, (float) dt);
            }
            for (int b = 0; b < bodies.size(); b++) {
                body(b, dt);
            }
            for (int f = 0; f < 2; f++) {
                onwards(rise[f], flow[f], (float) (dt / cellHeat));
            }
        }

        /** What flows into each cell of a face: neighbours are copied into place first, so that loops take many cells at once. */
        private void flowInto(int f, float dt) {
            float[] t = rise[f];
            float[] out = flow[f];
            int cells = t.length;
            System.arraycopy(t, 1, beside, 0, cells - 1);
            from(out, t, rise[1 - f], own, (float) through, environs[f]);
            along(out, east, beside);
            System.arraycopy(t, 0, beside, 1, cells - 1);
            along(out, west, beside);
            System.arraycopy(t, nx, beside, 0, cells - nx);
            along(out, north, beside);
            System.arraycopy(t, 0, beside, nx, cells - nx);
            along(out, south, beside);
            if (on) {
                joules += blown(out, t, gain[f], toward[f]) * dt;
            }
        }

        private void body(int b, double dt) {
            Body body = bodies.get(b);
            float[] t = rise[body.face()];
            float[] out = flow[body.face()];
            double in = on ? bodyGain[b] * (bodyToward[b] - bodyRise[b]) : 0;
            joules += in * dt;
            double into = in;
            for (int i = 0; i < body.cells().length; i++) {
                int c = body.cells()[i];
                double down = body.toBoard() * body.share()[i] * (bodyRise[b] - t[c]);
                into -= down;
                out[c] += (float) down;
            }
            bodyRise[b] += dt * into / body.heat();
        }

        /** The coolest place under a part, which melts last; the room's 0 for one that is not on these cells. */
        public double coolestK(String ref) {
            return under(ref).min().orElse(0);
        }

        /** The hottest of a part: its body, or the board under it. */
        public double hottestK(String ref) {
            Integer b = places.get(ref);
            return b == null ? 0 : Math.max(bodyRise[b], jointK(ref));
        }

        /** The hottest joint of a part: the board under it. */
        public double jointK(String ref) {
            return under(ref).max().orElse(0);
        }

        private DoubleStream under(String ref) {
            Integer b = places.get(ref);
            return b == null
                    ? DoubleStream.empty()
                    : Arrays.stream(bodies.get(b).cells())
                            .mapToDouble(c -> rise[bodies.get(b).face()][c]);
        }

        /** Heat that came in so far, joules. */
        public double joules() {
            return joules;
        }

        /** Heat in board and bodies, joules against the room. */
        public double storedJoules() {
            double sum = 0;
            for (float[] face : rise) {
                for (int c = 0; c < face.length; c++) {
                    sum += solid[c] ? face[c] * cellHeat : 0;
                }
            }
            for (int b = 0; b < bodies.size(); b++) {
                sum += bodyRise[b] * bodies.get(b).heat();
            }
            return sum;
        }

        /** Heat that leaves to the room now, watts. */
        public double lossWatts() {
            double sum = 0;
            for (int f = 0; f < 2; f++) {
                for (int c = 0; c < rise[f].length; c++) {
                    sum += solid[c] ? LOSS * CELL_MM * CELL_MM * (rise[f][c] - (f == under ? preheatK : 0)) : 0;
                }
            }
            return sum;
        }
    }

    private static void from(float[] out, float[] t, float[] other, float[] own, float through, float[] environs) {
        for (int c = 0; c < out.length; c++) {
            out[c] = environs[c] + own[c] * t[c] + through * other[c];
        }
    }

    private static void along(float[] out, float[] conductance, float[] beside) {
        for (int c = 0; c < out.length; c++) {
            out[c] += conductance[c] * beside[c];
        }
    }

    /** @return what flows in altogether, watts */
    private static float blown(float[] out, float[] t, float[] gain, float[] toward) {
        float sum = 0;
        for (int c = 0; c < out.length; c++) {
            float in = gain[c] * (toward[c] - t[c]);
            out[c] += in;
            sum += in;
        }
        return sum;
    }

    private static void onwards(float[] t, float[] flow, float by) {
        for (int c = 0; c < t.length; c++) {
            t[c] += by * flow[c];
        }
    }

    /** References of the parts that stand on the cells. */
    public List<String> parts() {
        return bodies.stream().map(b -> b.part().ref()).toList();
    }
}
