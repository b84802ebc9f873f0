package ohmoscope.bench.standin;

import ohmoscope.bench.truth.PoweredBoard.Drawn;

/** What an inline meter shows after a charger was put in: capacitors fill, the board wakes, asks for its voltage, and draws. */
final class ChargerTrace {
    private static final double FIRST_VOLTS = 5.1;
    private static final double SPIKE_A = 0.35;
    private static final double SPIKE_S = 0.06;
    private static final double WAKES_S = 0.4;
    private static final double ASKS_S = 1.3;
    private static final double DRAWS_S = 2.1;
    private static final double RISE_S = 0.5;
    private static final double WAKE_SHARE = 0.25;
    private static final double HICCUP_S = 0.9;
    private static final double HICCUP_ON_S = 0.2;
    private static final double HICCUP_A = 0.8;
    /** A charger gives up on a short, and tries no more. */
    private static final double GIVES_UP_S = 2.5;

    private ChargerTrace() {}

    /** @param amps 0 or more */
    record At(double volts, double amps) {}

    /** @param sinceS seconds since it was put in */
    static At of(Drawn drawn, double sinceS) {
        if (drawn.collapsed()) {
            return sinceS < GIVES_UP_S ? new At(drawn.volts(), drawn.amps()) : new At(0.4, 0.02);
        }
        double spike = SPIKE_A * Math.exp(-sinceS / SPIKE_S);
        if (drawn.hiccup()) {
            boolean on = sinceS > WAKES_S && (sinceS - WAKES_S) % HICCUP_S < HICCUP_ON_S;
            return new At(Math.min(FIRST_VOLTS, drawn.volts()), spike + (on ? HICCUP_A : drawn.amps()));
        }
        double volts = sinceS < ASKS_S ? Math.min(FIRST_VOLTS, drawn.volts()) : drawn.volts();
        if (sinceS < WAKES_S) {
            return new At(volts, spike);
        }
        double risen = Math.max(0, Math.min(1, (sinceS - DRAWS_S) / RISE_S));
        return new At(volts, spike + drawn.amps() * (WAKE_SHARE + (1 - WAKE_SHARE) * risen));
    }
}
