package ohmoscope.core.imaging;

import java.util.Arrays;
import java.util.Optional;
import ohmoscope.core.board.Check;
import ohmoscope.core.numeric.Median;

/**
 * Watches a picture while it comes, frame by frame, for a place that begins to warm. Before the power it learns the cold
 * picture; after it, each frame's motion against that is undone, the common level taken off, and the difference averaged
 * over the last half second and smoothed to the size of a small part. A place counts as warming when it stands out of the
 * picture's own unrest, twice in a row at the same place.
 *
 * <p>O(pixels) time a frame, a handful of pictures in memory. Not for several threads.
 */
public final class WarmWatch {
    private static final int LEAST_COLD = 3;
    /** From so many frames on the cold picture is no longer made anew when the camera is moved. */
    private static final int MOST_COLD = 400;

    private static final double STILL_PX = 0.06;
    private static final double MEMORY_S = 0.5;
    private static final double SMOOTH_PX = 1.3;
    private static final double BROAD_PX = 9;
    private static final int SAMPLE = 1501;
    /** How far the warmest place must stand out, standard deviations; 50,000 pixels seen 25 times a second, for an hour. */
    private static final double STANDS_OUT = 7;

    private static final double LEAST_RISE_K = 0.04;
    private static final double SAME_PLACE_PX = 4;
    private static final int IN_A_ROW = 3;
    /** A jump of the whole picture that no board makes: the camera re-zeroed itself. */
    private static final double JUMP_K = 0.12;

    /** The picture's unrest is told from each so many pixels; odd to its usual widths, so that all columns take part. */
    private static final int SPREAD_STRIDE = 11;

    private static final int MARGIN = 2;

    private final int width;
    private final int height;
    private final double kelvinPerCount;
    private final float[] cold;
    private final float[] average;
    private final float[] still;
    private final float[] kelvin;
    private char[] before = new char[0];
    private int coldFrames;
    private Optional<MotionEstimator> estimator = Optional.empty();
    private boolean powered;
    private double lastS;
    private double weight;
    private int inARow;
    private double lastX;
    private double lastY;
    private double lastLevelK;

    /**
     * What a frame added.
     *
     * @param risesK how far each pixel stands above the cold picture, smoothed; row-major, not to be changed
     * @param xPx the place that stands out most
     * @param riseK there, above its surroundings
     * @param standsOut the same in standard deviations of the picture's unrest
     * @param warming whether a place warms
     * @param motion how far the picture has moved
     * @param repeated whether the camera sent the frame before once more
     */
    public record Seen(
            float[] risesK,
            double xPx,
            double yPx,
            double riseK,
            double standsOut,
            boolean warming,
            Motion motion,
            boolean repeated) {}

    public WarmWatch(int width, int height, double kelvinPerCount) {
        this.width = width;
        this.height = height;
        this.kelvinPerCount = Check.positive("kelvin_per_count", kelvinPerCount);
        int n = width * height;
        cold = new float[n];
        average = new float[n];
        still = new float[n];
        kelvin = new float[n];
    }

    /** Forgets what warmed; the cold picture is learnt anew, as before another injection. */
    public void begin() {
        coldFrames = 0;
        Arrays.fill(cold, 0);
        Arrays.fill(average, 0);
        estimator = Optional.empty();
        powered = false;
        weight = 0;
        inARow = 0;
        lastLevelK = 0;
    }

    /** How many frames the cold picture is made of. */
    public int coldFrames() {
        return coldFrames;
    }

    /** The cold picture, kelvin, row-major; a copy. */
    public float[] coldPicture() {
        return cold.clone();
    }

    /**
     * Takes a frame.
     *
     * @param counts row-major
     * @param tS when it was taken, seconds
     * @param on whether power flows
     */
    public Seen next(char[] counts, double tS, boolean on) {
        boolean repeated = Arrays.equals(counts, before);
        before = counts.clone();
        powered |= on && coldFrames >= LEAST_COLD;
        if (repeated) {
            return said(new float[0], Motion.NONE, true);
        }
        for (int i = 0; i < counts.length; i++) {
            kelvin[i] = (float) (counts[i] * kelvinPerCount);
        }
        if (coldFrames == 0) {
            System.arraycopy(kelvin, 0, cold, 0, kelvin.length);
            estimator = Optional.of(new MotionEstimator(cold, width, height));
            coldFrames = 1;
            lastS = tS;
            return said(new float[kelvin.length], Motion.NONE, false);
        }
        Motion motion = estimator.orElseThrow().motion(kelvin);
        float[] laid = kelvin;
        if (motion.sizePx(width, height) > STILL_PX) {
            Resampler.undone(kelvin, width, height, motion, still);
            laid = still;
        }
        float level = level(laid);
        if (!powered) {
            learn(laid, level);
        }
        double passed = Math.max(1e-3, tS - lastS);
        lastS = tS;
        // A camera that re-zeroes itself changes more than its level: what was averaged before is let go.
        double keep = Math.abs(level - lastLevelK) > JUMP_K ? 0.3 : Math.exp(-passed / MEMORY_S);
        lastLevelK = level;
        weight = keep * weight + 1 - keep;
        for (int i = 0; i < average.length; i++) {
            average[i] = (float) (keep * average[i] + (1 - keep) * (laid[i] - cold[i] - level));
        }
        return said(smoothed(), motion, false);
    }

    private void learn(float[] laid, float level) {
        if (coldFrames < MOST_COLD) {
            coldFrames++;
        }
        float share = 1f / coldFrames;
        for (int i = 0; i < cold.length; i++) {
            cold[i] += share * (laid[i] - level - cold[i]);
        }
    }

    private float level(float[] laid) {
        float[] sample = new float[Math.min(SAMPLE, laid.length)];
        int stride = Math.max(1, laid.length / sample.length);
        int n = 0;
        for (int i = 0; i < laid.length && n < sample.length; i += stride) {
            sample[n++] = laid[i] - cold[i];
        }
        return Median.of(sample, n);
    }

    private float[] smoothed() {
        float[] fine = Blur.gaussian(average, width, height, SMOOTH_PX);
        float scale = (float) (1 / Math.max(weight, 1e-3));
        for (int i = 0; i < fine.length; i++) {
            fine[i] *= scale;
        }
        return fine;
    }

    private Seen said(float[] rises, Motion motion, boolean repeated) {
        if (repeated || rises.length == 0) {
            return new Seen(new float[0], lastX, lastY, 0, 0, inARow >= IN_A_ROW, motion, true);
        }
        float[] broad = broad(rises);
        int best = MARGIN * width + MARGIN;
        float most = Float.NEGATIVE_INFINITY;
        float[] sample = new float[rises.length / SPREAD_STRIDE + 1];
        int n = 0;
        for (int y = MARGIN; y < height - MARGIN; y++) {
            for (int x = MARGIN; x < width - MARGIN; x++) {
                int i = y * width + x;
                float above = rises[i] - broad[i];
                if (i % SPREAD_STRIDE == 0) {
                    sample[n++] = above;
                }
                if (above > most) {
                    most = above;
                    best = i;
                }
            }
        }
        double unrest = Math.max(1e-4, Median.spread(sample, n));
        double out = powered ? most / unrest : 0;
        int x = best % width;
        int y = best / width;
        boolean clear = powered && out > STANDS_OUT && most > LEAST_RISE_K;
        inARow = clear && (inARow == 0 || Math.hypot(x - lastX, y - lastY) <= SAME_PLACE_PX)
                ? inARow + 1
                : clear ? 1 : 0;
        lastX = x;
        lastY = y;
        return new Seen(rises, x, y, Math.max(0, most), out, inARow >= IN_A_ROW, motion, false);
    }

    /** The picture without what is small: means over quarter-size squares, blurred, and spread out again. */
    private float[] broad(float[] fine) {
        int step = 4;
        int w = (width + step - 1) / step;
        int h = (height + step - 1) / step;
        float[] small = new float[w * h];
        for (int v = 0; v < h; v++) {
            for (int u = 0; u < w; u++) {
                float sum = 0;
                int n = 0;
                for (int y = v * step; y < Math.min(height, v * step + step); y++) {
                    for (int x = u * step; x < Math.min(width, u * step + step); x++) {
                        sum += fine[y * width + x];
                        n++;
                    }
                }
                small[v * w + u] = sum / n;
            }
        }
        float[] blurred = Blur.gaussian(small, w, h, BROAD_PX / step);
        float[] out = new float[fine.length];
        for (int y = 0; y < height; y++) {
            double sy = Math.max(0, Math.min(h - 1, (y + 0.5) / step - 0.5));
            for (int x = 0; x < width; x++) {
                double sx = Math.max(0, Math.min(w - 1, (x + 0.5) / step - 0.5));
                out[y * width + x] = (float) Resampler.bilinear(blurred, w, h, sx, sy);
            }
        }
        return out;
    }
}
