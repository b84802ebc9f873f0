package ohmoscope.core.live;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;

/**
 * Follows what a supply shows while the key is held, and says when it must end. Times are the bench's one clock. Not for
 * several threads.
 */
public final class HoldWatch {
    /** What flows right after switching on tells nothing: contacts settle, supplies ramp. */
    private static final double SETTLE_S = 0.35;

    private static final double NOTHING_A = 0.004;
    /** Of what flowed, so little is nothing. */
    private static final double GONE_SHARE = 0.25;

    private static final double RUNNING_SHARE = 0.4;
    private static final double LEAST_RUN_OHMS = 0.02;
    private static final double OVER_SHARE = 1.1;
    private static final double OVER_SLACK = 0.05;
    private static final double LEADS_BEAR_S = 1;
    private static final int IN_A_ROW = 2;

    private final SupplySetting setting;
    private final double seconds;
    private final double leadOhms;
    private final double leadRatedAmps;
    private final List<Supply.Shown> shown = new ArrayList<>();
    private long onNanos;
    private double mostAmps;
    private OptionalDouble startOhms = OptionalDouble.empty();
    private int odd;
    private double overRatedS;

    /**
     * @param seconds how long it may flow
     * @param leadOhms both leads
     * @param leadRatedAmps what they carry
     * @param onNanos when the output was switched on
     */
    public HoldWatch(SupplySetting setting, double seconds, double leadOhms, double leadRatedAmps, long onNanos) {
        this.setting = setting;
        this.seconds = Check.positive("seconds", seconds);
        this.leadOhms = Check.notNegative("lead_ohms", leadOhms);
        this.leadRatedAmps = Check.positive("lead_rated_a", leadRatedAmps);
        this.onNanos = onNanos;
    }

    public double onSeconds(long nowNanos) {
        return (nowNanos - onNanos) / 1e9;
    }

    /** Ohms beyond the leads; empty where too little flows to tell. */
    public static OptionalDouble ohms(Supply.Shown shown, double leadOhms) {
        return shown.amps() > 5 * NOTHING_A
                ? OptionalDouble.of(Math.max(0, shown.volts() / shown.amps() - leadOhms))
                : OptionalDouble.empty();
    }

    /** @return why it must end; empty while it may go on */
    public Optional<Ending> next(Supply.Shown now) {
        double before =
                shown.isEmpty() ? 0 : onSeconds(shown.get(shown.size() - 1).atNanos());
        double at = onSeconds(now.atNanos());
        shown.add(now);
        if (!now.on()) {
            return Optional.of(Ending.SUPPLY_TRIPPED);
        }
        if (now.amps() > OVER_SHARE * setting.amps() + OVER_SLACK
                || now.volts() > OVER_SHARE * setting.volts() + OVER_SLACK) {
            return Optional.of(Ending.OVER_LIMIT);
        }
        overRatedS = now.amps() > OVER_SHARE * leadRatedAmps ? overRatedS + at - before : 0;
        if (overRatedS > LEADS_BEAR_S) {
            return Optional.of(Ending.LEAD_HOT);
        }
        Optional<Ending> odd = at > SETTLE_S ? odd(now) : Optional.empty();
        if (odd.isPresent()) {
            return odd;
        }
        return at >= seconds ? Optional.of(Ending.TIME) : Optional.empty();
    }

    /** What may be one bad sample is believed the second time. */
    private Optional<Ending> odd(Supply.Shown now) {
        Optional<Ending> ending = Optional.empty();
        boolean nothing = now.amps() < Math.max(NOTHING_A, GONE_SHARE * mostAmps);
        OptionalDouble ohms = ohms(now, leadOhms);
        if (nothing) {
            ending = Optional.of(mostAmps > 10 * NOTHING_A ? Ending.CURRENT_GONE : Ending.CONTACT_LOST);
        } else if (ohms.isPresent() && startOhms.isEmpty()) {
            startOhms = ohms;
        } else if (ohms.isPresent()
                && Math.abs(ohms.getAsDouble() - startOhms.getAsDouble())
                        > Math.max(LEAST_RUN_OHMS, RUNNING_SHARE * startOhms.getAsDouble())) {
            ending = Optional.of(Ending.OHMS_RUNNING);
        }
        if (!nothing) {
            mostAmps = Math.max(mostAmps, now.amps());
        }
        odd = ending.isPresent() ? odd + 1 : 0;
        return odd >= IN_A_ROW ? ending : Optional.empty();
    }

    /** Medians of the second half, when all has settled; the last one's where there are few. */
    public Optional<Supply.Shown> settled() {
        List<Supply.Shown> flowed = shown.stream().filter(Supply.Shown::on).toList();
        if (flowed.isEmpty()) {
            return Optional.empty();
        }
        List<Supply.Shown> late = flowed.subList(flowed.size() / 2, flowed.size());
        Supply.Shown last = late.get(late.size() - 1);
        return Optional.of(new Supply.Shown(
                median(late.stream().mapToDouble(Supply.Shown::volts).toArray()),
                median(late.stream().mapToDouble(Supply.Shown::amps).toArray()),
                true,
                last.limiting(),
                last.atNanos()));
    }

    /** All that was shown, in order; a copy. */
    public List<Supply.Shown> all() {
        return List.copyOf(shown);
    }

    private static double median(double[] values) {
        Arrays.sort(values);
        return values[values.length / 2];
    }
}
