package ohmoscope.core.imaging;

import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.numeric.Lanes;

/**
 * A capture compressed onto temporal components: one picture each, stabilised against shake. O(frames × pixels ×
 * components) time, O(pixels × (components + a batch of frames)) memory.
 *
 * @param width pixels in a row after binning
 * @param binPx side of the square of camera pixels that make one pixel here
 * @param values {@code [pixel · k + component]}, kelvin; the same noise in every component
 * @param noiseK one standard deviation of a value
 */
public record Projection(int width, int height, int binPx, int components, float[] values, double noiseK) {
    /** Frames held until they are added together. */
    private static final int BATCH = 16;
    /** Pixels that stay in the nearest cache while a batch is added. */
    private static final int STRETCH = 4096;

    /**
     * @param basis rows over the frames, orthonormal for a noise of one size; frames that none gives any weight are not looked at
     * @param binPx at least 1
     */
    public static Projection of(CaptureSpec spec, FrameSource source, FrameScan scan, double[][] basis, int binPx)
            throws IOException {
        int k = basis.length;
        int w = spec.width() / binPx;
        int h = spec.height() / binPx;
        float[][] planes = new float[k][w * h];
        try (FrameSource.Cursor cursor = source.open()) {
            FrameBatch batch = new FrameBatch(spec, BATCH);
            while (batch.read(cursor, spec.frameCount())) {
                List<Taken> taken = batch.places()
                        .filter(i -> counts(basis, batch.frame(i)))
                        .parallel()
                        .mapToObj(i -> taken(spec, scan, batch, i, w, h, binPx))
                        .toList();
                if (!taken.isEmpty()) {
                    add(taken, basis, planes);
                }
            }
        }
        return new Projection(w, h, binPx, k, interleaved(planes), scan.noiseK() / binPx);
    }

    private static boolean counts(double[][] basis, int frame) {
        for (double[] row : basis) {
            if (row[frame] != 0) {
                return true;
            }
        }
        return false;
    }

    private record Taken(int frame, float[] kelvin) {}

    /** A frame stabilised and binned; its picture stays the batch's. */
    private static Taken taken(CaptureSpec spec, FrameScan scan, FrameBatch batch, int place, int w, int h, int binPx) {
        char[] counts = batch.counts(place);
        float[] kelvin = batch.kelvin(place);
        float perCount = (float) spec.kelvinPerCount();
        for (int i = 0; i < counts.length; i++) {
            kelvin[i] = counts[i] * perCount;
        }
        int f = batch.frame(place);
        float[] still = scan.stilled(spec, f, kelvin, batch.still(place));
        bin(still, spec.width(), w, h, binPx);
        return new Taken(f, still);
    }

    /** Means of squares, to the picture's start, in place: none is written before what it is made of has been read. */
    private static void bin(float[] picture, int fullWidth, int w, int h, int bin) {
        // Common to the whole frame, so it ends in the fit's free level; it keeps the sums small in single precision.
        float level = picture[0];
        if (bin == 1) {
            for (int p = 0; p < picture.length; p++) {
                picture[p] -= level;
            }
            return;
        }
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                float sum = 0;
                for (int i = 0; i < bin; i++) {
                    int row = (y * bin + i) * fullWidth + x * bin;
                    for (int m = 0; m < bin; m++) {
                        sum += picture[row + m] - level;
                    }
                }
                picture[y * w + x] = sum / (bin * bin);
            }
        }
    }

    /** Component by component, on all cores. */
    private static void add(List<Taken> batch, double[][] basis, float[][] planes) {
        float[][] kelvin = batch.stream().map(Taken::kelvin).toArray(float[][]::new);
        IntStream.range(0, planes.length).parallel().forEach(j -> {
            float[] plane = planes[j];
            float[] course = new float[kelvin.length];
            for (int i = 0; i < course.length; i++) {
                course[i] = (float) basis[j][batch.get(i).frame];
            }
            boolean counts = Arrays.stream(basis[j], batch.get(0).frame, batch.get(batch.size() - 1).frame + 1)
                    .anyMatch(w -> w != 0);
            for (int from = 0; counts && from < plane.length; from += STRETCH) {
                int to = Math.min(plane.length, from + STRETCH);
                Lanes.addWeighed(plane, from, to, course, 0, kelvin, kelvin.length);
            }
        });
    }

    private static float[] interleaved(float[][] planes) {
        int k = planes.length;
        float[] values = new float[k * planes[0].length];
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < planes[j].length; p++) {
                values[p * k + j] = planes[j][p];
            }
        }
        return values;
    }

    /** Centre of a pixel here, in camera pixels. */
    public double xPx(int x) {
        return (x + 0.5) * binPx - 0.5;
    }

    public double yPx(int y) {
        return (y + 0.5) * binPx - 0.5;
    }
}
