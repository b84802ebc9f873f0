package ohmoscope.core.locate.search;

import java.io.IOException;
import java.util.ArrayList;
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
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.fit.ModelRefiner;
import ohmoscope.core.locate.fit.MovieFit;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Candidate;
import ohmoscope.core.locate.posterior.Candidates;
import ohmoscope.core.locate.posterior.Judgement;
import ohmoscope.core.locate.posterior.Judgement.FreeSource;
import ohmoscope.core.locate.posterior.Judgement.Spotted;
import ohmoscope.core.locate.posterior.KnownHeat;
import ohmoscope.core.locate.posterior.PositionPrior;
import ohmoscope.core.locate.posterior.SecondOpinion;
import ohmoscope.core.locate.search.PlaceSearch.Shift;
import ohmoscope.core.locate.search.PlaceSearch.Way;

/**
 * Finds the part whose heat explains the frames.
 *
 * <p>Each capture is compressed onto a few temporal components; every candidate of the rail, on both sides, is fitted
 * with the sources that are always there (contacts, series parts); the heat model is then refined at the best one, and
 * everything is scored again. Time is linear in frames, pixels and candidates; memory is that of the compressed
 * pictures and a few columns.
 */
public final class Locator {
    /** Names the computation in stored results. */
    public static final String VERSION = "locate-16";

    /** Cameras are pointed where the fault is thought to be: a part that none looked at is so much less likely to be it. */
    private static final double UNSEEN = 0.3;

    /** Candidates that are looked at closely. */
    private static final int CLOSE_LOOK_MAX = 12;

    /** Candidates this near the best on a coarser picture are scored on all pixels: nats, and share of the best. */
    private static final double CONTENDER_NATS = 12;

    private static final double CONTENDER_SHARE = 0.5;

    /** Candidates this far behind are not scored anew when the heat model has been refined: nats, share of the best. */
    private static final double HOPEFUL_NATS = 60;

    private static final double HOPEFUL_SHARE = 0.6;
    private static final int HOPEFUL_LEAST = 30;

    private static final double CLOSE_LOOK_NATS = 15;
    private static final double CLOSE_LOOK_SHARE = 0.4;

    /** How far from the heat a part is still tried there, nats: two sigmas. */
    private static final double NEAR_NATS = 2;

    /** Where the best part explains no more than this over nothing, what shows no heat is weighed with care, nats. */
    private static final double IN_DOUBT_NATS = 25;

    /** Pixels for the ranking of candidates. */
    private static final int COARSE_PIXELS = 4500;

    /** Pixels for a first sight of all candidates, and for shaping the heat model. */
    private static final int FEW_PIXELS = 1800;

    /** Of the whole work, what lies before the rounds, and what each of them is. */
    private static final double ROUNDS_FROM = 0.55;

    private static final double ROUND_SHARE = 0.15;

    /** Weights and heat model are made anew this often. */
    private static final int ROUNDS = 2;

    /** At most this often while the leader changes. */
    private static final int MOST_ROUNDS = 4;

    /** What the choice among a large part's spots costs, per log of their number; less than 1, as spots overlap. */
    private static final double CHOICE_NATS = 0.6;

    private final LocateSettings settings;

    public Locator(LocateSettings settings) {
        this.settings = settings;
    }

    public Locator() {
        this(LocateSettings.DEFAULT);
    }

    /**
     * @throws IOException when frames cannot be read
     */
    public LocateResult locate(LocateInput input, Progress progress) throws IOException {
        return search(input, progress, CapturePreparer.Scans.whole(), Optional.empty())
                .result();
    }

    /** @param end where it ended; empty where there was nothing to search */
    record Searched(LocateResult result, Optional<WarmStart> end) {}

    /** @param before where the search of the same movie with fewer frames ended */
    Searched search(LocateInput input, Progress progress, CapturePreparer.Scans scans, Optional<WarmStart> before)
            throws IOException {
        progress.at(0);
        Rail rail = input.fedRail();
        Optional<FaultResistance> resistance = FaultResistance.from(input.supplyLog(), input.injection(), rail);
        SlabParameters slab = SlabParameters.expected(input.board());
        Waveform waveform = Waveform.resistive(input.supplyLog());
        CapturePreparer preparer =
                new CapturePreparer(input.board(), slab, waveform, input.injection(), settings, scans);
        List<Prepared> prepared = new ArrayList<>();
        for (LocateInput.Capture capture : input.captures()) {
            prepared.add(preparer.prepare(capture));
            progress.at(0.4 * prepared.size() / input.captures().size());
        }
        List<CaptureModel> models =
                prepared.stream().flatMap(p -> p.model().stream()).toList();
        List<Candidate> candidates = Candidates.on(input).parallelStream()
                .map(c -> models.stream().anyMatch(m -> m.sees(c.part())) ? c : c.weighed(UNSEEN))
                .toList();
        Search search = new Search(input, rail, resistance, prepared, models, candidates, slab);
        return search.run(progress, before.filter(search::continues));
    }

    /**
     * How a candidate explains the frames at some place.
     *
     * @param placeNats what it costs it to lie there, whatever the heat model is worth
     */
    private record Looked(double logLikelihood, double placeNats) {
        double penalised() {
            return logLikelihood - placeNats;
        }

        /** The better of two. @param doubt by which likelihoods are divided */
        Looked or(Looked other, double doubt) {
            return other.believed(doubt) > believed(doubt) ? other : this;
        }

        private double believed(double doubt) {
            return logLikelihood / doubt - PositionPrior.kept(placeNats, doubt);
        }

        /** Against another scale. @param nats which explain nothing */
        Looked less(double nats) {
            return new Looked(logLikelihood - nats, placeNats);
        }
    }

    /** One search. */
    private final class Search {
        private final LocateInput input;
        private final List<Prepared> prepared;
        private List<CaptureModel> models;
        private final List<Candidate> candidates;
        private final NuisancePlaces places;
        private final WattsPrior expected;
        private final Judgement judgement;
        private final SlabParameters slab;
        private final Map<Side, ModelRefiner.Refined> refined = new EnumMap<>(Side.class);
        private final Spotted[] spotted;
        private List<Nuisance> nuisances;
        private HeatModel model;
        private List<CaptureModel> few;
        private SidedFit coarse;
        private Optional<WarmStart.Round> begun = Optional.empty();

        Search(
                LocateInput input,
                Rail rail,
                Optional<FaultResistance> resistance,
                List<Prepared> prepared,
                List<CaptureModel> models,
                List<Candidate> candidates,
                SlabParameters slab) {
            this.input = input;
            this.prepared = prepared;
            this.models = models;
            this.candidates = candidates;
            this.slab = slab;
            this.model = HeatModel.of(slab);
            spotted = new Spotted[candidates.size()];
            for (Side side : Side.values()) {
                refined.put(side, ModelRefiner.Refined.expected(slab));
            }
            this.expected = KnownHeat.expected(resistance);
            this.places = new NuisancePlaces(KnownHeat.nuisances(input, rail, resistance), expected, placeSigmaMm());
            this.nuisances = places.stated();
            SecondOpinion second = SecondOpinion.of(models, candidates, nuisances);
            this.judgement = new Judgement(settings, input, resistance, prepared, candidates, second);
        }

        Searched run(Progress progress, Optional<WarmStart> before) {
            if (models.isEmpty() || candidates.isEmpty()) {
                return new Searched(judgement.nothing(model), Optional.empty());
            }
            int round = 0;
            int madeFor = -1;
            if (before.isPresent()) {
                begun = before.map(WarmStart::begun);
                takeUp(begun.get());
                round = 1;
            } else {
                Side first = models.get(0).side();
                SidedFit fit = new SidedFit(binned(FEW_PIXELS), nuisances, expected, refined, first);
                score(fit, Candidate::spots, i -> true);
            }
            progress.at(ROUNDS_FROM);
            // Weights made round one candidate speak for it: the search goes on until they are made round the one that
            // leads.
            while (round < ROUNDS || round < MOST_ROUNDS && best() != madeFor) {
                madeFor = best();
                round(round, progress);
                round++;
            }
            return concluded(progress, before);
        }

        /** A first round that was made when the movie had fewer frames; only the weights are these frames' own. */
        private void takeUp(WarmStart.Round made) {
            models = new MovieFit(models, nuisances, expected, model).reweighed(made.madeFor());
            made.spots(candidates, spotted);
            refined.putAll(made.refined());
            nuisances = made.moved(nuisances);
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
            List<CaptureModel> seen = round < ROUNDS - 1 ? few : binned(COARSE_PIXELS);
            coarse = new SidedFit(seen, nuisances, expected, refined, source.side());
            score(coarse, this::spots, hopeful());
            if (round == 0) {
                begun = Optional.of(WarmStart.Round.of(source, candidates, spotted, refined, nuisances));
            }
            progress.at(from + share);
        }

        /** The contenders once more on all pixels, the best place whatever stands there, and what it all comes to. */
        private Searched concluded(Progress progress, Optional<WarmStart> before) {
            Side leading = spotted[best()].source().side();
            model = refined.get(leading).model();
            SidedFit fit = new SidedFit(models, nuisances, expected, refined, leading);
            sharpen(fit);
            progress.at(0.9);
            Looked[] looked = closeLook(fit);
            progress.at(0.95);
            SidedFit grid = new SidedFit(binned(SourceSearch.GRID_PIXELS), nuisances, expected, refined, leading);
            SourceSearch anywhere = new SourceSearch(grid, coarse, fit);
            HeatSource start = freeStart(
                    anywhere,
                    Arrays.stream(looked).mapToDouble(Looked::penalised).toArray());
            SourceSearch.Reached free = anywhere.near(
                    before.flatMap(b -> b.climbsFrom(start)).orElseGet(() -> SourceSearch.Starts.at(start)));
            progress.at(0.98);
            looked = laidOnTheHeat(looked, free.free().source(), fit);
            NuisancePlaces.Alone alone = places.alone(nuisances, fit.aloneGain(leading), few, models, model);
            Looked[] overNone = overNone(looked, alone, leading);
            FreeSource place = free.free().less(alone.missedNats());
            LocateResult result = judgement.of(new Judgement.Found(
                    fit,
                    coarse,
                    model,
                    nuisances,
                    spotted,
                    Arrays.stream(overNone).mapToDouble(Looked::logLikelihood).toArray(),
                    Arrays.stream(overNone).mapToDouble(Looked::placeNats).toArray(),
                    place));
            progress.at(1);
            WarmStart end = new WarmStart(begun.orElseThrow(), seenCaptures(), start, free.again());
            return new Searched(result, Optional.of(end));
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
                    .map(source -> ModelRefiner.refine(
                            few,
                            NuisancePlaces.local(nuisances),
                            expected,
                            HeatModel.of(slab),
                            source,
                            refined.get(source.side()).point()))
                    .toList();
            refined.put(here.side(), found.get(0));
            refined.put(there.side(), found.get(1));
        }

        /** Whether another search's first round is this one's, but for a few frames. */
        private boolean continues(WarmStart before) {
            return before.suits(seenCaptures(), candidates, nuisances);
        }

        /** Names of those that say something, as {@link #models} has them. */
        private List<String> seenCaptures() {
            return IntStream.range(0, prepared.size())
                    .filter(c -> prepared.get(c).model().isPresent())
                    .mapToObj(c -> input.captures().get(c).spec().id())
                    .toList();
        }

        private Optional<HeatSource> bestOn(Side side) {
            return Arrays.stream(spotted)
                    .filter(s -> s.source().side() == side)
                    .max(Comparator.comparingDouble(Spotted::logLikelihood))
                    .map(Spotted::source);
        }

        private List<CaptureModel> binned(int pixels) {
            return models.stream().map(m -> m.binned(pixels)).toList();
        }

        private void score(SidedFit fit, Function<Candidate, List<HeatSource>> places, IntPredicate which) {
            int[] at = IntStream.range(0, spotted.length).filter(which).toArray();
            List<List<HeatSource>> spots = Arrays.stream(at)
                    .mapToObj(i -> places.apply(candidates.get(i)))
                    .toList();
            Iterator<Score> scores =
                    fit.scores(spots.stream().flatMap(List::stream).toList()).iterator();
            for (int i = 0; i < at.length; i++) {
                double choice = choiceNats(spots.get(i));
                spotted[at[i]] = spots.get(i).stream()
                        .map(source -> new Spotted(source, scores.next().logLikelihood() - choice))
                        .max(Comparator.comparingDouble(Spotted::logLikelihood))
                        .orElseThrow();
            }
        }

        /** What comes through the board has been on its way for longer than the model of a small part says. */
        private List<HeatSource> spots(Candidate candidate) {
            return seen(candidate.part().side()) ? candidate.spots() : candidate.spotsAndSlow();
        }

        private boolean seen(Side side) {
            return models.stream().anyMatch(m -> m.side() == side);
        }

        private static double choiceNats(List<HeatSource> spots) {
            return CHOICE_NATS * Math.log(spots.size());
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
            double top = Arrays.stream(spotted)
                    .mapToDouble(Spotted::logLikelihood)
                    .max()
                    .orElse(0);
            double margin = Math.max(CONTENDER_NATS, CONTENDER_SHARE * top);
            int[] at = IntStream.range(0, spotted.length)
                    .filter(i -> spotted[i].logLikelihood() > top - margin)
                    .toArray();
            List<Score> scores = fit.scores(
                    Arrays.stream(at).mapToObj(i -> spotted[i].source()).toList());
            for (int i = 0; i < at.length; i++) {
                double choice = choiceNats(spots(candidates.get(at[i])));
                spotted[at[i]] =
                        new Spotted(spotted[at[i]].source(), scores.get(i).logLikelihood() - choice);
            }
        }

        private int best() {
            return IntStream.range(0, spotted.length)
                    .boxed()
                    .max(Comparator.comparingDouble(i -> spotted[i].logLikelihood()
                            + Math.log(candidates.get(i).prior())))
                    .orElseThrow();
        }

        /** One sigma of what moves the picture against the board. */
        private double placeSigmaMm() {
            return Math.hypot(Judgement.registrationSigmaMm(prepared), Judgement.UNEVEN_COPPER_MM);
        }

        /**
         * The leading candidates once more, each allowed the shift that registration and copper leave open. The shift is
         * sought on the coarser picture and weighed on the finer one.
         */
        private Looked[] closeLook(SidedFit fine) {
            Looked[] looked = Arrays.stream(spotted)
                    .map(s -> new Looked(s.logLikelihood(), 0))
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
            return Arrays.stream(looked)
                    .mapToDouble(Looked::logLikelihood)
                    .max()
                    .orElse(0);
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
            return candidates.get(i).positionPrior(spotted[i].source(), placeSigmaMm());
        }

        /** What no camera sees is not seen beside its place either. */
        private List<Way> ways(int i) {
            return seen(spotted[i].source().side()) ? List.of(Way.values()) : List.of(Way.FED);
        }

        /** A candidate in a picture that lies so far beside the board. */
        private Looked laid(int i, PositionPrior positionPrior, Way way, Shift shift, SidedFit fine) {
            HeatSource moved = way.moved(positionPrior.spot(), shift);
            double nats = fine.score(moved).logLikelihood() - choiceNats(spots(candidates.get(i)));
            double cost = positionPrior.cost(moved.xMm(), moved.yMm());
            // Through the board, how far it is moved is known no better than how it is spread.
            return seen(moved.side()) ? new Looked(nats, cost) : new Looked(nats - cost, 0);
        }

        /**
         * Each candidate against no source at all. One that shows no heat explains what none does: where nobody stands out it
         * is measured once more with the contacts where they lie best alone, as without a source, lest it pay for where the
         * leading one has pushed them.
         */
        private Looked[] overNone(Looked[] looked, NuisancePlaces.Alone alone, Side leading) {
            double missed = alone.missedNats();
            Looked[] over = Arrays.stream(looked).map(l -> l.less(missed)).toArray(Looked[]::new);
            double top =
                    Arrays.stream(over).mapToDouble(Looked::penalised).max().orElse(0);
            if (missed == 0 || top > IN_DOUBT_NATS) {
                return over;
            }
            List<Score> scores = new SidedFit(binned(COARSE_PIXELS), alone.nuisances(), expected, refined, leading)
                    .scores(Arrays.stream(spotted).map(Spotted::source).toList());
            for (int i = 0; i < over.length; i++) {
                // No more than none does: what it explains beyond that would be the leads'.
                double nats = Math.min(0, scores.get(i).logLikelihood() - choiceNats(spots(candidates.get(i))));
                over[i] = nats > over[i].penalised() ? new Looked(nats, 0) : over[i];
            }
            return over;
        }

        /** Where the best place is sought, whatever stands there: at the best candidate, or elsewhere, should that be better. */
        private HeatSource freeStart(SourceSearch search, double[] logLikelihood) {
            int best = 0;
            for (int i = 1; i < logLikelihood.length; i++) {
                if (logLikelihood[i] > logLikelihood[best]) {
                    best = i;
                }
            }
            return search.elsewhere(input.board().outline(), logLikelihood[best])
                    .orElse(spotted[best].source());
        }
    }
}
