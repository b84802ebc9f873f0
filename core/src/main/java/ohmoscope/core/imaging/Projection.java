package ohmoscope.core.imaging;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

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
     * @param basis orthonormal rows over the frames
     * @param binPx at least 1
     */
    public static Projection of(CaptureSpec spec, FrameSource source, FrameScan scan, double[][] basis, int binPx)
            throws IOException {
        int k = basis.length;
        int w = spec.width() / binPx;
        int h = spec.height() / binPx;
        float[][] planes = new float[k][w * h];
        List<Taken> batch = new ArrayList<>();
        char[] counts = new char[spec.pixels()];
        float[] kelvin = new float[spec.pixels()];
        float[] still = new float[spec.pixels()];
        float perCount = (float) spec.kelvinPerCount();
        try (FrameSource.Cursor cursor = source.open()) {
            for (int f = 0; f < spec.frameCount() && cursor.next(counts); f++) {
                if (scan.segment().get(f) < 0) {
                    continue;
                }
                for (int i = 0; i < counts.length; i++) {
                    kelvin[i] = counts[i] * perCount;
                }
                scan.mend(kelvin, spec.width());
                float[] picture = kelvin;
                if (!scan.steady()) {
                    Resampler.shifted(
                            kelvin,
                            spec.width(),
                            spec.height(),
                            scan.shiftXPx().get(f),
                            scan.shiftYPx().get(f),
                            still);
                    picture = still;
                }
                batch.add(new Taken(f, binned(picture, spec.width(), w, h, binPx)));
                if (batch.size() == BATCH) {
                    add(batch, basis, planes);
                    batch.clear();
                }
            }
        }
        add(batch, basis, planes);
        return new Projection(w, h, binPx, k, interleaved(planes), scan.noiseK() / binPx);
    }

    private record Taken(int frame, float[] kelvin) {}

    private static float[] binned(float[] picture, int fullWidth, int w, int h, int bin) {
        float[] means = new float[w * h];
        // Common to the whole frame, so it ends in the fit's free level; it keeps the sums small in single precision.
        float level = picture[0];
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                float sum = 0;
                for (int i = 0; i < bin; i++) {
                    int row = (y * bin + i) * fullWidth + x * bin;
                    for (int m = 0; m < bin; m++) {
                        sum += picture[row + m] - level;
                    }
                }
                means[y * w + x] = sum / (bin * bin);
            }
        }
        return means;
    }

    /** Component by component, on all cores. */
    private static void add(List<Taken> batch, double[][] basis, float[][] planes) {
        IntStream.range(0, planes.length).parallel().forEach(j -> {
            float[] plane = planes[j];
            for (int from = 0; from < plane.length; from += STRETCH) {
                int to = Math.min(plane.length, from + STRETCH);
                for (Taken taken : batch) {
                    float weight = (float) basis[j][taken.frame];
                    float[] kelvin = taken.kelvin;
                    for (int p = from; p < to; p++) {
                        plane[p] += weight * kelvin[p];
                    }
                }
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
