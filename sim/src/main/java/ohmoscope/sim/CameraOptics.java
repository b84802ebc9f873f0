package ohmoscope.sim;

import java.util.Arrays;

/** Blur of a lens and a motion of the whole picture in one: a sampled Gaussian whose centre is moved. */
final class CameraOptics {
    private static final int REACH = 4;

    private CameraOptics() {}

    /** @param dx shift of the picture to the right, pixels; edges repeat */
    static float[] blurredAndMoved(float[] scene, int w, int h, double sigmaPx, double dx, double dy) {
        float[] rows = new float[scene.length];
        float[] out = new float[scene.length];
        int wholeX = (int) Math.round(dx);
        int wholeY = (int) Math.round(dy);
        double[] kx = kernel(sigmaPx, dx - wholeX);
        double[] ky = kernel(sigmaPx, dy - wholeY);
        // By tap, not by pixel: the sums are the same, and several are made at once.
        double[] sums = new double[w];
        for (int y = 0; y < h; y++) {
            Arrays.fill(sums, 0);
            for (int i = -REACH; i <= REACH; i++) {
                along(scene, y * w, w, i - wholeX, kx[i + REACH], sums);
            }
            keep(sums, rows, y * w);
        }
        for (int y = 0; y < h; y++) {
            Arrays.fill(sums, 0);
            for (int i = -REACH; i <= REACH; i++) {
                along(rows, clamp(y + i - wholeY, h) * w, w, 0, ky[i + REACH], sums);
            }
            keep(sums, out, y * w);
        }
        return out;
    }

    /** Adds a row, moved by so many pixels, edges repeated. */
    private static void along(float[] from, int row, int w, int by, double weight, double[] sums) {
        int first = clamp(-by, w + 1);
        int last = clamp(w - by, w + 1);
        for (int x = 0; x < Math.min(first, w); x++) {
            sums[x] += weight * from[row];
        }
        for (int x = first; x < last; x++) {
            sums[x] += weight * from[row + x + by];
        }
        for (int x = Math.max(last, 0); x < w; x++) {
            sums[x] += weight * from[row + w - 1];
        }
    }

    private static void keep(double[] sums, float[] to, int row) {
        for (int x = 0; x < sums.length; x++) {
            to[row + x] = (float) sums[x];
        }
    }

    /**
     * The same for a camera that is also turned, exactly.
     *
     * @param turn of the picture about its middle, radians, clockwise on the screen
     */
    static float[] blurredAndTurned(float[] scene, int w, int h, double sigmaPx, double dx, double dy, double turn) {
        float[] out = new float[scene.length];
        double cx = (w - 1) / 2.0;
        double cy = (h - 1) / 2.0;
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                double atX = cx + (x - dx - cx) * Math.cos(turn) + (y - dy - cy) * Math.sin(turn);
                double atY = cy - (x - dx - cx) * Math.sin(turn) + (y - dy - cy) * Math.cos(turn);
                int wholeX = (int) Math.round(atX);
                int wholeY = (int) Math.round(atY);
                double[] kx = kernel(sigmaPx, wholeX - atX);
                double[] ky = kernel(sigmaPx, wholeY - atY);
                double sum = 0;
                for (int j = -REACH; j <= REACH; j++) {
                    double along = 0;
                    for (int i = -REACH; i <= REACH; i++) {
                        along += kx[i + REACH] * scene[clamp(wholeY + j, h) * w + clamp(wholeX + i, w)];
                    }
                    sum += ky[j + REACH] * along;
                }
                out[y * w + x] = (float) sum;
            }
        }
        return out;
    }

    private static int clamp(int value, int size) {
        return Math.max(0, Math.min(size - 1, value));
    }

    private static double[] kernel(double sigma, double shift) {
        double[] k = new double[2 * REACH + 1];
        double sum = 0;
        for (int i = -REACH; i <= REACH; i++) {
            k[i + REACH] = Math.exp(-Math.pow(i + shift, 2) / (2 * sigma * sigma));
            sum += k[i + REACH];
        }
        for (int i = 0; i < k.length; i++) {
            k[i] /= sum;
        }
        return k;
    }
}
