package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * One thing to do next.
 *
 * @param target a part, net or connector; empty for a step about the whole board
 * @param setVolts for an injection: what to set the supply to
 * @param limitAmps for an injection: its limit
 * @param reason why, in a closed set; words are the page's affair
 * @param outcomes what the step may show, and what each would mean; most likely first
 * @param probe for a reading or a power-up: how; empty for the usual way
 */
public record Step(
        Action action,
        Optional<String> target,
        OptionalDouble setVolts,
        OptionalDouble limitAmps,
        Reason reason,
        List<Outcome> outcomes,
        Optional<Probe> probe) {
    /**
     * How a reading is taken.
     *
     * @param across across the part that is the target, not to ground
     * @param power what feeds the board meanwhile; empty when it must be off
     * @param battery for a power-up: with the battery in
     */
    public record Probe(Optional<ReadMode> mode, boolean across, Optional<PowerSource> power, boolean battery) {
        /** In ohms, across the part that is the target. */
        static final Probe ACROSS = new Probe(Optional.of(ReadMode.OHMS), true, Optional.empty(), false);
        /** In diode mode, across the part that is the target: the leads turned so that it conducts, if it does. */
        static final Probe ACROSS_DIODE = new Probe(Optional.of(ReadMode.DIODE), true, Optional.empty(), false);

        /** Across a part: what conducts one way only shows nothing in ohms. */
        static Probe across(Part part) {
            return part.kind() == PartKind.DIODE ? ACROSS_DIODE : ACROSS;
        }

        /** In ohms, to ground. */
        static final Probe IN_OHMS = new Probe(Optional.of(ReadMode.OHMS), false, Optional.empty(), false);
        /** In volts, fed by a charger. */
        static final Probe UNDER_POWER =
                new Probe(Optional.of(ReadMode.VOLTS), false, Optional.of(PowerSource.CHARGER), false);
    }

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
        /** What warmed is where the lead is clipped. */
        LEAD_IS_WARM,
        /** Nothing on this side: the other has not been looked at. */
        NOTHING_WARMED,
        /** Nothing so far: more of what limited, volts or amperes. */
        NOTHING_WARMED_MORE,
        /** Two readings of one net, the board untouched between them, say opposite things. */
        READINGS_DISAGREE,
        /** It was read while a cell was on the board. */
        READ_LIVE,
        /** One reading that fits nothing else: it may be wrong. */
        ONCE_MORE,
        /** A cell that gives nothing may have switched itself off into a short. */
        BEFORE_THE_CELL,
        /** It does not charge: the switch before the cell may not be told to close. */
        WAY_TO_THE_CELL,
        /** Of several places on a shorted rail, it reads lowest. */
        LOWEST_READING,
        /** It has to do with what does not work. */
        FUNCTION_MISSING,
        /** A part is suspected on whose rails nobody has measured anything. */
        MEASURE_FIRST,
        /** Neither there nor away: pulled down, or fed too little. */
        PART_OF_ITS_VOLTS,
        /** The draw went right with it. */
        RELIEVED,
        /** The short went away under the current, and its part is still there. */
        BURNT_OPEN,
        NOT_PLUGGED_BACK,
        /** Wet or corroded: what it conducts is not the part's. */
        CLEAN_FIRST,
        /** Wet, and the cell may be in. */
        WET,
        /** The rail went down when it was put in: a bridge under it, or it is bad. */
        NEW_JOINTS,
        /** It was put in, and nothing flows through it. */
        NEW_PORT_SILENT,
        PLACE_IS_EMPTY,
        LIKELY_FAULT,
        VISIBLY_HURT,
        CLEARED_REPLACE,
        CLEARED_LEAVE_OFF,
        INNOCENT_FIT_BACK,
        /** The short went when something was unplugged. */
        CLEARED_UNPLUGGED,
        PORT_TO_BE_FITTED,
        SHORTED_FIND_WARMTH,
        FIND_WARMTH_BY_LIQUID,
        FIND_WARMTH_BY_TOUCH,
        FIND_WARMTH_BY_FROST,
        SHORTED_INJECT_LOW,
        SHORTED_INJECT_AT_RAIL,
        PORT_OFF_FIRST,
        PROVE_BY_SUPPLY,
        TELLS_MOST,
        /** It was what others of the model had. */
        USUAL_FAULT,
        FIRST_LOOK,
        FIRST_POWER,
        /** A port that looks whole is passed by before one is ordered. */
        FEED_PAST_PORT,
        MAIN_RAIL_FIRST,
        RAILS_IN_ORDER,
        /** A reversible port works one way round. */
        ONE_WAY_ROUND,
        SEEN_LOOSE,
        BEHIND_FUSE,
        /** A rail is missing that nothing known makes. */
        MAKER_NOT_ON_MAP,
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

    /** A step that is taken in the usual way. */
    public Step(
            Action action,
            Optional<String> target,
            OptionalDouble setVolts,
            OptionalDouble limitAmps,
            Reason reason,
            List<Outcome> outcomes) {
        this(action, target, setVolts, limitAmps, reason, outcomes, Optional.empty());
    }

    Step how(Probe probe) {
        return new Step(action, target, setVolts, limitAmps, reason, outcomes, Optional.of(probe));
    }

    static Step of(Action action, String target, Reason reason) {
        return new Step(action, Optional.of(target), OptionalDouble.empty(), OptionalDouble.empty(), reason, List.of());
    }

    static Step of(Action action, Reason reason) {
        return new Step(action, Optional.empty(), OptionalDouble.empty(), OptionalDouble.empty(), reason, List.of());
    }

    boolean same(Step other) {
        return action == other.action && target.equals(other.target) && probe.equals(other.probe);
    }
}
