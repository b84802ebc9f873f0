package ohmoscope.core.imaging;

import java.util.function.Supplier;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Limit;
import ohmoscope.core.numeric.Median;

/**
 * How a frame has moved against a reference picture: shift and turn by iterated least squares on the picture's gradient,
 * coarse to fine (Lucas and Kanade, 1981), with a free common level and weights that ignore what has warmed. A turn is
 * taken up only where it shows clearly. Reaches about ±12 px and ±2°. {@link #motion} is not for several threads.
 */
final class MotionEstimator {
    private static final int[] SCALES = {4, 2, 1};
    private static final int COARSE_STEPS = 5;
    private static final int FINE_STEPS = 4;
    /** A motion this near the frame before is believed without going through the coarse pictures. */
    private static final double TRUSTED_PX = 0.8;

    private static final double STILL_PX = 0.5;
    /** By this share a jump must lessen what is left; less is chance. */
    private static final double CLEARLY_BETTER = 0.05;

    private static final double SETTLED_PX = 0.012;
    private static final int SMALLEST = 12;
    /** A step turns only by at least so many pixels, and so many standard deviations: a board that warms turns nothing. */
    private static final double TURNED_PX = 0.08;

    private static final double TURNED_SIGMAS = 5;
    /** How far a step is meant to go, pixels, one sigma: a featureless picture must not be moved about by its noise. */
    private static final double STEP_PX = 0.5;
    /** Of the finest picture only this many pixels are compared: those where it is steepest. They tell nearly all. */
    private static final int STEEPEST = 6000;
    /** Pixels along the edge that are not compared. */
    private static final int MARGIN = 2;

    private final int width;
    private final int height;
    private final Level[] levels = new Level[SCALES.length];
    private Motion last = Motion.NONE;

    MotionEstimator(float[] reference, int width, int height) {
        this.width = width;
        this.height = height;
        for (int s = 0; s < SCALES.length; s++) {
            levels[s] = Level.of(smaller(reference, SCALES[s]), width / SCALES[s], height / SCALES[s]);
        }
    }

    /**
     * The reference at one scale: where it is compared, its value there, and its slopes to the right, down and along a
     * turn by one radian.
     */
    private record Level(int w, int h, int[] at, float[] value, float[] right, float[] down, float[] around) {
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
            int count = at.length;
            Level level = new Level(w, h, at, new float[count], new float[count], new float[count], new float[count]);
            for (int k = 0; k < at.length; k++) {
                int i = at[k];
                level.value[k] = picture[i];
                level.right[k] = (picture[i + 1] - picture[i - 1]) / 2;
                level.down[k] = (picture[i + w] - picture[i - w]) / 2;
                float x = (float) (i % w - Motion.middle(w));
                float y = (float) (i / w - Motion.middle(h));
                level.around[k] = x * level.down[k] - y * level.right[k];
            }
            return level;
        }

        double slope2(int i) {
            return right[i] * right[i] + down[i] * down[i];
        }
    }

    /** Whether the picture stood still in the frame before. */
    boolean still() {
        return last.sizePx(width, height) < STILL_PX;
    }

    /** Where the fine picture leads from no motion at all; may be asked by several threads, for frames to come. */
    Settled fromStill(float[] frame) {
        return settle(finest(), frame, Motion.NONE, FINE_STEPS);
    }

    Motion motion(float[] frame) {
        return motion(frame, () -> fromStill(frame));
    }

    /** @param fromStill what {@link #fromStill} gives for this frame; asked for while the picture stands still */
    Motion motion(float[] frame, Supplier<Settled> fromStill) {
        // From nothing while the picture stands still: steps on mere noise must not add up from frame to frame.
        Settled near = still() ? fromStill.get() : settle(finest(), frame, last, FINE_STEPS);
        boolean trusted = near.lastStepPx < SETTLED_PX && near.motion.less(last).sizePx(width, height) < TRUSTED_PX;
        last = trusted ? near.motion : believable(frame, coarseToFine(frame));
        return last;
    }

    /** A motion, and how far the last step towards it went. */
    record Settled(Motion motion, double lastStepPx) {}

    private Level finest() {
        return levels[SCALES.length - 1];
    }

    /** A jump that explains the frame no better than staying there is one between noise and noise. */
    private Motion believable(float[] frame, Motion jump) {
        double wholeX = Math.rint(jump.xPx());
        double wholeY = Math.rint(jump.yPx());
        if (wholeX == 0 && wholeY == 0) {
            return jump;
        }
        // Between pixels a frame is smoother than on them: compared with a place as far between.
        double beside = residual(frame, Motion.shift(jump.xPx() - wholeX, jump.yPx() - wholeY));
        boolean better = residual(frame, jump) < (1 - CLEARLY_BETTER) * beside;
        return better ? jump : still() ? Motion.NONE : last;
    }

    /**
     * How far the moved frame is off the reference where that is steep, whatever the level: 0 to 1, what is very far off
     * (what has warmed) counting as one.
     */
    private double residual(float[] frame, Motion motion) {
        Level level = finest();
        float[] off = new float[level.at.length];
        Resampler.undoneAt(frame, level.w, level.h, motion, level.at, MARGIN, off);
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

    private Motion coarseToFine(float[] frame) {
        Motion motion = Motion.NONE;
        for (int s = 0; s < SCALES.length; s++) {
            double scale = SCALES[s];
            if (levels[s].w >= SMALLEST && levels[s].h >= SMALLEST) {
                motion = settle(levels[s], smaller(frame, SCALES[s]), motion.scaled(1 / scale), COARSE_STEPS)
                        .motion
                        .scaled(scale);
            }
        }
        return motion;
    }

    /** Iterates from a first guess until a step no longer matters. */
    private static Settled settle(Level level, float[] picture, Motion from, int steps) {
        Motion motion = from;
        double length = Double.POSITIVE_INFINITY;
        float[] moved = new float[level.at.length];
        for (int i = 0; i < steps && length >= SETTLED_PX; i++) {
            Resampler.undoneAt(picture, level.w, level.h, motion, level.at, MARGIN, moved);
            Motion step = step(level, moved, motion.turn() != 0);
            motion = motion.plus(step);
            length = step.sizePx(level.w, level.h);
        }
        return new Settled(motion, length);
    }

    /** @param turning whether it has turned already: then it may turn by ever so little */
    private static Motion step(Level level, float[] moved, boolean turning) {
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
        Equations equations = Equations.of(level, moved, mean, spread2);
        return equations.solved(spread2, Motion.radiusPx(level.w, level.h), turning);
    }

    /** Normal equations of a step to the right, down and around. */
    private record Equations(
            double xx, double xy, double yy, double xt, double yt, double tt, double xd, double yd, double td) {
        static Equations of(Level level, float[] moved, double mean, double spread2) {
            double xx = 0;
            double xy = 0;
            double yy = 0;
            double xt = 0;
            double yt = 0;
            double tt = 0;
            double xd = 0;
            double yd = 0;
            double td = 0;
            for (int i = 0; i < moved.length; i++) {
                double gx = level.right[i];
                double gy = level.down[i];
                double gt = level.around[i];
                double d = moved[i] - level.value[i] - mean;
                double weight = 1 / (1 + d * d / spread2);
                double wx = weight * gx;
                double wy = weight * gy;
                double wt = weight * gt;
                xx += wx * gx;
                xy += wx * gy;
                yy += wy * gy;
                xt += wx * gt;
                yt += wy * gt;
                tt += wt * gt;
                xd += wx * d;
                yd += wy * d;
                td += wt * d;
            }
            return new Equations(xx, xy, yy, xt, yt, tt, xd, yd, td);
        }

        Motion solved(double spread2, double radiusPx, boolean turning) {
            double held = spread2 / (STEP_PX * STEP_PX);
            double ridge = 1e-3 * (xx + yy) + held;
            double a = xx + ridge;
            double c = yy + ridge;
            double det = a * c - xy * xy;
            // How a step to the right and down answers to a turn, and to what is left.
            double xOfTurn = (c * xt - xy * yt) / det;
            double yOfTurn = (a * yt - xy * xt) / det;
            double xOfRest = (c * xd - xy * yd) / det;
            double yOfRest = (a * yd - xy * xd) / det;
            double tells = tt - xt * xOfTurn - yt * yOfTurn;
            double turn = -(td - xt * xOfRest - yt * yOfRest) / (tells + 1e-3 * tt + held * radiusPx * radiusPx);
            boolean clear = Math.abs(turn) * radiusPx > TURNED_PX
                    && turn * turn * tells > TURNED_SIGMAS * TURNED_SIGMAS * spread2;
            double by = turning || clear ? turn : 0;
            double dx = -xOfRest - by * xOfTurn;
            double dy = -yOfRest - by * yOfTurn;
            double length = Math.hypot(Math.hypot(dx, dy), by * radiusPx);
            double limit = length > 1.5 ? 1.5 / length : 1;
            return new Motion(dx * limit, dy * limit, Limit.within(by * limit, Motion.MOST));
        }
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
