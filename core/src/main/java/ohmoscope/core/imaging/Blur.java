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
        float[] rows = new float[picture.length];
        float[] out = new float[picture.length];
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                for (int i = -reach; i <= reach; i++) {
                    rows[y * w + x] += kernel[i + reach] / total * picture[y * w + Math.max(0, Math.min(w - 1, x + i))];
                }
            }
        }
        for (int y = 0; y < h; y++) {
            for (int i = -reach; i <= reach; i++) {
                int from = Math.max(0, Math.min(h - 1, y + i)) * w;
                for (int x = 0; x < w; x++) {
                    out[y * w + x] += kernel[i + reach] / total * rows[from + x];
                }
            }
        }
        return out;
    }
}
