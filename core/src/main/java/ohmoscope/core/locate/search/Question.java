package ohmoscope.core.locate.search;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.fit.ModelRefiner;
import ohmoscope.core.locate.fit.ModelRefiner.Refined;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Candidates;
import ohmoscope.core.locate.posterior.Judgement;
import ohmoscope.core.locate.posterior.KnownHeat;
import ohmoscope.core.locate.posterior.SecondOpinion;

/**
 * What a search is about: captures, who may be it, and what is known before anything is fitted.
 *
 * @param prepared one a capture
 * @param models of those captures that say something
 * @param stated heat that is always there, where the board says
 * @param expected watts of the source sought
 */
record Question(
        LocateInput input,
        List<Prepared> prepared,
        List<CaptureModel> models,
        List<Candidate> candidates,
        List<Nuisance> stated,
        WattsPrior expected,
        Judgement judgement) {
    /** Cameras are pointed where the fault is thought to be: a part that none looked at is so much less likely to be it. */
    private static final double UNSEEN = 0.3;

    /** What the choice among a large part's spots costs, per log of their number; less than 1, as spots overlap. */
    private static final double CHOICE_NATS = 0.6;

    static Question of(LocateInput input, LocateSettings settings, List<Prepared> prepared) {
        List<CaptureModel> models = models(prepared);
        List<Candidate> candidates = Candidates.on(input).parallelStream()
                .map(c -> models.stream().anyMatch(m -> m.sees(c.part())) ? c : c.weighed(UNSEEN))
                .toList();
        return of(input, settings, prepared, candidates);
    }

    /** The same with some more frames. */
    Question grown(LocateInput now, LocateSettings settings, List<Prepared> grown) {
        return of(now, settings, grown, candidates);
    }

    private static Question of(
            LocateInput input, LocateSettings settings, List<Prepared> prepared, List<Candidate> candidates) {
        Rail rail = input.fedRail();
        Optional<FaultResistance> resistance = FaultResistance.from(input.supplyLog(), input.injection(), rail);
        List<CaptureModel> models = models(prepared);
        List<Nuisance> stated = KnownHeat.nuisances(input, rail, resistance);
        SecondOpinion second = SecondOpinion.of(models, candidates, stated);
        Judgement judgement = new Judgement(settings, input, resistance, prepared, candidates, second);
        return new Question(input, prepared, models, candidates, stated, KnownHeat.expected(resistance), judgement);
    }

    private static List<CaptureModel> models(List<Prepared> prepared) {
        return prepared.stream().flatMap(p -> p.model().stream()).toList();
    }

    SlabParameters slab() {
        return SlabParameters.expected(input.board());
    }

    /** Where contacts and series parts may lie. */
    NuisancePlaces places() {
        return new NuisancePlaces(stated, expected, placeSigmaMm());
    }

    /** One sigma of what moves the picture against the board. */
    double placeSigmaMm() {
        return Math.hypot(Judgement.registrationSigmaMm(prepared), Judgement.UNEVEN_COPPER_MM);
    }

    /** A heat model shaped round a source. @param from where it was shaped to before */
    Refined shaped(List<CaptureModel> few, List<Nuisance> nuisances, HeatSource source, Refined from) {
        return ModelRefiner.refine(
                few, NuisancePlaces.local(nuisances), expected, HeatModel.of(slab()), source, from.point());
    }

    /** Each with about so many pixels. */
    static List<CaptureModel> binned(List<CaptureModel> models, int pixels) {
        return models.stream().map(m -> m.binned(pixels)).toList();
    }

    boolean seen(Side side) {
        return models.stream().anyMatch(m -> m.side() == side);
    }

    /** What comes through the board has been on its way for longer than the model of a small part says. */
    List<HeatSource> spots(Candidate candidate) {
        return seen(candidate.part().side()) ? candidate.spots() : candidate.spotsAndSlow();
    }

    /** What the choice among a candidate's spots costs. */
    double choiceNats(int candidate) {
        return choiceNats(spots(candidates.get(candidate)));
    }

    static double choiceNats(List<HeatSource> spots) {
        return CHOICE_NATS * Math.log(spots.size());
    }
}
