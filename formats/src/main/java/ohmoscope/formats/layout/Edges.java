package ohmoscope.formats.layout;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import ohmoscope.core.board.PointMm;
import org.locationtech.jts.algorithm.Orientation;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.CoordinateArrays;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.operation.polygonize.Polygonizer;

/** Strokes of a board's edge, put together to rings: the largest is the outline, what lies in it are cut-outs. */
final class Edges {
    /** Ends nearer than this are one. */
    private static final double SNAP_MM = 0.01;
    /** An arc's chord is no farther from it than this. */
    private static final double SAGITTA_MM = 0.02;

    private static final int MOST_CHORDS = 180;
    private static final int MOST_STROKES = 20_000;

    private final List<List<PointMm>> strokes = new ArrayList<>();

    void line(PointMm from, PointMm to) {
        stroke(List.of(from, to));
    }

    void stroke(List<PointMm> points) {
        if (strokes.size() < MOST_STROKES && points.size() > 1) {
            strokes.add(points);
        }
    }

    void ring(List<PointMm> points) {
        List<PointMm> closed = new ArrayList<>(points);
        closed.add(points.get(0));
        stroke(closed);
    }

    void circle(PointMm centre, double radiusMm) {
        if (radiusMm > 0) {
            arc(centre, radiusMm, 0, 2 * Math.PI);
        }
    }

    /** @param sweep radians, counter-clockwise when above 0 */
    void arc(PointMm centre, double radiusMm, double from, double sweep) {
        double step = 2 * Math.acos(Math.max(0, 1 - SAGITTA_MM / Math.max(radiusMm, SAGITTA_MM)));
        int chords = (int) Math.max(2, Math.min(MOST_CHORDS, Math.ceil(Math.abs(sweep) / step)));
        List<PointMm> points = new ArrayList<>();
        for (int i = 0; i <= chords; i++) {
            double angle = from + sweep * i / chords;
            points.add(
                    new PointMm(centre.xMm() + radiusMm * Math.cos(angle), centre.yMm() + radiusMm * Math.sin(angle)));
        }
        stroke(points);
    }

    /** An arc by three points on it; a line where they stand in one. */
    void arc(PointMm start, PointMm middle, PointMm end) {
        double ax = start.xMm() - end.xMm();
        double ay = start.yMm() - end.yMm();
        double bx = middle.xMm() - end.xMm();
        double by = middle.yMm() - end.yMm();
        double cross = 2 * (ax * by - ay * bx);
        if (Math.abs(cross) < 1e-9) {
            stroke(List.of(start, middle, end));
            return;
        }
        double a2 = ax * ax + ay * ay;
        double b2 = bx * bx + by * by;
        PointMm centre = new PointMm(end.xMm() + (by * a2 - ay * b2) / cross, end.yMm() + (ax * b2 - bx * a2) / cross);
        double from = Math.atan2(start.yMm() - centre.yMm(), start.xMm() - centre.xMm());
        double via = Math.atan2(middle.yMm() - centre.yMm(), middle.xMm() - centre.xMm());
        double to = Math.atan2(end.yMm() - centre.yMm(), end.xMm() - centre.xMm());
        double left = turn(to - from);
        double sweep = turn(via - from) < left ? left : left - 2 * Math.PI;
        arc(centre, centre.distanceMm(start.xMm(), start.yMm()), from, sweep);
    }

    /** @return the same angle from 0 to a whole turn */
    private static double turn(double angle) {
        double whole = 2 * Math.PI;
        return ((angle % whole) + whole) % whole;
    }

    /** The corners of the largest ring, counter-clockwise without the first again; empty where nothing closes. */
    List<PointMm> outline() {
        GeometryFactory geometry = new GeometryFactory();
        Polygonizer polygonizer = new Polygonizer();
        List<Coordinate> ends = new ArrayList<>();
        for (List<PointMm> stroke : strokes) {
            Coordinate[] points =
                    stroke.stream().map(p -> new Coordinate(p.xMm(), p.yMm())).toArray(Coordinate[]::new);
            points[0] = snapped(ends, points[0]);
            points[points.length - 1] = snapped(ends, points[points.length - 1]);
            if (points.length > 2 || !points[0].equals2D(points[1])) {
                polygonizer.add(geometry.createLineString(points));
            }
        }
        List<PointMm> corners = new ArrayList<>();
        ((java.util.Collection<?>) polygonizer.getPolygons())
                .stream()
                        .map(Polygon.class::cast)
                        .max(Comparator.comparingDouble(
                                p -> geometry.createPolygon(p.getExteriorRing().getCoordinates())
                                        .getArea()))
                        .ifPresent(p -> {
                            Coordinate[] ring = p.getExteriorRing().getCoordinates();
                            if (!Orientation.isCCW(ring)) {
                                CoordinateArrays.reverse(ring);
                            }
                            for (int i = 0; i < ring.length - 1; i++) {
                                corners.add(new PointMm(ring[i].x, ring[i].y));
                            }
                        });
        return begunAtTheLowerLeft(corners);
    }

    /** A ring has no beginning of its own, and the same file must give the same board. */
    private static List<PointMm> begunAtTheLowerLeft(List<PointMm> ring) {
        if (!ring.isEmpty()) {
            PointMm first = Collections.min(
                    ring, Comparator.comparingDouble(PointMm::xMm).thenComparingDouble(PointMm::yMm));
            Collections.rotate(ring, -ring.indexOf(first));
        }
        return ring;
    }

    private static Coordinate snapped(List<Coordinate> ends, Coordinate end) {
        for (Coordinate other : ends) {
            if (other.distance(end) < SNAP_MM) {
                return other.copy();
            }
        }
        ends.add(end);
        return end;
    }
}
