package ohmoscope.core.imaging;

/**
 * How far a frame has moved against a reference picture: translation by iterated least squares on the picture's
 * gradient, coarse to fine (Lucas and Kanade, 1981), with a free common level and weights that ignore what has warmed.
 * Reaches about ±12 px. Not for several threads.
 */
final class ShiftEstimator {
    private static final int[] SCALES = {4, 2, 1};
    private static final int COARSE_STEPS = 5;
    private static final int FINE_STEPS = 4;
    /** A shift this near the frame before is believed without going through the coarse pictures. */
    private static final double TRUSTED_PX = 0.8;

    private static final double STILL_PX = 0.5;
    private static final double SETTLED_PX = 0.012;
    private static final int SMALLEST = 12;

    private final int width;
    private final int height;
    private final float[][] references = new float[SCALES.length][];
    private final float[] moved;
    private final float[] rows;
    private double lastX;
    private double lastY;

    ShiftEstimator(float[] reference, int width, int height) {
        this.width = width;
        this.height = height;
        for (int s = 0; s < SCALES.length; s++) {
            references[s] = smaller(reference, SCALES[s]);
        }
        moved = new float[width * height];
        rows = new float[width * height];
    }

    /** @return shift to the right and down, pixels */
    double[] shift(float[] frame) {
        // From nothing while the picture stands still: steps on mere noise must not add up from frame to frame.
        boolean still = Math.hypot(lastX, lastY) < STILL_PX;
        Settled near = settle(
                references[SCALES.length - 1], frame, width, height, still ? 0 : lastX, still ? 0 : lastY, FINE_STEPS);
        boolean trusted = near.lastStepPx < SETTLED_PX && Math.hypot(near.dx - lastX, near.dy - lastY) < TRUSTED_PX;
        double[] shift = trusted ? new double[] {near.dx, near.dy} : coarseToFine(frame);
        lastX = shift[0];
        lastY = shift[1];
        return shift;
    }

    private record Settled(double dx, double dy, double lastStepPx) {}

    private double[] coarseToFine(float[] frame) {
        double dx = 0;
        double dy = 0;
        for (int s = 0; s < SCALES.length; s++) {
            int scale = SCALES[s];
            int w = width / scale;
            int h = height / scale;
            if (w >= SMALLEST && h >= SMALLEST) {
                Settled found =
                        settle(references[s], smaller(frame, scale), w, h, dx / scale, dy / scale, COARSE_STEPS);
                dx = found.dx * scale;
                dy = found.dy * scale;
            }
        }
        return new double[] {dx, dy};
    }

    /** Iterates from a first guess until a step no longer matters. */
    private Settled settle(float[] reference, float[] picture, int w, int h, double fromX, double fromY, int steps) {
        double dx = fromX;
        double dy = fromY;
        double length = Double.POSITIVE_INFINITY;
        for (int i = 0; i < steps && length >= SETTLED_PX; i++) {
            Resampler.shifted(picture, w, h, dx, dy, moved, rows);
            double[] step = step(reference, moved, w, h);
            dx += step[0];
            dy += step[1];
            length = Math.hypot(step[0], step[1]);
        }
        return new Settled(dx, dy, length);
    }

    private static double[] step(float[] reference, float[] moved, int w, int h) {
        double mean = 0;
        double square = 0;
        int n = 0;
        for (int y = 2; y < h - 2; y++) {
            for (int x = 2; x < w - 2; x++) {
                double d = moved[y * w + x] - reference[y * w + x];
                mean += d;
                square += d * d;
                n++;
            }
        }
        mean /= n;
        double spread2 = Math.max(1e-12, square / n - mean * mean);
        double xx = 0;
        double xy = 0;
        double yy = 0;
        double xd = 0;
        double yd = 0;
        for (int y = 2; y < h - 2; y++) {
            for (int x = 2; x < w - 2; x++) {
                int i = y * w + x;
                double gx = (reference[i + 1] - reference[i - 1]) / 2.0;
                double gy = (reference[i + w] - reference[i - w]) / 2.0;
                double d = moved[i] - reference[i] - mean;
                double weight = 1 / (1 + d * d / spread2);
                xx += weight * gx * gx;
                xy += weight * gx * gy;
                yy += weight * gy * gy;
                xd += weight * gx * d;
                yd += weight * gy * d;
            }
        }
        // A featureless picture must not be moved about by its noise.
        double ridge = 1e-3 * (xx + yy) + 4 * spread2;
        xx += ridge;
        yy += ridge;
        double det = xx * yy - xy * xy;
        double dx = -(yy * xd - xy * yd) / det;
        double dy = -(xx * yd - xy * xd) / det;
        double length = Math.hypot(dx, dy);
        double limit = length > 1.5 ? 1.5 / length : 1;
        return new double[] {dx * limit, dy * limit};
    }

    private float[] smaller(float[] picture, int scale) {
        int w = width / scale;
        int h = height / scale;
        float[] out = new float[w * h];
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                float sum = 0;
                for (int j = 0; j < scale; j++) {
                    for (int i = 0; i < scale; i++) {
                        sum += picture[(y * scale + j) * width + x * scale + i];
                    }
                }
                out[y * w + x] = sum / (scale * scale);
            }
        }
        return out;
    }
}
