package ohmoscope.core.locate.search;

import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.fit.ModelRefiner.Refined;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Judgement.Found;
import ohmoscope.core.locate.posterior.Judgement.FreeSource;
import ohmoscope.core.locate.posterior.Judgement.Spotted;

/**
 * Where a search ended: what it comes to, and what spares the same search with some more frames all seeking.
 *
 * @param begun how it began
 * @param models as they were weighed in the end
 * @param spotted each candidate's most likely spot
 * @param looked where each candidate explains the frames best, against nothing but the other heat
 * @param refined each side's heat model
 * @param nuisances other heat, where it was settled beside the leading candidate
 * @param alone the same without any source
 * @param free the best place, whatever stands there
 */
record Ended(
        Question question,
        Search.Begun begun,
        List<CaptureModel> models,
        Spotted[] spotted,
        Looked[] looked,
        Map<Side, Refined> refined,
        Side leading,
        List<Nuisance> nuisances,
        NuisancePlaces.Alone alone,
        SourceSearch.Reached free) {
    /** Pixels for the ranking of candidates. */
    static final int COARSE_PIXELS = 4500;

    /** Candidates this near the best on a coarser picture are scored on all pixels: nats, and share of the best. */
    private static final double CONTENDER_NATS = 12;

    private static final double CONTENDER_SHARE = 0.5;

    /** Where the best part explains no more than this over nothing, what shows no heat is weighed with care, nats. */
    private static final double IN_DOUBT_NATS = 25;

    Ended {
        refined = new EnumMap<>(refined);
    }

    /** Those that can still win, by number. */
    static int[] contenders(double[] logLikelihood) {
        double top = Arrays.stream(logLikelihood).max().orElse(0);
        double least = top - Math.max(CONTENDER_NATS, CONTENDER_SHARE * top);
        return IntStream.range(0, logLikelihood.length)
                .filter(i -> logLikelihood[i] > least)
                .toArray();
    }

    private HeatModel model() {
        return refined.get(leading).model();
    }

    /**
     * What it all comes to.
     *
     * @param fit of everything on all pixels
     * @param coarse the same on about {@link #COARSE_PIXELS}
     */
    LocateResult judged(SidedFit fit, SidedFit coarse) {
        Looked[] over = overNone();
        FreeSource place = free.free().less(alone.missedNats());
        return question.judgement()
                .of(new Found(
                        fit,
                        coarse,
                        model(),
                        nuisances,
                        spotted,
                        Arrays.stream(over).mapToDouble(Looked::logLikelihood).toArray(),
                        Arrays.stream(over).mapToDouble(Looked::placeNats).toArray(),
                        place));
    }

    /**
     * Each candidate against no source at all. One that shows no heat explains what none does: where nobody stands out it
     * is measured once more with the contacts where they lie best alone, as without a source, lest it pay for where the
     * leading one has pushed them.
     */
    private Looked[] overNone() {
        Looked[] over =
                Arrays.stream(looked).map(l -> l.less(alone.missedNats())).toArray(Looked[]::new);
        if (alone.missedNats() == 0 || clear()) {
            return over;
        }
        List<Score> scores = new SidedFit(binned(), alone.nuisances(), question.expected(), refined, leading)
                .scores(Arrays.stream(spotted).map(Spotted::source).toList());
        for (int i = 0; i < over.length; i++) {
            // No more than none does: what it explains beyond that would be the leads'.
            double nats = Math.min(0, scores.get(i).logLikelihood() - question.choiceNats(i));
            over[i] = nats > over[i].penalised() ? new Looked(spotted[i].source(), nats, 0, 0) : over[i];
        }
        return over;
    }

    /** Whether somebody stands out: one whose heat explains clearly more than none. */
    boolean clear() {
        double top = Arrays.stream(looked).mapToDouble(Looked::penalised).max().orElse(0);
        return top - alone.missedNats() > IN_DOUBT_NATS;
    }

    private List<CaptureModel> binned() {
        return Question.binned(models, COARSE_PIXELS);
    }

    /** Whether a search can go on from here: it is of the same captures, and somebody stands out. */
    boolean leadsTo(LocateInput now) {
        LocateInput had = question.input();
        return clear()
                && now.board().equals(had.board())
                && now.rail().equals(had.rail())
                && now.observations().equals(had.observations())
                && names(now).equals(names(had));
    }

    private static List<String> names(LocateInput input) {
        return input.captures().stream().map(c -> c.spec().id()).toList();
    }

    /**
     * The same with some more frames: those that can win are weighed where they were best, the leading side's heat model shaped
     * anew.
     *
     * @param now the question with those frames
     * @return empty where nobody stands out any more
     */
    Optional<LocateResult> weighed(Question now) {
        NuisancePlaces places = now.places();
        List<Nuisance> beside = places.at(nuisances);
        Map<Side, Refined> shaped = shaped(now, beside);
        SidedFit fit = new SidedFit(now.models(), beside, now.expected(), shaped, leading);
        Looked[] fresh = looked.clone();
        int[] at = contenders(
                Arrays.stream(looked).mapToDouble(Looked::logLikelihood).toArray());
        List<Score> scores =
                fit.scores(Arrays.stream(at).mapToObj(i -> looked[i].at()).toList());
        for (int i = 0; i < at.length; i++) {
            fresh[at[i]] = looked[at[i]].scored(scores.get(i));
        }
        double gain = fit.aloneGain(leading);
        NuisancePlaces.Alone without = places.aloneAt(
                places.at(alone.nuisances()),
                beside,
                gain,
                now.models(),
                shaped.get(leading).model());
        Ended end =
                new Ended(now, begun, now.models(), spotted, fresh, shaped, leading, beside, without, free.again(fit));
        SidedFit coarse = new SidedFit(end.binned(), beside, now.expected(), shaped, leading);
        return end.clear() ? Optional.of(end.judged(fit, coarse)) : Optional.empty();
    }

    /** The leading side's heat model shaped anew round the leading candidate. */
    private Map<Side, Refined> shaped(Question now, List<Nuisance> beside) {
        int best = IntStream.range(0, looked.length)
                .boxed()
                .max(Comparator.comparingDouble(i -> looked[i].penalised()))
                .orElseThrow();
        Map<Side, Refined> shaped = new EnumMap<>(refined);
        HeatSource source = spotted[best].source();
        shaped.computeIfPresent(
                source.side(),
                (side, was) -> now.shaped(Question.binned(now.models(), Search.FEW_PIXELS), beside, source, was));
        return shaped;
    }
}
