package ohmoscope.core.layout;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;

/** A board from what its files say. */
public final class Layouts {
    private Layouts() {}

    /** A board with all that is to be known of how it was worked out. */
    public record Laid(Board board, List<Note> notes, List<FileRead> files, List<Disagreement> disagreements) {
        public Laid {
            notes = List.copyOf(notes);
            files = List.copyOf(files);
            disagreements = List.copyOf(disagreements);
        }

        /** A board that somebody wrote: nothing of it was worked out. */
        public Laid(Board board) {
            this(board, List.of(), List.of(), List.of());
        }

        /** The same under another name. */
        public Laid called(String name, String revision) {
            return new Laid(board.called(name, revision), notes, files, disagreements);
        }
    }

    /** Millimetres a unit that a file may be in. */
    public static List<Double> scales() {
        return Axes.SCALES;
    }

    /**
     * Joins the drafts by reference and fills in what can be worked out. O(pads) but for the search of each further
     * draft's axes, which is O(parts).
     *
     * @param drafts at least one
     * @throws InvalidMember where no part has a place
     */
    public static Laid board(List<Draft> drafts) {
        return board(drafts, Choices.NONE);
    }

    /** The same, with what somebody decided where they disagree. */
    public static Laid board(List<Draft> drafts, Choices choices) {
        List<Note> notes = new ArrayList<>();
        Joining joining = Joining.of(drafts, notes, choices);
        Board board = new Completion(joining.whole(), notes).board();
        return new Laid(board, notes, joining.files(), joining.disagreements());
    }
}
