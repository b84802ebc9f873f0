package ohmoscope.core.locate.capture;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.imaging.Projection;

/**
 * Finds the lead in the picture: a line that leaves the injection point, brighter than the board to either side of it
 * where it carries much current, darker where it lies before a warm place. It hangs above the board and says nothing
 * about it, so its pixels are left out.
 */
public final class WireFinder {
    private static final int DIRECTIONS = 180;
    /** A lead's half width with its blur, mm. */
    private static final double HALF_WIDTH_MM = 1.0;

    private static final double HALF_WIDTH_PX = 1.6;
    /** Where the comparison to either side is taken, in half widths. */
    private static final double FLANK = 2.2;

    private static final int LEAST_LENGTH_PX = 5;
    /** Mean contrast along the line against its own scatter. */
    private static final double CLEAR = 7;

    /** From here on a line is allowed for, though it hides nothing. */
    private static final double SUSPECTED = 3;

    /**
     * A line from a place in the picture outwards. Places are pixels of the projection.
     *
     * @param riseK how far it stands above what lies beside it; below 0 where it is the colder
     * @param clear whether it is so plain that what lies under it is not looked at
     */
    public record Wire(double xPx, double yPx, double dx, double dy, double halfWidthPx, double riseK, boolean clear) {
        /** How much of a pixel's light is the line's, 0 to 1, as the lens blurs it. */
        float share(double x, double y) {
            double along = (x - xPx) * dx + (y - yPx) * dy;
            double across = ((x - xPx) * dy - (y - yPx) * dx) / (0.7 * halfWidthPx);
            return along < -halfWidthPx ? 0 : (float) Math.exp(-across * across / 2);
        }

        public boolean hides(double x, double y) {
            double along = (x - xPx) * dx + (y - yPx) * dy;
            double across = Math.abs((x - xPx) * dy - (y - yPx) * dx);
            return clear && along > -halfWidthPx && across <= halfWidthPx;
        }
    }

    private final Projection movie;
    private final float[] trend;

    public WireFinder(Projection movie) {
        this.movie = movie;
        int k = movie.components();
        trend = new float[movie.width() * movie.height()];
        // The last component is the steady trend, in which whatever is fed warms.
        for (int p = 0; p < trend.length; p++) {
            trend[p] = movie.values()[p * k + k - 1];
        }
    }

    public Optional<Wire> from(double xPx, double yPx, double pitchMm) {
        double half = Math.max(HALF_WIDTH_PX, HALF_WIDTH_MM / pitchMm);
        Optional<Wire> best = Optional.empty();
        double bestScore = SUSPECTED;
        for (int d = 0; d < DIRECTIONS; d++) {
            double angle = 2 * Math.PI * d / DIRECTIONS;
            double dx = Math.cos(angle);
            double dy = Math.sin(angle);
            Contrast warmer = new Contrast();
            Contrast colder = new Contrast();
            double flank = FLANK * half;
            for (double along = 2 * half; inside(xPx + along * dx, yPx + along * dy); along += 1) {
                double x = xPx + along * dx;
                double y = yPx + along * dy;
                double own = at(x, y);
                double left = at(x - flank * dy, y + flank * dx);
                double right = at(x + flank * dy, y - flank * dx);
                warmer.add(own - Math.max(left, right));
                colder.add(Math.min(left, right) - own);
            }
            for (Contrast contrast : List.of(warmer, colder)) {
                double score = contrast.score(movie.noiseK());
                if (score > bestScore) {
                    bestScore = score;
                    boolean clear = score > CLEAR && contrast.mean() > 2 * movie.noiseK();
                    double riseK = contrast == warmer ? contrast.mean() : -contrast.mean();
                    best = Optional.of(new Wire(xPx, yPx, dx, dy, half, riseK, clear));
                }
            }
        }
        return best;
    }

    /** How a line stands out from what lies to either side of it, along its length. */
    private static final class Contrast {
        private double sum;
        private double square;
        private int n;

        void add(double kelvin) {
            sum += kelvin;
            square += kelvin * kelvin;
            n++;
        }

        double mean() {
            return sum / n;
        }

        /** Its mean in units of what chance leaves it; 0 for a line too short to tell. */
        double score(double noiseK) {
            if (n < LEAST_LENGTH_PX) {
                return 0;
            }
            return mean() / (Math.sqrt(Math.max(0, square / n - mean() * mean()) / n) + noiseK / Math.sqrt(n));
        }
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
