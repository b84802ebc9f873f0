package ohmoscope.core.locate.model;

import java.util.Arrays;

/** A board's edge lets no heat out: it mirrors it. */
public final class Mirrors {
    private Mirrors() {}

    /** A source's place along one axis, and its mirror images in the two edges where these matter. */
    public static double[] images(double at, double low, double high, double reachMm) {
        double clamped = Math.max(low, Math.min(high, at));
        double[] images = {clamped, 2 * low - clamped, 2 * high - clamped};
        int n = 1;
        if (clamped - low < reachMm / 2) {
            images[n++] = 2 * low - clamped;
        }
        if (high - clamped < reachMm / 2) {
            images[n++] = 2 * high - clamped;
        }
        return Arrays.copyOf(images, n);
    }
}
