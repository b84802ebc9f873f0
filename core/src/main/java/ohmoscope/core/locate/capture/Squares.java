package ohmoscope.core.locate.capture;

import java.util.stream.IntStream;

/**
 * A picture cut into squares, of which those count that at least half are made of pixels of one kind: bare board, or
 * bodies.
 *
 * @param side pixels
 * @param of for each pixel its square, counted from 0, or −1 when the pixel is of the other kind or its square does not
 *     count
 * @param pixels in each square that counts
 */
public record Squares(int side, int[] of, int[] pixels) {
    private static final int ENOUGH = 12;

    public static Squares of(Pixels all, int side, boolean onBodies) {
        int across = all.columns() / side + 1;
        int[] count = new int[across * (all.rows() / side + 1)];
        int[] at = new int[all.count()];
        for (int p = 0; p < at.length; p++) {
            boolean counts = all.patch()[p] > 0 == onBodies;
            at[p] = counts ? all.row()[p] / side * across + all.column()[p] / side : -1;
            if (counts) {
                count[at[p]]++;
            }
        }
        int[] number = new int[count.length];
        int numbers = 0;
        for (int i = 0; i < count.length; i++) {
            number[i] = count[i] > 0 && 2 * count[i] >= side * side ? numbers++ : -1;
        }
        for (int p = 0; p < at.length; p++) {
            at[p] = at[p] < 0 ? -1 : number[at[p]];
        }
        int[] pixels = IntStream.range(0, count.length)
                .filter(i -> number[i] >= 0)
                .map(i -> count[i])
                .toArray();
        return new Squares(side, at, pixels);
    }

    public int count() {
        return pixels.length;
    }

    /** Whether there are so many that their means' scatter can be told. */
    public boolean enough() {
        return pixels.length >= ENOUGH;
    }

    /** Means over the squares. @param values of which those from {@code from} on count, one a pixel */
    public float[] means(float[] values, int from) {
        double[] sums = new double[pixels.length];
        for (int p = 0; p < of.length; p++) {
            if (of[p] >= 0) {
                sums[of[p]] += values[from + p];
            }
        }
        float[] means = new float[sums.length];
        for (int i = 0; i < means.length; i++) {
            means[i] = (float) (sums[i] / pixels[i]);
        }
        return means;
    }
}
