package ohmoscope.web.job;

import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.diagnose.LookFirst;
import ohmoscope.core.diagnose.LookTour;
import ohmoscope.formats.Texts;

/** A job's look tour, and what a page says of it. */
public final class Tours {
    private Tours() {}

    /** Why the tour comes before the next measurement. @param places that are worth a look first */
    public record First(long places, String why) {}

    public static LookTour of(OpenJobs.Open open) {
        BoardIndex board = new BoardIndex(open.job().board());
        return of(open, board, first(open, board));
    }

    private static Optional<LookFirst> first(OpenJobs.Open open, BoardIndex board) {
        return LookFirst.of(
                board,
                open.tree(),
                open.job().hazards(),
                open.job().account(),
                open.advice(),
                open.job().bundle().observations());
    }

    private static LookTour of(OpenJobs.Open open, BoardIndex board, Optional<LookFirst> first) {
        return LookTour.of(
                board,
                open.tree(),
                open.job().bundle().rail(),
                open.advice().hypotheses(),
                open.advice().now().absent(),
                open.job().bundle().observations(),
                first);
    }

    /** The same as {@link #line(LookTour)} of the job's tour, which is walked only where something asks for it. */
    public static Optional<First> line(OpenJobs.Open open) {
        BoardIndex board = new BoardIndex(open.job().board());
        Optional<LookFirst> first = first(open, board);
        return first.isEmpty() ? Optional.empty() : line(of(open, board, first));
    }

    /** Empty when nothing asks for a look first, or all that it asks for was looked at. */
    public static Optional<First> line(LookTour tour) {
        return tour.first().filter(f -> tour.pressing() > 0).map(f -> new First(tour.pressing(), why(f)));
    }

    private static String why(LookFirst first) {
        return Texts.of("tour", first.because(), first.rail().orElse(""));
    }
}
