package ohmoscope.core.imaging;

import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Median;

/**
 * How each pixel changes from frame to frame, to find those that stand still and those that blink. Memory: two numbers a
 * pixel.
 */
final class FrameActivity {
    /** With fewer pairs of frames nothing is said. */
    private static final int ENOUGH = 20;
    /** A live pixel repeats itself by chance only; with noise of a count or more, rarely. */
    private static final double STILL_SHARE = 0.95;

    private static final double LEAST_NOISE_COUNTS = 1;
    /** A pixel that jumps by this many times what the others do is not measuring. */
    private static final double BLINKS = 6;
    /** More than this share cannot all be dead: the picture is odd, not its pixels. */
    private static final double MOST_DEAD = 0.02;
    /** Pixels that one core takes at a time. */
    private static final int STRETCH = 8192;

    private final int[] same;
    private final float[] squares;
    private int pairs;

    private final int width;

    FrameActivity(int width, int height) {
        this.width = width;
        same = new int[width * height];
        squares = new float[width * height];
    }

    /** Two frames, one after the other. */
    record Pair(char[] before, char[] after) {}

    /** On all cores, each with a stretch of pixels of its own. */
    void add(List<Pair> added) {
        pairs += added.size();
        IntStream.range(0, (same.length + STRETCH - 1) / STRETCH)
                .parallel()
                .forEach(i -> added.forEach(pair -> add(pair, i * STRETCH, Math.min(same.length, (i + 1) * STRETCH))));
    }

    private void add(Pair pair, int from, int to) {
        for (int i = from; i < to; i++) {
            int change = pair.after()[i] - pair.before()[i];
            same[i] += change == 0 ? 1 : 0;
            squares[i] += (float) change * change;
        }
    }

    /**
     * @param noiseCounts one sigma of a pixel in a frame, counts
     * @return places of dead pixels, rising
     */
    int[] dead(double noiseCounts) {
        if (pairs < ENOUGH) {
            return new int[0];
        }
        double usual = Median.of(squares.clone(), squares.length);
        int[] dead = IntStream.range(0, same.length)
                .filter(i -> noiseCounts >= LEAST_NOISE_COUNTS && same[i] > STILL_SHARE * pairs
                        || usual > 0 && blinks(i, usual))
                .toArray();
        return dead.length > MOST_DEAD * same.length ? new int[0] : dead;
    }

    /** Edges of a shaken picture change too, but not one pixel of them alone. */
    private boolean blinks(int i, double usual) {
        double limit = BLINKS * BLINKS * usual;
        if (squares[i] <= limit) {
            return false;
        }
        float[] around = new float[8];
        int n = 0;
        for (int dy = -1; dy <= 1; dy++) {
            for (int dx = -1; dx <= 1; dx++) {
                int x = i % width + dx;
                int at = i + dy * width + dx;
                if ((dx != 0 || dy != 0) && x >= 0 && x < width && at >= 0 && at < squares.length) {
                    around[n++] = squares[at];
                }
            }
        }
        return squares[i] > BLINKS * BLINKS * Median.of(around, n);
    }
}
