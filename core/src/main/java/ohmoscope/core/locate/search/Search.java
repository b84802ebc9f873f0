package ohmoscope.core.locate.search;

import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.fit.ModelRefiner;
import ohmoscope.core.locate.fit.MovieFit;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Judgement;
import ohmoscope.core.locate.posterior.Judgement.Spotted;
import ohmoscope.core.locate.posterior.PositionPrior;
import ohmoscope.core.locate.search.PlaceSearch.Shift;
import ohmoscope.core.locate.search.PlaceSearch.Way;

/** One search, from the first sight of all candidates to what it all comes to. */
final class Search {
    /** Candidates that are looked at closely. */
    private static final int CLOSE_LOOK_MAX = 12;

    /** Candidates this far behind are not scored anew when the heat model has been refined: nats, share of the best. */
    private static final double HOPEFUL_NATS = 60;

    private static final double HOPEFUL_SHARE = 0.6;
    private static final int HOPEFUL_LEAST = 30;

    private static final double CLOSE_LOOK_NATS = 15;
    private static final double CLOSE_LOOK_SHARE = 0.4;

    /** How far from the heat a part is still tried there, nats: two sigmas. */
    private static final double NEAR_NATS = 2;

    /** Pixels for a first sight of all candidates, and for shaping the heat model. */
    static final int FEW_PIXELS = 1800;

    /** Of the whole work, what lies before the rounds, and what each of them is. */
    private static final double ROUNDS_FROM = 0.55;

    private static final double ROUND_SHARE = 0.15;

    /** Weights and heat model are made anew this often. */
    private static final int ROUNDS = 2;

    /** At most this often while the leader changes. */
    private static final int MOST_ROUNDS = 4;

    private final Question question;
    private final List<Candidate> candidates;
    private final NuisancePlaces places;
    private final WattsPrior expected;
    private final Map<Side, ModelRefiner.Refined> refined = new EnumMap<>(Side.class);
    private final Spotted[] spotted;
    private List<CaptureModel> models;
    private List<Nuisance> nuisances;
    private HeatModel model;
    private List<CaptureModel> few;
    private SidedFit coarse;
    private Optional<Begun> begun = Optional.empty();

    Search(Question question) {
        this.question = question;
        models = question.models();
        candidates = question.candidates();
        places = question.places();
        expected = question.expected();
        nuisances = question.stated();
        model = HeatModel.of(question.slab());
        spotted = new Spotted[candidates.size()];
        for (Side side : Side.values()) {
            refined.put(side, ModelRefiner.Refined.expected(question.slab()));
        }
    }

    /**
     * What the first round came to.
     *
     * @param madeFor whom the weights were made round
     * @param refined each side's heat model
     * @param nuisances as they were settled
     */
    record Begun(
            HeatSource madeFor, Spotted[] spotted, Map<Side, ModelRefiner.Refined> refined, List<Nuisance> nuisances) {}

    /** With a first round that was made when there were fewer frames; only the weights are these frames' own. */
    private Search(Question question, Begun made) {
        this(question);
        models = new MovieFit(models, nuisances, expected, model).reweighed(made.madeFor());
        nuisances = places.at(made.nuisances());
        refined.putAll(made.refined());
        System.arraycopy(made.spotted(), 0, spotted, 0, spotted.length);
        begun = Optional.of(made);
    }

    /** Goes on where a search of the same captures with fewer frames ended: nothing is sought far from where it was found. */
    static Locator.Searched onward(Ended before, Question now, Progress progress) {
        Search search = new Search(now, before.begun());
        progress.at(ROUNDS_FROM);
        search.round(ROUNDS - 1, progress);
        return search.concluded(progress, Optional.of(before.free()));
    }

    Locator.Searched run(Progress progress) {
        if (models.isEmpty() || candidates.isEmpty()) {
            return new Locator.Searched(question.judgement().nothing(model), Optional.empty());
        }
        Side first = models.get(0).side();
        score(new SidedFit(binned(FEW_PIXELS), nuisances, expected, refined, first), Candidate::spots, i -> true);
        progress.at(ROUNDS_FROM);
        // Weights made round one candidate speak for it: the search goes on until they are made round the one that
        // leads.
        int madeFor = -1;
        for (int round = 0; round < ROUNDS || round < MOST_ROUNDS && best() != madeFor; round++) {
            madeFor = best();
            round(round, progress);
        }
        return concluded(progress, Optional.empty());
    }

    /** Weights, contacts' places and heat models made anew round the best candidate, and the scores by them. */
    private void round(int round, Progress progress) {
        double from = ROUNDS_FROM + ROUND_SHARE * Math.min(round, ROUNDS);
        double share = round < ROUNDS ? ROUND_SHARE : 0;
        HeatSource source = spotted[best()].source();
        model = refined.get(source.side()).model();
        models = new MovieFit(models, nuisances, expected, model).reweighed(source);
        few = binned(FEW_PIXELS);
        progress.at(from + share / 3);
        nuisances = places.besides(source, nuisances, few, model);
        refineBothSides();
        progress.at(from + 2 * share / 3);
        // The last round's scores are what counts; until then it is enough to keep the hopeful ones.
        List<CaptureModel> seen = round < ROUNDS - 1 ? few : binned(Ended.COARSE_PIXELS);
        coarse = new SidedFit(seen, nuisances, expected, refined, source.side());
        score(coarse, question::spots, hopeful());
        if (round == 0) {
            begun = Optional.of(new Begun(source, spotted.clone(), new EnumMap<>(refined), nuisances));
        }
        progress.at(from + share);
    }

    /**
     * The contenders once more on all pixels, the best place whatever stands there, and what it all comes to.
     *
     * @param before that place, where it was found before
     */
    private Locator.Searched concluded(Progress progress, Optional<SourceSearch.Reached> before) {
        Side leading = spotted[best()].source().side();
        model = refined.get(leading).model();
        SidedFit fit = new SidedFit(models, nuisances, expected, refined, leading);
        sharpen(fit);
        progress.at(0.9);
        Looked[] looked = closeLook(fit);
        progress.at(0.95);
        SourceSearch.Reached free = before.isPresent() ? before.get().again(fit) : free(fit, leading, looked);
        progress.at(0.98);
        looked = laidOnTheHeat(looked, free.free().source(), fit);
        NuisancePlaces.Alone alone = places.alone(nuisances, fit.aloneGain(leading), few, models, model);
        Ended end = new Ended(
                question, begun.orElseThrow(), models, spotted, looked, refined, leading, nuisances, alone, free);
        LocateResult result = end.judged(fit, coarse);
        progress.at(1);
        return new Locator.Searched(result, Optional.of(end));
    }

    private SourceSearch.Reached free(SidedFit fit, Side leading, Looked[] looked) {
        SidedFit grid = new SidedFit(binned(SourceSearch.GRID_PIXELS), nuisances, expected, refined, leading);
        SourceSearch anywhere = new SourceSearch(grid, coarse, fit);
        HeatSource start = freeStart(
                anywhere, Arrays.stream(looked).mapToDouble(Looked::penalised).toArray());
        return anywhere.near(start);
    }

    /**
     * Shapes each side's model round its best candidate; where no part of the rail stands on the other face, something
     * else may: right behind.
     */
    private void refineBothSides() {
        HeatSource here = spotted[best()].source();
        Side behind = here.side().opposite();
        HeatSource there = bestOn(behind).orElse(here.on(behind));
        List<HeatSource> sources = List.of(here, there);
        List<ModelRefiner.Refined> found = sources.parallelStream()
                .map(source -> question.shaped(few, nuisances, source, refined.get(source.side())))
                .toList();
        refined.put(here.side(), found.get(0));
        refined.put(there.side(), found.get(1));
    }

    private Optional<HeatSource> bestOn(Side side) {
        return Arrays.stream(spotted)
                .filter(s -> s.source().side() == side)
                .max(Comparator.comparingDouble(Spotted::logLikelihood))
                .map(Spotted::source);
    }

    private List<CaptureModel> binned(int pixels) {
        return Question.binned(models, pixels);
    }

    private void score(SidedFit fit, Function<Candidate, List<HeatSource>> places, IntPredicate which) {
        int[] at = IntStream.range(0, spotted.length).filter(which).toArray();
        List<List<HeatSource>> spots =
                Arrays.stream(at).mapToObj(i -> places.apply(candidates.get(i))).toList();
        Iterator<Score> scores =
                fit.scores(spots.stream().flatMap(List::stream).toList()).iterator();
        for (int i = 0; i < at.length; i++) {
            double choice = Question.choiceNats(spots.get(i));
            spotted[at[i]] = spots.get(i).stream()
                    .map(source -> new Spotted(source, scores.next().logLikelihood() - choice))
                    .max(Comparator.comparingDouble(Spotted::logLikelihood))
                    .orElseThrow();
        }
    }

    /** Those not so far behind that a better heat model could still bring them to the fore. */
    private IntPredicate hopeful() {
        double[] sorted = Arrays.stream(spotted)
                .mapToDouble(Spotted::logLikelihood)
                .sorted()
                .toArray();
        double top = sorted[sorted.length - 1];
        double among = sorted[Math.max(0, sorted.length - HOPEFUL_LEAST)];
        double least = Math.min(among, top - Math.max(HOPEFUL_NATS, HOPEFUL_SHARE * top));
        boolean[] hopeful = new boolean[spotted.length];
        for (int i = 0; i < spotted.length; i++) {
            hopeful[i] = spotted[i].logLikelihood() >= least;
        }
        return i -> hopeful[i];
    }

    /** Scores the contenders once more, on the finer picture. The rest keep the score of the coarser one. */
    private void sharpen(SidedFit fit) {
        int[] at = Ended.contenders(
                Arrays.stream(spotted).mapToDouble(Spotted::logLikelihood).toArray());
        List<Score> scores =
                fit.scores(Arrays.stream(at).mapToObj(i -> spotted[i].source()).toList());
        for (int i = 0; i < at.length; i++) {
            double choice = question.choiceNats(at[i]);
            spotted[at[i]] = new Spotted(spotted[at[i]].source(), scores.get(i).logLikelihood() - choice);
        }
    }

    private int best() {
        return IntStream.range(0, spotted.length)
                .boxed()
                .max(Comparator.comparingDouble(i ->
                        spotted[i].logLikelihood() + Math.log(candidates.get(i).prior())))
                .orElseThrow();
    }

    /**
     * The leading candidates once more, each allowed the shift that registration and copper leave open. The shift is
     * sought on the coarser picture and weighed on the finer one.
     */
    private Looked[] closeLook(SidedFit fine) {
        Looked[] looked = IntStream.range(0, spotted.length)
                .mapToObj(i -> new Looked(spotted[i].source(), spotted[i].logLikelihood(), 0, question.choiceNats(i)))
                .toArray(Looked[]::new);
        double doubt = Judgement.doubt(top(looked));
        inFront().parallelStream().forEach(i -> {
            PositionPrior positionPrior = positionPrior(i);
            for (Way way : ways(i)) {
                Shift shift = new PlaceSearch(coarse::score, way).shifted(positionPrior);
                looked[i] = looked[i].or(laid(i, positionPrior, way, shift, fine), doubt);
            }
        });
        return looked;
    }

    /**
     * Those near enough are looked at where the heat seems to start, too: a picture that is laid badly takes them farther
     * than a search goes.
     */
    private Looked[] laidOnTheHeat(Looked[] looked, HeatSource heat, SidedFit fine) {
        double doubt = Judgement.doubt(top(looked));
        Looked[] laid = looked.clone();
        IntStream.range(0, laid.length)
                .boxed()
                .filter(i -> spotted[i].source().side() == heat.side())
                .filter(i -> positionPrior(i).cost(heat.xMm(), heat.yMm()) < NEAR_NATS)
                .sorted(Comparator.comparingDouble(i -> positionPrior(i).cost(heat.xMm(), heat.yMm())))
                .limit(CLOSE_LOOK_MAX)
                .toList()
                .parallelStream()
                .forEach(i -> {
                    PositionPrior positionPrior = positionPrior(i);
                    HeatSource spot = positionPrior.spot();
                    Shift shift = new Shift(heat.xMm() - spot.xMm(), heat.yMm() - spot.yMm());
                    for (Way way : ways(i)) {
                        laid[i] = laid[i].or(laid(i, positionPrior, way, shift, fine), doubt);
                    }
                });
        return laid;
    }

    private static double top(Looked[] looked) {
        return Arrays.stream(looked).mapToDouble(Looked::logLikelihood).max().orElse(0);
    }

    /** Those that are looked at closely. */
    private List<Integer> inFront() {
        double[] values =
                Arrays.stream(spotted).mapToDouble(Spotted::logLikelihood).toArray();
        double top = Arrays.stream(values).max().orElse(0);
        return IntStream.range(0, values.length)
                .boxed()
                .sorted(Comparator.comparingDouble(i -> -values[i]))
                .limit(CLOSE_LOOK_MAX)
                .filter(i -> values[i] > top - Math.max(CLOSE_LOOK_NATS, CLOSE_LOOK_SHARE * top))
                .toList();
    }

    private PositionPrior positionPrior(int i) {
        return candidates.get(i).positionPrior(spotted[i].source(), question.placeSigmaMm());
    }

    /** What no camera sees is not seen beside its place either. */
    private List<Way> ways(int i) {
        return question.seen(spotted[i].source().side()) ? List.of(Way.values()) : List.of(Way.FED);
    }

    /** A candidate in a picture that lies so far beside the board. */
    private Looked laid(int i, PositionPrior positionPrior, Way way, Shift shift, SidedFit fine) {
        HeatSource moved = way.moved(positionPrior.spot(), shift);
        double cost = positionPrior.cost(moved.xMm(), moved.yMm());
        // Through the board, how far it is moved is known no better than how it is spread.
        boolean seen = question.seen(moved.side());
        double paid = question.choiceNats(i) + (seen ? 0 : cost);
        return Looked.of(moved, fine.score(moved), seen ? cost : 0, paid);
    }

    /** Where the best place is sought, whatever stands there: at the best candidate, or elsewhere, should that be better. */
    private HeatSource freeStart(SourceSearch search, double[] logLikelihood) {
        int best = 0;
        for (int i = 1; i < logLikelihood.length; i++) {
            if (logLikelihood[i] > logLikelihood[best]) {
                best = i;
            }
        }
        return search.elsewhere(question.input().board().outline(), logLikelihood[best])
                .orElse(spotted[best].source());
    }
}
