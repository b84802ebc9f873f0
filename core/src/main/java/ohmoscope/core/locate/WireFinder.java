package ohmoscope.core.locate;

import java.util.Optional;
import ohmoscope.core.imaging.Projection;

/**
 * Finds the hot lead in the picture: a bright line that leaves the injection point. Its warmth hangs above the board and
 * says nothing about it, so its pixels are left out.
 */
final class WireFinder {
    private static final int DIRECTIONS = 180;
    /** A lead's half width with its blur, mm. */
    private static final double HALF_WIDTH_MM = 1.0;

    private static final double HALF_WIDTH_PX = 1.6;
    /** Where the comparison to either side is taken, in half widths. */
    private static final double FLANK = 2.2;
    /** Mean contrast along the line against its own scatter. */
    private static final double CLEAR = 7;

    /** From here on a line is allowed for, though it hides nothing. */
    private static final double SUSPECTED = 3;

    /**
     * A line from a place in the picture outwards. Places are pixels of the projection.
     *
     * @param clear whether it is so plain that what lies under it is not looked at
     */
    record Wire(double xPx, double yPx, double dx, double dy, double halfWidthPx, double riseK, boolean clear) {
        /** How much of a pixel's light is the line's, 0 to 1, as the lens blurs it. */
        float share(double x, double y) {
            double along = (x - xPx) * dx + (y - yPx) * dy;
            double across = ((x - xPx) * dy - (y - yPx) * dx) / (0.7 * halfWidthPx);
            return along < -halfWidthPx ? 0 : (float) Math.exp(-across * across / 2);
        }

        boolean hides(double x, double y) {
            double along = (x - xPx) * dx + (y - yPx) * dy;
            double across = Math.abs((x - xPx) * dy - (y - yPx) * dx);
            return clear && along > -halfWidthPx && across <= halfWidthPx;
        }
    }

    private final Projection movie;
    private final float[] trend;

    WireFinder(Projection movie) {
        this.movie = movie;
        int k = movie.components();
        trend = new float[movie.width() * movie.height()];
        // The last component is the steady trend, in which whatever is fed warms.
        for (int p = 0; p < trend.length; p++) {
            trend[p] = movie.values()[p * k + k - 1];
        }
    }

    Optional<Wire> from(double xPx, double yPx, double pitchMm) {
        double half = Math.max(HALF_WIDTH_PX, HALF_WIDTH_MM / pitchMm);
        Optional<Wire> best = Optional.empty();
        double bestScore = SUSPECTED;
        for (int d = 0; d < DIRECTIONS; d++) {
            double angle = 2 * Math.PI * d / DIRECTIONS;
            double dx = Math.cos(angle);
            double dy = Math.sin(angle);
            double sum = 0;
            double square = 0;
            int n = 0;
            for (double along = 2 * half; inside(xPx + along * dx, yPx + along * dy); along += 1) {
                double x = xPx + along * dx;
                double y = yPx + along * dy;
                double flank = FLANK * half;
                double contrast =
                        at(x, y) - Math.max(at(x - flank * dy, y + flank * dx), at(x + flank * dy, y - flank * dx));
                sum += contrast;
                square += contrast * contrast;
                n++;
            }
            if (n < 5) {
                continue;
            }
            double mean = sum / n;
            double scatter = Math.sqrt(Math.max(0, square / n - mean * mean) / n) + movie.noiseK() / Math.sqrt(n);
            double score = mean / scatter;
            if (score > bestScore && mean > 0) {
                bestScore = score;
                boolean clear = score > CLEAR && mean > 2 * movie.noiseK();
                best = Optional.of(new Wire(xPx, yPx, dx, dy, half, mean, clear));
            }
        }
        return best;
    }

    private boolean inside(double x, double y) {
        return x >= 0 && y >= 0 && x <= movie.width() - 1 && y <= movie.height() - 1;
    }

    private double at(double x, double y) {
        int xi = (int) Math.round(Math.max(0, Math.min(movie.width() - 1, x)));
        int yi = (int) Math.round(Math.max(0, Math.min(movie.height() - 1, y)));
        return trend[yi * movie.width() + xi];
    }
}
