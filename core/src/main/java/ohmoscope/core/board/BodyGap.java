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
