package ohmoscope.web.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Pin;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Step;

/** The usual cautions, and those that this board asks for, at the step where they matter. */
public final class Cautions {
    static final List<String> HOT_AIR = List.of(
            "Battery off the board and out of reach of the air.",
            "Fumes drawn off, eyes covered; the nozzle blows at 300–400 °C.",
            "Let the board cool before you read it again.",
            "Local rules and licensed practice come first; mains sides are not for this bench.");
    static final List<String> AMPS = List.of(
            "Battery disconnected first. A swollen, hot or punctured cell: stop, take it outdoors, follow local rules.",
            "Several amps into a short can smoke and burn: a hand on the supply's output key.",
            "Never above the rail's nominal voltage.");
    private static final List<String> LOOK = List.of(
            "A swollen, hot or punctured cell: stop, take it outdoors, follow local rules.",
            "Touch earth first: a spark from a sleeve kills inputs.");
    private static final List<String> READ =
            List.of("Battery out, no adapter in: a meter in ohms or diode mode reads nonsense on a live board.");
    private static final List<String> READ_LIVE = List.of(
            "The board is live: a fine probe, one hand, the black lead clipped on first. A slip across two pins kills what still works.",
            "Heat, smell or smoke: unplug at once. Mains sides of adapters are licensed work and not for this bench.");

    private static final String BATTERY_UNKNOWN =
            "Nobody has said whether the battery is out, and unknown is not out: unplug it, then enter “unplugged battery”.";
    /** What a capacitor on such a rail still holds hurts a meter, a probe's tip and what it slips on. */
    private static final double HOLDS_VOLTS = 12;

    private Cautions() {}

    public static List<String> of(Step step, Board board, Advice advice) {
        boolean live = step.action() == Step.Action.READ
                && step.probe().flatMap(Step.Probe::power).isPresent();
        List<String> all = new ArrayList<>();
        if (!advice.batteryKnown() && !live && wantsBatteryOut(step.action())) {
            all.add(BATTERY_UNKNOWN);
        }
        if (step.action() == Step.Action.READ && !live) {
            charged(step, board)
                    .map(net -> String.format(
                            Locale.ROOT,
                            "The capacitors of %s hold up to %.0f V after power: through about 1 kΩ to ground first, and see that volts read under 1.",
                            net.name(),
                            net.nominalVolts().orElse(HOLDS_VOLTS)))
                    .ifPresent(all::add);
        }
        all.addAll(live ? READ_LIVE : usual(step.action()));
        return all;
    }

    /** A step that the frames ask for, with the battery asked after; starting and handing back need it in. */
    public static StepLine asking(StepLine step, Advice advice) {
        boolean startsIt = step.act().equals("hand-back") || step.target().equals("boots");
        if (advice.batteryKnown() || startsIt) {
            return step;
        }
        List<String> all = new ArrayList<>(List.of(BATTERY_UNKNOWN));
        all.addAll(step.cautions());
        return new StepLine(step.sentence(), step.why(), step.act(), step.target(), all);
    }

    /** What an action asks for on any board. */
    static List<String> usual(Step.Action action) {
        return switch (action) {
            case REMOVE, REPLACE, FIT -> HOT_AIR;
            case INJECT, IMAGE, POWER, PROVE, FLIP -> AMPS;
            case READ, COOL, COMPARE_GOOD_BOARD -> READ;
            default -> LOOK;
        };
    }

    private static boolean wantsBatteryOut(Step.Action action) {
        return switch (action) {
            case REMOVE, REPLACE, FIT, INJECT, IMAGE, FLIP, READ, COMPARE_GOOD_BOARD -> true;
            default -> false;
        };
    }

    /** The net with most volts that a reading touches, where that is much. */
    private static Optional<Net> charged(Step step, Board board) {
        String target = step.target().orElse("");
        List<String> nets = board.part(target)
                .map(p -> p.pins().stream().map(Pin::net).distinct().toList())
                .orElse(List.of(target));
        return nets.stream()
                .flatMap(n -> board.net(n).stream())
                .filter(n -> n.nominalVolts().orElse(0) >= HOLDS_VOLTS)
                .max((a, b) -> Double.compare(
                        a.nominalVolts().getAsDouble(), b.nominalVolts().getAsDouble()));
    }
}
