package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * One thing to do next.
 *
 * @param target a part, net or connector; empty for a step about the whole board
 * @param setVolts for an injection: what to set the supply to
 * @param limitAmps for an injection: its limit
 * @param reason why, in a closed set; words are the page's affair
 * @param outcomes what the step may show, and what each would mean; most likely first
 */
public record Step(
        Action action,
        Optional<String> target,
        OptionalDouble setVolts,
        OptionalDouble limitAmps,
        Reason reason,
        List<Outcome> outcomes) {
    /** The closed set of the contract. */
    public enum Action {
        LOOK,
        READ,
        INJECT,
        IMAGE,
        FLIP,
        REMOVE,
        REPLACE,
        FIT,
        LEAVE_OFF,
        DISCONNECT,
        SEPARATE,
        POWER,
        COOL,
        PROVE,
        CHECK_FITTED,
        COMPARE_GOOD_BOARD,
        STOP
    }

    /** Why a step is suggested. */
    public enum Reason {
        PINS_TOUCH,
        BATTERY_IS_IN,
        BOARD_IS_HOT,
        LEADS_ALONE,
        NO_CURRENT_FLOWED,
        WARMTH_FROM_OTHER_SIDE,
        NOT_PLUGGED_BACK,
        PLACE_IS_EMPTY,
        LIKELY_FAULT,
        VISIBLY_HURT,
        CLEARED_REPLACE,
        CLEARED_LEAVE_OFF,
        INNOCENT_FIT_BACK,
        PORT_TO_BE_FITTED,
        SHORTED_FIND_WARMTH,
        FIND_WARMTH_BY_LIQUID,
        FIND_WARMTH_BY_TOUCH,
        SHORTED_INJECT_LOW,
        SHORTED_INJECT_AT_RAIL,
        PORT_OFF_FIRST,
        PROVE_BY_SUPPLY,
        TELLS_MOST,
        FIRST_LOOK,
        FIRST_POWER,
        MAIN_RAIL_FIRST,
        RAILS_IN_ORDER,
        ISOLATE,
        PROVE_REPAIR,
        NO_REFERENCE,
        MOVE_THE_PAIR,
        SUPPLY_OF_CONTROLLER,
        TOO_MANY_VOLTS,
        STILL_SHORTED
    }

    /**
     * @param seen what the reading comes to
     * @param probability of seeing it
     * @param then what would then be the likeliest fault
     */
    public record Outcome(Class seen, double probability, Optional<Hypothesis> then) {
        /** What a reading may come to. */
        public enum Class {
            SHORTED,
            LOW,
            GOOD,
            OPEN,
            PRESENT,
            ABSENT
        }
    }

    public Step {
        outcomes = List.copyOf(outcomes);
    }

    static Step of(Action action, String target, Reason reason) {
        return new Step(action, Optional.of(target), OptionalDouble.empty(), OptionalDouble.empty(), reason, List.of());
    }

    static Step of(Action action, Reason reason) {
        return new Step(action, Optional.empty(), OptionalDouble.empty(), OptionalDouble.empty(), reason, List.of());
    }

    boolean same(Step other) {
        return action == other.action && target.equals(other.target);
    }
}
