package ohmoscope.core.diagnose;

import java.util.Arrays;

/** Resistances that a path may have, with how often each is met. */
final class Ladder {
    /** A shorted capacitor is mostly milliohms; ohms and more are rare. */
    static final Ladder CAPACITOR = new Ladder(
            new double[] {0.006, 0.02, 0.07, 0.25, 0.9, 3, 11, 45},
            new double[] {0.12, 0.24, 0.22, 0.16, 0.11, 0.07, 0.05, 0.03});

    /** The same rungs, so that the circuit is solved once for both; a shorted chip is mostly ohms. */
    static final Ladder CHIP = new Ladder(CAPACITOR.ohms, new double[] {0.01, 0.06, 0.14, 0.22, 0.24, 0.17, 0.1, 0.06});

    static final Ladder LEAK = even(150, 600, 2_500);
    static final Ladder GATE_LEAK = even(rungs(30, 100_000, 5));
    static final Ladder FET_LEAK = even(rungs(700, 400_000, 24));

    private final double[] ohms;
    private final double[] weights;

    private Ladder(double[] ohms, double[] weights) {
        this.ohms = ohms;
        this.weights = weights;
    }

    private static Ladder even(double... ohms) {
        double[] weights = new double[ohms.length];
        Arrays.fill(weights, 1.0 / ohms.length);
        return new Ladder(ohms, weights);
    }

    private static double[] rungs(double low, double high, int count) {
        double[] rungs = new double[count];
        for (int i = 0; i < count; i++) {
            rungs[i] = low * Math.pow(high / low, i / (count - 1.0));
        }
        return rungs;
    }

    int size() {
        return ohms.length;
    }

    double ohms(int rung) {
        return ohms[rung];
    }

    double weight(int rung) {
        return weights[rung];
    }
}
