package ohmoscope.formats.photo;

import java.awt.image.BufferedImage;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.PointPx;
import ohmoscope.core.photomap.Squared;

/**
 * A photograph drawn anew so that a millimetre of the board is as many pixels everywhere: the top as seen, the bottom turned
 * over left to right as a hand would.
 *
 * @param marginMm how far it reaches beyond the board's edge
 */
public record SquaredPicture(
        BufferedImage picture, Side side, double widthMm, double heightMm, double marginMm, double pxPerMm) {
    private static final int MOST_PX = 2400;
    private static final double MOST_PX_PER_MM = 24;
    /** Where the photograph ends: a paper's grey. */
    private static final int BESIDE = 0x8f9294;

    /** Bilinear, as sharp as the photograph itself, 2,400 pixels across at most. */
    public static SquaredPicture of(BufferedImage photo, Squared squared, Side side, double marginMm) {
        Squared.Laid laid = squared.laid();
        double w = squared.widthMm() + 2 * marginMm;
        double h = squared.heightMm() + 2 * marginMm;
        double scale = Math.min(Math.min(MOST_PX_PER_MM, Math.max(4, laid.pxPerMm())), MOST_PX / Math.max(w, h));
        int across = Math.max(8, (int) Math.round(w * scale));
        int down = Math.max(8, (int) Math.round(h * scale));
        BufferedImage picture = new BufferedImage(across, down, BufferedImage.TYPE_INT_RGB);
        Packed from = Packed.of(photo);
        int[] row = new int[across];
        SquaredPicture squaredUp =
                new SquaredPicture(picture, side, squared.widthMm(), squared.heightMm(), marginMm, scale);
        for (int y = 0; y < down; y++) {
            for (int x = 0; x < across; x++) {
                PointPx px = laid.px(squaredUp.xMm(x), squaredUp.yMm(y));
                row[x] = from.at(px.xPx(), px.yPx(), BESIDE);
            }
            picture.setRGB(0, y, across, 1, row, 0, across);
        }
        return squaredUp;
    }

    public double xMm(double xPx) {
        double fromLeft = (xPx + 0.5) / pxPerMm - marginMm;
        return side == Side.BOTTOM ? widthMm - fromLeft : fromLeft;
    }

    public double yMm(double yPx) {
        return heightMm + marginMm - (yPx + 0.5) / pxPerMm;
    }

    public double xPx(double xMm) {
        return ((side == Side.BOTTOM ? widthMm - xMm : xMm) + marginMm) * pxPerMm - 0.5;
    }

    public double yPx(double yMm) {
        return (heightMm + marginMm - yMm) * pxPerMm - 0.5;
    }
}
