package ohmoscope.core.locate;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.Judgement.FreeSource;
import ohmoscope.core.locate.MovieFit.Nuisance;
import ohmoscope.core.locate.MovieFit.Score;

/**
 * Where the heat starts, whatever stands there. How much it explains there is weighed as every suspect is; the place
 * itself is that of a model with a sharp core.
 */
final class SourceSearch {
    /** Heat that no candidate explains is sought at places so far apart: it has spread by then. */
    private static final double GRID_MM = 5;

    /** Pixels for that: a place so far off need not be told from its neighbours. */
    private static final int GRID_PIXELS = 900;

    private static final double GRID_FOOTPRINT_MM2 = 1;
    private static final double GRID_LAG_S = 0.2;
    /** So much more must such a place explain than the best candidate. */
    private static final double CLEARLY_NATS = 25;

    private static final double WIDEST_STEP_MM = 0.8;
    private static final double FINE_STEP_MM = 0.1;
    private static final double LEAST_STEP_MM = 0.02;

    private final List<CaptureModel> coarse;
    private final List<CaptureModel> fine;
    private final List<Nuisance> nuisances;
    private final WattsPrior expected;
    private final Map<Side, ModelRefiner.Refined> refined;

    /**
     * @param coarse the captures, binned
     * @param fine the same on all their pixels
     * @param refined how each side's model came out
     */
    SourceSearch(
            List<CaptureModel> coarse,
            List<CaptureModel> fine,
            List<Nuisance> nuisances,
            WattsPrior expected,
            Map<Side, ModelRefiner.Refined> refined) {
        this.coarse = coarse;
        this.fine = fine;
        this.nuisances = nuisances;
        this.expected = expected;
        this.refined = refined;
    }

    /** Where on either face a source explains clearly more than {@code top} nats, what the best candidate does. */
    Optional<HeatSource> elsewhere(Outline outline, Side leading, double top) {
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
        List<CaptureModel> few = fine.stream().map(m -> m.binned(GRID_PIXELS)).toList();
        List<Score> scores = new SidedFit(few, nuisances, expected, refined, leading).scores(grid);
        return IntStream.range(0, grid.size())
                .boxed()
                .max(Comparator.comparingDouble(i -> scores.get(i).logLikelihood()))
                .filter(i -> scores.get(i).logLikelihood() > top + CLEARLY_NATS)
                .map(grid::get);
    }

    /**
     * The best place near a source, on its side.
     *
     * @param onCoarse the fit by which suspects are weighed
     * @param onFine the same on all pixels
     */
    FreeSource near(HeatSource source, SidedFit onCoarse, SidedFit onFine) {
        PlaceSearch.Top blunt = new PlaceSearch(onCoarse::score).climbed(source, WIDEST_STEP_MM, FINE_STEP_MM);
        PlaceSearch.Top sharp = sharply(coarse, source.side()).climbed(blunt.source(), WIDEST_STEP_MM, FINE_STEP_MM);
        PlaceSearch search = sharply(fine, source.side());
        PlaceSearch.Top top = search.climbed(sharp.source(), FINE_STEP_MM, LEAST_STEP_MM);
        return new FreeSource(top.source(), onFine.score(blunt.source()).logLikelihood(), search.covariance(top));
    }

    private PlaceSearch sharply(List<CaptureModel> captures, Side side) {
        return new PlaceSearch(new MovieFit(
                captures, nuisances, expected, refined.get(side).model().sharp())::score);
    }
}
