package ohmoscope.formats.photo;

import ohmoscope.core.board.PartKind;

/**
 * A body that a photograph seems to show.
 *
 * @param kind a guess by its colours
 * @param packageName the usual size that it is nearest to, empty for none
 * @param wMm length before rotation
 * @param rotDeg counter-clockwise on the board's own axes
 * @param score 0 to 1, how much it looks like one
 */
public record Found(
        PartKind kind,
        String packageName,
        double xMm,
        double yMm,
        double wMm,
        double hMm,
        double rotDeg,
        double score) {
    /** Whether a place lies on it. */
    public boolean covers(double atXMm, double atYMm) {
        double turn = Math.toRadians(rotDeg);
        double dx = atXMm - xMm;
        double dy = atYMm - yMm;
        double along = Math.cos(turn) * dx + Math.sin(turn) * dy;
        double across = -Math.sin(turn) * dx + Math.cos(turn) * dy;
        return Math.abs(along) <= wMm / 2 && Math.abs(across) <= hMm / 2;
    }

    /** How wide it is on the board's x. */
    double across() {
        double turn = Math.toRadians(rotDeg);
        return Math.abs(wMm * Math.cos(turn)) + Math.abs(hMm * Math.sin(turn));
    }

    /** And on its y. */
    double down() {
        double turn = Math.toRadians(rotDeg);
        return Math.abs(wMm * Math.sin(turn)) + Math.abs(hMm * Math.cos(turn));
    }
}
