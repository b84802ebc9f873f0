package ohmoscope.core.imaging;

import java.io.IOException;

/**
 * A capture compressed onto temporal components: one picture each, stabilised against shake. O(frames × pixels ×
 * components) time, O(pixels × components) memory, one frame at a time.
 *
 * @param width pixels in a row after binning
 * @param binPx side of the square of camera pixels that make one pixel here
 * @param values {@code [pixel · k + component]}, kelvin; the same noise in every component
 * @param noiseK one standard deviation of a value
 */
public record Projection(int width, int height, int binPx, int components, float[] values, double noiseK) {
    /**
     * @param basis orthonormal rows over the frames
     * @param binPx at least 1
     */
    public static Projection of(CaptureSpec spec, FrameSource source, FrameScan scan, double[][] basis, int binPx)
            throws IOException {
        int k = basis.length;
        int w = spec.width() / binPx;
        int h = spec.height() / binPx;
        float[] values = new float[w * h * k];
        char[] counts = new char[spec.pixels()];
        float[] kelvin = new float[spec.pixels()];
        float[] still = new float[spec.pixels()];
        try (FrameSource.Cursor cursor = source.open()) {
            for (int f = 0; f < spec.frameCount() && cursor.next(counts); f++) {
                if (scan.segment().get(f) < 0) {
                    continue;
                }
                for (int i = 0; i < counts.length; i++) {
                    kelvin[i] = (float) (counts[i] * spec.kelvinPerCount());
                }
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
                add(picture, spec.width(), w, h, binPx, f, basis, values);
            }
        }
        return new Projection(w, h, binPx, k, values, scan.noiseK() / binPx);
    }

    private static void add(
            float[] picture, int fullWidth, int w, int h, int bin, int f, double[][] basis, float[] values) {
        int k = basis.length;
        float[] b = new float[k];
        for (int j = 0; j < k; j++) {
            b[j] = (float) basis[j][f];
        }
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
                float value = sum / (bin * bin);
                int at = (y * w + x) * k;
                for (int j = 0; j < k; j++) {
                    values[at + j] += b[j] * value;
                }
            }
        }
    }

    /** Centre of a pixel here, in camera pixels. */
    public double xPx(int x) {
        return (x + 0.5) * binPx - 0.5;
    }

    public double yPx(int y) {
        return (y + 0.5) * binPx - 0.5;
    }
}
