package ohmoscope.core.instrument;

import java.util.OptionalDouble;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/**
 * What a supply is told before its output goes on.
 *
 * @param volts 0 to 100
 * @param amps its limit, above 0 to 100
 * @param overVolts where it switches itself off, not below {@code volts}; empty where it cannot
 * @param overAmps where it switches itself off, not below {@code amps}; empty where it cannot
 */
public record SupplySetting(double volts, double amps, OptionalDouble overVolts, OptionalDouble overAmps) {
    private static final double MOST = 100;

    public SupplySetting {
        Check.within("volts", volts, 0, MOST);
        Check.within("amps", Check.positive("amps", amps), 0, MOST);
        if (overVolts.isPresent() && !(overVolts.getAsDouble() >= volts)) {
            throw new InvalidMember("over_volts", "must not be below the volts that are set");
        }
        if (overAmps.isPresent() && !(overAmps.getAsDouble() >= amps)) {
            throw new InvalidMember("over_amps", "must not be below the amperes that are set");
        }
    }

    /** Without protection of the supply's own. */
    public SupplySetting(double volts, double amps) {
        this(volts, amps, OptionalDouble.empty(), OptionalDouble.empty());
    }
}
