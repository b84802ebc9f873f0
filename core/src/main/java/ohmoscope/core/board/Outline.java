package ohmoscope.core.board;

import java.util.List;
import org.locationtech.jts.algorithm.locate.IndexedPointInAreaLocator;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.Location;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.operation.valid.IsValidOp;
import org.locationtech.jts.operation.valid.TopologyValidationError;

/** The board's edge: a closed ring of at least three corners that does not cross itself. */
public record Outline(List<PointMm> corners) {
    public Outline {
        corners = List.copyOf(corners);
        if (corners.size() < 3) {
            throw new InvalidMember("outline_mm", "needs at least three corners, has " + corners.size());
        }
        Polygon polygon = polygon(corners);
        TopologyValidationError fault = new IsValidOp(polygon).getValidationError();
        if (fault != null) {
            Coordinate at = fault.getCoordinate();
            throw new InvalidMember(
                    "outline_mm",
                    "crosses or touches itself near x " + at.x + " mm, y " + at.y
                            + " mm: list the corners once round the board");
        }
        if (!(polygon.getArea() > 0)) {
            throw new InvalidMember("outline_mm", "encloses no area");
        }
    }

    /** A tester of many points, for several threads. */
    public Inside inside() {
        IndexedPointInAreaLocator locator = new IndexedPointInAreaLocator(polygon(corners));
        return (xMm, yMm) -> locator.locate(new Coordinate(xMm, yMm)) != Location.EXTERIOR;
    }

    /** Tells whether a place is on the board. */
    @FunctionalInterface
    public interface Inside {
        boolean test(double xMm, double yMm);
    }

    public double minXMm() {
        return corners.stream().mapToDouble(PointMm::xMm).min().orElseThrow();
    }

    public double maxXMm() {
        return corners.stream().mapToDouble(PointMm::xMm).max().orElseThrow();
    }

    public double minYMm() {
        return corners.stream().mapToDouble(PointMm::yMm).min().orElseThrow();
    }

    public double maxYMm() {
        return corners.stream().mapToDouble(PointMm::yMm).max().orElseThrow();
    }

    private static Polygon polygon(List<PointMm> corners) {
        Coordinate[] ring = new Coordinate[corners.size() + 1];
        for (int i = 0; i < corners.size(); i++) {
            ring[i] = new Coordinate(corners.get(i).xMm(), corners.get(i).yMm());
        }
        ring[corners.size()] = ring[0].copy();
        return new GeometryFactory().createPolygon(ring);
    }
}
