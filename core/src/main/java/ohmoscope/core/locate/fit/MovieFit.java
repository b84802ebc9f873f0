package ohmoscope.core.locate.fit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CaptureModel.Column;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.model.OwnWarmth;
import ohmoscope.core.locate.model.ResponseTables;
import ohmoscope.core.locate.model.SourceProducts;

/**
 * The movie explained by the nuisance sources and one more, under one heat model. Building it costs one column per
 * nuisance; each {@link #score} costs one column: O(pixels × components). Safe for several threads once built.
 */
public final class MovieFit {
    /**
     * Heat that leads, contacts, series parts and copper release, with what is known of it beforehand.
     *
     * @param what a part, or lead, return, copper
     * @param sources share the heat evenly; at least one
     */
    public record Nuisance(Kind kind, String what, List<HeatSource> sources, double priorWatts, double sigmaWatts) {
        /** What it is. */
        public enum Kind {
            CONTACT,
            SERIES_PART,
            COPPER,
            SUSPECT
        }

        public Nuisance moved(double dxMm, double dyMm) {
            return new Nuisance(
                    kind, what, sources.stream().map(s -> s.moved(dxMm, dyMm)).toList(), priorWatts, sigmaWatts);
        }
    }

    /** Between a body and its board, roughly: solder at its ends, and what lies under it. */
    private static final double CONTACT_W_PER_K = 0.02;

    private static final double CONTACT_W_PER_MM2_K = 2e-3;

    /** How far a source's watts may be above what suits them best when they say how warm its body may be, deviations. */
    private static final double WATTS_DOUBT = 0.5;

    /** How often a body in which heat is released can be seen to stand above its board. */
    private static final double OWN_SHARE = 0.3;

    /** So few sources a core are faster one by one. */
    private static final int FEW_SOURCES = 24;

    private static final int CORES = Runtime.getRuntime().availableProcessors();

    /**
     * @param logLikelihood gain over the nuisance sources alone, amplitude integrated out, nats
     * @param watts best amplitude of the added source
     * @param sigmaWatts its standard error; infinite where the frames tell nothing of it
     */
    public record Score(double logLikelihood, double watts, double sigmaWatts) {
        /** Amplitude over its own standard error. */
        public double snr() {
            return watts / sigmaWatts;
        }
    }

    private final List<CaptureModel> captures;
    private final List<ResponseTables> tables;
    private final List<Nuisance> nuisances;
    private final WattsPrior expected;
    private final HeatModel model;
    private final List<List<Column>> columns;
    private final double[][] gram;
    private final double[] rhs;
    private final double[] alone;
    private final double aloneGain;

    public MovieFit(List<CaptureModel> captures, List<Nuisance> nuisances, WattsPrior expected, HeatModel model) {
        this.captures = captures;
        this.nuisances = nuisances;
        this.expected = expected;
        this.model = model;
        tables = new ArrayList<>();
        columns = new ArrayList<>();
        int n = nuisances.size();
        gram = new double[n][n];
        rhs = new double[n];
        for (CaptureModel capture : captures) {
            ResponseTables t = capture.tables(model.by(tables.size()));
            tables.add(t);
            List<Column> cs = nuisances.parallelStream()
                    .map(nuisance -> capture.column(nuisance.sources(), t))
                    .toList();
            for (int i = 0; i < n; i++) {
                rhs[i] += capture.withData(cs.get(i));
                for (int j = 0; j <= i; j++) {
                    double product = cs.get(j).with(cs.get(i));
                    gram[i][j] += product;
                    if (i != j) {
                        gram[j][i] += product;
                    }
                }
            }
            columns.add(cs);
        }
        for (int i = 0; i < n; i++) {
            double precision = 1 / Math.pow(nuisances.get(i).sigmaWatts(), 2);
            gram[i][i] += precision;
            rhs[i] += nuisances.get(i).priorWatts() * precision;
        }
        alone = new double[n];
        aloneGain = NonNegativeFit.solve(gram, rhs, alone);
    }

    private MovieFit(MovieFit like, HeatModel ofTheSource) {
        captures = like.captures;
        nuisances = like.nuisances;
        expected = like.expected;
        model = ofTheSource;
        tables = IntStream.range(0, captures.size())
                .mapToObj(c -> captures.get(c).tables(ofTheSource.by(c)))
                .toList();
        columns = like.columns;
        gram = like.gram;
        rhs = like.rhs;
        alone = like.alone;
        aloneGain = like.aloneGain;
    }

    /** The same fit, but that the source's own core is sharp. */
    public MovieFit sharp() {
        return new MovieFit(this, model.sharp());
    }

    /** Twice the log-likelihood that the nuisances alone gain over nothing. */
    public double aloneGain() {
        return aloneGain;
    }

    /**
     * The same as {@link #score} for many sources, worked out together on all cores.
     *
     * @return one a source, in their order
     */
    public List<Score> scores(List<HeatSource> sources) {
        if (sources.size() < CORES * FEW_SOURCES) {
            return sources.parallelStream().map(this::score).toList();
        }
        int most = Math.min(SourceBatch.MOST, (sources.size() + CORES - 1) / CORES);
        return IntStream.range(0, (sources.size() + most - 1) / most)
                .parallel()
                .mapToObj(i -> sources.subList(i * most, Math.min(sources.size(), (i + 1) * most)))
                .flatMap(this::batch)
                .toList();
    }

    private Stream<Score> batch(List<HeatSource> sources) {
        List<List<SourceProducts>> byCapture = new ArrayList<>();
        for (int c = 0; c < captures.size(); c++) {
            byCapture.add(SourceBatch.of(captures.get(c), sources, tables.get(c), columns.get(c)));
        }
        return IntStream.range(0, sources.size())
                .mapToObj(i -> solved(
                                sources.get(i),
                                byCapture.stream()
                                        .map(products -> products.get(i))
                                        .toList())
                        .score());
    }

    public Score score(HeatSource source) {
        return solved(source).score();
    }

    /** Log-likelihood of everything together, against no source at all; for comparing heat models. */
    public double total(HeatSource source) {
        return score(source).logLikelihood() + aloneGain / 2;
    }

    /**
     * What the nuisances and the source together make of the frames at their best amplitudes.
     *
     * @param columns one a capture
     * @param logLikelihood as {@link #total}
     */
    public record Explained(List<Column> columns, double logLikelihood) {
        /** The weighted product over all captures. */
        static double product(List<Column> a, List<Column> b) {
            double sum = 0;
            for (int c = 0; c < a.size(); c++) {
                sum += a.get(c).with(b.get(c));
            }
            return sum;
        }
    }

    public Explained explained(HeatSource source) {
        Fit fit = fit(source);
        Solved solved = fit.solved();
        List<Column> explained = new ArrayList<>();
        for (int c = 0; c < captures.size(); c++) {
            CaptureModel capture = captures.get(c);
            List<Column> all = new ArrayList<>(columns.get(c));
            all.add(fit.own().get(c));
            explained.add(
                    capture.together(all, solved.amplitudes(), fit.warmth().get(c), solved.bodyK()));
        }
        return new Explained(explained, solved.score().logLikelihood() + aloneGain / 2);
    }

    /** Each capture weighed again by what is left when the nuisances and the source are taken off. */
    public List<CaptureModel> reweighed(HeatSource source) {
        List<Column> explained = explained(source).columns();
        List<CaptureModel> fresh = new ArrayList<>();
        for (int c = 0; c < captures.size(); c++) {
            fresh.add(captures.get(c).reweighed(explained.get(c), source));
        }
        return fresh;
    }

    /** How the source suits the movie best. */
    public Solved solved(HeatSource source) {
        return fit(source).solved();
    }

    /**
     * @param amplitudes best ones, nuisances first, watts
     * @param bodyK how far the source's own body looks above its board, kelvin in the end; 0 where no difference is seen
     */
    public record Solved(Score score, double[] amplitudes, double bodyK) {}

    /**
     * @param own the source's column of each capture
     * @param warmth its body's, likewise
     */
    private record Fit(Solved solved, List<Column> own, List<Optional<OwnWarmth>> warmth) {}

    private Fit fit(HeatSource source) {
        List<Column> own = new ArrayList<>();
        List<Optional<OwnWarmth>> warmth = new ArrayList<>();
        List<SourceProducts> products = new ArrayList<>();
        for (int c = 0; c < captures.size(); c++) {
            CaptureModel capture = captures.get(c);
            own.add(capture.column(List.of(source), tables.get(c)));
            warmth.add(capture.ownWarmth(source, tables.get(c)));
            products.add(capture.products(own.get(c), warmth.get(c), columns.get(c)));
        }
        return new Fit(solved(source, products), own, warmth);
    }

    /** @param products one a capture */
    private Solved solved(HeatSource source, List<SourceProducts> products) {
        SourceEquations equations = new SourceEquations(gram, rhs, expected);
        products.forEach(equations::add);
        double dataPrecision = equations.sourcePrecision();
        double[] plain = Arrays.copyOf(alone, nuisances.size() + 1);
        double value = equations.evidence(plain) - aloneGain / 2;
        if (!equations.seesOwnBody()) {
            return new Solved(score(value, plain, dataPrecision), plain, 0);
        }
        int last = plain.length - 1;
        double perKelvin = wattsPerKelvin(source);
        double widestK = (expected.mean() + expected.sigma()) / perKelvin;
        // All watts of the source pass from its body into the board, so these say how far it may stand above that.
        double wattsSigma = 1 / Math.sqrt(Math.max(0, dataPrecision));
        Differing widest = differing(equations, plain, widestK);
        double allowedK = (widest.amplitudes()[last] + WATTS_DOUBT * wattsSigma) / perKelvin;
        Differing body = allowedK < widestK ? differing(equations, plain, allowedK) : widest;
        boolean differs = body.logLikelihood() > value;
        double[] amplitudes = differs ? body.amplitudes() : plain;
        double both = either(value, body.logLikelihood());
        return new Solved(score(both, amplitudes, dataPrecision), amplitudes, differs ? body.kelvin() : 0);
    }

    /** A fit whose source's own body stands above its board, or below. @param kelvin so much */
    private record Differing(double logLikelihood, double[] amplitudes, double kelvin) {}

    /** @param sigmaK how far the body may differ, one deviation */
    private Differing differing(SourceEquations equations, double[] plain, double sigmaK) {
        double precision = 1 / (sigmaK * sigmaK);
        SourceEquations free = equations.bodySolved(precision);
        double[] amplitudes = plain.clone();
        double evidence = free.evidence(amplitudes) + (free.bodyGain(precision) - aloneGain) / 2;
        return new Differing(evidence, amplitudes, free.bodyK(amplitudes));
    }

    private static Score score(double logLikelihood, double[] amplitudes, double precision) {
        double watts = amplitudes[amplitudes.length - 1];
        return new Score(logLikelihood, watts, 1 / Math.sqrt(Math.max(0, precision)));
    }

    /** Log-likelihood when a body may or may not differ from its board. */
    private static double either(double plain, double differing) {
        double top = Math.max(plain, differing);
        return top + Math.log((1 - OWN_SHARE) * Math.exp(plain - top) + OWN_SHARE * Math.exp(differing - top));
    }

    /** Between a source's body and its board: solder, and the air beneath it. */
    private static double wattsPerKelvin(HeatSource source) {
        double area = source.body().map(p -> p.wMm() * p.hMm()).orElse(1.0);
        return CONTACT_W_PER_K + CONTACT_W_PER_MM2_K * area;
    }
}
