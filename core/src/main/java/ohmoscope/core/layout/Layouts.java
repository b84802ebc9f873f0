package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;

/** A board from what its files say. */
public final class Layouts {
    private Layouts() {}

    /** A board with all that is to be known of how it was worked out. */
    public record Laid(Board board, List<Note> notes) {
        public Laid {
            notes = List.copyOf(notes);
        }
    }

    /**
     * Joins the drafts by reference and fills in what can be worked out. O(pads) but for the search of each further
     * draft's axes, which is O(parts).
     *
     * @param drafts at least one
     * @throws InvalidMember where no part has a place
     */
    public static Laid board(List<Draft> drafts) {
        List<Note> notes = new ArrayList<>();
        Draft joined = Joining.of(drafts, notes);
        Board board = new Completion(joined, notes).board();
        return new Laid(board, notes);
    }
}
