package ohmoscope.formats;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.evidence.Observation.Change;

/** Advice in sentences of the trade: the one place where its codes get words. */
public final class AdviceWords {
    private AdviceWords() {}

    /** A fault in a few words, such as {@code C14 shorted}. */
    public static String fault(Hypothesis h) {
        return switch (h.code()) {
            case SHORT -> h.target() + " shorted";
            case OPEN -> h.target() + " open";
            case LEAKY -> h.target() + " leaking";
            case DAMAGED_PORT -> h.target() + ": the port is damaged";
            case NO_ENABLE -> h.target() + " is never enabled";
            case DEAD_CONTROLLER -> h.target() + " does nothing";
            case PAIRED_PART -> h.target() + " is not the one it was paired with";
            case NOT_FITTED -> h.target() + ": what belongs there is not fitted";
            case BATTERY -> h.target() + ": the battery itself";
            case NONE -> "nothing wrong with the board";
        };
    }

    /** What a finding says. */
    public static String finding(Finding f) {
        String where = f.place().orElse("The device");
        return switch (f.code()) {
            case RAIL_GOOD -> where + " is as it should be";
            case RAIL_SHORTED -> where + " is shorted" + number(" (%s)", f.value());
            case RAIL_LOW -> where + " is low" + number(" (%s)", f.value());
            case RAIL_ABSENT -> where + " is not there";
            case RAIL_BACKFED -> where + " is fed backwards" + number(", %s V stand on it", f.value());
            case NO_NEGOTIATION -> "Nothing more than the first 5 V is asked for";
            case DRAW_NORMAL -> "The draw is normal" + number(", %s A", f.value());
            case DRAW_NONE -> "No current at all";
            case DRAW_STUCK -> "A small draw that goes nowhere" + number(", %s A", f.value());
            case DRAW_EXCESSIVE -> "Far too much current" + number(", %s A", f.value());
            case DRAW_PULSING -> "The draw comes in pulses: something restarts into a short";
            case PART_OPEN -> where + " is open";
            case PART_SHORTED -> where + " is shorted";
            case PART_LEAKY -> where + " leaks";
            case PART_OFF_VALUE -> where + " is off its value" + number(" (%s)", f.value());
            case INJECTED_INTO_GROUND -> "The injection into " + where + " met nothing but its leads";
            case NO_CONTACT -> "No current flowed into " + where + ": a probe is not touching";
            case SHORT_CLEARED -> where + " is free again";
            case SHORT_REMAINS -> where + " is still shorted";
            case READING_BY_DESIGN -> where + " reads low by design" + number(" (%s)", f.value());
            case ONE_SIDE_ONLY -> where + " works one way round only";
        };
    }

    /** What to do, in a sentence. */
    public static String sentence(Step step) {
        String target = step.target().orElse("the board");
        return switch (step.action()) {
            case LOOK -> "Look at " + target + " under the microscope.";
            case READ -> "Read " + target + ".";
            case INJECT ->
                "Inject into " + target + number(": set %s V", step.setVolts())
                        + number(", limit %s A", step.limitAmps()) + ".";
            case IMAGE -> "Watch what warms first while current goes into " + target + ".";
            case FLIP -> "Turn the board over.";
            case REMOVE -> "Take " + target + " off.";
            case REPLACE -> "Replace " + target + ".";
            case FIT -> "Fit " + target + ".";
            case LEAVE_OFF -> "Leave " + target + " off.";
            case DISCONNECT -> "Unplug " + target + ".";
            case SEPARATE ->
                "Separate the two halves: the " + (target.endsWith("lower") ? "lower" : "upper")
                        + " one goes, and read each.";
            case POWER ->
                step.reason() == Step.Reason.FEED_PAST_PORT
                        ? "Hold " + target + " itself at " + number("%s V", step.setVolts()) + " from the bench, "
                                + number("%s A", step.limitAmps()) + " at most, past the port, battery out."
                        : "Give it power from outside, battery "
                                + (step.probe().map(Step.Probe::battery).orElse(false) ? "in" : "out")
                                + ", and note volts and amperes"
                                + (step.reason() == Step.Reason.PROVE_REPAIR
                                        ? ", and whether it starts (boots, dead)."
                                        : ".");
            case COOL -> "Let the board cool, then read again.";
            case PROVE ->
                step.target().isPresent()
                        ? "Prove it: read " + target + " again, then power from outside."
                        : "Prove it: start it, and say how it behaves.";
            case CHECK_FITTED ->
                target.startsWith(Change.STACK)
                        ? "Put the two halves together again."
                        : "Check that " + target + " is plugged in.";
            case COMPARE_GOOD_BOARD -> "Read " + target + " on a good board.";
            case STOP -> "Stop here.";
        };
    }

    /** What one reading says of its net. */
    public static String sign(Sign sign) {
        return switch (sign.says()) {
            case SHORTED -> "Shorted: next to nothing between it and ground.";
            case LOW -> "Well below what a good board reads: partly shorted, or something leaks.";
            case GOOD -> "As a good board reads.";
            case BY_DESIGN -> "Low by design: that is what this rail reads.";
            case CLEAR -> "No short. More this reading does not tell.";
            case HIGH -> "Above what a good board reads: something is open or missing.";
            case PRESENT -> "The voltage is there.";
            case ABSENT -> "No voltage here.";
            case HALF -> "Only part of its voltage.";
            case BACKFED -> "Voltage where none should come from: fed backwards.";
            case INTO_GROUND -> "Volts over amperes are the leads alone: the current went into ground.";
            case NO_CONTACT -> "No current although the rail is shorted: a lead is not touching.";
        };
    }

    /** Why a step is suggested, in a sentence or two. */
    public static String why(Step step, Advice advice) {
        String target = step.target().orElse("the board");
        Optional<Hypothesis> about = advice.hypotheses().stream()
                .filter(h -> step.target().map(h.target()::equals).orElse(false))
                .findFirst();
        String share = about.map(h -> say("%s, %.0f %%", fault(h), 100 * h.probability()))
                .orElse(target);
        return switch (step.reason()) {
            case PINS_TOUCH ->
                "Pins touch: a supply bridged into a data pin kills the chip behind it. "
                        + "The port comes off before anything is measured or powered.";
            case BATTERY_IS_IN -> "The cell is still in: take it out before current goes in or heat comes near.";
            case BOARD_IS_HOT -> "The board was just heated; warm junctions read low. Let it cool, then read.";
            case LEADS_ALONE ->
                "Volts over amperes are the leads alone, so the current goes straight into ground. "
                        + "Move the lead to the rail's end of the part and inject again.";
            case NO_CURRENT_FLOWED -> "No current flowed although the rail is shorted: a lead is not touching.";
            case WARMTH_FROM_OTHER_SIDE ->
                "What looks warm is not on the shorted rail: the heat comes through. Turn the board over.";
            case NOT_PLUGGED_BACK ->
                target.startsWith(Change.STACK)
                        ? "What is left to try needs the whole board."
                        : target + " was unplugged and never plugged back.";
            case PLACE_IS_EMPTY -> "The place of " + target + " is empty: fit one before looking further.";
            case LIKELY_FAULT -> share + ".";
            case VISIBLY_HURT -> target + " shows damage.";
            case CLEARED_REPLACE -> "The short went with " + target + ": fit a good one of the same value and rating.";
            case CLEARED_LEAVE_OFF ->
                "The short went with " + target
                        + ". Enough others share the rail, and its neighbour must not be heated again: leave the place empty.";
            case INNOCENT_FIT_BACK -> target + " came off and the short stayed: it is innocent, put it back.";
            case PORT_TO_BE_FITTED -> "The short went with the port: fit a new one.";
            case SHORTED_FIND_WARMTH ->
                target + " is shorted: watch what warms first while the current is switched on.";
            case FIND_WARMTH_BY_LIQUID ->
                target
                        + " is shorted: a thin film of alcohol dries first over the fault. It burns: power off while it is "
                        + "wet unless limited, moving air, no flame or iron near, never petrol.";
            case FIND_WARMTH_BY_TOUCH ->
                target
                        + " is shorted: a finger finds what warms. Parts can burn skin within a second: low current first.";
            case SHORTED_INJECT_AT_RAIL ->
                target + " is shorted: its own voltage behind a low current limit also shows a partial short. "
                        + "Protection may shut it off after a burst and hide the heat.";
            case PROVE_BY_SUPPLY ->
                "A bench supply says volts and amperes at a real current: at one volt a good rail draws next to nothing.";
            case PORT_OFF_FIRST ->
                target + " hangs on the shorted rail: off first, as crossed pins read as a short on a healthy rail.";
            case SHORTED_INJECT_LOW ->
                target + " is shorted: low volts first, below a junction's knee nothing but the short conducts.";
            case TELLS_MOST -> outcomes(step);
            case FIRST_LOOK -> "Looking is cheap: pins, cracks, holes, browned mask, earlier work.";
            case FIRST_POWER -> "What it draws from outside, battery out, narrows it down at once.";
            case FEED_PAST_PORT ->
                "If it draws and starts like that, the port is all that is missing, and a new one must show the same; if not, keep the order back.";
            case MAIN_RAIL_FIRST -> "The main rail first: it decides what follows.";
            case RAILS_IN_ORDER ->
                "Where the voltage stops: shorted output, no input, no enable, dead regulator, in this order.";
            case ISOLATE -> "What can be unplugged goes first; read the rail again on the same point.";
            case PROVE_REPAIR -> "Same point, same mode as before; then outside power without battery, then with it.";
            case NO_REFERENCE ->
                "Nothing says what a good board reads here: compare with one, and keep it (good " + target + " d .42).";
            case MOVE_THE_PAIR -> target + " only works with its partner: move both from the same donor.";
            case SUPPLY_OF_CONTROLLER ->
                "Before a chip is blamed, know that it is fed, enabled, and that its output is free.";
            case TOO_MANY_VOLTS -> "The supply is set above what the rail bears. Set it low and climb.";
            case STILL_SHORTED -> target + " is still shorted.";
        };
    }

    private static String outcomes(Step step) {
        StringBuilder words = new StringBuilder("Tells most for a minute's work");
        for (Step.Outcome outcome : step.outcomes()) {
            words.append(words.indexOf(":") < 0 ? ": " : "; ");
            words.append(say("%s, %.0f %%", seen(outcome.seen()), 100 * outcome.probability()));
            outcome.then().ifPresent(h -> words.append(say(" → %s", fault(h))));
        }
        return words.append('.').toString();
    }

    private static String seen(Step.Outcome.Class seen) {
        return switch (seen) {
            case SHORTED -> "under 0.035 V";
            case LOW -> "low";
            case GOOD -> "as it should be";
            case OPEN -> "over-range";
            case PRESENT -> "voltage there";
            case ABSENT -> "no voltage";
        };
    }

    /** What a stop forbids, and why. */
    public static String stop(Stop stop) {
        String where = stop.place().orElse("the board");
        return switch (stop.code()) {
            case DO_NOT_POWER -> doNotPower(stop, where);
            case OVER_NOMINAL ->
                where + " was given " + number("%s V", stop.value())
                        + ", more than it may bear. Turn the supply down first.";
            case BATTERY_CONNECTED -> "The battery is connected. Disconnect it before injecting or heating.";
            case HOT_BOARD -> "The board is still hot. Wait until it is hand-warm; a warm board reads low.";
            case FLAMMABLE ->
                "A liquid film burns: power off while it is wet, air moving, no flame or iron near, never petrol.";
            case LEAD_RATING ->
                number("%s A", stop.value()) + " is more than clip leads and jumpers carry: they unsolder themselves.";
            case NOT_PROVEN -> "The repair is not proven: read the same point again before it goes back.";
        };
    }

    private static String doNotPower(Stop stop, String where) {
        return switch (stop.reason()) {
            case PINS_TOUCH -> "Do not power the device: pins of " + where + " touch.";
            case RAIL_SHORTED -> "Do not power the device from a charger: " + where + " is shorted.";
            case REVERSED ->
                "Do not power it like that: volts or amperes came out below zero. Plus and minus are swapped; switch off"
                        + " and look at the leads.";
            case TWO_SOURCES ->
                "Two sources feed " + where + " at once. Take the other one off: one drives current into the other.";
            case TAKES_TOO_MUCH, AS_THE_CODE_SAYS -> "Do not power it again like that: it took far too much current.";
        };
    }

    private static String number(String pattern, OptionalDouble value) {
        return value.isPresent() ? String.format(Locale.ROOT, pattern, digits(value.getAsDouble())) : "";
    }

    private static String digits(double value) {
        return value == 0 || Math.abs(value) >= 1e4 || Math.abs(value) < 1e-3
                ? say("%.2g", value)
                : say("%.3g", value).contains("e") ? say("%.0f", value) : trimmed(say("%.3g", value));
    }

    private static String trimmed(String number) {
        return number.contains(".") ? number.replaceAll("0+$", "").replaceAll("\\.$", "") : number;
    }

    private static String say(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
