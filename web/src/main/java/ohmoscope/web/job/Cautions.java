package ohmoscope.web.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Pin;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Step;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;

/** The usual cautions, and those that this board asks for, at the step where they matter. */
public final class Cautions {
    static final List<String> HOT_AIR = Texts.all("hot-air");
    static final List<String> AMPS = Texts.all("amps");
    private static final List<String> LOOK = Texts.all("look");
    private static final List<String> READ = Texts.all("read");
    private static final List<String> READ_LIVE = Texts.all("read-live");

    /** What a capacitor on such a rail still holds hurts a meter, a probe's tip and what it slips on. */
    private static final double HOLDS_VOLTS = 12;

    private Cautions() {}

    public static List<String> of(Step step, Board board, Advice advice) {
        boolean live = step.action() == Step.Action.READ
                && step.probe().flatMap(Step.Probe::power).isPresent();
        List<String> all = new ArrayList<>();
        if (!advice.batteryKnown() && !live && wantsBatteryOut(step.action())) {
            all.add(Texts.of("battery-unknown"));
        }
        if (step.action() == Step.Action.READ && !live) {
            charged(step, board)
                    .map(net -> Texts.of(
                            "charged", net.name(), Eng.fixed(net.nominalVolts().orElse(HOLDS_VOLTS), 0)))
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
        List<String> all = new ArrayList<>(List.of(Texts.of("battery-unknown")));
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
