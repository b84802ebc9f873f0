package ohmoscope.core.locate.posterior;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.inject.PadUnderProbe;
import ohmoscope.core.locate.FittedHeat;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.LocateResult.CaptureFinding;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.fit.MovieFit.Score;
import ohmoscope.core.locate.fit.MovieFit.Solved;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.model.CapturePreparer.Prepared;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;

/**
 * What the search's likelihoods come to: calibrated probabilities, a verdict by what being wrong would cost, and the
 * source with its error.
 */
public final class Judgement {
    private static final int MAX_SUSPECTS = 20;

    /** Suspects whose picture can be drawn. */
    private static final int DRAWN_SUSPECTS = 5;

    /** What a source that gains anything gains on mere noise, since heat model and weights are fitted to it, nats. */
    private static final double FITTED_NATS = 4;

    /** How often the leads stand on ground, or a net away from the fault. */
    private static final double ON_GROUND = 0.03;

    /**
     * A place that may be anywhere always fits reflections and uneven copper better than a part does; this share of what
     * it gains over the best part speaks for something off the rail.
     */
    private static final double FREE_SHARE = 0.35;

    /** Heat whose place is no better known than this is no source, but a drift of the whole picture. */
    private static final double NO_PLACE_MM = 8;

    /** The clearer the heat, the more the model's own error decides: differences of likelihood are halved from here on. */
    private static final double PROUD_NATS = 500;

    private static final double PROUD_OF_SIDE_NATS = 100;

    /** How often the model misleads, and how far off the fault then lies. */
    private static final double WRONG_MODEL = 0.02;

    /** The same where a can hides the board and carries its heat about. */
    private static final double WRONG_UNDER_A_CAN = 0.15;

    private static final double WRONG_MODEL_MM = 1.5;

    /** Odds that a place between the candidates' bodies is a part's that is not on the map. */
    private static final double NOT_MAPPED = 0.008;

    /** Where nothing may have warmed by this chance, a place is no evidence of a part. */
    private static final double PERHAPS_NOTHING = 0.1;

    /** How far from a probe its own heat may seem to start. */
    private static final double PROBE_MM = 1.2;

    /** The chance that a log which says that nothing flowed is not this movie's. */
    private static final double LOG_IS_WRONG = 0.01;

    /** Unevenness of copper moves a heat picture by about this, mm. */
    public static final double UNEVEN_COPPER_MM = 0.25;

    /** The same where a hotly warmed place is fitted by itself: the heat model has taken up some of it. */
    public static final double UNEVEN_AT_SOURCE_MM = 0.12;

    /** Watts that are so many times their own standard error are told from nothing whatever part they start at. */
    private static final double SEEN_SIGMAS = 5;

    private static final double NINE_IN_TEN = 0.9;

    /** Of many parts so many stand for all. */
    private static final int SAMPLED = 60;

    private final LocateSettings settings;
    private final LocateInput input;
    private final Optional<FaultResistance> resistance;
    private final List<Prepared> prepared;
    private final List<Candidate> candidates;
    private final LinesOfSight linesOfSight;
    private final Warnings warnings;
    private final SecondOpinion second;

    /** @param prepared one a capture, in the input's order */
    public Judgement(
            LocateSettings settings,
            LocateInput input,
            Optional<FaultResistance> resistance,
            List<Prepared> prepared,
            List<Candidate> candidates,
            SecondOpinion second) {
        this.second = second;
        this.settings = settings;
        this.input = input;
        this.resistance = resistance;
        this.prepared = prepared;
        this.candidates = candidates;
        linesOfSight = new LinesOfSight(input.board(), prepared);
        warnings = new Warnings(input, resistance, prepared, linesOfSight);
    }

    /** A candidate's most likely spot. The score is net of the choice among spots. */
    public record Spotted(HeatSource source, double logLikelihood) {}

    /**
     * The best place for the heat, whatever stands there.
     *
     * @param logLikelihood that can be reached near it, nats
     * @param covariance mm²
     */
    public record FreeSource(HeatSource source, double logLikelihood, double[][] covariance) {
        public FreeSource less(double nats) {
            return new FreeSource(source, logLikelihood - nats, covariance);
        }
    }

    /**
     * How a search ended.
     *
     * @param fit of everything, each side under its own heat model
     * @param coarse the same on fewer pixels
     * @param model of the leading side
     * @param spotted one a candidate
     * @param logLikelihood likewise, each at the shift that suits it best
     * @param placeNats likewise, what that shift costs besides
     */
    public record Found(
            SidedFit fit,
            SidedFit coarse,
            HeatModel model,
            List<Nuisance> nuisances,
            Spotted[] spotted,
            double[] logLikelihood,
            double[] placeNats,
            FreeSource free) {}

    public LocateResult of(Found found) {
        double[] logLikelihood = found.logLikelihood();
        FreeSource free = found.free();
        double priorSum = candidates.stream().mapToDouble(Candidate::prior).sum();
        double none = nonePrior();
        double share = 1 - none - settings.elsewherePrior();
        int n = candidates.size();
        double[] log = new double[n + 2];
        double top = Arrays.stream(logLikelihood).max().orElse(0);
        double[] believed = believed(logLikelihood, top);
        for (int i = 0; i < n; i++) {
            believed[i] -= PositionPrior.kept(found.placeNats()[i], doubt(top));
            log[i] = net(believed[i]) + Math.log(share * candidates.get(i).prior() / priorSum);
        }
        log[n] = Math.log(none);
        double width =
                input.board().outline().maxXMm() - input.board().outline().minXMm();
        double height =
                input.board().outline().maxYMm() - input.board().outline().minYMm();
        double spread = Math.sqrt(
                free.covariance()[0][0] * free.covariance()[1][1] - free.covariance()[0][1] * free.covariance()[1][0]);
        double best = Arrays.stream(believed).max().orElse(0);
        double elsewhere = best + FREE_SHARE * (free.logLikelihood() - best) / doubt(top);
        log[n + 1] =
                net(elsewhere) + Math.log(settings.elsewherePrior() * Math.min(1, Math.PI * spread / (width * height)));
        Solved atFree = found.fit().solved(free.source());
        Score freeScore = atFree.score();
        double[] p = allowingForAWrongModel(
                allowingForTheProbe(allowingForADrift(normalised(log), free), free.source(), found.nuisances()),
                free.source());
        SourceEstimate place = estimate(free, freeScore);
        if (p[n] < PERHAPS_NOTHING && linesOfSight.of(free.source()).doubt() <= 1 && onBoard(place)) {
            allowingForAPartThatIsNotMapped(p, place);
        }
        second.sharedOut(p);
        if (warnings.ofCameraAndSupply().containsKey(Warning.NO_CONTACT)) {
            ruledOut(p);
        }
        List<Suspect> suspects = IntStream.range(0, n)
                .boxed()
                .sorted(Comparator.comparingDouble(i -> -p[i]))
                .limit(MAX_SUSPECTS)
                .map(i -> suspect(i, p[i], free))
                .toList();
        Verdict verdict = verdict(p[n], p[n + 1], suspects.get(0));
        Optional<SourceEstimate> source = verdict == Verdict.NONE ? Optional.empty() : Optional.of(place);
        return new LocateResult(
                verdict,
                suspects,
                p[n],
                p[n + 1],
                source,
                resistance,
                warnings.of(verdict, suspects, atFree, found.nuisances()),
                findings(found.model()),
                found.model().slab(),
                heats(found, suspects, atFree),
                second.strongest(),
                seenFromWatts(found));
    }

    /** From how many watts on nine in ten of the parts that a camera looked at would have been seen to warm. */
    private OptionalDouble seenFromWatts(Found found) {
        List<HeatSource> inView = IntStream.range(0, candidates.size())
                .filter(i -> prepared.stream()
                        .flatMap(p -> p.model().stream())
                        .anyMatch(m -> m.sees(candidates.get(i).part())))
                .mapToObj(i -> found.spotted()[i].source())
                .toList();
        if (inView.isEmpty()) {
            return OptionalDouble.empty();
        }
        int step = (inView.size() + SAMPLED - 1) / SAMPLED;
        List<HeatSource> sampled = IntStream.range(0, (inView.size() + step - 1) / step)
                .mapToObj(i -> inView.get(i * step))
                .toList();
        double[] sigmaWatts = found.coarse().scores(sampled).stream()
                .mapToDouble(Score::sigmaWatts)
                .sorted()
                .toArray();
        double most = sigmaWatts[(int) (NINE_IN_TEN * (sigmaWatts.length - 1))];
        return Double.isFinite(most) ? OptionalDouble.of(SEEN_SIGMAS * most) : OptionalDouble.empty();
    }

    /** Without current there is no heat at a fault, whatever the picture looks like: the log speaks louder. */
    private static void ruledOut(double[] p) {
        int none = p.length - 2;
        double rest = 0;
        for (int i = 0; i < p.length; i++) {
            if (i != none) {
                p[i] *= LOG_IS_WRONG;
                rest += p[i];
            }
        }
        p[none] = 1 - rest;
    }

    /** A log-likelihood less what fitting gains on noise: all of that where much is gained, nothing where nothing is. */
    private static double net(double nats) {
        return nats <= 0 ? nats : nats + FITTED_NATS * Math.expm1(-nats / FITTED_NATS);
    }

    /**
     * Volts and amperes that copper alone would explain make it likelier that the leads stand on ground, and so does a
     * place that is marked on a ground pad.
     */
    private double nonePrior() {
        double ground = ON_GROUND
                * resistance.map(FaultResistance::groundOverFault).orElse(1.0)
                * input.injection()
                        .map(injection -> PadUnderProbe.groundOverNet(input.board(), injection))
                        .orElse(1.0);
        return (settings.nonePrior() - ON_GROUND + ground) / (1 - ON_GROUND + ground);
    }

    /**
     * Log-likelihoods with their differences made smaller the clearer the heat is: the model's error then decides. What
     * tells the board's two sides apart hangs on the model most, and what tells neighbours apart the more, the less
     * directly they are seen.
     */
    private double[] believed(double[] logLikelihood, double top) {
        double proud = doubt(top);
        double proudOfSide = doubt(top, PROUD_OF_SIDE_NATS);
        Map<Side, Double> topOf = new EnumMap<>(Side.class);
        for (int i = 0; i < logLikelihood.length; i++) {
            topOf.merge(candidates.get(i).part().side(), logLikelihood[i], Math::max);
        }
        double[] believed = new double[logLikelihood.length];
        for (int i = 0; i < believed.length; i++) {
            double own = topOf.get(candidates.get(i).part().side());
            double indirect =
                    linesOfSight.of(KnownHeat.middle(candidates.get(i))).doubt();
            believed[i] = top - (top - own) / proudOfSide - (own - logLikelihood[i]) / (proud * indirect);
        }
        return believed;
    }

    /** By what differences of likelihood are divided, where the best explains so many nats. */
    public static double doubt(double top) {
        return doubt(top, PROUD_NATS);
    }

    /** 1 where there is nothing to explain, 2 at so many nats, and on. */
    private static double doubt(double top, double nats) {
        return 1 + Math.max(0, top) / nats;
    }

    /** The leading suspects, each with the watts that suit it best, and the nuisances as the free source leaves them. */
    private List<FittedHeat> heats(Found found, List<Suspect> suspects, Solved atFree) {
        List<String> drawn =
                suspects.stream().limit(DRAWN_SUSPECTS).map(s -> s.part().ref()).toList();
        Map<String, HeatSource> sources = new HashMap<>();
        for (int i = 0; i < found.spotted().length; i++) {
            sources.put(candidates.get(i).part().ref(), found.spotted()[i].source());
        }
        List<FittedHeat> heats = new ArrayList<>(drawn.parallelStream()
                .map(ref -> {
                    Solved solved = found.fit().solved(sources.get(ref));
                    OptionalDouble bodyK =
                            solved.bodyK() == 0 ? OptionalDouble.empty() : OptionalDouble.of(solved.bodyK());
                    return heat(
                            found, ref, true, sources.get(ref), solved.score().watts(), bodyK);
                })
                .toList());
        List<Nuisance> nuisances = found.nuisances();
        for (int i = 0; i < nuisances.size(); i++) {
            List<HeatSource> parts = nuisances.get(i).sources();
            for (HeatSource part : parts) {
                double share = atFree.amplitudes()[i] / parts.size();
                heats.add(heat(found, nuisances.get(i).what(), false, part, share, OptionalDouble.empty()));
            }
        }
        return heats;
    }

    private static FittedHeat heat(
            Found found, String what, boolean suspect, HeatSource at, double watts, OptionalDouble bodyK) {
        return new FittedHeat(
                what,
                suspect,
                at.xMm(),
                at.yMm(),
                at.side(),
                at.footprintMm2(),
                at.lagS() * found.model().lagFactor(),
                watts,
                bodyK);
    }

    /** What no part explains is no heat either, the less it has a place. */
    private double[] allowingForADrift(double[] p, FreeSource free) {
        int n = candidates.size();
        double spread2 = free.covariance()[0][0] + free.covariance()[1][1];
        double drift = -Math.expm1(-spread2 / (2 * NO_PLACE_MM * NO_PLACE_MM)) * p[n + 1];
        p[n] += drift;
        p[n + 1] -= drift;
        return p;
    }

    /** A little of what the parts have goes to those near the heat, whatever the model says of their side or shape. */
    private double[] allowingForAWrongModel(double[] p, HeatSource at) {
        int n = candidates.size();
        double[] near = new double[n];
        double sum = 0;
        double parts = 0;
        for (int i = 0; i < n; i++) {
            Part part = candidates.get(i).part();
            double off = Math.hypot(part.xMm() - at.xMm(), part.yMm() - at.yMm()) / WRONG_MODEL_MM;
            near[i] = candidates.get(i).prior() * Math.exp(-off * off / 2);
            sum += near[i];
            parts += p[i];
        }
        double wrong = linesOfSight.underACan(at) ? WRONG_UNDER_A_CAN : WRONG_MODEL;
        for (int i = 0; i < n && sum > 0; i++) {
            p[i] = (1 - wrong) * p[i] + wrong * parts * near[i] / sum;
        }
        return p;
    }

    private boolean onBoard(SourceEstimate place) {
        return input.board().outline().inside().test(place.xMm(), place.yMm());
    }

    /**
     * Heat that plainly starts beside every candidate's body belongs to something that the board's data does not have: maps from
     * photographs lack parts, and so do old layouts. How plainly, the place's own sigma tells.
     */
    private void allowingForAPartThatIsNotMapped(double[] p, SourceEstimate place) {
        int n = candidates.size();
        double sigmaMm = Math.hypot(place.sigmaMm(), UNEVEN_COPPER_MM);
        double nearest = candidates.stream()
                .map(Candidate::part)
                .filter(part -> part.side() == place.side())
                .mapToDouble(part -> part.besideMm(place.xMm(), place.yMm()) / sigmaMm)
                .min()
                .orElse(Double.POSITIVE_INFINITY);
        double odds = Math.exp(-nearest * nearest / 2);
        // On a body, all is kept: a board with all its parts loses nothing.
        double share = odds * (1 + NOT_MAPPED) / (odds + NOT_MAPPED);
        for (int i = 0; i < n; i++) {
            if (candidates.get(i).part().side() == place.side()) {
                p[n + 1] += p[i] * (1 - share);
                p[i] *= share;
            }
        }
    }

    /** Heat at a probe that is no part's is the probe's: its contact warms pad and part in a way that is known roughly. */
    private double[] allowingForTheProbe(double[] p, HeatSource at, List<Nuisance> nuisances) {
        int n = candidates.size();
        double nearest2 = nuisances.stream()
                .filter(nuisance -> nuisance.kind() == Kind.CONTACT)
                .flatMap(nuisance -> nuisance.sources().stream())
                .filter(contact -> contact.side() == at.side())
                .mapToDouble(contact -> Math.pow(contact.xMm() - at.xMm(), 2) + Math.pow(contact.yMm() - at.yMm(), 2))
                .min()
                .orElse(Double.POSITIVE_INFINITY);
        double probes = Math.exp(-nearest2 / (2 * PROBE_MM * PROBE_MM)) * p[n + 1];
        p[n] += probes;
        p[n + 1] -= probes;
        return p;
    }

    /**
     * A part is acted on when being wrong would cost less, on the whole, than another look. One that was seen only
     * through the board is not: turn it over first; nor one in a picture that hardly lies on the board: lay it anew.
     */
    private Verdict verdict(double none, double elsewhere, Suspect first) {
        boolean standsOut = none > Math.max(first.probability(), elsewhere);
        if (none >= LocateResult.NONE_AT_ONCE || standsOut && none >= LocateResult.NONE_FROM) {
            return Verdict.NONE;
        }
        boolean seen = linesOfSight.looked(first.part().side());
        double from = Math.max(
                settings.partFrom(), RemovalCost.on(input.board(), first.part()).probabilityFrom());
        boolean laid = prepared.stream().anyMatch(p -> !p.registration().loose());
        return seen && laid && first.probability() >= from ? Verdict.PART : Verdict.AREA;
    }

    private Suspect suspect(int i, double probability, FreeSource free) {
        Part part = candidates.get(i).part();
        return new Suspect(
                part,
                probability,
                Math.hypot(
                        part.xMm() - free.source().xMm(),
                        part.yMm() - free.source().yMm()));
    }

    private SourceEstimate estimate(FreeSource free, Score score) {
        double registration = Math.pow(registrationSigmaMm(prepared), 2);
        double bound2 = (free.covariance()[0][0] + free.covariance()[1][1]) / 2 + registration;
        double placeMm = linesOfSight.of(free.source()).placeMm();
        double extra = registration + UNEVEN_AT_SOURCE_MM * UNEVEN_AT_SOURCE_MM + placeMm * placeMm;
        double xx = free.covariance()[0][0] + extra;
        double yy = free.covariance()[1][1] + extra;
        double xy = free.covariance()[0][1];
        double mean = (xx + yy) / 2;
        double apart = Math.hypot((xx - yy) / 2, xy);
        return new SourceEstimate(
                free.source().xMm(),
                free.source().yMm(),
                free.source().side(),
                Math.sqrt(mean),
                Math.sqrt(mean + apart),
                Math.sqrt(Math.max(1e-6, mean - apart)),
                Math.toDegrees(Math.atan2(2 * xy, xx - yy) / 2),
                score.watts(),
                OptionalDouble.of(Math.sqrt(bound2)));
    }

    private static double[] normalised(double[] log) {
        double top = Arrays.stream(log).max().orElseThrow();
        double[] p = new double[log.length];
        double sum = 0;
        for (int i = 0; i < log.length; i++) {
            p[i] = Math.exp(log[i] - top);
            sum += p[i];
        }
        for (int i = 0; i < log.length; i++) {
            p[i] /= sum;
        }
        return p;
    }

    private List<CaptureFinding> findings(HeatModel model) {
        List<CaptureFinding> findings = new ArrayList<>();
        int telling = 0;
        for (int i = 0; i < prepared.size(); i++) {
            Prepared p = prepared.get(i);
            double clock = p.model().isPresent() ? model.by(telling++).offsetS() : 0;
            findings.add(new CaptureFinding(input.captures().get(i).spec().id(), p.scan(), p.registration(), clock));
        }
        return findings;
    }

    /**
     * Without frames that could tell, or candidates: nothing is seen, so everything stays as likely as it was before.
     * There is no source to be off from.
     */
    public LocateResult nothing(HeatModel model) {
        double priorSum = candidates.stream().mapToDouble(Candidate::prior).sum();
        double none = settings.nonePrior();
        double share = 1 - none - settings.elsewherePrior();
        List<Suspect> suspects = candidates.stream()
                .sorted(Comparator.comparingDouble(candidate -> -candidate.prior()))
                .limit(MAX_SUSPECTS)
                .map(candidate -> new Suspect(candidate.part(), share * candidate.prior() / priorSum, 0))
                .toList();
        return new LocateResult(
                Verdict.NONE,
                suspects,
                none,
                candidates.isEmpty() ? 1 - none : settings.elsewherePrior(),
                Optional.empty(),
                resistance,
                warnings.ofCameraAndSupply(),
                findings(model),
                model.slab(),
                List.of(),
                second.strongest(),
                OptionalDouble.empty());
    }

    /** One sigma of the best of the captures' registrations. */
    public static double registrationSigmaMm(List<Prepared> prepared) {
        return prepared.stream()
                .mapToDouble(p -> p.registration().sigmaMm())
                .min()
                .orElse(0.5);
    }
}
