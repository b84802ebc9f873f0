package ohmoscope.core.heat;

import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;

/**
 * The board as a slab, alike everywhere along it.
 *
 * @param diffusivityMm2PerS in-plane diffusivity α, copper included
 * @param lossS τ, the time in which a warm board loses its heat to the air
 * @param crossS τ₁ = d²c/(π²k_z), the time in which heat crosses the board
 * @param jouleMm2PerK C = c·d per square millimetre: what warms 1 mm² of board by 1 K
 */
public record SlabParameters(double diffusivityMm2PerS, double lossS, double crossS, double jouleMm2PerK) {
    /** J/(m³·K), of glass epoxy with copper in it. */
    public static final double VOLUMETRIC_HEAT = 2.0e6;
    /** W/(m·K) through the board, vias included. */
    public static final double THROUGH_CONDUCTIVITY = 0.45;
    /** W/(m·K). */
    private static final double EPOXY_CONDUCTIVITY = 0.35;

    private static final double COPPER_CONDUCTIVITY = 390;
    /** Share of each copper layer's area that is copper. */
    private static final double COPPER_FILL = 0.55;
    /** W/(m·K) along a usual board of many layers: planes are fuller and thicker than a list of layers tells. */
    private static final double USUAL_CONDUCTIVITY = 30;
    /** W/(m²·K), both faces together, in still air. */
    public static final double LOSS = 20;

    public SlabParameters {
        Check.positive("diffusivity", diffusivityMm2PerS);
        Check.positive("loss_s", lossS);
        Check.positive("cross_s", crossS);
        Check.positive("heat", jouleMm2PerK);
    }

    /** What the board's thickness and copper lead one to expect: half-way, in logs, to what boards usually conduct. */
    public static SlabParameters expected(Board board) {
        double thicknessM = board.thicknessMm() * 1e-3;
        double copperM = Math.min(thicknessM / 2, board.copperLayers() * board.copperUm() * 1e-6 * COPPER_FILL);
        double listed = (EPOXY_CONDUCTIVITY * (thicknessM - copperM) + COPPER_CONDUCTIVITY * copperM) / thicknessM;
        double conductivity = Math.sqrt(listed * USUAL_CONDUCTIVITY);
        double perArea = VOLUMETRIC_HEAT * thicknessM;
        return new SlabParameters(
                conductivity / VOLUMETRIC_HEAT * 1e6,
                perArea / LOSS,
                thicknessM * thicknessM * VOLUMETRIC_HEAT / (Math.PI * Math.PI * THROUGH_CONDUCTIVITY),
                perArea * 1e-6);
    }

    public SlabParameters scaled(double diffusivityFactor, double crossFactor) {
        return new SlabParameters(diffusivityMm2PerS * diffusivityFactor, lossS, crossS * crossFactor, jouleMm2PerK);
    }
}
