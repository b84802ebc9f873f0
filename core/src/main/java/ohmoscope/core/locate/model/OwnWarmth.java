package ohmoscope.core.locate.model;

/**
 * How a body that heat is released in differs from the board under it, one kelvin in the end: on a few pixels, behind the
 * source's lag. It stands above its board; a shiny one looks cooler.
 *
 * @param pixels at which the body is seen, rising
 * @param values {@code [component · count + i]}
 * @param weighted the same times the weights
 * @param still how much of each still picture it holds
 */
public record OwnWarmth(int[] pixels, float[] values, float[] weighted, float[] still) {
    /** Adds so much of its values, or of its weighted ones, to such an array over all pixels. */
    public void addTo(float[] all, float[] own, int n, float by) {
        int count = pixels.length;
        for (int j = 0; j * count < own.length; j++) {
            for (int i = 0; i < count; i++) {
                all[j * n + pixels[i]] += by * own[j * count + i];
            }
        }
    }

    /** The sum over the body's pixels of such an array's values times those given. */
    public double with(float[] all, int n, float[] own) {
        double sum = 0;
        int count = pixels.length;
        for (int j = 0; j * count < own.length; j++) {
            for (int i = 0; i < count; i++) {
                sum += all[j * n + pixels[i]] * own[j * count + i];
            }
        }
        return sum;
    }
}
