package ohmoscope.core.locate.capture;

import java.util.stream.IntStream;
import ohmoscope.core.board.Part;
import org.hipparchus.special.Erf;

/**
 * Where a body is seen.
 *
 * @param pixels of the capture, rising
 * @param shares how much of each one's light is the body's, 0 to 1
 */
public record BodyMask(int[] pixels, float[] shares) {
    /** Below this a pixel says nothing of the body. */
    private static final double LEAST = 0.08;

    /**
     * @param dxMm how far beside its place on the board the body is looked for
     * @param sigmaMm of blur and pixel together
     */
    public static BodyMask of(Part part, double dxMm, double dyMm, Pixels pixels, double sigmaMm) {
        double reach = Math.hypot(part.wMm(), part.hMm()) / 2 + 2 * sigmaMm;
        float[] all = new float[pixels.count()];
        int[] seen = IntStream.range(0, all.length)
                .filter(p -> Math.abs(pixels.xMm()[p] - dxMm - part.xMm()) < reach
                        && Math.abs(pixels.yMm()[p] - dyMm - part.yMm()) < reach)
                .filter(p -> {
                    all[p] = (float) share(part, pixels.xMm()[p] - dxMm, pixels.yMm()[p] - dyMm, sigmaMm);
                    return all[p] > LEAST;
                })
                .toArray();
        float[] shares = new float[seen.length];
        for (int i = 0; i < seen.length; i++) {
            shares[i] = all[seen[i]];
        }
        return new BodyMask(seen, shares);
    }

    /** How much of the light from a place on the board is the body's, 0 to 1, blurred by one sigma of {@code sigmaMm}. */
    public static double share(Part part, double xMm, double yMm, double sigmaMm) {
        return within(part.alongMm(xMm, yMm), part.wMm() / 2, sigmaMm)
                * within(part.acrossMm(xMm, yMm), part.hMm() / 2, sigmaMm);
    }

    /** Of a Gaussian at a place, the share between minus and plus a half width. */
    private static double within(double at, double halfMm, double sigmaMm) {
        double root = Math.sqrt(2) * sigmaMm;
        return (Erf.erf((at + halfMm) / root) - Erf.erf((at - halfMm) / root)) / 2;
    }
}
