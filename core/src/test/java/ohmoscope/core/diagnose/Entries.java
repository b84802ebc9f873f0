package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation;

/** Typed lines as evidence, and all that a rule looks at. */
final class Entries {
    private Entries() {}

    static List<Observation> of(Board board, String... lines) {
        return Typed.entries(board, lines);
    }

    /** A job at which no rule has looked yet. */
    static Situation situation(Board plain, Schools schools, String... lines) {
        BoardIndex board = new BoardIndex(plain);
        PowerTree tree = PowerTree.of(board);
        Twin twin = new Twin(board);
        Timeline timeline = Timeline.of(board, tree, of(plain, lines));
        RailBook book = new RailBook(timeline, twin);
        Optional<Mending> mending = Mending.of(timeline, book);
        Predictor predictor = new Predictor(board, twin);
        Diagnosis diagnosis = new Diagnosis(
                Suspicions.of(board, tree),
                new Likelihood(timeline.lastOfEach(), new NetUses(board, tree), predictor, Measured.open(book)),
                new Context(timeline, book, ""));
        return new Situation(
                timeline,
                book,
                diagnosis,
                new Experiments(timeline, book, predictor, diagnosis, board.ground()),
                Findings.of(timeline, book, diagnosis),
                Stops.of(timeline, book, mending, schools.leadRatedAmps()),
                mending,
                Optional.empty(),
                schools,
                List.of(),
                new Plan(timeline));
    }
}
