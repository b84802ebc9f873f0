package ohmoscope.formats.frames;

/** How frames must be turned to lie as the camera looked. */
public enum Turn {
    NONE,
    RIGHT,
    HALF,
    LEFT,
    MIRRORED;

    public int width(int width, int height) {
        return this == RIGHT || this == LEFT ? height : width;
    }

    public int height(int width, int height) {
        return this == RIGHT || this == LEFT ? width : height;
    }

    /** Where a pixel of the turned frame comes from. */
    int from(int x, int y, int width, int height) {
        return switch (this) {
            case NONE -> y * width + x;
            case RIGHT -> (height - 1 - x) * width + y;
            case HALF -> (height - 1 - y) * width + (width - 1 - x);
            case LEFT -> x * width + (width - 1 - y);
            case MIRRORED -> y * width + (width - 1 - x);
        };
    }
}
