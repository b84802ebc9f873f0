package ohmoscope.core.imaging;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.fit.Climb;

/**
 * Lays the board over the camera's picture by the picture itself: even a cold board shows its edge and its bodies, as
 * metal, epoxy and ceramic mirror the room differently. The pairs' own map is moved, turned, scaled and sheared in the
 * picture until the board's edge and the bodies' edges lie where the picture is steepest across them, from coarse to fine.
 */
public final class EdgeSnap {
    private static final double[] BLUR_PX = {3, 1.6, 0.9};
    /** Places along the edges, about so far apart, mm; fewer on very large boards. */
    private static final double SPACING_MM = 0.5;

    private static final int MOST_PLACES = 5000;
    /** Bodies whose shorter side covers fewer pixels have no edges to speak of. */
    private static final double LEAST_BODY_PX = 3.5;
    /** How far the pairs may be off, one sigma, pixels at the picture's rim. */
    private static final double PAIRS_PX = 4;

    private static final int EVALUATIONS = 500;
    /** Of many pairs only the first so many are left out by turns. */
    private static final int MOST_LEFT_OUT = 8;

    private static final int SLIDES = 7;
    /** More places than that are never as steep as each other in a coarse picture. */
    private static final int BEGINS = 6;

    private static final int SHIFTS = 4;
    private static final double SHIFT_PX = 2;
    private static final int CHANCE = 24;
    private static final double CHANCE_PX = 9;
    /** How far above chance the edges must stand before the snapped pairs are worth keeping, standard deviations. */
    private static final double CLEAR = 4;

    private final int width;
    private final int height;
    private final List<float[]> blurred;
    private final Homography map;
    private final double[][] places;
    private final double[] start;

    private EdgeSnap(List<float[]> blurred, int width, int height, Homography map, double[][] places) {
        this.blurred = blurred;
        this.width = width;
        this.height = height;
        this.map = map;
        this.places = places;
        start = start();
    }

    /**
     * From where the pairs lay the board. Where they contradict each other, from where the best of their subsets does: one
     * or two of them may be plainly wrong.
     *
     * @param picture kelvin, row-major, such as a scan's baseline
     * @param pairs usable ones
     */
    public static EdgeSnap from(
            float[] picture, int width, int height, Board board, Side side, List<RegistrationPair> pairs) {
        List<float[]> blurred = new ArrayList<>();
        for (double sigma : BLUR_PX) {
            blurred.add(Blur.gaussian(picture, width, height, sigma));
        }
        Registration all = Registration.fit(pairs);
        List<Homography> laid = new ArrayList<>(List.of(all.homography()));
        if (all.doubtful()) {
            subsets(pairs).forEach(some -> Registration.straightDown(some).ifPresent(laid::add));
        }
        return laid.stream()
                .map(map -> on(blurred, width, height, board, side, map))
                .max(Comparator.comparingDouble(laying -> laying.steepness(laying.start, 0)))
                .orElseThrow();
    }

    private static EdgeSnap on(List<float[]> blurred, int width, int height, Board board, Side side, Homography map) {
        double[][] places = places(board, side, map, map.pitchMm(width / 2.0, height / 2.0));
        return new EdgeSnap(blurred, width, height, map, places);
    }

    /** The pairs without one, and without two, of them. */
    private static List<List<RegistrationPair>> subsets(List<RegistrationPair> pairs) {
        List<List<RegistrationPair>> subsets = new ArrayList<>();
        for (int i = 0; i < Math.min(MOST_LEFT_OUT, pairs.size()); i++) {
            for (int j = i; j < Math.min(MOST_LEFT_OUT, pairs.size()); j++) {
                List<RegistrationPair> some = new ArrayList<>(pairs);
                some.remove(j);
                if (i < j) {
                    some.remove(i);
                }
                subsets.add(some);
            }
        }
        return subsets;
    }

    /**
     * What came of it.
     *
     * @param pairs the pairs at their new pixels, in their order
     * @param movedPx root mean square of the pairs' moves
     * @param clear how far the edges under the new map stand above chance, standard deviations
     */
    public record Snapped(List<RegistrationPair> pairs, double movedPx, double clear) {
        /** Whether the picture shows enough edges to go by. */
        public boolean usable() {
            return clear > CLEAR;
        }
    }

    /** Moves, turns and strains the pairs' map as the edges ask for. */
    public Snapped snap(List<RegistrationPair> pairs) {
        double[] point = start;
        for (int level = 0; level < BLUR_PX.length; level++) {
            // A simplex that has settled on a ridge goes on when it is opened anew.
            point = climb(climb(point, level), level);
        }
        return snapped(pairs, point);
    }

    /**
     * Only shifts the map, and turns it where the camera turned: for pairs that agree among themselves, when nobody knows
     * in which frame they were clicked.
     *
     * @param mostPx the farthest that the camera moved
     * @param mostTurn the farthest that it turned, radians
     */
    public Snapped slide(List<RegistrationPair> pairs, double mostPx, double mostTurn) {
        int finest = BLUR_PX.length - 1;
        double[] best = new double[6];
        double steepest = 0;
        for (double[] begin : begins(mostPx)) {
            double[] point = begin;
            double reach = 2 * mostPx / SLIDES;
            double turnReach = mostTurn * width / 2;
            for (int level = 1; level <= finest; level++) {
                if (mostTurn > 0) {
                    point = turned(point, turnReach, mostTurn * width / 2, level);
                }
                point = shifted(point, reach, mostPx, level);
                reach = 2 * reach / SLIDES;
                turnReach = 2 * turnReach / SLIDES;
            }
            double value = steepness(point, finest);
            if (value > steepest) {
                steepest = value;
                best = point;
            }
        }
        return snapped(pairs, best);
    }

    /**
     * Where a slide may begin: where the pairs say, and the steepest of the other shifts, apart from each other. Parts in a
     * row look alike one part farther on, and only the finer picture tells which it is.
     */
    private List<double[]> begins(double mostPx) {
        record Tried(double[] point, double value) {}
        double step = mostPx / SLIDES;
        List<Tried> tried = shifts(new double[6], mostPx, mostPx).stream()
                .map(point -> new Tried(point, steepness(point, 1)))
                .sorted(Comparator.comparingDouble(t -> -t.value()))
                .toList();
        List<double[]> begins = new ArrayList<>(List.of(new double[6]));
        for (Tried one : tried) {
            boolean apart =
                    begins.stream().allMatch(b -> Math.hypot(b[0] - one.point()[0], b[1] - one.point()[1]) > 2 * step);
            if (apart && begins.size() < BEGINS) {
                begins.add(one.point());
            }
        }
        return begins;
    }

    /** The best of the shifts about one, none farther than allowed. */
    private double[] shifted(double[] centre, double reach, double mostPx, int level) {
        double[] point = centre;
        double best = 0;
        for (double[] tried : shifts(centre, reach, mostPx)) {
            double value = steepness(tried, level);
            if (value > best) {
                best = value;
                point = tried;
            }
        }
        return point;
    }

    /** A grid of shifts about one, those that are farther than allowed left out. */
    private static List<double[]> shifts(double[] centre, double reach, double mostPx) {
        double step = reach / SLIDES;
        List<double[]> shifts = new ArrayList<>();
        for (int i = -SLIDES; i <= SLIDES; i++) {
            for (int j = -SLIDES; j <= SLIDES; j++) {
                double[] shift = centre.clone();
                shift[0] += i * step;
                shift[1] += j * step;
                if (Math.hypot(shift[0], shift[1]) <= mostPx) {
                    shifts.add(shift);
                }
            }
        }
        return shifts;
    }

    /** The best of the turns about one. @param rimPx none takes the picture's rim farther */
    private double[] turned(double[] centre, double reach, double rimPx, int level) {
        double[] point = centre;
        double best = 0;
        for (int i = -SLIDES; i <= SLIDES; i++) {
            double[] tried = centre.clone();
            tried[2] += i * reach / SLIDES;
            double value = Math.abs(tried[2]) > rimPx ? 0 : steepness(tried, level);
            if (value > best) {
                best = value;
                point = tried;
            }
        }
        return point;
    }

    private Snapped snapped(List<RegistrationPair> pairs, double[] point) {
        List<RegistrationPair> moved = new ArrayList<>();
        double off = 0;
        for (RegistrationPair pair : pairs) {
            double x = map.xPx(pair.xMm(), pair.yMm());
            double y = map.yPx(pair.xMm(), pair.yMm());
            double nx = movedX(point, x, y);
            double ny = movedY(point, x, y);
            off += Math.pow(nx - pair.xPx(), 2) + Math.pow(ny - pair.yPx(), 2);
            moved.add(new RegistrationPair(nx, ny, pair.xMm(), pair.yMm()));
        }
        return new Snapped(moved, Math.sqrt(off / pairs.size()), clear(point));
    }

    /** How far the edges stand above chance: the same edges laid anywhere else. */
    private double clear(double[] point) {
        int finest = BLUR_PX.length - 1;
        Random random = new Random(17);
        double mean = 0;
        double square = 0;
        for (int i = 0; i < CHANCE; i++) {
            double[] other = point.clone();
            double angle = 2 * Math.PI * i / CHANCE;
            double by = CHANCE_PX * (0.6 + random.nextDouble());
            other[0] += by * Math.cos(angle);
            other[1] += by * Math.sin(angle);
            double value = steepness(other, finest);
            mean += value / CHANCE;
            square += value * value / CHANCE;
        }
        double spread = Math.sqrt(Math.max(1e-18, square - mean * mean));
        return (steepness(point, finest) - mean) / spread;
    }

    /** The best of many shifts; a climb from the pairs' own place may end at the next body. */
    private double[] start() {
        double[] best = new double[6];
        double least = Math.max(1e-9, steepness(best, 0));
        double bestValue = 1;
        for (int i = -SHIFTS; i <= SHIFTS; i++) {
            for (int j = -SHIFTS; j <= SHIFTS; j++) {
                double[] point = {i * SHIFT_PX, j * SHIFT_PX, 0, 0, 0, 0};
                double value = steepness(point, 0) / least - cost(point);
                if (value > bestValue) {
                    bestValue = value;
                    best = point;
                }
            }
        }
        return best;
    }

    private double[] climb(double[] from, int level) {
        double step = 1.5 * BLUR_PX[level];
        double start = Math.max(1e-9, steepness(from, level));
        return Climb.up(
                point -> steepness(point, level) / start - cost(point),
                from,
                new double[] {step, step, step, step, step / 2, step / 2},
                EVALUATIONS,
                1e-6);
    }

    /** Moves and strains are in pixels at the rim; far ones need good reason. */
    private static double cost(double[] point) {
        double sum = 0;
        for (double p : point) {
            sum += p * p;
        }
        return 0.02 * sum / (PAIRS_PX * PAIRS_PX);
    }

    /** Shift right and down, turn, scale, shear and unequal scale, about the picture's middle. */
    private double movedX(double[] p, double x, double y) {
        double u = (x - width / 2.0) / (width / 2.0);
        double v = (y - height / 2.0) / (width / 2.0);
        return x + p[0] - p[2] * v + p[3] * u + p[4] * v + p[5] * u;
    }

    private double movedY(double[] p, double x, double y) {
        double u = (x - width / 2.0) / (width / 2.0);
        double v = (y - height / 2.0) / (width / 2.0);
        return y + p[1] + p[2] * u + p[3] * v + p[4] * u - p[5] * v;
    }

    /** Mean steepness across the edges, kelvin a pixel. */
    private double steepness(double[] point, int level) {
        float[] picture = blurred.get(level);
        double reach = BLUR_PX[level];
        double sum = 0;
        double weights = 0;
        for (double[] place : places) {
            double x = movedX(point, place[0], place[1]);
            double y = movedY(point, place[0], place[1]);
            double ax = x + reach * place[2];
            double ay = y + reach * place[3];
            double bx = x - reach * place[2];
            double by = y - reach * place[3];
            if (inside(ax, ay) && inside(bx, by)) {
                sum += place[4] * Math.abs(at(picture, ax, ay) - at(picture, bx, by)) / (2 * reach);
                weights += place[4];
            }
        }
        return weights > 0 ? sum / weights : 0;
    }

    private boolean inside(double x, double y) {
        return x >= 0 && y >= 0 && x < width - 1 && y < height - 1;
    }

    private float at(float[] picture, double x, double y) {
        return Resampler.bilinear(picture, width, height, x, y);
    }

    /** Places along edges: pixel, unit normal in the picture, weight. */
    private static double[][] places(Board board, Side side, Homography map, double pitchMm) {
        List<double[]> places = new ArrayList<>();
        List<PointMm> corners = board.outline().corners();
        for (int i = 0; i < corners.size(); i++) {
            along(corners.get(i), corners.get((i + 1) % corners.size()), 1, map, places);
        }
        for (Part part : board.parts()) {
            if (part.side() == side && Math.min(part.wMm(), part.hMm()) > LEAST_BODY_PX * pitchMm) {
                List<PointMm> body = part.corners();
                for (int i = 0; i < 4; i++) {
                    along(body.get(i), body.get((i + 1) % 4), 0.6, map, places);
                }
            }
        }
        int stride = 1 + places.size() / MOST_PLACES;
        double[][] kept = new double[(places.size() + stride - 1) / stride][];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = places.get(i * stride);
        }
        return kept;
    }

    private static void along(PointMm from, PointMm to, double weight, Homography map, List<double[]> places) {
        double length = Math.hypot(to.xMm() - from.xMm(), to.yMm() - from.yMm());
        int n = Math.max(1, (int) (length / SPACING_MM));
        double dx = map.xPx(to.xMm(), to.yMm()) - map.xPx(from.xMm(), from.yMm());
        double dy = map.yPx(to.xMm(), to.yMm()) - map.yPx(from.xMm(), from.yMm());
        double px = Math.hypot(dx, dy);
        for (int i = 0; i < n && px > 0; i++) {
            double share = (i + 0.5) / n;
            double x = from.xMm() + share * (to.xMm() - from.xMm());
            double y = from.yMm() + share * (to.yMm() - from.yMm());
            places.add(new double[] {map.xPx(x, y), map.yPx(x, y), -dy / px, dx / px, weight});
        }
    }
}
