package ohmoscope.web.job;

import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.diagnose.LookFirst;
import ohmoscope.core.diagnose.LookTour;

/** A job's look tour, and what a page says of it. */
public final class Tours {
    private Tours() {}

    /** Why the tour comes before the next measurement. @param places that are worth a look first */
    public record First(long places, String why) {}

    public static LookTour of(OpenJobs.Open open) {
        BoardIndex board = new BoardIndex(open.job().board());
        return LookTour.of(
                board,
                open.tree(),
                open.job().bundle().rail(),
                open.advice().hypotheses(),
                open.advice().now().absent(),
                open.job().bundle().observations(),
                LookFirst.of(
                        board,
                        open.tree(),
                        open.job().hazards(),
                        open.job().account(),
                        open.advice(),
                        open.job().bundle().observations()));
    }

    /** Empty when nothing asks for a look first, or all that it asks for was looked at. */
    public static Optional<First> line(LookTour tour) {
        return tour.first().filter(f -> tour.pressing() > 0).map(f -> new First(tour.pressing(), why(f)));
    }

    private static String why(LookFirst first) {
        return switch (first.because()) {
            case LIQUID ->
                "It met a liquid: what corrodes is seen before it can be measured, and spreads until it is cleaned.";
            case MISSING_RAIL ->
                first.rail().orElse("A rail")
                        + " is missing: what makes it and passes it on is looked at in a minute, and may be cracked or gone.";
            case NO_START_AT_FULL_VOLTS ->
                "It has all the volts it asked for and does not start: a cracked or missing small part in a chip's supply is seen sooner than measured.";
        };
    }
}
