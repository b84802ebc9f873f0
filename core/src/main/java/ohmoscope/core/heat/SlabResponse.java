package ohmoscope.core.heat;

/**
 * Temperature rise of a board's face after a point source begins to release heat on one face
 * (physics as in docs/physics.md, section "Slab"; Carslaw and Jaeger, Conduction of Heat in Solids, 2nd ed., §§10.3, 14.2).
 *
 * <p>The impulse response at distance r and delay s is e^(−s/τ)·Θ(s)·g(r,s)/C with the plane Gaussian g and the
 * through-board factor Θ, which differs between the near and the far face and is that of {@link Sheets}: a few of them,
 * where nothing else is said.
 */
public final class SlabResponse {
    private SlabResponse() {}

    /**
     * Impulse response, kelvin per joule.
     *
     * @param spreadMm2 σ² of the source's footprint and the camera's blur together, mm²
     */
    public static double impulse(SlabParameters slab, boolean near, double rMm, double delayS, double spreadMm2) {
        double width = 4 * slab.diffusivityMm2PerS() * delayS + 2 * spreadMm2;
        return overTime(slab, Sheets.FEW, near, delayS) * Math.exp(-rMm * rMm / width) / (Math.PI * width);
    }

    /** The part of the impulse response that does not depend on the distance, kelvin·mm² per joule. */
    static double overTime(SlabParameters slab, Sheets sheets, boolean near, double delayS) {
        double crossings = delayS / slab.crossS();
        double theta = near ? sheets.near(crossings) : sheets.far(crossings);
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
