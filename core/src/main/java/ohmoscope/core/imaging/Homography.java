package ohmoscope.core.imaging;

import java.util.List;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PointMm;
import org.ejml.data.SingularMatrixException;
import org.ejml.simple.SimpleMatrix;

/** The plane-to-plane map from board millimetres to pixels: (x, y, 1) through a 3×3 matrix, row-major. */
public final class Homography {
    private final double[] toPx;
    private final double[] toMm;

    /** @param toPx nine numbers, row-major; copied */
    Homography(double[] toPx) {
        this.toPx = toPx.clone();
        SimpleMatrix inverse = new SimpleMatrix(3, 3, true, toPx).invert();
        this.toMm = new double[9];
        for (int i = 0; i < 9; i++) {
            toMm[i] = inverse.get(i / 3, i % 3);
            if (!Double.isFinite(toMm[i])) {
                throw new IllegalArgumentException("the map from board to picture cannot be turned round");
            }
        }
    }

    /**
     * The one map that takes four places to four pixels.
     *
     * @param pairs exactly four, no three of them on one line
     * @throws InvalidMember where there are not four, or three are on one line
     */
    public static Homography through(List<RegistrationPair> pairs) {
        if (pairs.size() != 4) {
            throw new InvalidMember("corners", "must be four, are " + pairs.size());
        }
        SimpleMatrix left = new SimpleMatrix(8, 8);
        SimpleMatrix right = new SimpleMatrix(8, 1);
        for (int i = 0; i < 4; i++) {
            RegistrationPair p = pairs.get(i);
            left.setRow(2 * i, 0, p.xMm(), p.yMm(), 1, 0, 0, 0, -p.xPx() * p.xMm(), -p.xPx() * p.yMm());
            left.setRow(2 * i + 1, 0, 0, 0, 0, p.xMm(), p.yMm(), 1, -p.yPx() * p.xMm(), -p.yPx() * p.yMm());
            right.set(2 * i, p.xPx());
            right.set(2 * i + 1, p.yPx());
        }
        double[] map = new double[9];
        try {
            SimpleMatrix solved = left.solve(right);
            for (int i = 0; i < 8; i++) {
                map[i] = solved.get(i);
            }
            map[8] = 1;
            return new Homography(map);
        } catch (SingularMatrixException | IllegalArgumentException flat) {
            throw new InvalidMember("corners", "lie on one line: drag each to its own corner of the board");
        }
    }

    public double xPx(double xMm, double yMm) {
        return (toPx[0] * xMm + toPx[1] * yMm + toPx[2]) / (toPx[6] * xMm + toPx[7] * yMm + toPx[8]);
    }

    public double yPx(double xMm, double yMm) {
        return (toPx[3] * xMm + toPx[4] * yMm + toPx[5]) / (toPx[6] * xMm + toPx[7] * yMm + toPx[8]);
    }

    public PointMm mm(double xPx, double yPx) {
        return new PointMm(xMm(xPx, yPx), yMm(xPx, yPx));
    }

    public double xMm(double xPx, double yPx) {
        return (toMm[0] * xPx + toMm[1] * yPx + toMm[2]) / (toMm[6] * xPx + toMm[7] * yPx + toMm[8]);
    }

    public double yMm(double xPx, double yPx) {
        return (toMm[3] * xPx + toMm[4] * yPx + toMm[5]) / (toMm[6] * xPx + toMm[7] * yPx + toMm[8]);
    }

    /** Millimetres that one pixel covers near a place in the picture: the root of the pixel's area on the board. */
    public double pitchMm(double xPx, double yPx) {
        double ax = xMm(xPx + 0.5, yPx) - xMm(xPx - 0.5, yPx);
        double ay = yMm(xPx + 0.5, yPx) - yMm(xPx - 0.5, yPx);
        double bx = xMm(xPx, yPx + 0.5) - xMm(xPx, yPx - 0.5);
        double by = yMm(xPx, yPx + 0.5) - yMm(xPx, yPx - 0.5);
        return Math.sqrt(Math.abs(ax * by - ay * bx));
    }

    /** The nine numbers of the map to pixels, row-major; a copy. */
    public double[] matrix() {
        return toPx.clone();
    }
}
