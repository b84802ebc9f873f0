package ohmoscope.core.rework;

import ohmoscope.core.board.Check;

/**
 * Hot air from a round nozzle held upright over the board. The heat that it passes on, averaged over a disc, follows Martin
 * (Advances in Heat Transfer 13, 1977) for a single round nozzle; how it falls off along the board, and how much of the room's
 * air it has drawn in by then, are smooth curves through what Hollworth and Wilson (Journal of Heat Transfer 106, 1984) found.
 *
 * @param nozzleMm inner diameter
 * @param litresPerMin as cold air
 * @param airC where it leaves the nozzle
 * @param gain how much more heat this bench's air passes on than the literature says; 1 until it was learned
 */
public record Jet(double nozzleMm, double litresPerMin, double airC, double gain) {
    /** Diameters above the board at which it is held. */
    private static final double STANDOFF = 2;
    /** The literature's averages are over this many diameters' radius. */
    private static final double DISC = 2.5;
    /** Half of the heat's coefficient is left at so many diameters. */
    private static final double FALLS = 1.6;
    /** Half of the air is the room's at so many. */
    private static final double MIXED = 4;

    private static final double COLD_AIR_KG_PER_LITRE = 1.2e-3;
    private static final double PRANDTL = 0.7;
    /** Of air at the usual 350 °C: Pa·s and W/(m·K); both change by a tenth between 250 and 450 °C, against each other. */
    private static final double VISCOSITY = 3.1e-5;

    private static final double CONDUCTIVITY = 0.048;

    public Jet {
        Check.within("nozzle_mm", nozzleMm, 1, 40);
        Check.within("litres_per_min", litresPerMin, 2, 200);
        Check.within("air_c", airC, 50, 600);
        Check.within("gain", gain, 0.2, 5);
    }

    /** Heat coefficient in the middle, W/(mm²·K). */
    public double middle() {
        double diameterM = nozzleMm * 1e-3;
        double kgPerS = litresPerMin / 60 * COLD_AIR_KG_PER_LITRE;
        double reynolds = 4 * kgPerS / (Math.PI * diameterM * VISCOSITY);
        double flow = 2 * Math.sqrt(reynolds) * Math.sqrt(1 + 0.005 * Math.pow(reynolds, 0.55));
        double shape = (1 - 1.1 / DISC) / (DISC * (1 + 0.1 * (STANDOFF - 6) / DISC));
        double nusselt = shape * flow * Math.pow(PRANDTL, 0.42);
        double average = nusselt * CONDUCTIVITY / diameterM * 1e-6;
        double disc2 = DISC * DISC / (FALLS * FALLS);
        return gain * average * disc2 / Math.log1p(disc2);
    }

    /** The coefficient at a distance from the middle, relative to that there. */
    public double fallen(double rMm) {
        double r = rMm / (FALLS * nozzleMm);
        return 1 / (1 + r * r);
    }

    /** Which share of the air's excess over the room is left there. */
    public double unmixed(double rMm) {
        double r = rMm / (MIXED * nozzleMm);
        return 1 / (1 + r * r);
    }

    /** The same nozzle at another setting. */
    Jet at(double otherC) {
        return new Jet(nozzleMm, litresPerMin, otherC, gain);
    }
}
