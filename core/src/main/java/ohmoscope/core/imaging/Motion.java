package ohmoscope.core.imaging;

import ohmoscope.core.board.Check;
import ohmoscope.core.numeric.Limit;

/**
 * How a picture has moved against its reference: to the right, down, and turned about its middle. A hand turns a camera
 * by tenths of a degree; so small a turn is taken to first order, which is off by {@code turn²/2} of the distance from
 * the middle.
 *
 * @param xPx to the right, pixels
 * @param yPx down, pixels
 * @param turn radians, clockwise on the screen, within ±{@value #MOST}
 */
public record Motion(double xPx, double yPx, double turn) {
    /** What a turn to first order still stands for: three degrees. */
    static final double MOST = 0.052;

    public static final Motion NONE = new Motion(0, 0, 0);

    public Motion {
        Check.within("turn", turn, -MOST, MOST);
    }

    static Motion shift(double xPx, double yPx) {
        return new Motion(xPx, yPx, 0);
    }

    /** Where a place of the reference is in a moved picture of such a size, pixels from the left. */
    public double xOf(double x, double y, int height) {
        return x + xPx - turn * (y - middle(height));
    }

    /** The same, pixels from the top. */
    public double yOf(double x, double y, int width) {
        return y + yPx + turn * (x - middle(width));
    }

    /** Root mean square over a picture of such a size of how far its places have moved, pixels. */
    double sizePx(int width, int height) {
        return Math.hypot(Math.hypot(xPx, yPx), turn * radiusPx(width, height));
    }

    /** What lies between, as small as both are. */
    Motion less(Motion other) {
        return new Motion(xPx - other.xPx, yPx - other.yPx, Limit.within(turn - other.turn, MOST));
    }

    Motion plus(Motion other) {
        return new Motion(xPx + other.xPx, yPx + other.yPx, Limit.within(turn + other.turn, MOST));
    }

    /** The same in pixels of another size. A turn is a turn in any. */
    Motion scaled(double factor) {
        return new Motion(xPx * factor, yPx * factor, turn);
    }

    static double middle(int size) {
        return (size - 1) / 2.0;
    }

    /** Root mean square distance of a picture's places from its middle, pixels. */
    static double radiusPx(int width, int height) {
        return Math.sqrt((width * (double) width + height * (double) height) / 12);
    }
}
