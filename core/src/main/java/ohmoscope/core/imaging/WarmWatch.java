package ohmoscope.core.imaging;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import ohmoscope.core.board.Check;
import ohmoscope.core.numeric.Median;

/**
 * Watches a picture while it comes, frame by frame, for a place that begins to warm. Before the power it learns the cold
 * picture; after it, each frame's motion against that is undone, the common level taken off, and the difference averaged
 * over the last half second and smoothed to the size of a small part. A place counts as warming when it stands out of the
 * picture's own unrest, several times in a row at the same place. What all shiny places do together is the room that they mirror, and
 * is taken off; where the cold picture is steep, as much unrest is allowed for as what is left of the motion makes there.
 *
 * <p>O(pixels) time a frame, a handful of pictures in memory. Not for several threads.
 */
public final class WarmWatch {
    /** What is broad is told on a picture of so many pixels' squares. */
    private static final int SMALL = 4;

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

    /** Places that differ so much from the rest of the cold picture mirror the room, or were warm before, kelvin. */
    private static final double ODD_K = 0.25;

    private static final int LEAST_ODD = 60;
    private static final double ROOM_DOUBT = 0.5;

    /** Of all pixels those with the steepest surroundings, one in so many. */
    private static final int STEEP_ONE_IN = 20;
    /** Of what they show, nine in ten are less; of a normal distribution that is so many standard deviations. */
    private static final double NINE_IN_TEN = 1.645;

    private final int width;
    private final int height;
    private final double kelvinPerCount;
    private final float[] cold;
    private final float[] average;
    private final float[] still;
    private final float[] kelvin;
    /** Of each column of the picture, which of the small one's it lies on or after, and how far after. */
    private final int[] smallColumn;

    private final float[] smallShare;
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
    private Optional<Ground> ground = Optional.empty();
    /** What the room did, as a share of how odd a place looks. */
    private double roomShare;

    /**
     * The cold picture, as what is seen against it needs it.
     *
     * @param oddK how much colder each pixel looks than most
     * @param shiny pixels that look much colder, within the board
     * @param beyond those that do and are joined to the picture's rim: what lies beyond the board
     * @param steepK how much it changes about each pixel: what a shift of a pixel would make, and what interpolating leaves
     * @param steep the steepest pixels
     */
    private record Ground(float[] oddK, int[] shiny, boolean[] beyond, int[] outside, float[] steepK, int[] steep) {}

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
        smallColumn = new int[width];
        smallShare = new float[width];
        int columns = (width + SMALL - 1) / SMALL;
        for (int x = 0; x < width; x++) {
            double at = Math.max(0, Math.min(columns - 1, (x + 0.5) / SMALL - 0.5));
            smallColumn[x] = (int) at;
            smallShare[x] = (float) (at - smallColumn[x]);
        }
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
        roomShare = 0;
        ground = Optional.empty();
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
        } else if (ground.isEmpty()) {
            ground = Optional.of(ground());
        }
        double passed = Math.max(1e-3, tS - lastS);
        lastS = tS;
        // A camera that re-zeroes itself changes more than its level: what was averaged before is let go.
        double keep = Math.abs(level - lastLevelK) > JUMP_K ? 0.3 : Math.exp(-passed / MEMORY_S);
        lastLevelK = level;
        weight = keep * weight + 1 - keep;
        float kept = (float) keep;
        float fresh = 1 - kept;
        for (int i = 0; i < average.length; i++) {
            average[i] = kept * average[i] + fresh * (laid[i] - cold[i] - level);
        }
        float[] rises = smoothed();
        ground.ifPresent(g -> withoutRoom(rises, g));
        return said(rises, motion, false);
    }

    private Ground ground() {
        float[] fine = Blur.gaussian(cold, width, height, SMOOTH_PX);
        float middle = Median.of(fine.clone(), fine.length);
        float[] oddK = new float[fine.length];
        float[] steepK = new float[fine.length];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int i = y * width + x;
                oddK[i] = middle - fine[i];
                boolean rim = x == 0 || y == 0 || x == width - 1 || y == height - 1;
                steepK[i] = rim ? 0 : steepK(fine, i);
            }
        }
        float[] sorted = steepK.clone();
        Arrays.sort(sorted);
        float steepest = sorted[sorted.length - 1 - sorted.length / STEEP_ONE_IN];
        boolean[] beyond = beyond(oddK);
        return new Ground(
                oddK,
                which(i -> oddK[i] > ODD_K && !beyond[i]),
                beyond,
                which(i -> beyond[i]),
                steepK,
                which(i -> steepK[i] > steepest));
    }

    private int[] which(IntPredicate wanted) {
        return IntStream.range(0, width * height).filter(wanted).toArray();
    }

    private float steepK(float[] fine, int i) {
        double slope = Math.hypot(fine[i + 1] - fine[i - 1], fine[i + width] - fine[i - width]) / 2;
        double bend = fine[i + 1] + fine[i - 1] + fine[i + width] + fine[i - width] - 4 * fine[i];
        return (float) (slope + Math.abs(bend));
    }

    /** From the rim inwards as far as it looks colder. */
    private boolean[] beyond(float[] oddK) {
        boolean[] beyond = new boolean[oddK.length];
        Deque<Integer> open = new ArrayDeque<>();
        for (int i : which(i -> i < width || i >= oddK.length - width || i % width == 0 || i % width == width - 1)) {
            open.add(i);
        }
        while (!open.isEmpty()) {
            int i = open.pop();
            if (beyond[i] || oddK[i] <= ODD_K) {
                continue;
            }
            beyond[i] = true;
            for (int to : new int[] {i - width, i + width, i - 1, i + 1}) {
                boolean inside = to >= 0 && to < oddK.length && Math.abs(to % width - i % width) <= 1;
                if (inside && !beyond[to]) {
                    open.push(to);
                }
            }
        }
        return beyond;
    }

    /** What shiny places do together is none of the board's warmth; nor is what the bench beyond it does. */
    private void withoutRoom(float[] rises, Ground g) {
        float shiny = share(rises, g, g.shiny);
        float bench = share(rises, g, g.outside);
        roomShare = Math.max(Math.abs(shiny), Math.abs(bench));
        for (int i = 0; i < rises.length; i++) {
            rises[i] -= (g.beyond[i] ? bench : shiny) * g.oddK[i];
        }
    }

    private static float share(float[] rises, Ground g, int[] at) {
        if (at.length < LEAST_ODD) {
            return 0;
        }
        float[] shares = new float[at.length];
        for (int i = 0; i < shares.length; i++) {
            shares[i] = rises[at[i]] / g.oddK[at[i]];
        }
        return Median.of(shares, shares.length);
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
        float[] above = above(rises);
        double unrest = unrest(above);
        double residue = residue(above);
        int best = MARGIN * width + MARGIN;
        double out = Double.NEGATIVE_INFINITY;
        for (int y = MARGIN; y < height - MARGIN; y++) {
            for (int x = MARGIN; x < width - MARGIN; x++) {
                int i = y * width + x;
                // Most do not stand out even of the picture's own unrest.
                if (above[i] > out * unrest) {
                    double doubt = ground.isPresent() ? doubt(ground.get(), i, residue) : 0;
                    double stands = above[i] / Math.hypot(unrest, doubt);
                    if (stands > out) {
                        out = stands;
                        best = i;
                    }
                }
            }
        }
        double most = above[best];
        out = powered ? out : 0;
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

    /** How far each pixel stands above its surroundings; no more than it rose, as beside what has become colder nothing warms. */
    private float[] above(float[] rises) {
        float[] broad = broad(rises);
        for (int i = 0; i < broad.length; i++) {
            broad[i] = Math.min(rises[i] - broad[i], rises[i]);
        }
        return broad;
    }

    private double unrest(float[] above) {
        float[] sample = new float[above.length / SPREAD_STRIDE + 1];
        int n = 0;
        for (int y = MARGIN; y < height - MARGIN; y++) {
            for (int x = MARGIN; x < width - MARGIN; x++) {
                int i = y * width + x;
                if (i % SPREAD_STRIDE == 0) {
                    sample[n++] = above[i];
                }
            }
        }
        return Math.max(1e-4, Median.spread(sample, n));
    }

    /** What motion and room may have left at a pixel, kelvin: parts differ in how much of the room they mirror. */
    private double doubt(Ground g, int i, double residue) {
        return Math.hypot(residue * g.steepK[i], ROOM_DOUBT * roomShare * g.oddK[i]);
    }

    /** What is left of the motion, as a share of how steep it is: told from the steepest places, most of which nothing heats. */
    private double residue(float[] above) {
        if (ground.isEmpty() || ground.get().steep.length == 0) {
            return 0;
        }
        int[] steep = ground.get().steep;
        float[] shares = new float[steep.length];
        for (int i = 0; i < steep.length; i++) {
            shares[i] = Math.abs(above[steep[i]]) / ground.get().steepK[steep[i]];
        }
        return Median.ranked(shares, shares.length, shares.length * 9 / 10) / NINE_IN_TEN;
    }

    /** The picture without what is small: means over quarter-size squares, blurred, and spread out again. */
    private float[] broad(float[] fine) {
        int step = SMALL;
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
        float[] row = new float[w + 1];
        for (int y = 0; y < height; y++) {
            float sy = (float) Math.max(0, Math.min(h - 1, (y + 0.5) / step - 0.5));
            int v = (int) sy;
            int next = Math.min(h - 1, v + 1);
            for (int u = 0; u < w; u++) {
                row[u] = blurred[v * w + u] + (sy - v) * (blurred[next * w + u] - blurred[v * w + u]);
            }
            row[w] = row[w - 1];
            for (int x = 0; x < width; x++) {
                int u = smallColumn[x];
                out[y * width + x] = row[u] + smallShare[x] * (row[u + 1] - row[u]);
            }
        }
        return out;
    }
}
