package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Something that is true of the board as it is now.
 *
 * @param place the rail, part, port or test point it is about; empty for one about the whole device
 * @param isNet whether {@code place} is a net
 * @param value the number that says so, in the unit of the code, where there is one
 * @param because numbers of the entries it rests on
 */
public record Finding(Code code, Optional<String> place, boolean isNet, OptionalDouble value, List<Integer> because) {
    /** The closed set of the contract. */
    public enum Code {
        RAIL_GOOD,
        RAIL_SHORTED,
        RAIL_LOW,
        RAIL_ABSENT,
        RAIL_BACKFED,
        NO_NEGOTIATION,
        DRAW_NORMAL,
        DRAW_NONE,
        DRAW_STUCK,
        DRAW_EXCESSIVE,
        DRAW_PULSING,
        PART_OPEN,
        PART_SHORTED,
        PART_LEAKY,
        PART_OFF_VALUE,
        INJECTED_INTO_GROUND,
        NO_CONTACT,
        SHORT_CLEARED,
        SHORT_REMAINS,
        READING_BY_DESIGN,
        ONE_SIDE_ONLY
    }

    /** Whether it says that something is not as it should be. */
    public boolean wrong() {
        return switch (code) {
            case RAIL_GOOD, DRAW_NORMAL, SHORT_CLEARED, READING_BY_DESIGN -> false;
            default -> true;
        };
    }

    public Finding {
        because = List.copyOf(because);
    }

    static Finding net(Code code, String net, OptionalDouble value, List<Integer> because) {
        return new Finding(code, Optional.of(net), true, value, because);
    }

    static Finding part(Code code, String ref, OptionalDouble value, List<Integer> because) {
        return new Finding(code, Optional.of(ref), false, value, because);
    }

    public boolean is(Code wanted, String where) {
        return code == wanted && place.map(where::equals).orElse(false);
    }
}
