package ohmoscope.core.locate.fit;

import java.util.Arrays;
import java.util.stream.IntStream;
import ohmoscope.core.locate.model.SourceProducts;

/**
 * The normal equations of the nuisances, one more source, and how far that source's own body differs from its board.
 * The body's kelvin may have either sign (a shiny one looks cooler), so it is solved for and put back.
 */
public final class SourceEquations {
    /** Frames that say nothing of a source's watts leave the likelihood this much curvature, relative to the prior's. */
    private static final double LEAST_OWN = 1e-6;

    private final int n;
    private final double[][] gram;
    private final double[] rhs;
    private final double[] own;
    private final WattsPrior expected;
    private double ownSquare;
    private double ownData;

    /**
     * @param nuisanceGram priors included
     * @param nuisanceRhs likewise
     * @param expected the source's watts; a normal prior stands for it in the equations
     */
    public SourceEquations(double[][] nuisanceGram, double[] nuisanceRhs, WattsPrior expected) {
        this.expected = expected;
        n = nuisanceRhs.length;
        gram = new double[n + 1][];
        for (int i = 0; i < n; i++) {
            gram[i] = Arrays.copyOf(nuisanceGram[i], n + 1);
        }
        gram[n] = new double[n + 1];
        rhs = Arrays.copyOf(nuisanceRhs, n + 1);
        own = new double[n + 1];
        gram[n][n] = expected.precision();
        rhs[n] = expected.mean() * expected.precision();
    }

    private SourceEquations(int n, double[][] gram, double[] rhs, double[] own, WattsPrior expected) {
        this.expected = expected;
        this.n = n;
        this.gram = gram;
        this.rhs = rhs;
        this.own = own;
    }

    /** What one capture says. */
    public void add(SourceProducts products) {
        rhs[n] += products.data();
        gram[n][n] += products.square();
        for (int i = 0; i < n; i++) {
            gram[n][i] += products.nuisances()[i];
            gram[i][n] += products.nuisances()[i];
        }
        products.own().ifPresent(body -> {
            ownSquare += body.square();
            ownData += body.data();
            for (int i = 0; i < n; i++) {
                own[i] += body.nuisances()[i];
            }
            own[n] += body.source();
        });
    }

    /** Inverse variance of the source's watts as the frames alone tell it. */
    public double sourcePrecision() {
        return gram[n][n] - expected.precision();
    }

    public boolean seesOwnBody() {
        return ownSquare > 0;
    }

    /**
     * The same with the body's kelvin solved for: where it is left out, it says nothing.
     *
     * @param precision of what is known of it beforehand, about nothing
     */
    public SourceEquations bodySolved(double precision) {
        double square = ownSquare + precision;
        double[][] g = new double[n + 1][n + 1];
        double[] b = new double[n + 1];
        for (int i = 0; i <= n; i++) {
            b[i] = rhs[i] - own[i] * ownData / square;
            for (int j = 0; j <= n; j++) {
                g[i][j] = gram[i][j] - own[i] * own[j] / square;
            }
        }
        SourceEquations solved = new SourceEquations(n, g, b, own, expected);
        solved.ownSquare = square;
        solved.ownData = ownData;
        return solved;
    }

    /** Twice what the body's kelvin gains by itself, amplitude integrated out. @param precision as before */
    public double bodyGain(double precision) {
        return ownData * ownData / ownSquare + Math.log(precision / ownSquare);
    }

    /** Its kelvin at such amplitudes. */
    public double bodyK(double[] amplitudes) {
        double kelvin = ownData;
        for (int i = 0; i <= n; i++) {
            kelvin -= own[i] * amplitudes[i];
        }
        return kelvin / ownSquare;
    }

    /**
     * Log-likelihood of everything together, against nothing, the nuisances at their best and the source's watts
     * integrated out under their own prior, not the normal one that stands for it.
     *
     * @param amplitudes start and result, nuisances first
     */
    public double evidence(double[] amplitudes) {
        double gain = NonNegativeFit.solve(gram, rhs, amplitudes);
        double watts = amplitudes[n];
        double precision = expected.precision();
        double value = gain / 2 - precision * watts * (expected.mean() - watts / 2);
        double slope = rhs[n] - precision * (expected.mean() - watts);
        for (int j = 0; j <= n; j++) {
            slope -= gram[n][j] * amplitudes[j];
        }
        double curvature = Math.max(LEAST_OWN * precision, ownPrecision(amplitudes) - precision);
        return expected.logEvidence(watts, value, slope, curvature);
    }

    /** Of the source's watts when the nuisances that warm at all are free to make room for it, by elimination. */
    private double ownPrecision(double[] amplitudes) {
        int[] warm = IntStream.rangeClosed(0, n)
                .filter(i -> i == n || amplitudes[i] > 0)
                .toArray();
        int last = warm.length - 1;
        double[][] left = new double[warm.length][warm.length];
        for (int i = 0; i <= last; i++) {
            for (int j = 0; j <= last; j++) {
                left[i][j] = gram[warm[i]][warm[j]];
            }
        }
        for (int i = 0; i < last; i++) {
            for (int row = i + 1; row <= last; row++) {
                double by = left[row][i] / left[i][i];
                for (int c = i; c <= last; c++) {
                    left[row][c] -= by * left[i][c];
                }
            }
        }
        return left[last][last];
    }
}
