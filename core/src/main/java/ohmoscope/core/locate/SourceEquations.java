package ohmoscope.core.locate;

import java.util.Arrays;

/**
 * The normal equations of the nuisances, one more source, and how far that source's own body differs from its board.
 * The body's kelvin may have either sign (a shiny one looks cooler), so it is solved for and put back.
 */
final class SourceEquations {
    private final int n;
    private final double[][] gram;
    private final double[] rhs;
    private final double[] own;
    private double ownSquare;
    private double ownData;

    /**
     * @param nuisanceGram priors included
     * @param nuisanceRhs likewise
     */
    SourceEquations(double[][] nuisanceGram, double[] nuisanceRhs) {
        n = nuisanceRhs.length;
        gram = new double[n + 1][];
        for (int i = 0; i < n; i++) {
            gram[i] = Arrays.copyOf(nuisanceGram[i], n + 1);
        }
        gram[n] = new double[n + 1];
        rhs = Arrays.copyOf(nuisanceRhs, n + 1);
        own = new double[n + 1];
    }

    private SourceEquations(int n, double[][] gram, double[] rhs, double[] own) {
        this.n = n;
        this.gram = gram;
        this.rhs = rhs;
        this.own = own;
    }

    /** What one capture says. */
    void add(SourceProducts products) {
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
    double sourcePrecision() {
        return gram[n][n];
    }

    void expect(double watts, double precision) {
        gram[n][n] += precision;
        rhs[n] += watts * precision;
    }

    boolean seesOwnBody() {
        return ownSquare > 0;
    }

    /**
     * The same with the body's kelvin solved for: where it is left out, it says nothing.
     *
     * @param precision of what is known of it beforehand, about nothing
     */
    SourceEquations bodySolved(double precision) {
        double square = ownSquare + precision;
        double[][] g = new double[n + 1][n + 1];
        double[] b = new double[n + 1];
        for (int i = 0; i <= n; i++) {
            b[i] = rhs[i] - own[i] * ownData / square;
            for (int j = 0; j <= n; j++) {
                g[i][j] = gram[i][j] - own[i] * own[j] / square;
            }
        }
        SourceEquations solved = new SourceEquations(n, g, b, own);
        solved.ownSquare = square;
        solved.ownData = ownData;
        return solved;
    }

    /** Twice what the body's kelvin gains by itself, amplitude integrated out. @param precision as before */
    double bodyGain(double precision) {
        return ownData * ownData / ownSquare + Math.log(precision / ownSquare);
    }

    /** Its kelvin at such amplitudes. */
    double bodyK(double[] amplitudes) {
        double kelvin = ownData;
        for (int i = 0; i <= n; i++) {
            kelvin -= own[i] * amplitudes[i];
        }
        return kelvin / ownSquare;
    }

    /**
     * @param amplitudes start and result, nuisances first
     * @param least of the source's own precision
     * @return twice the gain, the source's amplitude integrated out
     */
    double solve(double[] amplitudes, double least) {
        return NonNegativeFit.solve(gram, rhs, amplitudes) - Math.log(Math.max(least, gram[n][n]));
    }
}
