package ohmoscope.core.photomap;

import java.util.List;
import ohmoscope.core.board.Check;

/**
 * A lens that bows straight lines, one radial term: a pixel at distance r from the picture's middle belongs at
 * r·(1 + bow·r²), r in half diagonals (the polynomial model of Brown, 1966, cut after its first term).
 *
 * @param bow 0 for a straight lens, above it for one that bows lines outwards as wide lenses do; −0.3 to 0.3
 */
public record Lens(int widthPx, int heightPx, double bow) {
    private static final double MOST = 0.3;
    private static final int ROUNDS = 12;
    private static final int SEARCH = 60;

    public Lens {
        Check.within("width", widthPx, 8, 20_000);
        Check.within("height", heightPx, 8, 20_000);
        Check.within("bow", bow, -MOST, MOST);
    }

    private double half() {
        return Math.hypot(widthPx, heightPx) / 2;
    }

    private double midX() {
        return (widthPx - 1) / 2.0;
    }

    private double midY() {
        return (heightPx - 1) / 2.0;
    }

    /** Where a pixel would be without the lens. */
    public PointPx straight(double xPx, double yPx) {
        double dx = xPx - midX();
        double dy = yPx - midY();
        double r2 = (dx * dx + dy * dy) / (half() * half());
        return new PointPx(midX() + dx * (1 + bow * r2), midY() + dy * (1 + bow * r2));
    }

    /** The pixel that a straight lens would have put there: fixed-point rounds, exact to a thousandth of a pixel. */
    public PointPx bowed(double xPx, double yPx) {
        double tx = xPx - midX();
        double ty = yPx - midY();
        double dx = tx;
        double dy = ty;
        for (int i = 0; i < ROUNDS; i++) {
            double r2 = (dx * dx + dy * dy) / (half() * half());
            // Far outside the picture the model folds over; nothing is looked up there.
            double by = 1 + bow * Math.min(r2, 1.5);
            dx = tx / by;
            dy = ty / by;
        }
        return new PointPx(midX() + dx, midY() + dy);
    }

    /**
     * The bow under which the board's edges are straight, by golden-section search.
     *
     * @param corners the board's four corners in the picture, once round
     * @param onEdges clicks about the middle of an edge: the first between corners 0 and 1, and so on; 1 to 4
     */
    public static Lens fitted(int widthPx, int heightPx, List<PointPx> corners, List<PointPx> onEdges) {
        double low = -MOST;
        double high = MOST;
        double golden = (Math.sqrt(5) - 1) / 2;
        for (int i = 0; i < SEARCH; i++) {
            double a = high - golden * (high - low);
            double b = low + golden * (high - low);
            if (bent(new Lens(widthPx, heightPx, a), corners, onEdges)
                    < bent(new Lens(widthPx, heightPx, b), corners, onEdges)) {
                high = b;
            } else {
                low = a;
            }
        }
        return new Lens(widthPx, heightPx, (low + high) / 2);
    }

    private static double bent(Lens lens, List<PointPx> corners, List<PointPx> onEdges) {
        double sum = 0;
        for (int i = 0; i < onEdges.size(); i++) {
            PointPx a = lens.straight(corners.get(i));
            PointPx b = lens.straight(corners.get((i + 1) % corners.size()));
            PointPx p = lens.straight(onEdges.get(i));
            double length = Math.hypot(b.xPx() - a.xPx(), b.yPx() - a.yPx());
            double off =
                    ((b.xPx() - a.xPx()) * (p.yPx() - a.yPx()) - (b.yPx() - a.yPx()) * (p.xPx() - a.xPx())) / length;
            sum += off * off;
        }
        return sum;
    }

    private PointPx straight(PointPx p) {
        return straight(p.xPx(), p.yPx());
    }
}
