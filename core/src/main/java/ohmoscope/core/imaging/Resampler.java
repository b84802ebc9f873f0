package ohmoscope.core.imaging;

/** Moves a picture by a fraction of a pixel with the Catmull–Rom cubic, which keeps straight ramps straight. */
public final class Resampler {
    private Resampler() {}

    /**
     * Undoes a shift: {@code out(x, y) = in(x + dx, y + dy)}. Edges repeat.
     *
     * @param in row-major, not modified
     * @param out overwritten; must not be {@code in}
     */
    public static void shifted(float[] in, int width, int height, double dxPx, double dyPx, float[] out) {
        float[] rows = new float[width * height];
        int wholeX = (int) Math.floor(dxPx);
        int wholeY = (int) Math.floor(dyPx);
        float[] wx = weights(dxPx - wholeX);
        float[] wy = weights(dyPx - wholeY);
        int safeFrom = Math.max(0, 1 - wholeX);
        int safeTo = Math.min(width, width - 2 - wholeX);
        for (int y = 0; y < height; y++) {
            int row = y * width;
            for (int x = 0; x < width; x++) {
                if (x >= safeFrom && x < safeTo) {
                    int at = row + x + wholeX - 1;
                    rows[row + x] = wx[0] * in[at] + wx[1] * in[at + 1] + wx[2] * in[at + 2] + wx[3] * in[at + 3];
                } else {
                    float sum = 0;
                    for (int i = 0; i < 4; i++) {
                        sum += wx[i] * in[row + within(x + wholeX + i - 1, width)];
                    }
                    rows[row + x] = sum;
                }
            }
        }
        for (int y = 0; y < height; y++) {
            for (int i = 0; i < 4; i++) {
                int at = within(y + wholeY + i - 1, height) * width;
                for (int x = 0; x < width; x++) {
                    float part = wy[i] * rows[at + x];
                    out[y * width + x] = i == 0 ? part : out[y * width + x] + part;
                }
            }
        }
    }

    /**
     * The same at some pixels only.
     *
     * @param places pixels, {@code y · width + x}
     * @param out for each place its value, overwritten
     */
    static void shiftedAt(float[] in, int width, int height, double dxPx, double dyPx, int[] places, float[] out) {
        int wholeX = (int) Math.floor(dxPx);
        int wholeY = (int) Math.floor(dyPx);
        float[] wx = weights(dxPx - wholeX);
        float[] wy = weights(dyPx - wholeY);
        for (int i = 0; i < places.length; i++) {
            int x = places[i] % width + wholeX - 1;
            int y = places[i] / width + wholeY - 1;
            boolean inside = x >= 0 && y >= 0 && x + 3 < width && y + 3 < height;
            float sum = 0;
            for (int b = 0; b < 4; b++) {
                int row = inside ? (y + b) * width : within(y + b, height) * width;
                float along = 0;
                for (int a = 0; a < 4; a++) {
                    along += wx[a] * in[row + (inside ? x + a : within(x + a, width))];
                }
                sum += wy[b] * along;
            }
            out[i] = sum;
        }
    }

    /** A picture between its pixels; the place must lie within. */
    static float bilinear(float[] picture, int w, int h, double px, double py) {
        int x = Math.min(w - 2, (int) px);
        int y = Math.min(h - 2, (int) py);
        float a = (float) (px - x);
        float b = (float) (py - y);
        int p = y * w + x;
        return (1 - b) * ((1 - a) * picture[p] + a * picture[p + 1])
                + b * ((1 - a) * picture[p + w] + a * picture[p + w + 1]);
    }

    private static int within(int at, int size) {
        return Math.min(size - 1, Math.max(0, at));
    }

    private static float[] weights(double t) {
        return new float[] {
            (float) (((-0.5 * t + 1) * t - 0.5) * t),
            (float) ((1.5 * t - 2.5) * t * t + 1),
            (float) (((-1.5 * t + 2) * t + 0.5) * t),
            (float) ((0.5 * t - 0.5) * t * t)
        };
    }
}
