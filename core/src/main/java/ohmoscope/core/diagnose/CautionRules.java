package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Says;

/** What safety and plain slips ask for, before anything else. */
final class CautionRules extends PlanRules {

    CautionRules(Situation situation) {
        super(situation);
    }

    void hot() {
        stops.stream()
                .filter(s -> s.code() == Stop.Code.HOT_BOARD)
                .forEach(s -> add(new Step(
                        Action.COOL,
                        Optional.empty(),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        Reason.BOARD_IS_HOT,
                        List.of())));
    }

    void touchingPins() {
        touching().ifPresent(port -> {
            if (timeline.now().battery()) {
                add(Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.BATTERY_IS_IN));
            }
            add(Step.of(Action.REMOVE, port, Reason.PINS_TOUCH));
            add(Step.of(Action.LOOK, port, Reason.PINS_TOUCH));
        });
    }

    /** Liquid and a cell corrode by the minute. */
    void wet() {
        boolean wet = timeline.all(Look.class)
                .anyMatch(l -> l.finding() == LookFinding.WET_MARK && !timeline.cleanedSince(l.target()));
        if (wet && (timeline.now().battery() || !timeline.batteryKnown())) {
            add(Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.WET));
        }
    }

    void battery() {
        boolean works = stopped(Stop.Code.BATTERY_CONNECTED)
                || timeline.now().battery() && (!book.shorted().isEmpty() || stopped(Stop.Code.DO_NOT_POWER));
        if (works) {
            add(Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.BATTERY_IS_IN));
        }
    }

    /** With a cell on the board the meter shows the cell's volts too: what it then found low is read again. */
    void readLive() {
        book.nets().stream()
                .filter(n -> book.down(n)
                        && timeline.live()
                                .contains(book.unpowered(n).orElseThrow().seq()))
                .forEach(n -> add(Step.of(Action.READ, n, Reason.READ_LIVE)));
    }

    /** The leads alone, or no contact: the same injection again, at a place that is looked at first. */
    void failedInjection() {
        for (String net : book.nets()) {
            Optional<Sign> failed = book.last(net, Says.INTO_GROUND).or(() -> book.last(net, Says.NO_CONTACT));
            boolean mended = failed.isPresent()
                    && timeline.all(Inject.class)
                            .anyMatch(i -> i.net().equals(net)
                                    && i.seq() > failed.get().seq());
            if (failed.isEmpty() || mended) {
                continue;
            }
            Reason reason = failed.get().says() == Says.INTO_GROUND ? Reason.LEADS_ALONE : Reason.NO_CURRENT_FLOWED;
            boolean readSince = book.now(net).stream()
                    .anyMatch(s -> s.seq() > failed.get().seq() && s.says().unpowered());
            if (readSince) {
                continue;
            }
            if (failures(net) < MOST_FAILED_INJECTIONS) {
                add(injection(net, reason));
            }
            timeline.last(Inject.class).flatMap(Inject::ref).ifPresent(ref -> add(Step.of(Action.LOOK, ref, reason)));
            add(Step.of(Action.READ, net, reason));
        }
    }

    /** A reading that changes with how the probes are held is a contact: the third counts. */
    void unsteady() {
        for (String net : book.nets()) {
            List<Sign> signs = book.now(net).stream()
                    .filter(s -> s.says().unpowered()
                            && s.epoch() == timeline.epoch()
                            && !timeline.live().contains(s.seq()))
                    .toList();
            if (signs.size() < 2) {
                continue;
            }
            Sign last = signs.get(signs.size() - 1);
            Sign before = signs.get(signs.size() - 2);
            // A beep that stops is a capacitor that has charged.
            boolean beeped =
                    timeline.all(Read.class).anyMatch(r -> r.seq() == before.seq() && r.mode() == ReadMode.CONTINUITY);
            boolean untouched = timeline.moments().stream()
                    .filter(m -> m.observation() instanceof Inject || m.observation() instanceof Power)
                    .noneMatch(m -> m.seq() >= before.seq() && m.seq() <= last.seq());
            if (untouched
                    && !beeped
                    && before.unit() == last.unit()
                    && (before.says() == Says.SHORTED && last.says().notShorted()
                            || last.says() == Says.SHORTED && before.says().notShorted())) {
                add(Step.of(Action.READ, net, Reason.READINGS_DISAGREE));
            }
        }
    }

    /** Low, by the first reading after heat: a warm junction reads so. */
    void readWarm() {
        Optional<Integer> heat = timeline.all(Change.class)
                .filter(Change::heat)
                .reduce((a, b) -> b)
                .map(Change::seq);
        Optional<Sign> last = book.nets().stream()
                .flatMap(n -> book.now(n).stream())
                .filter(s -> s.says().unpowered())
                .max(Comparator.comparingInt(Sign::seq));
        if (heat.isEmpty() || last.isEmpty()) {
            return;
        }
        boolean first = timeline.moments().stream()
                .filter(m -> m.seq() > heat.get())
                .allMatch(m -> m.seq() == last.get().seq() || m.observation() instanceof Look);
        if (first && last.get().seq() > heat.get() && last.get().says() == Says.LOW) {
            add(Step.of(Action.READ, last.get().net(), Reason.BOARD_IS_HOT));
        }
    }

    void overNominal() {
        stops.stream()
                .filter(s -> s.code() == Stop.Code.OVER_NOMINAL)
                .flatMap(s -> s.place().stream())
                .filter(p -> board.net(p).isPresent())
                .forEach(net -> add(injection(net, Reason.TOO_MANY_VOLTS)));
    }
}
