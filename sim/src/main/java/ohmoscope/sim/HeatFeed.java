package ohmoscope.sim;

import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.ProbePlace;

/**
 * Where the injected current leaves heat on a board.
 *
 * @param faults ohms to ground by part reference; none when the leads sit on ground
 * @param contactOhms of both leads on their pads, most of it under the hot one
 */
record HeatFeed(
        Board board,
        ProbePlace hot,
        ProbePlace back,
        Rail rail,
        Map<String, Double> faults,
        double contactOhms,
        long seed) {
    static final double CONTACT_OHMS = 0.006;
    private static final double BACK_OHMS = 0.3 * CONTACT_OHMS;
    static final double UNEVEN_COPPER = 0.25;
    /** How fast a lead of one ohm warms. */
    static final double WIRE_K_PER_W = 1.64;

    static final double WIRE_SECONDS = 14;
    private static final double DIE_FROM_MM2 = 12;
    /** Cells of the heat model, at most, in one layer. */
    private static final double MOST_CELLS = 16_000;

    HeatFeed {
        faults = Map.copyOf(faults);
    }

    /** Side of a cell of the heat model. */
    static double cellMm(Board board) {
        Outline o = board.outline();
        return Math.max(0.4, Math.sqrt((o.maxXMm() - o.minXMm()) * (o.maxYMm() - o.minYMm()) / MOST_CELLS));
    }

    /** A part's pad on a net; its first where it has none there. */
    static ProbePlace pad(Board board, String ref, String net) {
        Part part = board.part(ref).orElseThrow();
        Pin pin = part.pins().stream()
                .filter(p -> p.net().equals(net))
                .findFirst()
                .orElse(part.pins().get(0));
        return new ProbePlace(pin.xMm(), pin.yMm(), part.side(), Optional.of(part.ref()));
    }

    /** A corner away from the hot lead. */
    static ProbePlace returnPad(Board board, ProbePlace hot) {
        Outline o = board.outline();
        boolean leftFeed = hot.xMm() < (o.minXMm() + o.maxXMm()) / 2;
        return new ProbePlace(
                leftFeed ? o.maxXMm() - 2.5 : o.minXMm() + 2.5, o.minYMm() + 2.5, hot.side(), Optional.empty());
    }

    /** The faults side by side, ohms; 0 for none. */
    double shorted() {
        double siemens = faults.values().stream().mapToDouble(r -> 1 / r).sum();
        return siemens > 0 ? 1 / siemens : 0;
    }

    /** What so many amperes leave from now on, besides what is there. */
    void into(HeatSolver heat, double amps) {
        double amps2 = amps * amps;
        heat.heatPlace(hot.xMm(), hot.yMm(), hot.side(), amps2 * (contactOhms - BACK_OHMS));
        heat.heatPlace(back.xMm(), back.yMm(), back.side(), amps2 * BACK_OHMS);
        if (faults.isEmpty()) {
            return;
        }
        for (Part part : rail.path()) {
            heat.heatPart(part.ref(), amps2 * part.resistanceOhms().orElse(0));
        }
        double volts = amps * shorted();
        for (var fault : new TreeMap<>(faults).entrySet()) {
            Part part = board.part(fault.getKey()).orElseThrow();
            double watts = volts * volts / fault.getValue();
            if (hasDie(part)) {
                PointMm spot = dieSpot(part);
                heat.heatPlace(spot.xMm(), spot.yMm(), part.side(), 0.7 * watts);
                heat.heatPart(fault.getKey(), 0.3 * watts);
            } else {
                heat.heatPart(fault.getKey(), watts);
            }
        }
    }

    static boolean hasDie(Part part) {
        return part.wMm() * part.hMm() > DIE_FROM_MM2;
    }

    /** A die's hot spot: off the package's centre, straight into the board. */
    PointMm dieSpot(Part part) {
        Random die = new Random(seed + 99);
        return new PointMm(
                part.xMm() + 0.25 * part.wMm() * (die.nextDouble() - 0.5),
                part.yMm() + 0.25 * part.hMm() * (die.nextDouble() - 0.5));
    }
}
