package ohmoscope.core.photomap;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.RegistrationPair;

/**
 * How a photograph lies over a board whose corners are (0, 0) and (width, height).
 *
 * @param corners the board's corners in the photograph: top left, top right, bottom right, bottom left as its top side is
 *     seen; on a photograph of the bottom they are the same corners of the board, so that they run the other way round
 * @param nudge what aligning two holes added
 */
public record Squared(Lens lens, List<PointPx> corners, double widthMm, double heightMm, Nudge nudge) {
    private static final double LARGEST_MM = 500;

    public Squared {
        corners = List.copyOf(corners);
        if (corners.size() != 4) {
            throw new InvalidMember("corners", "must be four, are " + corners.size());
        }
        Check.within("width_mm", widthMm, 1, LARGEST_MM);
        Check.within("height_mm", heightMm, 1, LARGEST_MM);
    }

    /** A turn about the board's middle and a shift, board millimetres. */
    public record Nudge(double xMm, double yMm, double turnDeg) {
        public static final Nudge NONE = new Nudge(0, 0, 0);

        public Nudge {
            Check.coordinateMm("x_mm", xMm);
            Check.coordinateMm("y_mm", yMm);
            Check.within("turn_deg", turnDeg, -180, 180);
        }
    }

    public Squared nudged(Nudge other) {
        return new Squared(lens, corners, widthMm, heightMm, other);
    }

    /**
     * A board whose size follows from a length on it, such as a ruler's or a known connector's. Its proportions follow from
     * the perspective.
     *
     * @param lengthMm between the two ends
     */
    public static Squared byLength(Lens lens, List<PointPx> corners, PointPx from, PointPx to, double lengthMm) {
        Check.within("length_mm", lengthMm, 0.5, LARGEST_MM);
        double aspect = Perspective.aspect(lens, corners);
        Laid unit = new Squared(lens, corners, 100, 100 / aspect, Nudge.NONE).laid();
        PointMm a = unit.mm(from.xPx(), from.yPx());
        PointMm b = unit.mm(to.xPx(), to.yPx());
        double by = lengthMm / Math.max(1e-6, a.distanceMm(b.xMm(), b.yMm()));
        return new Squared(lens, corners, 100 * by, 100 * by / aspect, Nudge.NONE);
    }

    /** The map itself, worked out once. */
    public Laid laid() {
        double[][] mm = {{0, heightMm}, {widthMm, heightMm}, {widthMm, 0}, {0, 0}};
        List<RegistrationPair> pairs = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            PointPx straight =
                    lens.straight(corners.get(i).xPx(), corners.get(i).yPx());
            pairs.add(new RegistrationPair(straight.xPx(), straight.yPx(), mm[i][0], mm[i][1]));
        }
        return new Laid(Homography.through(pairs));
    }

    /** From pixels to the board and back; cheap to ask. */
    public final class Laid {
        private final Homography map;
        private final double cos = Math.cos(Math.toRadians(nudge.turnDeg()));
        private final double sin = Math.sin(Math.toRadians(nudge.turnDeg()));

        private Laid(Homography map) {
            this.map = map;
        }

        public PointMm mm(double xPx, double yPx) {
            PointPx straight = lens.straight(xPx, yPx);
            double dx = map.xMm(straight.xPx(), straight.yPx()) - widthMm / 2;
            double dy = map.yMm(straight.xPx(), straight.yPx()) - heightMm / 2;
            return new PointMm(
                    widthMm / 2 + cos * dx - sin * dy + nudge.xMm(), heightMm / 2 + sin * dx + cos * dy + nudge.yMm());
        }

        public PointPx px(double xMm, double yMm) {
            double dx = xMm - nudge.xMm() - widthMm / 2;
            double dy = yMm - nudge.yMm() - heightMm / 2;
            double x = widthMm / 2 + cos * dx + sin * dy;
            double y = heightMm / 2 - sin * dx + cos * dy;
            return lens.bowed(map.xPx(x, y), map.yPx(x, y));
        }

        /** Pixels that a millimetre covers about the board's middle. */
        public double pxPerMm() {
            PointPx a = px(widthMm / 2 - 0.5, heightMm / 2);
            PointPx b = px(widthMm / 2 + 0.5, heightMm / 2);
            return Math.hypot(b.xPx() - a.xPx(), b.yPx() - a.yPx());
        }
    }

    /**
     * The turn and shift that bring two holes of this side over the same two of the other.
     *
     * @param here the holes as this side's map has them now
     * @param there the same holes on the other side's
     */
    public Squared aligned(List<PointMm> here, List<PointMm> there) {
        PointMm a = here.get(0);
        PointMm b = here.get(1);
        PointMm c = there.get(0);
        PointMm d = there.get(1);
        if (a.distanceMm(b.xMm(), b.yMm()) < 1 || c.distanceMm(d.xMm(), d.yMm()) < 1) {
            throw new InvalidMember("holes", "are less than a millimetre apart: take two that are far from each other");
        }
        double turn =
                Math.atan2(d.yMm() - c.yMm(), d.xMm() - c.xMm()) - Math.atan2(b.yMm() - a.yMm(), b.xMm() - a.xMm());
        turn = Math.atan2(Math.sin(turn), Math.cos(turn));
        double midX = widthMm / 2;
        double midY = heightMm / 2;
        double x = (a.xMm() + b.xMm()) / 2 - nudge.xMm() - midX;
        double y = (a.yMm() + b.yMm()) / 2 - nudge.yMm() - midY;
        // The earlier nudge's shift comes after its turn: take it off, turn, and shift the holes' middle home.
        double shiftX = (c.xMm() + d.xMm()) / 2 - midX - (Math.cos(turn) * x - Math.sin(turn) * y);
        double shiftY = (c.yMm() + d.yMm()) / 2 - midY - (Math.sin(turn) * x + Math.cos(turn) * y);
        double all = nudge.turnDeg() + Math.toDegrees(turn);
        return nudged(new Nudge(shiftX, shiftY, all > 180 ? all - 360 : all < -180 ? all + 360 : all));
    }
}
