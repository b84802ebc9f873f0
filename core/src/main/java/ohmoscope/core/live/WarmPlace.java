package ohmoscope.core.live;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.ProbePlace;

/**
 * What stands where it begins to warm.
 *
 * @param ref the part; empty where none is near
 */
public record WarmPlace(What what, Optional<String> ref, double xMm, double yMm) {
    private static final double LEAD_MM = 2.5;

    /** Who warms. */
    public enum What {
        /** A part of the rail, on either side. */
        SUSPECT,
        /** Where a lead touches. */
        LEAD,
        /** Something else. */
        OTHER
    }

    /**
     * @param side what the camera sees
     * @param nets the rail's, with those on the way from the feed
     * @param leads where they touch
     * @param slackMm how far the picture may lie off the board
     */
    public static WarmPlace of(
            Board board, Side side, Set<String> nets, List<ProbePlace> leads, double xMm, double yMm, double slackMm) {
        List<Part> suspects = board.parts().stream()
                .filter(p -> p.pins().stream().anyMatch(pin -> nets.contains(pin.net())))
                .toList();
        Optional<Part> suspect = nearest(suspects, side, xMm, yMm, slackMm);
        double lead = leads.stream()
                .filter(l -> l.side() == side)
                .mapToDouble(l -> Math.hypot(l.xMm() - xMm, l.yMm() - yMm))
                .min()
                .orElse(Double.POSITIVE_INFINITY);
        if (lead < LEAD_MM
                && suspect.map(p -> BodyGap.mm(p, xMm, yMm) > 0 || lead < 1).orElse(true)) {
            return new WarmPlace(What.LEAD, Optional.empty(), xMm, yMm);
        }
        return suspect.map(p -> new WarmPlace(What.SUSPECT, Optional.of(p.ref()), xMm, yMm))
                .orElseGet(() -> new WarmPlace(
                        What.OTHER,
                        nearest(board.parts(), side, xMm, yMm, slackMm).map(Part::ref),
                        xMm,
                        yMm));
    }

    /** This side's before the other's, at the same distance. */
    private static Optional<Part> nearest(List<Part> parts, Side side, double x, double y, double slackMm) {
        return parts.stream()
                .filter(p -> BodyGap.mm(p, x, y) <= slackMm)
                .min(Comparator.<Part>comparingDouble(p -> BodyGap.mm(p, x, y) + (p.side() == side ? 0 : slackMm / 2))
                        .thenComparing(Part::ref));
    }
}
