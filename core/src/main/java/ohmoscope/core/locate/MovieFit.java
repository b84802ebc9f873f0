package ohmoscope.core.locate;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.locate.CaptureModel.Column;

/**
 * The movie explained by the nuisance sources and one more, under one heat model. Building it costs one column per
 * nuisance; each {@link #score} costs one column: O(pixels × components). Safe for several threads once built.
 */
final class MovieFit {
    /**
     * Heat that leads, contacts, series parts and copper release, with what is known of it beforehand.
     *
     * @param what a part, or lead, return, copper
     * @param sources share the heat evenly; at least one
     */
    record Nuisance(Kind kind, String what, List<HeatSource> sources, double priorWatts, double sigmaWatts) {
        /** What it is. */
        enum Kind {
            CONTACT,
            SERIES_PART,
            COPPER,
            SUSPECT
        }

        Nuisance moved(double dxMm, double dyMm) {
            return new Nuisance(
                    kind, what, sources.stream().map(s -> s.moved(dxMm, dyMm)).toList(), priorWatts, sigmaWatts);
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
    private final List<List<Column>> columns = new ArrayList<>();
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
            List<Column> cs = new ArrayList<>();
            for (int i = 0; i < n; i++) {
                cs.add(capture.column(nuisances.get(i).sources(), t));
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

    /** Twice the log-likelihood that the nuisances alone gain over nothing. */
    double aloneGain() {
        return aloneGain;
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
            List<Column> all = new ArrayList<>(columns.get(c));
            all.add(captures.get(c).column(List.of(source), tables.get(c)));
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
            Column column = capture.column(List.of(source), tables.get(c));
            b[n] += capture.withData(column);
            g[n][n] += column.with(column);
            for (int i = 0; i < n; i++) {
                double product = columns.get(c).get(i).with(column);
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
