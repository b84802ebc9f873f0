package ohmoscope.core.locate;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.CapturePreparer.Prepared;
import ohmoscope.core.locate.LocateResult.CaptureFinding;
import ohmoscope.core.locate.MovieFit.Expected;
import ohmoscope.core.locate.MovieFit.Nuisance;
import ohmoscope.core.locate.MovieFit.Nuisance.Kind;
import ohmoscope.core.locate.MovieFit.Score;

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
    public static final String VERSION = "locate-3";

    private static final int MAX_SUSPECTS = 20;
    /** Suspects whose picture can be drawn. */
    private static final int DRAWN_SUSPECTS = 5;

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

    /** Pixels for the ranking of candidates. */
    private static final int COARSE_PIXELS = 4500;

    /** Pixels for a first sight of all candidates, and for shaping the heat model. */
    private static final int FEW_PIXELS = 1800;

    /** From this share of the best candidate's likelihood on, the other side's best has a heat model of its own. */
    private static final double RIVAL_SHARE = 0.6;

    private static final int NEWTON_STEPS = 2;
    /** Weights and heat model are made anew this often. */
    private static final int ROUNDS = 2;
    /** What the choice among a large part's spots costs, per log of their number; less than 1, as spots overlap. */
    private static final double CHOICE_NATS = 0.6;

    /** Unevenness of copper moves a heat picture by about this, mm. */
    private static final double MODEL_SHIFT_MM = 0.25;
    /** A contact's resistance, one sigma, ohms. */
    private static final double CONTACT_OHMS = 0.02;

    /** A ground or power plane between the probes, one sigma, ohms. */
    private static final double COPPER_OHMS = 0.004;

    private static final int COPPER_POINTS = 6;
    private static final double COPPER_FOOTPRINT_MM2 = 4;
    /** Of the heat that the supply's readings promise at the fault, the slab model finds this share back. */
    private static final double SEEN_SHARE = 0.6;

    private static final double SEEN_SIGMA = 0.28;
    /** What a source gains on mere noise, since heat model and weights are fitted to it, nats. */
    private static final double FITTED_NATS = 4;

    /**
     * A place that may be anywhere always fits reflections and uneven copper better than a part does; this share of what
     * it gains over the best part speaks for something off the rail.
     */
    private static final double FREE_SHARE = 0.35;

    /** The clearer the heat, the more the model's own error decides: differences of likelihood are halved from here on. */
    private static final double PROUD_NATS = 500;
    /** How often the model misleads, and how far off the fault then lies. */
    private static final double WRONG_MODEL = 0.02;

    /** The same where a can hides the board and carries its heat about. */
    private static final double WRONG_UNDER_A_CAN = 0.35;

    private static final double WRONG_MODEL_MM = 1.5;

    private static final double TIP_FOOTPRINT_MM2 = 0.25;
    private static final double TIP_LAG_S = 0.1;
    private static final double STEP_MM = 0.25;
    private static final double WIDEST_STEP_MM = 0.8;
    private static final double FINE_STEP_MM = 0.1;
    private static final double LEAST_STEP_MM = 0.02;

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
        progress.at(0);
        String feed = input.injection().map(Injection::net).orElse(input.rail());
        Rail rail = Rail.between(input.board(), feed, input.rail());
        Optional<FaultResistance> resistance = FaultResistance.from(input.supplyLog(), input.injection(), rail);
        SlabParameters slab = SlabParameters.expected(input.board());
        Waveform waveform = Waveform.resistive(input.supplyLog());
        CapturePreparer preparer = new CapturePreparer(input.board(), slab, waveform, input.injection(), settings);
        List<Prepared> prepared = new ArrayList<>();
        for (LocateInput.Capture capture : input.captures()) {
            prepared.add(preparer.prepare(capture));
            progress.at(0.4 * prepared.size() / input.captures().size());
        }
        List<CaptureModel> models =
                prepared.stream().flatMap(p -> p.model().stream()).toList();
        List<Candidate> candidates = Candidates.on(input.board(), rail, input.observations(), input.leaning());
        Search search = new Search(input, rail, resistance, prepared, models, candidates, slab);
        return search.run(progress);
    }

    /** One search. */
    private final class Search {
        private final LocateInput input;
        private final Rail rail;
        private final Optional<FaultResistance> resistance;
        private final List<Prepared> prepared;
        private List<CaptureModel> models;
        private final List<Candidate> candidates;
        private final List<Nuisance> nuisances;
        private final Expected expected;
        private final SlabParameters slab;
        private HeatModel model;

        Search(
                LocateInput input,
                Rail rail,
                Optional<FaultResistance> resistance,
                List<Prepared> prepared,
                List<CaptureModel> models,
                List<Candidate> candidates,
                SlabParameters slab) {
            this.input = input;
            this.rail = rail;
            this.resistance = resistance;
            this.prepared = prepared;
            this.models = models;
            this.candidates = candidates;
            this.slab = slab;
            this.model = HeatModel.of(slab);
            this.nuisances = nuisances();
            this.expected = expected();
        }

        LocateResult run(Progress progress) {
            if (models.isEmpty() || candidates.isEmpty()) {
                return nothing();
            }
            Map<Side, ModelRefiner.Refined> refined = new EnumMap<>(Side.class);
            for (Side side : Side.values()) {
                refined.put(side, ModelRefiner.Refined.expected(slab));
            }
            Side leading = models.get(0).side();
            SidedFit fit = new SidedFit(binned(FEW_PIXELS), nuisances, expected, refined, leading);
            Spotted[] spotted = new Spotted[candidates.size()];
            score(fit, spotted, i -> true);
            progress.at(0.55);
            for (int round = 0; round < ROUNDS; round++) {
                HeatSource source = spotted[best(spotted)].source();
                model = refined.get(source.side()).model();
                models = new MovieFit(models, nuisances, expected, model).reweighed(source);
                List<CaptureModel> few = binned(FEW_PIXELS);
                settleNuisances(few, source);
                refineBothSides(few, spotted, refined);
                leading = source.side();
                fit = new SidedFit(binned(COARSE_PIXELS), nuisances, expected, refined, leading);
                score(fit, spotted, hopeful(spotted));
                progress.at(0.55 + 0.15 * (round + 1));
            }
            SidedFit coarse = fit;
            leading = spotted[best(spotted)].source().side();
            model = refined.get(leading).model();
            fit = new SidedFit(models, nuisances, expected, refined, leading);
            sharpen(fit, spotted);
            double[] logLikelihood = closeLook(coarse, fit, spotted);
            progress.at(0.95);
            FreeSource free = freeSource(coarse, fit, spotted, logLikelihood);
            LocateResult result = judge(fit, spotted, logLikelihood, free);
            progress.at(1);
            return result;
        }

        /** Shapes each side's model round its best candidate; a side that is far behind takes the other's. */
        private void refineBothSides(
                List<CaptureModel> few, Spotted[] spotted, Map<Side, ModelRefiner.Refined> refined) {
            int best = best(spotted);
            Side leading = spotted[best].source().side();
            int other = bestOn(spotted, leading.opposite());
            boolean rivals = other >= 0 && spotted[other].logLikelihood() > RIVAL_SHARE * spotted[best].logLikelihood();
            List<Integer> shaped = rivals ? List.of(best, other) : List.of(best);
            List<ModelRefiner.Refined> found = shaped.parallelStream()
                    .map(i -> ModelRefiner.refine(
                            few,
                            local(),
                            expected,
                            HeatModel.of(slab),
                            spotted[i].source(),
                            refined.get(spotted[i].source().side()).point()))
                    .toList();
            refined.put(leading, found.get(0));
            refined.put(leading.opposite(), found.get(rivals ? 1 : 0));
        }

        private int bestOn(Spotted[] spotted, Side side) {
            return IntStream.range(0, spotted.length)
                    .filter(i -> spotted[i].source().side() == side)
                    .boxed()
                    .max(Comparator.comparingDouble(i -> spotted[i].logLikelihood()))
                    .orElse(-1);
        }

        private List<CaptureModel> binned(int pixels) {
            return models.stream().map(m -> m.binned(pixels)).toList();
        }

        /** Nuisances that matter to the shape of a heat spot. */
        private List<Nuisance> local() {
            return nuisances.stream().filter(n -> n.kind() != Kind.COPPER).toList();
        }

        /** A candidate's most likely spot. The score is net of the choice among spots. */
        private record Spotted(HeatSource source, double logLikelihood) {}

        private void score(SidedFit fit, Spotted[] spotted, IntPredicate which) {
            IntStream.range(0, spotted.length)
                    .filter(which)
                    .parallel()
                    .forEach(i -> spotted[i] = spotted(fit, candidates.get(i)));
        }

        /** Those not so far behind that a better heat model could still bring them to the fore. */
        private IntPredicate hopeful(Spotted[] spotted) {
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

        private Spotted spotted(SidedFit fit, Candidate candidate) {
            List<HeatSource> spots = candidate.spots();
            double choice = CHOICE_NATS * Math.log(spots.size());
            return spots.stream()
                    .map(source -> {
                        Score score = fit.score(source);
                        return new Spotted(source, score.logLikelihood() - choice);
                    })
                    .max(Comparator.comparingDouble(Spotted::logLikelihood))
                    .orElseThrow();
        }

        /** Scores the contenders once more, on the finer picture. The rest keep the score of the coarser one. */
        private void sharpen(SidedFit fit, Spotted[] spotted) {
            double top = Arrays.stream(spotted)
                    .mapToDouble(Spotted::logLikelihood)
                    .max()
                    .orElse(0);
            double margin = Math.max(CONTENDER_NATS, CONTENDER_SHARE * top);
            IntStream.range(0, spotted.length)
                    .parallel()
                    .filter(i -> spotted[i].logLikelihood() > top - margin)
                    .forEach(i -> {
                        double choice =
                                CHOICE_NATS * Math.log(candidates.get(i).spots().size());
                        Score score = fit.score(spotted[i].source());
                        spotted[i] = new Spotted(spotted[i].source(), score.logLikelihood() - choice);
                    });
        }

        private int best(Spotted[] spotted) {
            return IntStream.range(0, spotted.length)
                    .boxed()
                    .max(Comparator.comparingDouble(i -> spotted[i].logLikelihood()
                            + Math.log(candidates.get(i).prior())))
                    .orElseThrow();
        }

        private double placeSigmaMm(Candidate candidate) {
            double registration = registrationSigmaMm();
            return Math.sqrt(registration * registration
                    + MODEL_SHIFT_MM * MODEL_SHIFT_MM
                    + candidate.spotSigmaMm() * candidate.spotSigmaMm());
        }

        private double registrationSigmaMm() {
            return prepared.stream()
                    .mapToDouble(p -> p.registration().sigmaMm())
                    .min()
                    .orElse(0.5);
        }

        /**
         * The leading candidates once more, each allowed the shift that registration and copper leave open. The shift is
         * sought on the coarser picture and weighed on the finer one.
         */
        private double[] closeLook(SidedFit coarse, SidedFit fine, Spotted[] spotted) {
            double[] values =
                    Arrays.stream(spotted).mapToDouble(Spotted::logLikelihood).toArray();
            double top = Arrays.stream(values).max().orElse(0);
            double[] improved = values.clone();
            IntStream.range(0, values.length)
                    .boxed()
                    .sorted(Comparator.comparingDouble(i -> -values[i]))
                    .limit(CLOSE_LOOK_MAX)
                    .filter(i -> values[i] > top - Math.max(CLOSE_LOOK_NATS, CLOSE_LOOK_SHARE * top))
                    .toList()
                    .parallelStream()
                    .forEach(i -> {
                        HeatSource source = spotted[i].source();
                        double sigma = placeSigmaMm(candidates.get(i));
                        Shift shift = shifted(
                                coarse::score, source, coarse.score(source).logLikelihood(), sigma);
                        double choice = fine.score(source).logLikelihood() - values[i];
                        double shifted = penalised(fine::score, source, shift.dxMm(), shift.dyMm(), sigma);
                        improved[i] = Math.max(values[i], shifted - choice);
                    });
            return improved;
        }

        /** Likelihood times the shift's prior, at the best shift: two guarded Newton steps on a quadratic stencil. */
        private record Shift(double dxMm, double dyMm, double logLikelihood) {}

        private Shift shifted(Function<HeatSource, Score> fit, HeatSource source, double centre, double sigmaMm) {
            double choice = fit.apply(source).logLikelihood() - centre;
            double x = 0;
            double y = 0;
            double value = centre + choice;
            for (int step = 0; step < NEWTON_STEPS; step++) {
                double h = STEP_MM;
                double px = penalised(fit, source, x + h, y, sigmaMm);
                double mx = penalised(fit, source, x - h, y, sigmaMm);
                double py = penalised(fit, source, x, y + h, sigmaMm);
                double my = penalised(fit, source, x, y - h, sigmaMm);
                double gx = (px - mx) / (2 * h);
                double gy = (py - my) / (2 * h);
                double floor = 1 / (sigmaMm * sigmaMm);
                double cx = Math.max(floor, (2 * value - px - mx) / (h * h));
                double cy = Math.max(floor, (2 * value - py - my) / (h * h));
                double nx = x + limited(gx / cx, 2 * sigmaMm);
                double ny = y + limited(gy / cy, 2 * sigmaMm);
                double next = penalised(fit, source, nx, ny, sigmaMm);
                double[][] tried = {{nx, ny, next}, {x + h, y, px}, {x - h, y, mx}, {x, y + h, py}, {x, y - h, my}};
                for (double[] t : tried) {
                    if (t[2] > value) {
                        x = t[0];
                        y = t[1];
                        value = t[2];
                    }
                }
            }
            return new Shift(x, y, value - choice);
        }

        private static double limited(double value, double most) {
            return Math.max(-most, Math.min(most, value));
        }

        private double penalised(
                Function<HeatSource, Score> fit, HeatSource source, double dx, double dy, double sigmaMm) {
            return fit.apply(source.moved(dx, dy)).logLikelihood() - (dx * dx + dy * dy) / (2 * sigmaMm * sigmaMm);
        }

        private record FreeSource(HeatSource source, double logLikelihood, double[][] covariance) {}

        /** The best place on the best candidate's side, whatever stands there. */
        private FreeSource freeSource(SidedFit coarse, SidedFit fine, Spotted[] spotted, double[] logLikelihood) {
            int best = 0;
            for (int i = 1; i < logLikelihood.length; i++) {
                if (logLikelihood[i] > logLikelihood[best]) {
                    best = i;
                }
            }
            HeatSource near = climbed(coarse, spotted[best].source(), WIDEST_STEP_MM, FINE_STEP_MM);
            HeatSource at = climbed(fine, near, FINE_STEP_MM, LEAST_STEP_MM);
            double value = fine.score(at).logLikelihood();
            return new FreeSource(at, value, covariance(fine, at, value));
        }

        /** Goes up the likelihood along the axes, by ever smaller steps. */
        private static HeatSource climbed(SidedFit fit, HeatSource from, double widestMm, double leastMm) {
            HeatSource at = from;
            double value = fit.score(at).logLikelihood();
            double step = widestMm;
            for (int i = 0; i < 40 && step > leastMm; i++) {
                HeatSource centre = at;
                double s = step;
                List<HeatSource> tried =
                        List.of(centre.moved(s, 0), centre.moved(-s, 0), centre.moved(0, s), centre.moved(0, -s));
                double[] reached = tried.parallelStream()
                        .mapToDouble(t -> fit.score(t).logLikelihood())
                        .toArray();
                boolean moved = false;
                for (int t = 0; t < reached.length; t++) {
                    if (reached[t] > value + 1e-6) {
                        value = reached[t];
                        at = tried.get(t);
                        moved = true;
                    }
                }
                if (!moved) {
                    step /= 2;
                }
            }
            return at;
        }

        private double[][] covariance(SidedFit fit, HeatSource at, double value) {
            double h = STEP_MM;
            double[][] offsets = {{h, 0}, {-h, 0}, {0, h}, {0, -h}, {h, h}, {-h, -h}, {h, -h}, {-h, h}};
            double[] v = Arrays.stream(offsets)
                    .parallel()
                    .mapToDouble(o -> fit.score(at.moved(o[0], o[1])).logLikelihood())
                    .toArray();
            double xx = (2 * value - v[0] - v[1]) / (h * h);
            double yy = (2 * value - v[2] - v[3]) / (h * h);
            double xy = -(v[4] + v[5] - v[6] - v[7]) / (4 * h * h);
            xx = Math.max(xx, 1e-3);
            yy = Math.max(yy, 1e-3);
            xy = limited(xy, 0.98 * Math.sqrt(xx * yy));
            double det = xx * yy - xy * xy;
            return new double[][] {{yy / det, -xy / det}, {-xy / det, xx / det}};
        }

        private LocateResult judge(SidedFit fit, Spotted[] spotted, double[] logLikelihood, FreeSource free) {
            double priorSum = candidates.stream().mapToDouble(Candidate::prior).sum();
            double share = 1 - settings.nonePrior() - settings.elsewherePrior();
            int n = candidates.size();
            double[] log = new double[n + 2];
            double top = Arrays.stream(logLikelihood).max().orElse(0);
            double proud = 1 + Math.max(0, top) / PROUD_NATS;
            for (int i = 0; i < n; i++) {
                log[i] = top
                        - (top - logLikelihood[i]) / proud
                        - FITTED_NATS
                        + Math.log(share * candidates.get(i).prior() / priorSum);
            }
            log[n] = Math.log(settings.nonePrior());
            double width =
                    input.board().outline().maxXMm() - input.board().outline().minXMm();
            double height =
                    input.board().outline().maxYMm() - input.board().outline().minYMm();
            double spread = Math.sqrt(
                    free.covariance[0][0] * free.covariance[1][1] - free.covariance[0][1] * free.covariance[1][0]);
            double elsewhere = top + FREE_SHARE * (free.logLikelihood - top) / proud;
            log[n + 1] = elsewhere
                    - FITTED_NATS
                    + Math.log(settings.elsewherePrior() * Math.min(1, Math.PI * spread / (width * height)));
            double[] p = allowingForAWrongModel(normalised(log), free.source);
            List<Suspect> suspects = IntStream.range(0, n)
                    .boxed()
                    .sorted(Comparator.comparingDouble(i -> -p[i]))
                    .limit(MAX_SUSPECTS)
                    .map(i -> suspect(i, p[i], free))
                    .toList();
            Verdict verdict = verdict(p[n], suspects.get(0));
            Score freeScore = fit.score(free.source);
            Optional<SourceEstimate> source =
                    verdict == Verdict.NONE ? Optional.empty() : Optional.of(estimate(free, freeScore));
            return new LocateResult(
                    verdict,
                    suspects,
                    p[n],
                    p[n + 1],
                    source,
                    resistance,
                    warnings(verdict, suspects, free, freeScore, fit),
                    findings(),
                    model.slab(),
                    model.offsetS(),
                    heats(fit, spotted, suspects, free));
        }

        /** The leading suspects, each with the watts that suit it best, and the nuisances as the free source leaves them. */
        private List<FittedHeat> heats(SidedFit fit, Spotted[] spotted, List<Suspect> suspects, FreeSource free) {
            List<FittedHeat> heats = new ArrayList<>();
            for (Suspect suspect : suspects.subList(0, Math.min(DRAWN_SUSPECTS, suspects.size()))) {
                for (int i = 0; i < spotted.length; i++) {
                    if (candidates.get(i).part().ref().equals(suspect.part().ref())) {
                        HeatSource at = spotted[i].source();
                        heats.add(heat(
                                suspect.part().ref(), true, at, fit.score(at).watts()));
                    }
                }
            }
            double[] watts = fit.amplitudes(free.source);
            for (int i = 0; i < nuisances.size(); i++) {
                List<HeatSource> sources = nuisances.get(i).sources();
                for (HeatSource source : sources) {
                    heats.add(heat(nuisances.get(i).what(), false, source, watts[i] / sources.size()));
                }
            }
            return heats;
        }

        private FittedHeat heat(String what, boolean suspect, HeatSource at, double watts) {
            return new FittedHeat(
                    what,
                    suspect,
                    at.xMm(),
                    at.yMm(),
                    at.side(),
                    at.footprintMm2(),
                    at.lagS() * model.lagFactor(),
                    watts);
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
            double wrong = underACan(at) ? WRONG_UNDER_A_CAN : WRONG_MODEL;
            for (int i = 0; i < n && sum > 0; i++) {
                p[i] = (1 - wrong) * p[i] + wrong * parts * near[i] / sum;
            }
            return p;
        }

        /** Whether a can that a camera looked at stands over the place or beside it. */
        private boolean underACan(HeatSource at) {
            return input.board().parts().stream()
                    .filter(p -> p.kind() == PartKind.SHIELD && models.stream().anyMatch(m -> m.side() == p.side()))
                    .anyMatch(p -> p.covers(at.xMm(), at.yMm(), WRONG_MODEL_MM));
        }

        /**
         * A part is acted on when being wrong would cost less, on the whole, than another look. One that was seen only
         * through the board is not: turn it over first.
         */
        private Verdict verdict(double none, Suspect first) {
            if (none >= 0.5) {
                return Verdict.NONE;
            }
            boolean seen =
                    models.stream().anyMatch(m -> m.side() == first.part().side());
            double from = Math.max(
                    settings.partFrom(),
                    RemovalCost.on(input.board(), first.part()).probabilityFrom());
            return seen && first.probability() >= from ? Verdict.PART : Verdict.AREA;
        }

        private Suspect suspect(int i, double probability, FreeSource free) {
            Part part = candidates.get(i).part();
            return new Suspect(
                    part, probability, Math.hypot(part.xMm() - free.source.xMm(), part.yMm() - free.source.yMm()));
        }

        private SourceEstimate estimate(FreeSource free, Score score) {
            double extra = registrationSigmaMm();
            double xx = free.covariance[0][0] + extra * extra;
            double yy = free.covariance[1][1] + extra * extra;
            double xy = free.covariance[0][1];
            double mean = (xx + yy) / 2;
            double apart = Math.hypot((xx - yy) / 2, xy);
            return new SourceEstimate(
                    free.source.xMm(),
                    free.source.yMm(),
                    free.source.side(),
                    Math.sqrt(mean),
                    Math.sqrt(mean + apart),
                    Math.sqrt(Math.max(1e-6, mean - apart)),
                    Math.toDegrees(Math.atan2(2 * xy, xx - yy) / 2),
                    score.watts());
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

        private List<Nuisance> nuisances() {
            double amps2 = Math.pow(resistance.map(FaultResistance::amps).orElse(1.0), 2);
            List<Nuisance> list = new ArrayList<>();
            Optional<ProbePlace> at = input.injection().flatMap(Injection::at);
            Optional<ProbePlace> back = input.injection().flatMap(Injection::returnAt);
            at.ifPresent(place -> list.add(contact("lead", place, amps2)));
            back.ifPresent(place -> list.add(contact("return", place, amps2)));
            for (Part part : rail.path()) {
                double watts = amps2 * part.resistanceOhms().orElse(0);
                double sigma = part.resistanceOhms().isPresent() ? 0.3 * watts + 1e-5 : amps2 * CONTACT_OHMS;
                list.add(new Nuisance(
                        Kind.SERIES_PART, part.ref(), List.of(middle(new Candidate(part, 1))), watts, sigma));
            }
            if (at.isPresent() && back.isPresent()) {
                list.add(new Nuisance(
                        Kind.COPPER, "copper", between(at.get(), back.get()), 0, amps2 * COPPER_OHMS + 1e-5));
            }
            return list;
        }

        private List<HeatSource> between(ProbePlace from, ProbePlace to) {
            List<HeatSource> sources = new ArrayList<>();
            for (int i = 1; i <= COPPER_POINTS; i++) {
                double share = i / (COPPER_POINTS + 1.0);
                sources.add(new HeatSource(
                        from.xMm() + share * (to.xMm() - from.xMm()),
                        from.yMm() + share * (to.yMm() - from.yMm()),
                        from.side(),
                        COPPER_FOOTPRINT_MM2,
                        TIP_LAG_S));
            }
            return sources;
        }

        private static HeatSource middle(Candidate candidate) {
            return candidate
                    .spots()
                    .get(0)
                    .at(candidate.part().xMm(), candidate.part().yMm());
        }

        private Nuisance contact(String what, ProbePlace at, double amps2) {
            HeatSource source = new HeatSource(at.xMm(), at.yMm(), at.side(), TIP_FOOTPRINT_MM2, TIP_LAG_S);
            return new Nuisance(Kind.CONTACT, what, List.of(source), 0, amps2 * CONTACT_OHMS + 1e-5);
        }

        /** Contacts and series parts are where the board says, give or take the registration; the picture knows better. */
        private void settleNuisances(List<CaptureModel> few, HeatSource suspect) {
            for (int i = 0; i < nuisances.size(); i++) {
                Nuisance own = nuisances.get(i);
                if (own.kind() == Kind.COPPER) {
                    continue;
                }
                List<Nuisance> others = new ArrayList<>(local());
                others.remove(own);
                others.add(new Nuisance(
                        Kind.SUSPECT, "suspect", List.of(suspect), expected.watts(), expected.sigmaWatts()));
                MovieFit rest = new MovieFit(few, others, new Expected(own.priorWatts(), own.sigmaWatts()), model);
                HeatSource source = own.sources().get(0);
                double sigma = Math.hypot(registrationSigmaMm(), MODEL_SHIFT_MM);
                Shift shift = shifted(rest::score, source, rest.score(source).logLikelihood(), sigma);
                nuisances.set(i, own.moved(shift.dxMm(), shift.dyMm()));
            }
        }

        private Expected expected() {
            return resistance
                    .map(r -> new Expected(
                            SEEN_SHARE * r.watts(),
                            Math.hypot(SEEN_SIGMA * r.watts(), (r.wattsHigh() - r.watts()) / 2) + 1e-5))
                    .orElse(new Expected(0, 0.5));
        }

        private List<CaptureFinding> findings() {
            List<CaptureFinding> findings = new ArrayList<>();
            for (int i = 0; i < prepared.size(); i++) {
                Prepared p = prepared.get(i);
                findings.add(new CaptureFinding(input.captures().get(i).spec().id(), p.scan(), p.registration()));
            }
            return findings;
        }

        private LocateResult nothing() {
            return new LocateResult(
                    Verdict.NONE,
                    List.of(),
                    1,
                    0,
                    Optional.empty(),
                    resistance,
                    cameraAndSupplyWarnings(),
                    findings(),
                    model.slab(),
                    model.offsetS(),
                    List.of());
        }

        private Map<Warning, Double> warnings(
                Verdict verdict, List<Suspect> suspects, FreeSource free, Score freeScore, SidedFit fit) {
            Map<Warning, Double> warnings = cameraAndSupplyWarnings();
            boolean found = verdict != Verdict.NONE;
            if (!found && resistance.map(FaultResistance::explainedWithoutFault).orElse(false)) {
                warnings.put(
                        Warning.INJECTED_INTO_GROUND, resistance.orElseThrow().totalOhms());
            }
            if (!found || freeScore.snr() < MIN_SNR) {
                if (!warnings.containsKey(Warning.INJECTED_INTO_GROUND)) {
                    warnings.put(
                            Warning.TOO_LITTLE_POWER,
                            found
                                    ? freeScore.watts()
                                    : resistance.map(FaultResistance::watts).orElse(0.0));
                }
            }
            Side side = suspects.get(0).part().side();
            if (found && models.stream().noneMatch(m -> m.side() == side)) {
                warnings.put(Warning.OTHER_SIDE, suspects.get(0).probability());
            }
            double[] watts = fit.amplitudes(free.source);
            for (int i = 0; i < nuisances.size(); i++) {
                Kind kind = nuisances.get(i).kind();
                if (kind == Kind.CONTACT && found && watts[i] > freeScore.watts()) {
                    warnings.put(Warning.LEAD_IS_HOTTEST, watts[i]);
                } else if (kind == Kind.SERIES_PART && found && watts[i] > 0.5 * freeScore.watts()) {
                    warnings.put(Warning.SERIES_PART_WARM, watts[i]);
                }
            }
            double wire = prepared.stream().mapToDouble(Prepared::wireK).max().orElse(0);
            if (wire > 0 && !warnings.containsKey(Warning.LEAD_IS_HOTTEST) && !found) {
                warnings.put(Warning.LEAD_IS_HOTTEST, wire);
            }
            return warnings;
        }

        private Map<Warning, Double> cameraAndSupplyWarnings() {
            Map<Warning, Double> warnings = new EnumMap<>(Warning.class);
            for (Prepared p : prepared) {
                if (p.scan().shakePx() > MOVED_PX) {
                    warnings.merge(Warning.CAMERA_MOVED, p.scan().shakePx(), Math::max);
                }
                if (p.scan().driftK() > DRIFT_K) {
                    warnings.merge(Warning.CAMERA_DRIFT, p.scan().driftK(), Math::max);
                }
                if (p.scan().saturatedShare() > SATURATED_SHARE) {
                    warnings.merge(Warning.SATURATED, p.scan().saturatedShare(), Math::max);
                }
                if (p.registration().poor()) {
                    warnings.merge(Warning.REGISTRATION_POOR, p.registration().sigmaMm(), Math::max);
                }
            }
            List<OnSpan> on = input.supplyLog().onSpans();
            if (!on.isEmpty() && on.stream().allMatch(s -> s.amps() < FaultResistance.MIN_AMPS)) {
                warnings.put(Warning.NO_CONTACT, on.get(0).amps());
            }
            burst(warnings);
            return warnings;
        }

        /** A high current that shut itself off while the output stayed on. */
        private void burst(Map<Warning, Double> warnings) {
            double most = 0;
            double last = 0;
            for (var row : input.supplyLog().rows()) {
                if (row.output()) {
                    most = Math.max(most, row.amps());
                    last = row.amps();
                }
            }
            OptionalDouble limit = input.injection().map(Injection::limitAmps).orElse(OptionalDouble.empty());
            if (most > 20 * FaultResistance.MIN_AMPS && last < 0.1 * most && limit.isPresent()) {
                warnings.put(Warning.CURRENT_LIMITED_OUT, most);
            }
        }
    }

    /** Below this the source is hardly above the noise. */
    private static final double MIN_SNR = 8;

    private static final double MOVED_PX = 0.35;
    private static final double DRIFT_K = 0.25;
    private static final double SATURATED_SHARE = 1e-4;
}
