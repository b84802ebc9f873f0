package ohmoscope.core.imaging;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ohmoscope.core.board.PointMm;

/** Lines of equal warmth, by marching squares with linear interpolation. O(cells). */
public final class Contours {
    private static final double[] NICE = {1, 1.5, 2, 3, 4, 5, 6, 8};
    private static final double[] SHARES = {0.12, 0.25, 0.45, 0.7, 0.88};
    private static final double CLEAR_OF_NOISE = 4;
    private static final double SHORTEST_MM = 5;

    private Contours() {}

    /** One line; closed when it ends where it began. */
    public record Contour(double kelvin, List<PointMm> points) {
        public Contour {
            points = List.copyOf(points);
        }

        public double lengthMm() {
            double sum = 0;
            for (int i = 1; i < points.size(); i++) {
                sum += points.get(i)
                        .distanceMm(points.get(i - 1).xMm(), points.get(i - 1).yMm());
            }
            return sum;
        }
    }

    /** Levels a hill map would have: a handful of round numbers clear of the noise. */
    public static List<Double> levels(WarmthMap map) {
        List<Double> levels = new ArrayList<>();
        double top = map.hottestK();
        for (double share : SHARES) {
            double level = nice(share * top);
            if (level > CLEAR_OF_NOISE * map.noiseK() && !levels.contains(level)) {
                levels.add(level);
            }
        }
        return levels;
    }

    private static double nice(double value) {
        double decade = Math.pow(10, Math.floor(Math.log10(Math.max(1e-6, value))));
        double best = decade;
        for (double n : NICE) {
            if (n * decade <= value) {
                best = n * decade;
            }
        }
        return Math.round(best * 1e4) / 1e4;
    }

    public static List<Contour> of(WarmthMap map) {
        List<Contour> all = new ArrayList<>();
        for (double level : levels(map)) {
            all.addAll(of(map, level));
        }
        return all;
    }

    /** Lines at one level, longest specks only. */
    public static List<Contour> of(WarmthMap map, double kelvin) {
        Map<Long, List<long[]>> byEdge = new HashMap<>();
        List<long[]> segments = new ArrayList<>();
        for (int y = 0; y + 1 < map.rows(); y++) {
            for (int x = 0; x + 1 < map.columns(); x++) {
                square(map, kelvin, x, y, segments);
            }
        }
        for (long[] segment : segments) {
            byEdge.computeIfAbsent(segment[0], e -> new ArrayList<>()).add(segment);
            byEdge.computeIfAbsent(segment[1], e -> new ArrayList<>()).add(segment);
        }
        List<Contour> contours = new ArrayList<>();
        for (long[] segment : segments) {
            if (segment[2] == 0) {
                Contour contour = new Contour(kelvin, follow(map, kelvin, segment, byEdge));
                if (contour.lengthMm() > SHORTEST_MM) {
                    contours.add(contour);
                }
            }
        }
        return contours;
    }

    /** Edges are numbered: twice the cell for the edge to the right, plus one for the edge upwards. */
    private static void square(WarmthMap map, double level, int x, int y, List<long[]> segments) {
        double a = map.at(x, y);
        double b = map.at(x + 1, y);
        double c = map.at(x + 1, y + 1);
        double d = map.at(x, y + 1);
        if (Double.isNaN(a + b + c + d)) {
            return;
        }
        long cell = (long) y * map.columns() + x;
        List<Long> crossed = new ArrayList<>(4);
        if (a < level != b < level) {
            crossed.add(2 * cell);
        }
        if (b < level != c < level) {
            crossed.add(2 * (cell + 1) + 1);
        }
        if (c < level != d < level) {
            crossed.add(2 * (cell + map.columns()));
        }
        if (d < level != a < level) {
            crossed.add(2 * cell + 1);
        }
        for (int i = 0; i + 1 < crossed.size(); i += 2) {
            segments.add(new long[] {crossed.get(i), crossed.get(i + 1), 0});
        }
    }

    private static List<PointMm> follow(WarmthMap map, double level, long[] start, Map<Long, List<long[]>> byEdge) {
        start[2] = 1;
        Deque<PointMm> line = new ArrayDeque<>();
        line.add(point(map, level, start[0]));
        line.add(point(map, level, start[1]));
        extend(map, level, start[1], byEdge, line, false);
        extend(map, level, start[0], byEdge, line, true);
        return List.copyOf(line);
    }

    private static void extend(
            WarmthMap map,
            double level,
            long from,
            Map<Long, List<long[]>> byEdge,
            Deque<PointMm> line,
            boolean front) {
        long edge = from;
        while (true) {
            long[] next = null;
            for (long[] candidate : byEdge.get(edge)) {
                if (candidate[2] == 0) {
                    next = candidate;
                }
            }
            if (next == null) {
                return;
            }
            next[2] = 1;
            edge = next[0] == edge ? next[1] : next[0];
            PointMm point = point(map, level, edge);
            if (front) {
                line.addFirst(point);
            } else {
                line.addLast(point);
            }
        }
    }

    private static PointMm point(WarmthMap map, double level, long edge) {
        int cell = (int) (edge / 2);
        int x = cell % map.columns();
        int y = cell / map.columns();
        boolean up = edge % 2 == 1;
        double a = map.at(x, y);
        double b = up ? map.at(x, y + 1) : map.at(x + 1, y);
        double share = (level - a) / (b - a);
        return new PointMm(
                map.xMinMm() + (x + (up ? 0 : share)) * map.stepMm(),
                map.yMinMm() + (y + (up ? share : 0)) * map.stepMm());
    }
}
