package ohmoscope.core.heat;

/**
 * Temperature rise of a board's face after a point source begins to release heat on one face
 * (physics as in docs/physics.md, section "Slab"; Carslaw and Jaeger, Conduction of Heat in Solids, 2nd ed., §§10.3, 14.2).
 *
 * <p>The impulse response at distance r and delay s is e^(−s/τ)·Θ(s)·g(r,s)/C with the plane Gaussian g and the
 * through-board factor Θ, which differs between the near and the far face. Copper lies in sheets: heat spreads along the
 * first one before it goes on. So Θ is that of a chain of {@link #SHEETS} sheets, each joined to the next by what lies
 * between; at first all heat is in one of them. A slab alike throughout, with its infinitely sharp core, is the limit of
 * many sheets.
 */
public final class SlabResponse {
    /** Heat pictures tell about so many sheets apart, whatever the number of foils. */
    static final int SHEETS = 3;

    /** By mode over the thickness, the even one left out: how much of it an outer sheet has. */
    private static final double[] SHARE = new double[SHEETS];

    /** How fast it dies away, per τ₁. */
    private static final double[] RATE = new double[SHEETS];

    static {
        for (int n = 1; n < SHEETS; n++) {
            double half = n * Math.PI / (2 * SHEETS);
            SHARE[n] = 2 * Math.pow(Math.cos(half), 2);
            RATE[n] = Math.pow(2 * SHEETS / Math.PI * Math.sin(half), 2);
        }
    }

    private SlabResponse() {}

    /** Θ on the face where the heat is released: as many times the mean as there are sheets at first, 1 in the end. */
    public static double nearFactor(double delayS, double crossS) {
        return factor(delayS / crossS, 1);
    }

    /** Θ on the other face; starts at zero, 1 for a delay long against τ₁. */
    public static double farFactor(double delayS, double crossS) {
        return factor(delayS / crossS, -1);
    }

    /** @param odd sign of the odd modes */
    private static double factor(double crossings, int odd) {
        double sum = 1;
        for (int n = 1; n < SHEETS; n++) {
            sum += (n % 2 == 0 ? 1 : odd) * SHARE[n] * Math.exp(-RATE[n] * crossings);
        }
        return sum;
    }

    /**
     * Impulse response, kelvin per joule.
     *
     * @param spreadMm2 σ² of the source's footprint and the camera's blur together, mm²
     */
    public static double impulse(SlabParameters slab, boolean near, double rMm, double delayS, double spreadMm2) {
        double width = 4 * slab.diffusivityMm2PerS() * delayS + 2 * spreadMm2;
        return overTime(slab, near, delayS) * Math.exp(-rMm * rMm / width) / (Math.PI * width);
    }

    /** The part of the impulse response that does not depend on the distance, kelvin·mm² per joule. */
    static double overTime(SlabParameters slab, boolean near, double delayS) {
        double theta = near ? nearFactor(delayS, slab.crossS()) : farFactor(delayS, slab.crossS());
        return Math.exp(-delayS / slab.lossS()) * theta / slab.jouleMm2PerK();
    }

    /** Rise after a watt has been on for {@code tS} seconds, kelvin, by Simpson's rule on a logarithmic grid. */
    public static double step(SlabParameters slab, boolean near, double rMm, double tS, double spreadMm2) {
        if (!(tS > 0)) {
            return 0;
        }
        int n = 400;
        double low = Math.log(Math.min(1e-6, tS * 1e-6));
        double h = (Math.log(tS) - low) / n;
        double sum = 0;
        for (int i = 0; i <= n; i++) {
            double s = Math.exp(low + i * h);
            double weight = i == 0 || i == n ? 1 : i % 2 == 1 ? 4 : 2;
            sum += weight * s * impulse(slab, near, rMm, s, spreadMm2);
        }
        return sum * h / 3;
    }
}
