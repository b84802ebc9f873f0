package ohmoscope.core.imaging;

import ohmoscope.core.board.Outline;

/**
 * Values on a square grid over the board, board axes.
 *
 * @param x0Mm place of the first column
 * @param y0Mm place of the first row
 * @param values row-major; not a number where nothing is known
 */
public record BoardField(double x0Mm, double y0Mm, double stepMm, int columns, int rows, float[] values) {
    /** A grid over a board's box, all zero. */
    public static BoardField over(Outline outline, double stepMm) {
        int columns = Math.max(2, (int) Math.floor((outline.maxXMm() - outline.minXMm()) / stepMm));
        int rows = Math.max(2, (int) Math.floor((outline.maxYMm() - outline.minYMm()) / stepMm));
        return new BoardField(
                outline.minXMm() + stepMm / 2,
                outline.minYMm() + stepMm / 2,
                stepMm,
                columns,
                rows,
                new float[columns * rows]);
    }

    public double xMm(int cell) {
        return x0Mm + cell % columns * stepMm;
    }

    public double yMm(int cell) {
        return y0Mm + cell / columns * stepMm;
    }
}
