package ohmoscope.core.locate.capture;

import java.util.Optional;
import ohmoscope.core.imaging.Projection;

/**
 * Pictures of what stands still while the board warms. A camera that moves by a little adds some of the scene's slope to
 * every frame; one that turns or creeps nearer, slope times place; a room whose mirror image changes, the scene's own
 * contrast (emissivity draws both). Data and predictions are compared with all of these taken out.
 */
public final class StillPictures {
    private static final int SMOOTH_PX = 4;
    private static final int POLYNOMIALS = 7;
    private static final int ALWAYS = 16;

    /** Camera and room change by so much across the picture, but for what the scene draws: kelvin, root mean square over the frames. */
    private static final double ACROSS_K = 0.0125;

    private StillPictures() {}

    /**
     * @param baseline at the camera's own resolution, kelvin
     * @return pictures at the movie's resolution: slope right, slope down, turn, zoom, contrast, its
     *     smooth part and where that relaxes, mixed polynomials up to the third order, the lead's line
     */
    public static float[][] of(float[] baseline, int cameraWidth, Projection movie, Optional<WireFinder.Wire> wire) {
        int w = movie.width();
        int h = movie.height();
        int bin = movie.binPx();
        float[] scene = new float[w * h];
        double mean = 0;
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                float sum = 0;
                for (int j = 0; j < bin; j++) {
                    for (int i = 0; i < bin; i++) {
                        sum += baseline[(y * bin + j) * cameraWidth + x * bin + i];
                    }
                }
                scene[y * w + x] = sum / (bin * bin);
                mean += scene[y * w + x];
            }
        }
        mean /= w * h;
        float[] smooth = smoothed(smoothed(scene, w, h, SMOOTH_PX), w, h, SMOOTH_PX);
        float[] smoother = smoothed(smoothed(smooth, w, h, SMOOTH_PX), w, h, SMOOTH_PX);
        float[][] pictures = new float[wire.isPresent() ? ALWAYS + 1 : ALWAYS][w * h];
        for (int y = 1; y < h - 1; y++) {
            for (int x = 1; x < w - 1; x++) {
                int p = y * w + x;
                float right = (scene[p + 1] - scene[p - 1]) / 2;
                float down = (scene[p + w] - scene[p - w]) / 2;
                float fromMiddleX = (x - w / 2f) / w;
                float fromMiddleY = (y - h / 2f) / w;
                pictures[0][p] = right;
                pictures[1][p] = down;
                pictures[2][p] = fromMiddleX * down - fromMiddleY * right;
                pictures[3][p] = fromMiddleX * right + fromMiddleY * down;
                pictures[4][p] = (float) (scene[p] - mean);
                pictures[5][p] = (float) (smooth[p] - mean);
                pictures[6][p] = smooth[p] - smoother[p];
                float px = 2 * fromMiddleX;
                float py = 2 * fromMiddleY * w / h;
                float px2 = px * px - 1 / 3f;
                float py2 = py * py - 1 / 3f;
                pictures[7][p] = px * py;
                pictures[8][p] = px2 * py;
                pictures[9][p] = px * py2;
                pictures[10][p] = px2 * py2;
                float px3 = px * px * px - 0.6f * px;
                float py3 = py * py * py - 0.6f * py;
                pictures[11][p] = px3 * py;
                pictures[12][p] = px * py3;
                pictures[13][p] = px3 * py2;
                pictures[14][p] = px2 * py3;
                pictures[15][p] = px3 * py3;
                if (wire.isPresent()) {
                    pictures[ALWAYS][p] = wire.get().share(x, y);
                }
            }
        }
        return pictures;
    }

    /**
     * How strong each picture may be in a component of a movie, one deviation: without limit but for the polynomials. Left
     * to themselves these take out most of the broad heat that comes through the board.
     *
     * @param pictures how many there are
     */
    public static double[] sigma(int pictures, int frames) {
        double[] sigma = new double[pictures];
        for (int m = 0; m < pictures; m++) {
            boolean polynomial = m >= POLYNOMIALS && m < ALWAYS;
            sigma[m] = polynomial ? ACROSS_K * Math.sqrt(frames) : Double.POSITIVE_INFINITY;
        }
        return sigma;
    }

    /** Means over squares, by running sums along rows and then columns; edges use what there is. */
    private static float[] smoothed(float[] in, int w, int h, int reach) {
        float[] rows = new float[in.length];
        for (int y = 0; y < h; y++) {
            meanAlong(in, rows, y * w, 1, w, reach);
        }
        float[] out = new float[in.length];
        for (int x = 0; x < w; x++) {
            meanAlong(rows, out, x, w, h, reach);
        }
        return out;
    }

    private static void meanAlong(float[] in, float[] out, int from, int step, int count, int reach) {
        double sum = 0;
        int n = 0;
        for (int i = 0; i < Math.min(reach, count); i++) {
            sum += in[from + i * step];
            n++;
        }
        for (int i = 0; i < count; i++) {
            if (i + reach < count) {
                sum += in[from + (i + reach) * step];
                n++;
            }
            if (i - reach - 1 >= 0) {
                sum -= in[from + (i - reach - 1) * step];
                n--;
            }
            out[from + i * step] = (float) (sum / n);
        }
    }
}
