package ohmoscope.core.inject;

import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.SlabResponse;

/**
 * The picture of a watt at one place after it has been on for some seconds: how warm, how sharply its place can be told,
 * how surely it can be seen. Made once for a board, a camera and an exposure; everything then scales with watts.
 */
public final class WarmSpot {
    private static final int RINGS = 90;
    private static final double REACH_MM = 45;
    /** Frames while it warms count for about this share of as many frames at the end. */
    private static final double FRAMES_SHARE = 0.4;

    /** From here on a picture counts as seen. */
    public static final double SEEN = 5;

    private static final double CLUTTER_K = 0.3;
    private static final double OVER_BOUND = 3;
    private static final double REGISTRATION_MM = 0.25;

    private final double[] radiiMm = new double[RINGS];
    private final double[] kelvinPerWatt = new double[RINGS];
    private final double slopes;
    private final double squares;
    private final double noiseK;

    /**
     * @param near whether the camera sees the side on which the heat is released
     * @param seconds how long the power is on, above 0
     * @param footprintMm one sigma of the part's own size
     */
    public WarmSpot(SlabParameters slab, Means.Camera camera, boolean near, double seconds, double footprintMm) {
        double spread = camera.blurMm() * camera.blurMm() + footprintMm * footprintMm;
        for (int i = 0; i < RINGS; i++) {
            // Rings grow outward: the middle is where the picture changes.
            radiiMm[i] = REACH_MM * Math.pow((double) i / (RINGS - 1), 2);
            kelvinPerWatt[i] = SlabResponse.step(slab, near, radiiMm[i], seconds, spread);
        }
        double slopeSum = 0;
        double squareSum = 0;
        for (int i = 1; i < RINGS; i++) {
            double dr = radiiMm[i] - radiiMm[i - 1];
            double r = (radiiMm[i] + radiiMm[i - 1]) / 2;
            double slope = (kelvinPerWatt[i] - kelvinPerWatt[i - 1]) / dr;
            double value = (kelvinPerWatt[i] + kelvinPerWatt[i - 1]) / 2;
            slopeSum += Math.PI * slope * slope * r * dr;
            squareSum += 2 * Math.PI * value * value * r * dr;
        }
        double pixels = 1 / (camera.pixelMm() * camera.pixelMm());
        double frames = Math.max(1, FRAMES_SHARE * camera.framesPerS() * seconds);
        slopes = slopeSum * pixels * frames;
        squares = squareSum * pixels * frames;
        noiseK = camera.noiseK();
    }

    /** The warmest place, kelvin above its surroundings. */
    public double riseK(double watts) {
        return watts * kelvinPerWatt[0];
    }

    /** One sigma of the place along one axis, mm, by the Cramér–Rao bound for white noise; infinite without heat. */
    public double sigmaMm(double watts) {
        return watts > 0 ? noiseK / (watts * Math.sqrt(slopes)) : Double.POSITIVE_INFINITY;
    }

    /** Signal over white noise of the whole picture by a matched filter. */
    public double surety(double watts) {
        return watts * Math.sqrt(squares) / noiseK;
    }

    /**
     * What may really be hoped for: reflections, uneven copper and the hand cost three times the bound for white noise, and
     * the picture lies over the board to a quarter of a millimetre only.
     *
     * @param exposures how many alike are summed, at least 1
     */
    public double expectedSigmaMm(double watts, int exposures) {
        return Math.hypot(REGISTRATION_MM, OVER_BOUND * sigmaMm(watts) / Math.sqrt(exposures));
    }

    /** Likewise how surely it is seen: 5 is seen, 3 is a guess; warmth below 0.3 K is lost among reflections. */
    public double expectedSurety(double watts, int exposures) {
        return Math.min(surety(watts) * Math.sqrt(exposures) / OVER_BOUND, SEEN * riseK(watts) / CLUTTER_K);
    }

    /** How far from the middle it is at least this warm, mm; 0 when nowhere. */
    public double radiusMm(double watts, double kelvin) {
        for (int i = RINGS - 1; i >= 0; i--) {
            if (watts * kelvinPerWatt[i] >= kelvin) {
                return radiiMm[i];
            }
        }
        return 0;
    }
}
