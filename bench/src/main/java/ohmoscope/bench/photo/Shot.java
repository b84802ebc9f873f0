package ohmoscope.bench.photo;

import ohmoscope.core.board.Check;

/**
 * How a photograph is taken.
 *
 * @param tiltDeg how far the camera leans to the right
 * @param pitchDeg and backwards
 * @param turnDeg how the board lies turned under it
 * @param blurPx one sigma
 * @param noise one sigma of 255 steps
 * @param light 0 dark room, 1 even daylight, above it glare
 * @param slant how much brighter one side is than the other, 0 to 1
 * @param glare how bright a lamp mirrors in the varnish, 0 to 1
 * @param warmth of the light's colour, −1 cold to 1 lamp
 * @param bow of the lens, as its Lens has it
 * @param mask which colour the board's varnish has
 * @param seed for traces, noise and the mat under the board
 */
public record Shot(
        int widthPx,
        int heightPx,
        double tiltDeg,
        double pitchDeg,
        double turnDeg,
        double blurPx,
        double noise,
        double light,
        double slant,
        double glare,
        double warmth,
        double bow,
        Mask mask,
        long seed) {
    /** Varnishes. */
    public enum Mask {
        GREEN(0x1d5a3a),
        DARK_GREEN(0x12382a),
        BLUE(0x17407a),
        BLACK(0x1b1d20),
        RED(0x8a1f22);

        final int rgb;

        Mask(int rgb) {
            this.rgb = rgb;
        }
    }

    public Shot {
        Check.within("width", widthPx, 200, 8000);
        Check.within("height", heightPx, 200, 8000);
        Check.within("tilt", tiltDeg, -40, 40);
        Check.within("pitch", pitchDeg, -40, 40);
        Check.within("blur", blurPx, 0, 10);
        Check.within("noise", noise, 0, 60);
    }

    /** Straight down in daylight. */
    public static Shot plain(long seed) {
        return new Shot(2400, 1800, 1.5, -1, 0.8, 0.7, 2.5, 1, 0.12, 0.05, 0, 0.01, Mask.GREEN, seed);
    }
}
