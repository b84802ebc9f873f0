package ohmoscope.core.imaging;

import java.util.Arrays;
import java.util.Optional;
import ohmoscope.core.board.Check;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * Pictures taken while the power goes on and off, each pixel's swing and how late it is: what is heated itself follows at
 * once, what heat has to travel to follows later and less. Running sums of four regressors a pixel (level, drift, sine and
 * cosine of the pulses' phase), so that a frame costs O(pixels) and nothing of it is kept; the four by four system is one for
 * all pixels. After O. Breitenstein, W. Warta, M. C. Schubert, Lock-in Thermography, ch. 2, with the phase taken from the
 * switching that happened instead of a clock. Not for several threads.
 */
public final class LockIn {
    private static final int TERMS = 4;
    private static final int LEAST_FRAMES = 12;
    /** A swing of less than so many standard deviations of the picture's own has no lag. */
    private static final double CLEAR = 4;

    private final int pixels;
    private final double halfS;
    private final DMatrixRMaj normal = new DMatrixRMaj(TERMS, TERMS);
    private final float[][] sums;
    private double firstS = Double.NaN;
    private double switchedS = Double.NaN;
    private boolean on;
    private int pulses;
    private int frames;

    /**
     * @param swingK how far each pixel swings, half of peak to peak of the pulses' first harmonic
     * @param lagS how much later than the promptest pixel that is clear; NaN where the swing is lost in the picture's unrest
     * @param unrestK one standard deviation of what swings without being heated
     */
    public record Picture(float[] swingK, float[] lagS, double unrestK) {
        /** The pixel that swings most. */
        public int strongest() {
            return LockIn.strongest(swingK);
        }

        /** How far it stands out, standard deviations. */
        public double standsOut() {
            return swingK[strongest()] / unrestK;
        }
    }

    /** @param halfS how long the power is on, and then off, seconds */
    public LockIn(int pixels, double halfS) {
        this.pixels = pixels;
        this.halfS = Check.positive("half_s", halfS);
        this.sums = new float[TERMS][pixels];
    }

    /** The power was switched. @param tS on the frames' clock */
    public void switched(boolean nowOn, double tS) {
        pulses += nowOn ? 1 : 0;
        on = nowOn;
        switchedS = tS;
    }

    /** How many pulses have begun. */
    public int pulses() {
        return pulses;
    }

    /** Takes a frame; before the first pulse it says nothing. @param risesK kelvin above the cold picture */
    public void add(float[] risesK, double tS) {
        if (Double.isNaN(switchedS) || risesK.length != pixels || tS < switchedS) {
            return;
        }
        if (Double.isNaN(firstS)) {
            firstS = tS;
        }
        double into = Math.min(1, (tS - switchedS) / halfS);
        double phase = Math.PI * (on ? into : 1 + into);
        double[] terms = {1, (tS - firstS) / halfS, Math.sin(phase), Math.cos(phase)};
        for (int a = 0; a < TERMS; a++) {
            for (int b = 0; b < TERMS; b++) {
                normal.add(a, b, terms[a] * terms[b]);
            }
            weigh(sums[a], risesK, (float) terms[a]);
        }
        frames++;
    }

    private static void weigh(float[] sum, float[] values, float term) {
        for (int i = 0; i < sum.length; i++) {
            sum[i] += term * values[i];
        }
    }

    /** Empty before two pulses were seen. */
    public Optional<Picture> picture() {
        Optional<DMatrixRMaj> inverse = frames < LEAST_FRAMES || pulses < 2 ? Optional.empty() : inverse();
        if (inverse.isEmpty()) {
            return Optional.empty();
        }
        float[] sine = solved(inverse.get(), 2);
        float[] cosine = solved(inverse.get(), 3);
        float[] swing = new float[pixels];
        for (int i = 0; i < pixels; i++) {
            swing[i] = (float) Math.hypot(sine[i], cosine[i]);
        }
        double unrest = unrest(swing);
        return Optional.of(new Picture(swing, lag(sine, cosine, swing, unrest), unrest));
    }

    private float[] solved(DMatrixRMaj inverse, int term) {
        float[] out = new float[pixels];
        for (int a = 0; a < TERMS; a++) {
            weigh(out, sums[a], (float) inverse.get(term, a));
        }
        return out;
    }

    /** Most of a board is not heated: of a Rayleigh distribution the median is 1.18 of its sigma. */
    private static double unrest(float[] swing) {
        float[] sorted = swing.clone();
        Arrays.sort(sorted);
        return Math.max(1e-6, sorted[sorted.length / 2] / 1.1774);
    }

    private static int strongest(float[] swing) {
        int most = 0;
        for (int i = 1; i < swing.length; i++) {
            most = swing[i] > swing[most] ? i : most;
        }
        return most;
    }

    private float[] lag(float[] sine, float[] cosine, float[] swing, double unrest) {
        float[] lag = new float[pixels];
        int strongest = strongest(swing);
        // Against the strongest, so that no angle goes round; then from the promptest on.
        double c = sine[strongest];
        double s = cosine[strongest];
        float least = Float.POSITIVE_INFINITY;
        for (int i = 0; i < pixels; i++) {
            lag[i] = Float.NaN;
            if (swing[i] > CLEAR * unrest) {
                // a·sin(x) + b·cos(x) is late by the angle of (a, −b).
                double late = Math.atan2(s * sine[i] - c * cosine[i], c * sine[i] + s * cosine[i]);
                lag[i] = (float) (late / Math.PI * halfS);
                least = Math.min(least, lag[i]);
            }
        }
        for (int i = 0; i < pixels; i++) {
            lag[i] -= least;
        }
        return lag;
    }

    /** Empty where the terms cannot be told apart yet. */
    private Optional<DMatrixRMaj> inverse() {
        DMatrixRMaj inverse = new DMatrixRMaj(TERMS, TERMS);
        return CommonOps_DDRM.invert(normal, inverse) ? Optional.of(inverse) : Optional.empty();
    }
}
