package ohmoscope.core.locate;

import java.util.ArrayList;
import java.util.List;

/**
 * The movie explained by the nuisance sources and one more, under one heat model. Building it costs one column per
 * nuisance; each {@link #score} costs one column: O(pixels × components). Safe for several threads once built.
 */
final class MovieFit {
    /**
     * Heat that leads, contacts, series parts and copper release, with what is known of it beforehand.
     *
     * @param sources share the heat evenly; at least one
     */
    record Nuisance(Kind kind, List<HeatSource> sources, double priorWatts, double sigmaWatts) {
        /** What it is. */
        enum Kind {
            CONTACT,
            SERIES_PART,
            COPPER,
            SUSPECT
        }

        Nuisance moved(double dxMm, double dyMm) {
            return new Nuisance(
                    kind, sources.stream().map(s -> s.moved(dxMm, dyMm)).toList(), priorWatts, sigmaWatts);
        }
    }

    /** Watts expected at the fault. */
    record Expected(double watts, double sigmaWatts) {}

    /**
     * @param logLikelihood gain over the nuisance sources alone, amplitude integrated out, nats
     * @param watts best amplitude of the added source
     * @param snr amplitude over its own standard error
     */
    record Score(double logLikelihood, double watts, double snr) {}

    private final List<CaptureModel> captures;
    private final List<ResponseTables> tables = new ArrayList<>();
    private final List<Nuisance> nuisances;
    private final Expected expected;
    private final List<float[][]> columns = new ArrayList<>();
    private final List<float[][]> weighted = new ArrayList<>();
    private final double[][] gram;
    private final double[] rhs;
    private final double[] alone;
    private final double aloneGain;

    MovieFit(List<CaptureModel> captures, List<Nuisance> nuisances, Expected expected, HeatModel model) {
        this.captures = captures;
        this.nuisances = nuisances;
        this.expected = expected;
        int n = nuisances.size();
        gram = new double[n][n];
        rhs = new double[n];
        for (CaptureModel capture : captures) {
            ResponseTables t = capture.tables(model);
            tables.add(t);
            float[][] cs = new float[n][];
            float[][] ws = new float[n][];
            for (int i = 0; i < n; i++) {
                cs[i] = column(capture, nuisances.get(i), t);
                ws[i] = capture.weighted(cs[i]);
                rhs[i] += capture.withData(cs[i]);
                for (int j = 0; j <= i; j++) {
                    double product = CaptureModel.product(ws[j], cs[i]);
                    gram[i][j] += product;
                    if (i != j) {
                        gram[j][i] += product;
                    }
                }
            }
            columns.add(cs);
            weighted.add(ws);
        }
        for (int i = 0; i < n; i++) {
            double precision = 1 / Math.pow(nuisances.get(i).sigmaWatts(), 2);
            gram[i][i] += precision;
            rhs[i] += nuisances.get(i).priorWatts() * precision;
        }
        alone = new double[n];
        aloneGain = NonNegativeFit.solve(gram, rhs, alone);
    }

    private static float[] column(CaptureModel capture, Nuisance nuisance, ResponseTables tables) {
        List<HeatSource> sources = nuisance.sources();
        float[] sum = capture.column(sources.get(0), tables);
        for (HeatSource source : sources.subList(1, sources.size())) {
            float[] more = capture.column(source, tables);
            for (int i = 0; i < sum.length; i++) {
                sum[i] += more[i];
            }
        }
        for (int i = 0; i < sum.length && sources.size() > 1; i++) {
            sum[i] /= sources.size();
        }
        return sum;
    }

    Score score(HeatSource source) {
        return fit(source).score();
    }

    /** Log-likelihood of everything together, against no source at all; for comparing heat models. */
    double total(HeatSource source) {
        return score(source).logLikelihood() + aloneGain / 2;
    }

    /** Each capture weighed again by what is left when the nuisances and the source are taken off. */
    List<CaptureModel> reweighed(HeatSource source) {
        double[] watts = amplitudes(source);
        List<CaptureModel> fresh = new ArrayList<>();
        for (int c = 0; c < captures.size(); c++) {
            float[][] all = java.util.Arrays.copyOf(columns.get(c), nuisances.size() + 1);
            all[nuisances.size()] = captures.get(c).column(source, tables.get(c));
            fresh.add(captures.get(c).reweighed(all, watts));
        }
        return fresh;
    }

    /** Best amplitudes with the source added, nuisances first, watts. */
    double[] amplitudes(HeatSource source) {
        return fit(source).amplitudes();
    }

    private record Fit(Score score, double[] amplitudes) {}

    private Fit fit(HeatSource source) {
        int n = nuisances.size();
        double[][] g = new double[n + 1][n + 1];
        double[] b = new double[n + 1];
        for (int i = 0; i < n; i++) {
            System.arraycopy(gram[i], 0, g[i], 0, n);
            b[i] = rhs[i];
        }
        for (int c = 0; c < captures.size(); c++) {
            CaptureModel capture = captures.get(c);
            float[] column = capture.column(source, tables.get(c));
            b[n] += capture.withData(column);
            g[n][n] += capture.square(column);
            for (int i = 0; i < n; i++) {
                double product = CaptureModel.product(weighted.get(c)[i], column);
                g[n][i] += product;
                g[i][n] += product;
            }
        }
        double dataPrecision = g[n][n];
        double precision = 1 / (expected.sigmaWatts() * expected.sigmaWatts());
        g[n][n] += precision;
        b[n] += expected.watts() * precision;
        double[] amplitudes = java.util.Arrays.copyOf(alone, n + 1);
        double gain =
                NonNegativeFit.solve(g, b, amplitudes) - aloneGain - expected.watts() * expected.watts() * precision;
        double occam = 0.5 * Math.log(precision / g[n][n]);
        return new Fit(
                new Score(gain / 2 + occam, amplitudes[n], amplitudes[n] * Math.sqrt(Math.max(0, dataPrecision))),
                amplitudes);
    }
}
