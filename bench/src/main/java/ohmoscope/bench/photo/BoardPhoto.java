package ohmoscope.bench.photo;

import java.awt.image.BufferedImage;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.Blur;
import ohmoscope.core.photomap.Lens;
import ohmoscope.core.photomap.PointPx;
import ohmoscope.formats.photo.Packed;

/**
 * A photograph of a board that does not exist: the board is drawn flat ({@link BoardPaint}), then seen by a pinhole camera
 * with a bowing lens, in uneven light.
 *
 * @param corners the board's corners in the picture, in the order of {@link ohmoscope.core.photomap.Squared}
 */
public record BoardPhoto(BufferedImage picture, List<PointPx> corners) {
    private static final double FOCAL = 1.3;
    /** How much of the picture the board takes. */
    private static final double FILLS = 0.8;

    private static final double FLAT_PX_PER_MM = 24;

    /** Time and memory: of the order of the picture's pixels. */
    public static BoardPhoto of(Board board, Side side, Shot shot) {
        Outline outline = board.outline();
        double w = outline.maxXMm() - outline.minXMm();
        double h = outline.maxYMm() - outline.minYMm();
        BoardPaint paint = new BoardPaint(board, side, shot, Math.min(FLAT_PX_PER_MM, 3000 / Math.max(w, h)));
        BufferedImage flat = paint.picture();
        View view = new View(shot, w, h);
        BufferedImage photo = new BufferedImage(shot.widthPx(), shot.heightPx(), BufferedImage.TYPE_INT_RGB);
        float[][] channels = view.look(flat, paint, side == Side.BOTTOM);
        for (int c = 0; c < 3; c++) {
            channels[c] = blurred(channels[c], shot.widthPx(), shot.heightPx(), shot.blurPx());
        }
        Random random = new Random(shot.seed() * 31 + 7);
        for (int i = 0; i < channels[0].length; i++) {
            int rgb = 0;
            for (int c = 0; c < 3; c++) {
                double value =
                        255 * Math.pow(Math.max(0, channels[c][i]), 1 / 2.2) + shot.noise() * random.nextGaussian();
                rgb = rgb << 8 | (int) Math.max(0, Math.min(255, Math.round(value)));
            }
            photo.setRGB(i % shot.widthPx(), i / shot.widthPx(), rgb);
        }
        double[][] mm = {{0, h}, {w, h}, {w, 0}, {0, 0}};
        List<PointPx> corners = new ArrayList<>();
        for (double[] corner : mm) {
            corners.add(view.px(side == Side.BOTTOM ? w - corner[0] : corner[0], corner[1]));
        }
        return new BoardPhoto(photo, corners);
    }

    private static float[] blurred(float[] from, int w, int h, double sigma) {
        return sigma < 0.2 ? from : Blur.gaussian(from, w, h, sigma);
    }

    /** A pinhole over the board's middle. */
    private static final class View {
        private final Shot shot;
        private final double w;
        private final double h;
        private final Lens lens;
        private final double focalPx;
        private final double distanceMm;
        private final double[][] turn;

        View(Shot shot, double w, double h) {
            this.shot = shot;
            this.w = w;
            this.h = h;
            lens = new Lens(shot.widthPx(), shot.heightPx(), shot.bow());
            focalPx = FOCAL * Math.hypot(shot.widthPx(), shot.heightPx()) / 2;
            distanceMm = focalPx * Math.max(w / shot.widthPx(), h / shot.heightPx()) / FILLS;
            turn = turned(shot.tiltDeg(), shot.pitchDeg(), shot.turnDeg());
        }

        private static double[][] turned(double tilt, double pitch, double turn) {
            double a = Math.toRadians(turn);
            double b = Math.toRadians(tilt);
            double c = Math.toRadians(pitch);
            double[][] z = {{Math.cos(a), -Math.sin(a), 0}, {Math.sin(a), Math.cos(a), 0}, {0, 0, 1}};
            double[][] y = {{Math.cos(b), 0, Math.sin(b)}, {0, 1, 0}, {-Math.sin(b), 0, Math.cos(b)}};
            double[][] x = {{1, 0, 0}, {0, Math.cos(c), -Math.sin(c)}, {0, Math.sin(c), Math.cos(c)}};
            return times(x, times(y, z));
        }

        private static double[][] times(double[][] a, double[][] b) {
            double[][] c = new double[3][3];
            for (int i = 0; i < 3; i++) {
                for (int j = 0; j < 3; j++) {
                    for (int k = 0; k < 3; k++) {
                        c[i][j] += a[i][k] * b[k][j];
                    }
                }
            }
            return c;
        }

        /** Where a place of the flat picture, millimetres from its lower left, is seen. */
        PointPx px(double x, double y) {
            double dx = x - w / 2;
            double dy = y - h / 2;
            double cx = turn[0][0] * dx + turn[0][1] * dy;
            double cy = turn[1][0] * dx + turn[1][1] * dy;
            double depth = distanceMm - (turn[2][0] * dx + turn[2][1] * dy);
            return lens.bowed(
                    (shot.widthPx() - 1) / 2.0 + focalPx * cx / depth,
                    (shot.heightPx() - 1) / 2.0 - focalPx * cy / depth);
        }

        /** The ray of a pixel, met with the board's plane: millimetres from the flat picture's lower left. */
        private double[] mm(int xPx, int yPx) {
            PointPx straight = lens.straight(xPx, yPx);
            double u = (straight.xPx() - (shot.widthPx() - 1) / 2.0) / focalPx;
            double v = -(straight.yPx() - (shot.heightPx() - 1) / 2.0) / focalPx;
            // cx = u·depth, cy = v·depth: two equations in the plane's own x and y.
            double a = turn[0][0] + u * turn[2][0];
            double b = turn[0][1] + u * turn[2][1];
            double c = turn[1][0] + v * turn[2][0];
            double d = turn[1][1] + v * turn[2][1];
            double det = a * d - b * c;
            double x = (u * distanceMm * d - b * v * distanceMm) / det;
            double y = (a * v * distanceMm - c * u * distanceMm) / det;
            return new double[] {x + w / 2, y + h / 2};
        }

        /** Linear light of the three channels. */
        float[][] look(BufferedImage flat, BoardPaint paint, boolean mirrored) {
            int wide = shot.widthPx();
            int high = shot.heightPx();
            float[][] seen = new float[3][wide * high];
            Packed drawn = Packed.of(flat);
            double[] tint = {1 + 0.18 * shot.warmth(), 1, 1 - 0.28 * shot.warmth()};
            Random mat = new Random(shot.seed());
            double lampX = wide * (0.2 + 0.6 * mat.nextDouble());
            double lampY = high * (0.2 + 0.6 * mat.nextDouble());
            double way = mat.nextDouble() * 2 * Math.PI;
            for (int y = 0; y < high; y++) {
                for (int x = 0; x < wide; x++) {
                    double[] mm = mm(x, y);
                    double across = (x - wide / 2.0) / wide * Math.cos(way) + (y - high / 2.0) / wide * Math.sin(way);
                    double light = shot.light() * (1 + shot.slant() * 2 * across);
                    double lamp = shot.glare()
                            * Math.exp(-(Math.pow(x - lampX, 2) + Math.pow(y - lampY, 2)) / (0.02 * wide * wide));
                    double fx = (mm[0] + BoardPaint.MARGIN_MM) * paint.pxPerMm();
                    double fy = (h + BoardPaint.MARGIN_MM - mm[1]) * paint.pxPerMm();
                    int rgb = drawn.at(fx - 0.5, fy - 0.5, BoardPaint.MAT);
                    for (int c = 0; c < 3; c++) {
                        double value = Math.pow((rgb >> (16 - 8 * c) & 0xff) / 255.0, 2.2);
                        seen[c][y * wide + x] = (float) ((value * light + 0.25 * lamp) * tint[c]);
                    }
                }
            }
            return seen;
        }
    }
}
