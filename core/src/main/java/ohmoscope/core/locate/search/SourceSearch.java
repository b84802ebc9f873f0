package ohmoscope.core.locate.search;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Judgement.FreeSource;

/**
 * Where the heat starts, whatever stands there. How much it explains is weighed as every suspect is; the place itself is
 * found with a sharp core.
 */
public final class SourceSearch {
    /** Pixels for heat that no candidate explains: a place so far off need not be told from its neighbours. */
    public static final int GRID_PIXELS = 900;

    /** It is sought at places so far apart: it has spread by then. */
    private static final double GRID_MM = 5;

    private static final double GRID_FOOTPRINT_MM2 = 1;
    private static final double GRID_LAG_S = 0.2;
    /** So much more must such a place explain than the best candidate. */
    private static final double CLEARLY_NATS = 25;

    /** The place by a sharp core lies no farther from the one by a blunt core: its deviations, and millimetres besides. */
    private static final double AGREEING_SIGMAS = 2.5;

    private static final double AGREEING_MM = 0.5;

    private static final double WIDEST_STEP_MM = 0.8;
    private static final double FINE_STEP_MM = 0.1;

    private final SidedFit onFew;
    private final SidedFit onCoarse;
    private final SidedFit onFine;

    /**
     * @param onFew the suspects' fit on about {@link #GRID_PIXELS} pixels
     * @param onCoarse the same on more
     * @param onFine the same on all
     */
    public SourceSearch(SidedFit onFew, SidedFit onCoarse, SidedFit onFine) {
        this.onFew = onFew;
        this.onCoarse = onCoarse;
        this.onFine = onFine;
    }

    /** Where on either face a source explains clearly more than {@code top} nats, what the best candidate does. */
    public Optional<HeatSource> elsewhere(Outline outline, double top) {
        Outline.Inside inside = outline.inside();
        List<HeatSource> grid = new ArrayList<>();
        for (Side side : Side.values()) {
            for (double x = outline.minXMm() + GRID_MM / 2; x < outline.maxXMm(); x += GRID_MM) {
                for (double y = outline.minYMm() + GRID_MM / 2; y < outline.maxYMm(); y += GRID_MM) {
                    if (inside.test(x, y)) {
                        grid.add(new HeatSource(x, y, side, GRID_FOOTPRINT_MM2, GRID_LAG_S));
                    }
                }
            }
        }
        List<Score> scores = onFew.scores(grid);
        return IntStream.range(0, grid.size())
                .boxed()
                .max(Comparator.comparingDouble(i -> scores.get(i).logLikelihood()))
                .filter(i -> scores.get(i).logLikelihood() > top + CLEARLY_NATS)
                .map(grid::get);
    }

    /**
     * The best place.
     *
     * @param blunt where a blunt core explains most: what it explains is measured there
     * @param sharp whether the place itself is a sharp core's
     */
    public record Reached(FreeSource free, HeatSource blunt, boolean sharp) {
        /** The same when the movie has got some more frames: settled anew where it was. @param fit on all pixels */
        Reached again(SidedFit fit) {
            PlaceSearch search = sharp ? new PlaceSearch(fit.sharp(blunt.side())::score) : new PlaceSearch(fit::score);
            return of(search.settled(free.source()), blunt, sharp, fit);
        }

        private static Reached of(PlaceSearch.Settled place, HeatSource blunt, boolean sharp, SidedFit fit) {
            double explained = fit.score(blunt).logLikelihood();
            return new Reached(new FreeSource(place.source(), explained, place.covariance()), blunt, sharp);
        }
    }

    /** The best place near a source, on its side; or behind it, where heat explains clearly more. */
    public Reached near(HeatSource source) {
        PlaceSearch search = new PlaceSearch(onCoarse::score);
        PlaceSearch.Top here = search.climbed(source, WIDEST_STEP_MM, FINE_STEP_MM);
        PlaceSearch.Top behind = search.climbed(source.on(source.side().opposite()), WIDEST_STEP_MM, FINE_STEP_MM);
        boolean through = behind.logLikelihood() > here.logLikelihood() + CLEARLY_NATS;
        HeatSource blunt = through ? behind.source() : here.source();
        PlaceSearch.Top sharp =
                new PlaceSearch(onCoarse.sharp(blunt.side())::score).climbed(blunt, WIDEST_STEP_MM, FINE_STEP_MM);
        PlaceSearch.Settled place = new PlaceSearch(onFine.sharp(blunt.side())::score).settled(sharp.source());
        // Where little is seen, or at the board's edge, a sharp core finds a pixel's noise.
        PlaceSearch.Settled about = search.settled(blunt);
        if (about.agrees(place, AGREEING_SIGMAS, AGREEING_MM)) {
            return Reached.of(place, blunt, true, onFine);
        }
        return Reached.of(new PlaceSearch(onFine::score).settled(about.source()), blunt, false, onFine);
    }
}
