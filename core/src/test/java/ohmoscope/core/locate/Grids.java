package ohmoscope.core.locate;

/** Pictures whose pixels all count, seen straight from above. */
final class Grids {
    private Grids() {}

    static Pixels of(int rows, int columns, double pitchMm, int stills) {
        Pixels pixels = new Pixels(rows * columns, rows, columns, stills);
        for (int p = 0; p < pixels.count(); p++) {
            pixels.row()[p] = p / columns;
            pixels.column()[p] = p % columns;
            pixels.xMm()[p] = (float) (pitchMm * (p % columns + 0.5));
            pixels.yMm()[p] = (float) (pitchMm * (p / columns + 0.5));
        }
        return pixels;
    }
}
