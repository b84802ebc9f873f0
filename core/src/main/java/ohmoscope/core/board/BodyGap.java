package ohmoscope.core.board;

import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Polygon;

/** How far two bodies stand from each other, seen from above. */
public final class BodyGap {
    private static final GeometryFactory SHAPES = new GeometryFactory();

    private BodyGap() {}

    /**
     * Millimetres between the outlines of two bodies as they are turned; 0 where they overlap. The sides are no part of it:
     * two parts on opposite sides may overlap.
     */
    public static double mm(Part a, Part b) {
        return outline(a).distance(outline(b));
    }

    /** Millimetres from a place to the outline of a body as it is turned; 0 on it. */
    public static double mm(Part part, double xMm, double yMm) {
        return outline(part).distance(SHAPES.createPoint(new Coordinate(xMm, yMm)));
    }

    private static Polygon outline(Part part) {
        var corners = part.corners();
        Coordinate[] round = new Coordinate[corners.size() + 1];
        for (int i = 0; i < round.length; i++) {
            PointMm p = corners.get(i % corners.size());
            round[i] = new Coordinate(p.xMm(), p.yMm());
        }
        return SHAPES.createPolygon(round);
    }
}
