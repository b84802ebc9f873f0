package ohmoscope.core.locate.capture;

import java.util.Arrays;

/**
 * The pixels of a capture that are kept: places on the board and in the picture, and what their weights are made of.
 * In the order of the picture's rows.
 *
 * @param patch pixels on the body that covers it, which warm and cool together; 0 on bare board
 * @param boardError how far the slab model may be off there, relative, were it bare board
 * @param modelVariance the same in kelvin², bodies considered
 * @param lid which large body covers it, counted from 0; −1 on bare board and small parts
 * @param share how much of a whole pixel it is: less than 1 where a binned one was cut by a body's edge
 * @param still pictures of what stands still: in what is left of them when the camera moves or the room's mirror image
 *     changes, nothing of a source shows
 */
public record Pixels(
        float[] xMm,
        float[] yMm,
        int[] row,
        int[] column,
        int rows,
        int columns,
        float[] patch,
        float[] boardError,
        float[] modelVariance,
        int[] lid,
        float[] share,
        float[][] still) {
    private static final int BARE = 0;
    private static final int SMALL_BODY = 1;
    private static final int FIRST_LID = 2;

    public Pixels(int count, int rows, int columns, int stills) {
        this(
                new float[count],
                new float[count],
                new int[count],
                new int[count],
                rows,
                columns,
                new float[count],
                new float[count],
                new float[count],
                filled(count, -1),
                filled(count, 1f),
                new float[stills][count]);
    }

    private static int[] filled(int count, int value) {
        int[] array = new int[count];
        Arrays.fill(array, value);
        return array;
    }

    private static float[] filled(int count, float value) {
        float[] array = new float[count];
        Arrays.fill(array, value);
        return array;
    }

    public int count() {
        return xMm.length;
    }

    /** The same pixels, the model's error to be filled in. */
    public Pixels unweighed() {
        return new Pixels(
                xMm, yMm, row, column, rows, columns, patch, boardError, new float[count()], lid, share, still);
    }

    public int lids() {
        return Arrays.stream(lid).max().orElse(-1) + 1;
    }

    /** Where each row begins, and after the last one, where it ends. */
    public int[] rowStarts() {
        int[] start = new int[rows + 1];
        for (int r : row) {
            start[r + 1]++;
        }
        for (int r = 0; r < rows; r++) {
            start[r + 1] += start[r];
        }
        return start;
    }

    /**
     * Squares of pixels taken together; a body's pixels and the bare board's beside it stay apart.
     *
     * @param stride side of a square
     * @param of for each pixel its bin, counted from 0 in the order of rows
     * @param size for each bin its pixels
     */
    public record Bins(int stride, int[] of, int[] size) {
        public int count() {
            return size.length;
        }

        /** Means over the bins. */
        public float[] mean(float[] values, int offset) {
            float[] mean = new float[count()];
            for (int p = 0; p < of.length; p++) {
                mean[of[p]] += values[offset + p];
            }
            for (int b = 0; b < mean.length; b++) {
                mean[b] /= size[b];
            }
            return mean;
        }
    }

    /** Bins of such a size that about {@code most} are left. */
    public Bins bins(int most) {
        int stride = Math.max(1, (int) Math.ceil(Math.sqrt(count() / (double) most)));
        int kinds = FIRST_LID + lids();
        int across = columns / stride + 1;
        int[] number = new int[(rows / stride + 1) * across * kinds];
        int[] key = new int[count()];
        for (int p = 0; p < key.length; p++) {
            int kind = lid[p] >= 0 ? FIRST_LID + lid[p] : patch[p] > 0 ? SMALL_BODY : BARE;
            key[p] = (row[p] / stride * across + column[p] / stride) * kinds + kind;
            number[key[p]]++;
        }
        int[] size = Arrays.stream(number).filter(n -> n > 0).toArray();
        for (int i = 0, bin = 0; i < number.length; i++) {
            number[i] = number[i] > 0 ? bin++ : -1;
        }
        for (int p = 0; p < key.length; p++) {
            key[p] = number[key[p]];
        }
        return new Bins(stride, key, size);
    }

    /** Means over bins, each as sure of its noise as its pixels are together. */
    public Pixels binned(Bins bins) {
        int stride = bins.stride();
        float area = stride * stride;
        Pixels few = new Pixels(bins.count(), rows / stride + 1, columns / stride + 1, still.length);
        System.arraycopy(bins.mean(xMm, 0), 0, few.xMm, 0, few.count());
        System.arraycopy(bins.mean(yMm, 0), 0, few.yMm, 0, few.count());
        for (int m = 0; m < still.length; m++) {
            System.arraycopy(bins.mean(still[m], 0), 0, few.still[m], 0, few.count());
        }
        float[] patches = bins.mean(patch, 0);
        System.arraycopy(bins.mean(boardError, 0), 0, few.boardError, 0, few.count());
        float[] errors = bins.mean(modelVariance, 0);
        for (int p = 0; p < count(); p++) {
            int b = bins.of()[p];
            few.row[b] = row[p] / stride;
            few.column[b] = column[p] / stride;
            few.lid[b] = lid[p];
        }
        Arrays.fill(few.share, 0);
        for (int p = 0; p < count(); p++) {
            few.share[bins.of()[p]] += share[p] / area;
        }
        for (int b = 0; b < few.count(); b++) {
            few.patch[b] = patches[b] > 0 ? Math.max(1, patches[b] / area) : 0;
            few.modelVariance[b] = errors[b] / area;
        }
        return few;
    }
}
