package ohmoscope.core.board;

import java.util.Optional;
import java.util.OptionalDouble;

/** One conversion that a regulator or charger does: from net {@code in} to net {@code out}. */
public record Supply(String in, String out, Optional<String> enable, OptionalDouble nominalVolts) {
    public Supply {
        Check.text("in", in);
        Check.text("out", out);
    }
}
