package ohmoscope.core.parts;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;

/**
 * A place on another board whose part would do.
 *
 * @param board what that board is called
 * @param close how many parts stand within two millimetres of it
 * @param underCan whether a can has to come off first
 * @param besideSensitive whether what must not be overheated stands near
 */
public record Donor(
        String board, String ref, Side side, WantedPart.Fit fit, int close, boolean underCan, boolean besideSensitive) {
    private static final double CLOSE_MM = 2;
    private static final double NEAR_MM = 6;
    private static final int MOST_OF_A_BOARD = 3;

    /** A board that may be taken from. */
    public record From(String name, Board board) {}

    /** The easiest to lift first, the same before what stands in; at most three of a board. O(parts squared) a board. */
    public static List<Donor> of(WantedPart wanted, List<From> boards) {
        List<Donor> all = new ArrayList<>();
        for (From from : boards) {
            List<Part> placed =
                    from.board().parts().stream().filter(from.board()::placed).toList();
            placed.stream()
                    .filter(p -> wanted.fit(p) != WantedPart.Fit.NO)
                    .map(p -> at(from.name(), placed, p, wanted.fit(p)))
                    .sorted(Comparator.comparingInt(Donor::effort))
                    .limit(MOST_OF_A_BOARD)
                    .forEach(all::add);
        }
        all.sort(Comparator.comparing(Donor::fit)
                .thenComparingInt(Donor::effort)
                .thenComparing(Donor::board)
                .thenComparing(Donor::ref));
        return all;
    }

    private static Donor at(String board, List<Part> placed, Part part, WantedPart.Fit fit) {
        List<Part> others = placed.stream()
                .filter(p -> p.side() == part.side() && !p.ref().equals(part.ref()))
                .toList();
        int close = (int) others.stream()
                .filter(p -> p.kind() != PartKind.SHIELD && p.besideMm(part.xMm(), part.yMm()) < CLOSE_MM)
                .count();
        boolean can = others.stream().anyMatch(p -> p.kind() == PartKind.SHIELD && p.covers(part.xMm(), part.yMm(), 0));
        boolean sensitive =
                others.stream().anyMatch(p -> p.sensitive() && p.besideMm(part.xMm(), part.yMm()) < NEAR_MM);
        return new Donor(board, part.ref(), part.side(), fit, close, can, sensitive);
    }

    private int effort() {
        return close + (underCan ? 6 : 0) + (besideSensitive ? 4 : 0);
    }
}
