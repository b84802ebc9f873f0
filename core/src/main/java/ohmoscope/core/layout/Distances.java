package ohmoscope.core.layout;

import java.util.Comparator;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;

/** How far parts stand from each other. */
public final class Distances {
    private Distances() {}

    /**
     * @param gapMm between the bodies, seen from above
     * @param centresMm between their centres
     * @param through whether the board lies between them
     */
    public record Distance(Part from, Part to, double gapMm, double centresMm, boolean through) {}

    public static Distance between(Part from, Part to) {
        return new Distance(
                from,
                to,
                BodyGap.mm(from, to),
                Math.hypot(from.xMm() - to.xMm(), from.yMm() - to.yMm()),
                from.side() != to.side());
    }

    /** @throws InvalidMember naming a part that the board does not have */
    public static Distance between(Board board, String from, String to) {
        return between(part(board, from), part(board, to));
    }

    /** The nearest parts, on both sides; O(parts). @throws InvalidMember when the board does not have the part */
    public static List<Distance> around(Board board, String from, int most) {
        Part centre = part(board, from);
        return board.parts().stream()
                .filter(p -> !p.ref().equals(from))
                .map(p -> between(centre, p))
                .sorted(Comparator.comparingDouble(Distance::gapMm).thenComparingDouble(Distance::centresMm))
                .limit(most)
                .toList();
    }

    private static Part part(Board board, String ref) {
        return board.part(ref)
                .orElseThrow(() -> new InvalidMember("part", "is " + ref + ", which this board does not have"));
    }
}
