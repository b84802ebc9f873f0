package ohmoscope.trials.capture;

import java.util.Locale;

/**
 * What makes a hunt hard.
 *
 * @see Trials
 */
public enum TrialKind {
    PLAIN(0.05, 0.30),
    FAINT(0.0025, 0.005),
    FAR_SIDE(0.10, 0.27),
    CHIP(0.08, 0.50),
    SERIES_WARM(0.04, 0.15),
    WIRE_HOT(0.05, 0.17),
    BANK(0.06, 0.21),
    NOTHING(0.05, 0.30),
    HANDHELD(0.04, 0.20),
    SHIELDED(0.14, 0.20),
    PULSED(0.0035, 0.006),
    TWO_VIEWS(0.025, 0.04),
    NUDGED(0.03, 0.20),
    TURNING(0.04, 0.20);

    private final double leastWatts;
    private final double mostWatts;

    TrialKind(double leastWatts, double mostWatts) {
        this.leastWatts = leastWatts;
        this.mostWatts = mostWatts;
    }

    /** As truth.json and the tables name it. */
    public String label() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** @param share 0 to 1, on a logarithmic scale */
    double watts(double share) {
        return leastWatts * Math.pow(mostWatts / leastWatts, share);
    }
}
