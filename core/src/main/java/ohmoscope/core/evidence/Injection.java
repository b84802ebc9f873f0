package ohmoscope.core.evidence;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Check;

/**
 * The injection during which the frames were taken.
 *
 * @param net the net the hot lead feeds; another than the rail when the power goes in upstream of a series part
 * @param returnAt where the current goes back to the supply
 * @param setVolts what the supply was set to, volts
 * @param limitAmps its current limit, amperes
 * @param leadOhms what both leads read with their tips together
 * @param leadSigmaOhms one standard error of that
 */
public record Injection(
        String net,
        Optional<ProbePlace> at,
        Optional<ProbePlace> returnAt,
        OptionalDouble setVolts,
        OptionalDouble limitAmps,
        OptionalDouble leadOhms,
        OptionalDouble leadSigmaOhms) {
    public Injection {
        Check.text("net", net);
        setVolts.ifPresent(v -> Check.within("set_v", v, 0, 100));
        limitAmps.ifPresent(v -> Check.within("limit_a", v, 0, 100));
        leadOhms.ifPresent(v -> Check.within("lead_ohms", v, 0, 1000));
        leadSigmaOhms.ifPresent(v -> Check.within("lead_sigma_ohms", v, 0, 1000));
    }

    /** Leads of less are a wrong number, and of more no leads; ohms, both together. */
    public static final double LEAST_LEAD_OHMS = 1e-4;

    public static final double MOST_LEAD_OHMS = 10;

    /** Whether two leads can have this many ohms together. */
    public static boolean leadsCanBe(double ohms) {
        return ohms >= LEAST_LEAD_OHMS && ohms <= MOST_LEAD_OHMS;
    }

    /** Of which no more is known than the net and, maybe, the leads. */
    public static Injection into(String net, OptionalDouble leadOhms) {
        return new Injection(
                net,
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                leadOhms,
                OptionalDouble.empty());
    }
}
