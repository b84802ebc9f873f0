package ohmoscope.core.board;

import java.util.Optional;
import java.util.OptionalDouble;

/**
 * One electrical node of the board.
 *
 * @param name unique on the board
 * @param nominalVolts the voltage it carries when the board works, above 0
 */
public record Net(String name, NetKind kind, OptionalDouble nominalVolts, Optional<Expectation> expect) {
    public Net {
        Check.text("name", name);
        nominalVolts.ifPresent(v -> Check.within("nominal_v", v, -1000, 1000));
    }
}
