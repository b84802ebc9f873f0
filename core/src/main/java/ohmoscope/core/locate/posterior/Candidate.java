package ohmoscope.core.locate.posterior;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.locate.model.HeatSource;

/**
 * A part that could be the fault, before the frames are looked at.
 *
 * @param prior relative weight, above 0
 */
public record Candidate(Part part, double prior) {
    /** Bodies up to this size warm as a whole; in larger ones the heat starts at some spot of the die. */
    public static final double WHOLE_MM = 2.6;

    private static final double SPOT_STEP_MM = 1.6;
    private static final double SPOT_FOOTPRINT_MM2 = 0.5;
    /** Share of the half body in which a die's hot spot may lie. */
    public static final double DIE_SHARE = 0.78;

    /** Beyond this a body's contact grows as its heat does, and its lag no longer. */
    private static final double WIDEST_MM2 = 80;

    private static final double[] SPREAD_SHARES = {0.15, 0.5, 1};
    private static final int MOST_STEPS = 6;

    /** A small part whose heat is slow to reach the board: so many times its lag, and so much wider, mm². */
    private static final double SLOW = 4;

    private static final double SLOW_FOOTPRINT_MM2 = 0.3;

    public Candidate weighed(double factor) {
        return new Candidate(part, factor * prior);
    }

    /** The places at which its heat may start. */
    public List<HeatSource> spots() {
        int across = steps(part.wMm());
        int along = steps(part.hMm());
        double angle = Math.toRadians(part.rotDeg());
        List<HeatSource> spots = new ArrayList<>();
        for (int i = 0; i < across; i++) {
            for (int j = 0; j < along; j++) {
                double u = offset(i, across, part.wMm());
                double v = offset(j, along, part.hMm());
                spots.add(new HeatSource(
                        part.xMm() + u * Math.cos(angle) - v * Math.sin(angle),
                        part.yMm() + u * Math.sin(angle) + v * Math.cos(angle),
                        part.side(),
                        footprintMm2(),
                        lagS(),
                        Optional.of(part)));
            }
        }
        if (across > 1 || along > 1) {
            // The package spreads what its die releases: the board may be fed over much of its footprint.
            for (double share : SPREAD_SHARES) {
                spots.add(new HeatSource(
                        part.xMm(),
                        part.yMm(),
                        part.side(),
                        share * (part.wMm() * part.wMm() + part.hMm() * part.hMm()) / 24,
                        2 * lagS(),
                        Optional.of(part)));
            }
        }
        return spots;
    }

    /** The same, and a small part that hands its heat on more slowly and more widely than its size says: solder and copper may. */
    public List<HeatSource> spotsAndSlow() {
        List<HeatSource> spots = spots();
        if (spots.size() == 1) {
            HeatSource quick = spots.get(0);
            spots.add(new HeatSource(
                    quick.xMm(),
                    quick.yMm(),
                    quick.side(),
                    quick.footprintMm2() + SLOW_FOOTPRINT_MM2,
                    SLOW * quick.lagS(),
                    quick.body()));
        }
        return spots;
    }

    private static int steps(double sizeMm) {
        return sizeMm <= WHOLE_MM ? 1 : Math.min(MOST_STEPS, 1 + (int) Math.ceil(DIE_SHARE * sizeMm / SPOT_STEP_MM));
    }

    private static double offset(int i, int steps, double sizeMm) {
        return steps == 1 ? 0 : DIE_SHARE * sizeMm * (i / (steps - 1.0) - 0.5);
    }

    /**
     * How far from one of its spots its heat may be found.
     *
     * @param sigmaMm of what moves the picture
     */
    public PositionPrior positionPrior(HeatSource spot, double sigmaMm) {
        int across = steps(part.wMm());
        int along = steps(part.hMm());
        return new PositionPrior(
                spot,
                part.xMm(),
                part.yMm(),
                offset(across - 1, across, part.wMm()),
                offset(along - 1, along, part.hMm()),
                Math.toRadians(part.rotDeg()),
                sigmaMm,
                Math.hypot(sigmaMm, SPOT_STEP_MM / 2));
    }

    /** σ² of the heat source, mm². */
    private double footprintMm2() {
        double w = part.wMm();
        double h = part.hMm();
        return Math.min(SPOT_FOOTPRINT_MM2, (w * w + h * h) / 24 * 0.6);
    }

    /** Time from power in the part to heat in the board, seconds. */
    private double lagS() {
        double area = Math.min(part.wMm() * part.hMm(), WIDEST_MM2);
        return 0.08 + 0.012 * area * part.heightMm().orElse(0.8);
    }
}
