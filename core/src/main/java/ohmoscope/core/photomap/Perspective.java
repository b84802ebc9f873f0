package ohmoscope.core.photomap;

import java.util.List;

/**
 * The proportions of a rectangle seen in perspective, by a camera with square pixels that looks through the picture's
 * middle. Method: Z. Zhang and L. He, “Whiteboard scanning and image enhancement”, Digital Signal Processing 17 (2007).
 */
final class Perspective {
    /** Where opposite sides differ by less, they do not tell the focal length. */
    private static final double FLAT = 0.02;
    /** Focal lengths of telephones' cameras, in half diagonals: the usual one, and the limits of what is believed. */
    private static final double USUAL = 1.25;

    private static final double SHORTEST = 0.7;
    private static final double LONGEST = 8;

    private Perspective() {}

    /**
     * Width over height.
     *
     * @param corners top left, top right, bottom right, bottom left
     */
    static double aspect(Lens lens, List<PointPx> corners) {
        double u0 = (lens.widthPx() - 1) / 2.0;
        double v0 = (lens.heightPx() - 1) / 2.0;
        double[][] m = new double[4][];
        // In the paper's order: bottom left, bottom right, top left, top right.
        int[] order = {3, 2, 0, 1};
        for (int i = 0; i < 4; i++) {
            PointPx p = lens.straight(
                    corners.get(order[i]).xPx(), corners.get(order[i]).yPx());
            m[i] = new double[] {p.xPx() - u0, p.yPx() - v0, 1};
        }
        double k2 = dot(cross(m[0], m[3]), m[2]) / dot(cross(m[1], m[3]), m[2]);
        double k3 = dot(cross(m[0], m[3]), m[1]) / dot(cross(m[2], m[3]), m[1]);
        double[] n2 = minus(m[1], m[0], k2);
        double[] n3 = minus(m[2], m[0], k3);
        double f2 = focal2(lens, k2, k3, n2, n3);
        double wide = (n2[0] * n2[0] + n2[1] * n2[1]) / f2 + n2[2] * n2[2];
        double high = (n3[0] * n3[0] + n3[1] * n3[1]) / f2 + n3[2] * n3[2];
        return Math.sqrt(wide / high);
    }

    /** Squared focal length, px²; a usual one where the picture is too flat to tell. */
    private static double focal2(Lens lens, double k2, double k3, double[] n2, double[] n3) {
        double half = Math.hypot(lens.widthPx(), lens.heightPx()) / 2;
        double told = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
        boolean flat = Math.abs(k2 - 1) < FLAT || Math.abs(k3 - 1) < FLAT;
        boolean possible = told > Math.pow(SHORTEST * half, 2) && told < Math.pow(LONGEST * half, 2);
        return flat || !possible ? Math.pow(USUAL * half, 2) : told;
    }

    private static double[] minus(double[] a, double[] b, double k) {
        return new double[] {k * a[0] - b[0], k * a[1] - b[1], k * a[2] - b[2]};
    }

    private static double[] cross(double[] a, double[] b) {
        return new double[] {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
    }

    private static double dot(double[] a, double[] b) {
        return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    }
}
