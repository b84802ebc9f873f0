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
        int[] from = photo.getRGB(0, 0, photo.getWidth(), photo.getHeight(), null, 0, photo.getWidth());
        int[] row = new int[across];
        SquaredPicture squaredUp =
                new SquaredPicture(picture, side, squared.widthMm(), squared.heightMm(), marginMm, scale);
        for (int y = 0; y < down; y++) {
            for (int x = 0; x < across; x++) {
                PointPx px = laid.px(squaredUp.xMm(x), squaredUp.yMm(y));
                row[x] = at(from, photo.getWidth(), photo.getHeight(), px.xPx(), px.yPx());
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

    private static int at(int[] from, int w, int h, double x, double y) {
        int x0 = (int) Math.floor(x);
        int y0 = (int) Math.floor(y);
        if (x0 < 0 || y0 < 0 || x0 >= w - 1 || y0 >= h - 1) {
            return BESIDE;
        }
        double fx = x - x0;
        double fy = y - y0;
        int i = y0 * w + x0;
        int rgb = 0;
        for (int shift = 16; shift >= 0; shift -= 8) {
            double top = (1 - fx) * (from[i] >> shift & 0xff) + fx * (from[i + 1] >> shift & 0xff);
            double low = (1 - fx) * (from[i + w] >> shift & 0xff) + fx * (from[i + w + 1] >> shift & 0xff);
            rgb |= (int) Math.round((1 - fy) * top + fy * low) << shift;
        }
        return rgb;
    }
}
