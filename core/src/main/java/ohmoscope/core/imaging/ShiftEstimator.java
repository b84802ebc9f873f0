package ohmoscope.core.imaging;

import java.util.function.Supplier;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Median;

/**
 * How far a frame has moved against a reference picture: translation by iterated least squares on the picture's
 * gradient, coarse to fine (Lucas and Kanade, 1981), with a free common level and weights that ignore what has warmed.
 * Reaches about ±12 px. {@link #shift} is not for several
 * threads.
 */
final class ShiftEstimator {
    private static final int[] SCALES = {4, 2, 1};
    private static final int COARSE_STEPS = 5;
    private static final int FINE_STEPS = 4;
    /** A shift this near the frame before is believed without going through the coarse pictures. */
    private static final double TRUSTED_PX = 0.8;

    private static final double STILL_PX = 0.5;
    /** By this share a jump must lessen what is left; less is chance. */
    private static final double CLEARLY_BETTER = 0.05;

    private static final double SETTLED_PX = 0.012;
    private static final int SMALLEST = 12;
    /** Of the finest picture only this many pixels are compared: those where it is steepest. They tell nearly all. */
    private static final int STEEPEST = 6000;
    /** Pixels along the edge that are not compared. */
    private static final int MARGIN = 2;

    private final int width;
    private final int height;
    private final Level[] levels = new Level[SCALES.length];
    private double lastX;
    private double lastY;

    ShiftEstimator(float[] reference, int width, int height) {
        this.width = width;
        this.height = height;
        for (int s = 0; s < SCALES.length; s++) {
            levels[s] = Level.of(smaller(reference, SCALES[s]), width / SCALES[s], height / SCALES[s]);
        }
    }

    /** The reference at one scale: where it is compared, its value and its slopes there. */
    private record Level(int w, int h, int[] at, float[] value, float[] right, float[] down) {
        static Level of(float[] picture, int w, int h) {
            int most = Math.max(0, w - 2 * MARGIN) * Math.max(0, h - 2 * MARGIN);
            int[] inner = new int[most];
            float[] steep = new float[most];
            int n = 0;
            for (int y = MARGIN; y < h - MARGIN; y++) {
                for (int x = MARGIN; x < w - MARGIN; x++) {
                    int i = y * w + x;
                    float right = (picture[i + 1] - picture[i - 1]) / 2;
                    float down = (picture[i + w] - picture[i - w]) / 2;
                    inner[n] = i;
                    steep[n++] = right * right + down * down;
                }
            }
            float least = n > STEEPEST ? Median.ranked(steep.clone(), n, n - STEEPEST) : 0;
            int[] at = IntStream.range(0, n)
                    .filter(i -> steep[i] >= least)
                    .map(i -> inner[i])
                    .toArray();
            Level level = new Level(w, h, at, new float[at.length], new float[at.length], new float[at.length]);
            for (int k = 0; k < at.length; k++) {
                int i = at[k];
                level.value[k] = picture[i];
                level.right[k] = (picture[i + 1] - picture[i - 1]) / 2;
                level.down[k] = (picture[i + w] - picture[i - w]) / 2;
            }
            return level;
        }

        double slope2(int i) {
            return right[i] * right[i] + down[i] * down[i];
        }
    }

    /** Whether the picture stood still in the frame before. */
    boolean still() {
        return Math.hypot(lastX, lastY) < STILL_PX;
    }

    /** Where the fine picture leads from no shift at all; may be asked by several threads, for frames to come. */
    Settled fromStill(float[] frame) {
        return settle(levels[SCALES.length - 1], frame, 0, 0, FINE_STEPS);
    }

    /** @return shift to the right and down, pixels */
    double[] shift(float[] frame) {
        return shift(frame, () -> fromStill(frame));
    }

    /** @param fromStill what {@link #fromStill} gives for this frame; asked for while the picture stands still */
    double[] shift(float[] frame, Supplier<Settled> fromStill) {
        // From nothing while the picture stands still: steps on mere noise must not add up from frame to frame.
        Settled near = still() ? fromStill.get() : settle(levels[SCALES.length - 1], frame, lastX, lastY, FINE_STEPS);
        boolean trusted = near.lastStepPx < SETTLED_PX && Math.hypot(near.dx - lastX, near.dy - lastY) < TRUSTED_PX;
        double[] shift = trusted ? new double[] {near.dx, near.dy} : believable(frame, coarseToFine(frame));
        lastX = shift[0];
        lastY = shift[1];
        return shift;
    }

    /** A shift, and how far the last step towards it went. */
    record Settled(double dx, double dy, double lastStepPx) {}

    /** A jump that explains the frame no better than staying there is one between noise and noise. */
    private double[] believable(float[] frame, double[] jump) {
        double wholeX = Math.rint(jump[0]);
        double wholeY = Math.rint(jump[1]);
        if (wholeX == 0 && wholeY == 0) {
            return jump;
        }
        // Between pixels a frame is smoother than on them: compared with a place as far between.
        double beside = residual(frame, jump[0] - wholeX, jump[1] - wholeY);
        boolean better = residual(frame, jump[0], jump[1]) < (1 - CLEARLY_BETTER) * beside;
        return better ? jump : still() ? new double[2] : new double[] {lastX, lastY};
    }

    /**
     * How far the moved frame is off the reference where that is steep, whatever the level: 0 to 1, what is very far off
     * (what has warmed) counting as one.
     */
    private double residual(float[] frame, double dx, double dy) {
        Level level = levels[SCALES.length - 1];
        float[] off = new float[level.at.length];
        Resampler.shiftedAt(frame, level.w, level.h, dx, dy, level.at, MARGIN, off);
        for (int i = 0; i < off.length; i++) {
            off[i] -= level.value[i];
        }
        float middle = Median.of(off.clone(), off.length);
        double steepness = 0;
        for (int i = 0; i < off.length; i++) {
            steepness += level.slope2(i);
        }
        // From a pixel to the next but one, squared, on the whole.
        double contrast2 = 4 * steepness / off.length;
        double sum = 0;
        for (int i = 0; i < off.length; i++) {
            double d2 = Math.pow(off[i] - middle, 2);
            sum += level.slope2(i) * d2 / (d2 + contrast2);
        }
        return sum / steepness;
    }

    private double[] coarseToFine(float[] frame) {
        double dx = 0;
        double dy = 0;
        for (int s = 0; s < SCALES.length; s++) {
            int scale = SCALES[s];
            if (levels[s].w >= SMALLEST && levels[s].h >= SMALLEST) {
                Settled found = settle(levels[s], smaller(frame, scale), dx / scale, dy / scale, COARSE_STEPS);
                dx = found.dx * scale;
                dy = found.dy * scale;
            }
        }
        return new double[] {dx, dy};
    }

    /** Iterates from a first guess until a step no longer matters. */
    private static Settled settle(Level level, float[] picture, double fromX, double fromY, int steps) {
        double dx = fromX;
        double dy = fromY;
        double length = Double.POSITIVE_INFINITY;
        float[] moved = new float[level.at.length];
        for (int i = 0; i < steps && length >= SETTLED_PX; i++) {
            Resampler.shiftedAt(picture, level.w, level.h, dx, dy, level.at, MARGIN, moved);
            double[] step = step(level, moved);
            dx += step[0];
            dy += step[1];
            length = Math.hypot(step[0], step[1]);
        }
        return new Settled(dx, dy, length);
    }

    private static double[] step(Level level, float[] moved) {
        int n = moved.length;
        double mean = 0;
        double square = 0;
        for (int i = 0; i < n; i++) {
            double d = moved[i] - level.value[i];
            mean += d;
            square += d * d;
        }
        mean /= Math.max(1, n);
        double spread2 = Math.max(1e-12, square / Math.max(1, n) - mean * mean);
        double xx = 0;
        double xy = 0;
        double yy = 0;
        double xd = 0;
        double yd = 0;
        for (int i = 0; i < n; i++) {
            double gx = level.right[i];
            double gy = level.down[i];
            double d = moved[i] - level.value[i] - mean;
            double weight = 1 / (1 + d * d / spread2);
            xx += weight * gx * gx;
            xy += weight * gx * gy;
            yy += weight * gy * gy;
            xd += weight * gx * d;
            yd += weight * gy * d;
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
