package ohmoscope.core.imaging;

/** Smooths a picture by a Gaussian, along rows and then columns; edges repeat. */
public final class Blur {
    private Blur() {}

    /** @param sigmaPx above 0 */
    public static float[] gaussian(float[] picture, int w, int h, double sigmaPx) {
        int reach = (int) Math.ceil(3 * sigmaPx);
        float[] kernel = new float[2 * reach + 1];
        float total = 0;
        for (int i = -reach; i <= reach; i++) {
            kernel[i + reach] = (float) Math.exp(-i * i / (2 * sigmaPx * sigmaPx));
            total += kernel[i + reach];
        }
        for (int i = 0; i < kernel.length; i++) {
            kernel[i] /= total;
        }
        float[] rows = new float[picture.length];
        float[] out = new float[picture.length];
        for (int y = 0; y < h; y++) {
            along(picture, y * w, w, kernel, reach, rows);
        }
        for (int y = 0; y < h; y++) {
            for (int i = -reach; i <= reach; i++) {
                int from = Math.max(0, Math.min(h - 1, y + i)) * w;
                float weight = kernel[i + reach];
                for (int x = 0; x < w; x++) {
                    out[y * w + x] += weight * rows[from + x];
                }
            }
        }
        return out;
    }

    /** One row; only at its ends places have to be held inside. */
    private static void along(float[] picture, int at, int w, float[] kernel, int reach, float[] rows) {
        int inner = Math.max(0, w - reach);
        for (int i = -reach; i <= reach; i++) {
            float weight = kernel[i + reach];
            for (int x = reach; x < inner; x++) {
                rows[at + x] += weight * picture[at + x + i];
            }
        }
        for (int x = 0; x < w; x++) {
            if (x < reach || x >= inner) {
                for (int i = -reach; i <= reach; i++) {
                    rows[at + x] += kernel[i + reach] * picture[at + Math.max(0, Math.min(w - 1, x + i))];
                }
            }
        }
    }
}
