package ohmoscope.core.locate.fit;

import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.MovieFit.Solved;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;

/**
 * The movie explained twice: by a source on the top under the heat model that suits such a source best, and by one on
 * the bottom under its own. A model shaped round a source on the wrong side would speak for that side. Scores are
 * comparable: what each model costs against its prior is counted.
 */
public final class SidedFit {
    private final Map<Side, MovieFit> fits = new EnumMap<>(Side.class);
    private final Map<Side, Double> offsets = new EnumMap<>(Side.class);

    /**
     * @param models how each side's model came out; both sides are there
     * @param leading the side whose model the nuisances alone are measured by
     */
    public SidedFit(
            List<CaptureModel> captures,
            List<Nuisance> nuisances,
            WattsPrior expected,
            Map<Side, ModelRefiner.Refined> models,
            Side leading) {
        Map<HeatModel, MovieFit> made = new HashMap<>();
        for (Side side : Side.values()) {
            fits.put(
                    side,
                    made.computeIfAbsent(
                            models.get(side).model(), m -> new MovieFit(captures, nuisances, expected, m)));
        }
        double reference =
                fits.get(leading).aloneGain() / 2 - models.get(leading).penalty();
        for (Side side : Side.values()) {
            offsets.put(side, fits.get(side).aloneGain() / 2 - models.get(side).penalty() - reference);
        }
    }

    /** One side's fit with a sharp core, whose scores only compare places on that side. */
    public MovieFit sharp(Side side) {
        return fits.get(side).sharp();
    }

    /** Twice the log-likelihood that the nuisances alone gain over nothing, under one side's model. */
    public double aloneGain(Side side) {
        return fits.get(side).aloneGain();
    }

    public Score score(HeatSource source) {
        return levelled(source.side(), fits.get(source.side()).score(source));
    }

    /** The same for many, one a source, in their order. */
    public List<Score> scores(List<HeatSource> sources) {
        Score[] scores = new Score[sources.size()];
        Arrays.stream(Side.values()).parallel().forEach(side -> {
            int[] own = IntStream.range(0, scores.length)
                    .filter(i -> sources.get(i).side() == side)
                    .toArray();
            List<Score> found = fits.get(side)
                    .scores(Arrays.stream(own).mapToObj(sources::get).toList());
            for (int i = 0; i < own.length; i++) {
                scores[own[i]] = levelled(side, found.get(i));
            }
        });
        return List.of(scores);
    }

    private Score levelled(Side side, Score own) {
        return new Score(own.logLikelihood() + offsets.get(side), own.watts(), own.sigmaWatts());
    }

    public Solved solved(HeatSource source) {
        Solved own = fits.get(source.side()).solved(source);
        return new Solved(levelled(source.side(), own.score()), own.amplitudes(), own.bodyK());
    }
}
