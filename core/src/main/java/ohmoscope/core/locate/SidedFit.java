package ohmoscope.core.locate;

import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.MovieFit.Expected;
import ohmoscope.core.locate.MovieFit.Nuisance;
import ohmoscope.core.locate.MovieFit.Score;

/**
 * The movie explained twice: by a source on the top under the heat model that suits such a source best, and by one on
 * the bottom under its own. A model shaped round a source on the wrong side would speak for that side. Scores are
 * comparable: what each model costs against its prior is counted.
 */
final class SidedFit {
    private final Map<Side, MovieFit> fits = new EnumMap<>(Side.class);
    private final Map<Side, Double> offsets = new EnumMap<>(Side.class);

    /**
     * @param models how each side's model came out; both sides are there
     * @param leading the side whose model the nuisances alone are measured by
     */
    SidedFit(
            List<CaptureModel> captures,
            List<Nuisance> nuisances,
            Expected expected,
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

    Score score(HeatSource source) {
        Score own = fits.get(source.side()).score(source);
        return new Score(own.logLikelihood() + offsets.get(source.side()), own.watts(), own.snr());
    }

    OptionalDouble bodyK(HeatSource source) {
        return fits.get(source.side()).bodyK(source);
    }

    double[] amplitudes(HeatSource source) {
        return fits.get(source.side()).amplitudes(source);
    }
}
