package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Something not to do now.
 *
 * @param place what it is about
 * @param reason what would happen, where one code covers several
 * @param value the number that says so, where there is one
 * @param because numbers of the entries it rests on
 */
public record Stop(Code code, Reason reason, Optional<String> place, OptionalDouble value, List<Integer> because) {
    /** Why the device must not be powered. */
    public enum Reason {
        PINS_TOUCH,
        RAIL_SHORTED,
        TAKES_TOO_MUCH,
        /** Volts or amperes came out below zero: plus and minus are swapped. */
        REVERSED,
        /** A second source feeds what is injected into. */
        TWO_SOURCES,
        AS_THE_CODE_SAYS
    }

    /** The closed set of the contract. */
    public enum Code {
        DO_NOT_POWER,
        OVER_NOMINAL,
        BATTERY_CONNECTED,
        HOT_BOARD,
        FLAMMABLE,
        LEAD_RATING,
        NOT_PROVEN
    }

    public Stop {
        because = List.copyOf(because);
    }

    Stop(Code code, Optional<String> place, OptionalDouble value, List<Integer> because) {
        this(code, Reason.AS_THE_CODE_SAYS, place, value, because);
    }
}
