package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.Says;

/**
 * What to do next. First what safety and plain errors ask for, then what the likeliest fault asks for, then the reading
 * that tells most for its minutes. Nothing is taken off on probability alone while a look or a reading can still decide.
 */
final class Planner {
    private static final int MOST_STEPS = 8;
    /** A fault this likely may be acted on, when something was seen or felt on the part itself. */
    private static final double ACT_ON = 0.5;

    /** A capacitor on a shorted rail that shows damage may be lifted sooner: it is cheap, and nothing else shows any. */
    private static final double LEADS_BY_LOOKS = 0.25;

    private static final double ACT_ON_READINGS = 0.7;
    private static final double WORTH_A_LOOK = 0.15;
    /** After so many the meter is asked again. */
    private static final int MOST_FAILED_INJECTIONS = 2;

    /** After so many pictures without warmth another says no more. */
    private static final int MOST_COLD = 3;
    /** After so many pictures that cannot tell neighbours apart one of them is taken off. */
    private static final int MOST_PICTURES = 3;
    /** Lines that are named at once. */
    private static final int MOST_LINES = 3;
    /** One line more costs a minute, a chip that was lifted for nothing an hour. */
    private static final double SURE_OF_LINES = 0.9;
    /** Whose lines they are is known by then, or a picture tells it sooner. */
    private static final int ENOUGH_LINES = 9;
    /** A device that does not start takes less. */
    private static final double EATEN_WATTS = 2;

    /** A part that was put in badly twice is not the fault. */
    private static final int MOST_RENEWALS = 3;
    /** Below any junction's knee, and little enough for a line's own copper. */
    private static final double LINE_VOLTS = 0.3;

    private static final double LINE_LIMIT_AMPS = 0.3;
    private static final double LOW_AND_CLIMB_VOLTS = 1.0;
    private static final double LIMIT_AMPS = 2.0;
    private static final double MOST_AMPS = 4.5;
    /** At the rail's own voltage the limit is what protects. */
    private static final double LIMIT_AT_RAIL_AMPS = 1.0;

    private final Timeline timeline;
    private final BoardIndex board;
    private final PowerTree tree;
    private final RailBook book;
    private final Diagnosis diagnosis;
    private final Experiments experiments;
    private final List<Finding> findings;
    private final List<Stop> stops;
    private final Optional<Mending> mending;
    private final Optional<String> rail;
    private final Schools schools;
    private final List<Step> steps = new ArrayList<>();
    /** Steps that may wait until the others are named. */
    private final List<Step> later = new ArrayList<>();

    Planner(
            Timeline timeline,
            RailBook book,
            Diagnosis diagnosis,
            Experiments experiments,
            List<Finding> findings,
            List<Stop> stops,
            Optional<Mending> mending,
            Optional<String> rail,
            Schools schools) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.book = book;
        this.diagnosis = diagnosis;
        this.experiments = experiments;
        this.findings = findings;
        this.stops = stops;
        this.mending = mending;
        this.rail = rail;
        this.schools = schools;
    }

    List<Step> plan() {
        hot();
        touchingPins();
        battery();
        failedInjection();
        overNominal();
        notPluggedBack();
        cleared();
        mending();
        notProven();
        pair();
        remains();
        otherSide();
        measuredOpen();
        hurtPort();
        shorted();
        if (held().isEmpty()) {
            leading(ACT_ON);
            plugIn();
            begin();
            walk();
            negotiation();
            leading(WORTH_A_LOOK);
        }
        readings();
        if (steps.stream().allMatch(this::forbidden)) {
            // It stands at its voltage, and the meter saw a load that no good board has.
            List<String> doubted = book.lowYetPresent();
            if (!doubted.isEmpty()) {
                shorted(doubted);
            }
        }
        reference();
        if (steps.isEmpty() && findings.stream().anyMatch(Finding::wrong) || steps.isEmpty() && !ran()) {
            lines();
            looks();
        }
        if (steps.isEmpty() && timeline.all(Run.class).findAny().isEmpty()) {
            add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        }
        return steps.stream().filter(s -> !forbidden(s)).limit(MOST_STEPS).toList();
    }

    /** Whether the device was seen to work, or nobody has said that it does not. */
    private boolean ran() {
        return timeline.last(Run.class).map(r -> r.finding().well()).orElse(true);
    }

    /** Every rail is well and the device is not: the lines, those of the port and of the likeliest chips first. */
    private void lines() {
        // Where watts go in and nothing starts, a rail may stand and feed a short.
        boolean eats = timeline.current(Power.class)
                .reduce((a, b) -> b)
                .map(p -> p.volts().orElse(0) * p.amps().orElse(0) > EATEN_WATTS)
                .orElse(false);
        unread(NetKind.POWER)
                .filter(n -> eats || book.powered(n.name()).isEmpty())
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
        unread(NetKind.SIGNAL)
                .filter(n -> board.partsOn(n.name()).count() > 1)
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
        unread(NetKind.POWER).limit(1).forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
    }

    private Stream<Net> unread(NetKind kind) {
        return board.nets().stream()
                .filter(n -> n.kind() == kind && book.unpowered(n.name()).isEmpty())
                .sorted(Comparator.comparingDouble(n -> -guiltOn(n.name())));
    }

    /** How likely it is that a net leads to the fault; a port's own nets take what comes in. */
    private double guiltOn(String net) {
        return board.partsOn(net)
                .mapToDouble(p -> diagnosis.guilt(p.ref()) + (tree.isInput(p.ref()) ? 1 : 0))
                .sum();
    }

    /** Nothing is left to measure: the likeliest parts under the microscope. */
    private void looks() {
        diagnosis.hypotheses().stream()
                .map(Hypothesis::target)
                .filter(ref -> board.part(ref).isPresent() && !looked(ref))
                .distinct()
                .limit(MOST_LINES)
                .forEach(ref -> add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT)));
    }

    private boolean stopped(Stop.Code code) {
        return stops.stream().anyMatch(s -> s.code() == code);
    }

    private boolean forbidden(Step step) {
        boolean proves = step.action() == Action.PROVE
                && (!held().isEmpty() || !book.burning().isEmpty());
        boolean powers = step.action() == Action.POWER;
        boolean injects = step.action() == Action.INJECT;
        return proves
                || powers && stopped(Stop.Code.DO_NOT_POWER)
                || injects && touching().isPresent();
    }

    private void hot() {
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

    private Optional<String> touching() {
        return stops.stream()
                .filter(s -> s.code() == Stop.Code.DO_NOT_POWER)
                .flatMap(s -> s.place().stream())
                .filter(p -> timeline.all(Look.class)
                        .anyMatch(l -> l.target().equals(p) && l.finding() == LookFinding.PINS_TOUCHING))
                .findFirst();
    }

    private void touchingPins() {
        touching().ifPresent(port -> {
            if (timeline.now().battery()) {
                add(Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.BATTERY_IS_IN));
            }
            add(Step.of(Action.REMOVE, port, Reason.PINS_TOUCH));
            add(Step.of(Action.LOOK, port, Reason.PINS_TOUCH));
        });
    }

    private void battery() {
        boolean works = stopped(Stop.Code.BATTERY_CONNECTED)
                || timeline.now().battery() && (!book.shorted().isEmpty() || stopped(Stop.Code.DO_NOT_POWER));
        if (works) {
            add(Step.of(Action.DISCONNECT, Timeline.BATTERY, Reason.BATTERY_IS_IN));
        }
    }

    /** The leads alone, or no contact: the same injection again, at a place that is looked at first. */
    private void failedInjection() {
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

    private long failures(String net) {
        return book.now(net).stream()
                .filter(s -> s.says() == Says.NO_CONTACT || s.says() == Says.INTO_GROUND)
                .count();
    }

    private void overNominal() {
        stops.stream()
                .filter(s -> s.code() == Stop.Code.OVER_NOMINAL)
                .flatMap(s -> s.place().stream())
                .filter(p -> board.net(p).isPresent())
                .forEach(net -> add(injection(net, Reason.TOO_MANY_VOLTS)));
    }

    private Step injection(String net, Reason reason) {
        double nominal = board.net(net)
                .map(n -> n.nominalVolts().orElse(LOW_AND_CLIMB_VOLTS))
                .orElse(LOW_AND_CLIMB_VOLTS);
        boolean atRail = schools.injection() == Schools.Injection.RAIL_VOLTAGE && reason == Reason.SHORTED_INJECT_LOW;
        if (atRail) {
            return new Step(
                    Action.INJECT,
                    Optional.of(net),
                    OptionalDouble.of(nominal),
                    OptionalDouble.of(LIMIT_AT_RAIL_AMPS),
                    Reason.SHORTED_INJECT_AT_RAIL,
                    List.of());
        }
        if (board.net(net).map(n -> n.kind() == NetKind.SIGNAL).orElse(false)) {
            return new Step(
                    Action.INJECT,
                    Optional.of(net),
                    OptionalDouble.of(LINE_VOLTS),
                    OptionalDouble.of(LINE_LIMIT_AMPS),
                    reason,
                    List.of());
        }
        double volts = Math.min(LOW_AND_CLIMB_VOLTS, nominal);
        double used = timeline.all(Inject.class)
                .filter(i -> i.net().equals(net))
                .mapToDouble(i -> i.amps().orElse(0))
                .max()
                .orElse(0);
        boolean cold = timeline.last(Warm.class).map(Warm::nothing).orElse(false);
        double amps = cold ? Math.min(MOST_AMPS, Math.max(LIMIT_AMPS, 1.5 * used)) : LIMIT_AMPS;
        return new Step(
                Action.INJECT, Optional.of(net), OptionalDouble.of(volts), OptionalDouble.of(amps), reason, List.of());
    }

    /** A short is gone: put right what was taken off, and prove it. */
    private void cleared() {
        Repair.of(timeline, book).ifPresent(repair -> {
            String culprit = repair.culprit().target();
            ChangeAction action = repair.culprit().action();
            boolean part = board.part(culprit).isPresent();
            if (part
                    && action == ChangeAction.REMOVED
                    && timeline.now().absent().contains(culprit)) {
                if (repair.leaveOff(board)) {
                    // Tried without it: leaving off is not a thing that one does.
                    if (book.shorted().isEmpty()) {
                        places();
                        tried(Optional.of(repair.net()));
                    }
                    add(Step.of(Action.LEAVE_OFF, culprit, Reason.CLEARED_LEAVE_OFF));
                }
                Reason reason = tree.isInput(culprit) ? Reason.PORT_TO_BE_FITTED : Reason.CLEARED_REPLACE;
                add(Step.of(Action.REPLACE, culprit, reason));
            } else if (part && action == ChangeAction.DISCONNECTED) {
                add(Step.of(Action.REPLACE, culprit, Reason.CLEARED_REPLACE));
                add(Step.of(Action.LOOK, culprit, Reason.LIKELY_FAULT));
            }
            repair.innocent().forEach(ref -> add(Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK)));
            if (book.shorted().isEmpty()) {
                places();
                tried(Optional.of(repair.net()));
            }
        });
    }

    /** What must be there before anything is tried: the port, and whatever cannot be left off. */
    private void places() {
        for (String ref : timeline.now().absent()) {
            Optional<Part> part = board.part(ref);
            if (part.isEmpty() || bypass(ref) && hasSibling(part.get())) {
                continue;
            }
            boolean bad = diagnosis.guilt(ref) > ACT_ON || pointedAt(ref);
            add(
                    tree.isInput(ref)
                            ? Step.of(Action.REPLACE, ref, Reason.PORT_TO_BE_FITTED)
                            : bad
                                    ? Step.of(Action.REPLACE, ref, Reason.CLEARED_REPLACE)
                                    : Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK));
        }
    }

    private boolean hasSibling(Part capacitor) {
        return board.powerNets(capacitor).stream()
                .flatMap(board::partsOn)
                .anyMatch(p -> bypass(p.ref())
                        && !p.ref().equals(capacitor.ref())
                        && timeline.now().has(p));
    }

    /** Nothing is proven while the rails that everything hangs on were never read. */
    private void rails() {
        Stream.concat(
                        tree.inputs().stream().limit(1).flatMap(p -> board.powerNets(p).stream()),
                        Stream.of(tree.mainRail()))
                .filter(n -> board.net(n).isPresent()
                        && book.lastUnpowered(n).isEmpty()
                        && timeline.now().absent().isEmpty())
                .limit(1)
                .forEach(n -> add(Step.of(Action.READ, n, Reason.PROVE_REPAIR)));
    }

    /** Power first, as it can show that something else is wrong; a device whose draw is right may be proven. */
    private void tried(Optional<String> net) {
        Step prove = net.map(n -> Step.of(Action.PROVE, n, Reason.PROVE_REPAIR))
                .orElseGet(() -> Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        if (drawsWell()) {
            rails();
            if (nothingMeasuredBefore()) {
                railsOnce();
            }
            add(prove);
        } else if (timeline.current(Power.class).findAny().isEmpty()) {
            add(Step.of(Action.POWER, Reason.PROVE_REPAIR));
            add(prove);
        }
    }

    /** Each rail is read before a repair counts that nobody has measured anything for. */
    private void railsOnce() {
        unread(NetKind.POWER)
                .filter(n -> Survey.place(board, timeline, n.name()).isPresent())
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.PROVE_REPAIR)));
    }

    /** What was mended was only seen: no reading or draw was wrong before it that could be right now. */
    private boolean nothingMeasuredBefore() {
        return mending.map(m -> m.wrongs().stream().allMatch(w -> w.test() == Mending.Test.RUN))
                .orElse(true);
    }

    private boolean drawsWell() {
        return timeline.current(Power.class)
                .reduce((a, b) -> b)
                .flatMap(p -> Draw.of(board, tree, p))
                .map(d -> d == Draw.NORMAL)
                .orElse(false);
    }

    /** After a repair: what was wrong before is tried again, in the way it was wrong. */
    private void mending() {
        Optional<Mending> open = mending.filter(m -> m.remaining().isEmpty());
        boolean unpoweredDone = open.map(m -> m.missing().stream().noneMatch(w -> w.test() == Mending.Test.UNPOWERED))
                .orElse(false);
        if (unpoweredDone && held().isEmpty()) {
            places();
        }
        open.stream()
                .flatMap(m -> m.missing().stream())
                .sorted(Comparator.comparing(Mending.Wrong::test))
                .forEach(w -> {
                    switch (w.test()) {
                        case UNPOWERED -> add(Step.of(Action.READ, w.place(), Reason.PROVE_REPAIR));
                        case ACROSS -> add(again(w, true, Optional.empty()));
                        case POWERED -> add(again(w, false, ((Read) w.before()).power()));
                        case DRAW ->
                            add(Step.of(Action.POWER, Reason.PROVE_REPAIR)
                                    .how(new Step.Probe(
                                            Optional.empty(),
                                            false,
                                            Optional.of(((Power) w.before()).from()),
                                            w.place().equals(Timeline.BATTERY))));
                        case RUN -> {}
                    }
                });
        open.filter(Mending::readsWell).ifPresent(m -> {
            places();
            if (m.proven() && m.runs()) {
                add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
            } else {
                tried(Optional.empty());
            }
        });
    }

    private static Step again(Mending.Wrong wrong, boolean across, Optional<PowerSource> power) {
        ReadMode mode = ((Read) wrong.before()).mode();
        return Step.of(Action.READ, wrong.place(), Reason.PROVE_REPAIR)
                .how(new Step.Probe(Optional.of(mode), across, power, false));
    }

    private void notProven() {
        stops.stream().filter(s -> s.code() == Stop.Code.NOT_PROVEN).forEach(s -> {
            String net = rail.or(() -> book.everShorted().stream().findFirst()).orElse(tree.mainRail());
            add(Step.of(Action.PROVE, net, Reason.PROVE_REPAIR));
            add(Step.of(Action.READ, net, Reason.PROVE_REPAIR));
        });
        boolean replaced = timeline.all(Change.class).anyMatch(c -> c.action() == ChangeAction.REPLACED);
        boolean tried = timeline.lastMoment()
                .map(m -> m.observation() instanceof Change)
                .orElse(false);
        if (replaced
                && tried
                && book.shorted().isEmpty()
                && Repair.of(timeline, book).isEmpty()) {
            String net = rail.or(() -> book.everShorted().stream().findFirst()).orElse(tree.mainRail());
            add(Step.of(Action.READ, net, Reason.PROVE_REPAIR));
            places();
            tried(Optional.of(net));
        }
    }

    /** A device that was put together again and is ill: ask for what was unplugged before suspecting the repair. */
    private void notPluggedBack() {
        Optional<Run> run = timeline.last(Run.class).filter(r -> !r.finding().well());
        timeline.now().unplugged().stream()
                .filter(ref -> run.isPresent()
                        && timeline.lastChangeOf(ref)
                                .map(c -> c.seq() < run.get().seq())
                                .orElse(false))
                .sorted()
                .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.NOT_PLUGGED_BACK)));
        diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.NOT_FITTED && h.probability() > 0.12)
                .limit(2)
                .forEach(h -> {
                    boolean connector = board.part(h.target())
                            .map(p -> p.kind() == PartKind.CONNECTOR)
                            .orElse(true);
                    add(Step.of(
                            connector ? Action.CHECK_FITTED : Action.FIT,
                            h.target(),
                            connector ? Reason.NOT_PLUGGED_BACK : Reason.PLACE_IS_EMPTY));
                });
    }

    /** Power goes in again and little flows: what was unplugged on the way may be what is missing. */
    private void plugIn() {
        boolean little = timeline.current(Power.class)
                .reduce((a, b) -> b)
                .flatMap(p -> Draw.of(board, tree, p))
                .map(d -> d == Draw.NONE || d == Draw.STUCK || d == Draw.NORMAL)
                .orElse(false);
        if (little && !ran()) {
            timeline.now().unplugged().stream()
                    .sorted()
                    .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.NOT_PLUGGED_BACK)));
        }
    }

    /** Five volts and no more: look at the port's pins, then at what feeds the chip that should ask for more. */
    private void negotiation() {
        boolean stays = timeline.current(Power.class)
                .reduce((a, b) -> b)
                .flatMap(p -> Draw.of(board, tree, p))
                .map(d -> d == Draw.NO_NEGOTIATION)
                .orElse(false);
        if (!stays) {
            return;
        }
        board.parts().stream()
                .filter(p -> board.role(p) == Role.PORT_CONTROLLER)
                .limit(1)
                .flatMap(p -> board.powerNets(p).stream())
                .filter(n -> book.powered(n).isEmpty())
                .limit(2)
                .forEach(n ->
                        add(Step.of(Action.READ, n, Reason.SUPPLY_OF_CONTROLLER).how(Step.Probe.UNDER_POWER)));
        tree.inputs().stream()
                .map(Part::ref)
                .filter(ref -> !looked(ref))
                .limit(1)
                .forEach(ref -> add(Step.of(Action.LOOK, ref, Reason.FIRST_LOOK)));
    }

    private void pair() {
        diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.PAIRED_PART && h.probability() > 0.08)
                .limit(1)
                .forEach(h -> {
                    add(Step.of(Action.REPLACE, h.target(), Reason.MOVE_THE_PAIR));
                    board.part(h.target())
                            .flatMap(Part::pairedWith)
                            .ifPresent(other -> add(Step.of(Action.REPLACE, other, Reason.MOVE_THE_PAIR)));
                });
    }

    /** Something was taken off for nothing. */
    private void remains() {
        for (String net : book.shorted()) {
            if (!book.remains(net)) {
                continue;
            }
            int since = book.unpowered(net).orElseThrow().seq();
            timeline.all(Change.class)
                    .filter(c -> c.action() == ChangeAction.REMOVED && c.seq() < since)
                    .map(Change::target)
                    .filter(ref -> timeline.now().absent().contains(ref))
                    .filter(ref -> !tree.isInput(ref))
                    .distinct()
                    .forEach(ref -> later.add(Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK)));
        }
    }

    /** What Ohm's law says is open is renewed, whatever else is wrong. */
    private void measuredOpen() {
        for (Measured.Gap gap : book.gaps()) {
            String ref = gap.part().ref();
            if (!looked(ref)) {
                add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT));
            }
            add(Step.of(Action.REPLACE, ref, Reason.LIKELY_FAULT));
        }
    }

    /** A port with a pin out of place goes before a chip behind it is blamed for what that pin may do. */
    private void hurtPort() {
        if (!held().isEmpty()) {
            tree.inputs().stream()
                    .map(Part::ref)
                    .filter(ref -> hurt(ref)
                            && !timeline.now().absent().contains(ref)
                            && !timeline.now().renewed().contains(ref))
                    .forEach(ref -> add(Step.of(Action.REMOVE, ref, Reason.VISIBLY_HURT)));
        }
    }

    /** Warmth on a part that cannot make it: it comes through from the other side. */
    private void otherSide() {
        Optional<Warm> last = timeline.current(Warm.class).reduce((a, b) -> b);
        if (last.isEmpty() || held().isEmpty()) {
            return;
        }
        Optional<Warm> warm = last.filter(w -> !w.nothing());
        Optional<Part> seen = warm.flatMap(Warm::ref).flatMap(board::part);
        Set<String> shorted = Set.copyOf(book.everShorted());
        if (seen.isPresent() && !shorted.isEmpty()) {
            boolean able = seen.get().pins().stream()
                    .map(Pin::net)
                    .anyMatch(n -> !board.isGround(n)
                            && shorted.stream().anyMatch(s -> book.joinedTo(s).contains(n)));
            if (!able) {
                add(Step.of(Action.FLIP, Reason.WARMTH_FROM_OTHER_SIDE));
                shorted.stream()
                        .findFirst()
                        .ifPresent(n -> add(Step.of(Action.IMAGE, n, Reason.WARMTH_FROM_OTHER_SIDE)));
            }
        }
        if (timeline.current(Warm.class).filter(Warm::nothing).count() >= MOST_COLD) {
            return;
        }
        boolean broad = warm.map(w -> w.spreadMm().orElse(0) > 10).orElse(false);
        boolean nothing = last.get().nothing();
        boolean oneSideOnly = timeline.all(Warm.class)
                        .flatMap(w -> w.side().stream())
                        .distinct()
                        .count()
                <= 1;
        int fed =
                timeline.current(Inject.class).mapToInt(Observation::seq).max().orElse(0);
        boolean bothSeen = timeline.current(Warm.class)
                        .filter(w -> w.nothing() && w.seq() > fed)
                        .count()
                > 1;
        if (broad || nothing && oneSideOnly && !bothSeen && !shorted.isEmpty()) {
            add(Step.of(Action.FLIP, Reason.WARMTH_FROM_OTHER_SIDE));
        }
    }

    /** Rails that something holds down: dead shorts first, else what reads a few ohms where it should not. */
    private List<String> held() {
        List<String> shorted = book.shorted();
        return shorted.isEmpty() ? book.low() : shorted;
    }

    private void shorted() {
        List<String> nets = held();
        if (nets.isEmpty()) {
            later.forEach(this::add);
        } else {
            shorted(nets);
        }
    }

    /** Where the current goes: an injection, a picture, and what they point at. */
    private void shorted(List<String> nets) {
        Optional<String> lastFed = timeline.current(Inject.class)
                .reduce((a, b) -> b)
                .map(Inject::net)
                .filter(n -> nets.contains(n) || book.down(n))
                .filter(n -> timeline.current(Warm.class).noneMatch(w -> w.seq() > lastInjection(n)));
        String net = lastFed.orElseGet(() -> nets.contains(rail.orElse("")) ? rail.orElseThrow() : deepest(nets));
        boolean signal = board.net(net).orElseThrow().kind() == NetKind.SIGNAL;
        List<Hypothesis> likely = likely(net);
        Optional<Hypothesis> first = likely.stream().findFirst();
        boolean pointed =
                first.map(h -> pointedAt(h.target()) || several(h.target())).orElse(false);
        double enough = first.map(h -> bypass(h.target()) && hurt(h.target()) ? LEADS_BY_LOOKS : ACT_ON)
                .orElse(ACT_ON);
        if (signal && first.map(h -> h.probability() < SURE_OF_LINES).orElse(false)) {
            otherLines(net);
        }
        if (first.isPresent() && first.get().probability() > enough && pointed && removable(first.get())) {
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
        if (first.isPresent()
                && first.get().code() == Code.DAMAGED_PORT
                && first.get().probability() > 0.35) {
            if (!looked(first.get().target())) {
                add(Step.of(Action.LOOK, first.get().target(), Reason.LIKELY_FAULT));
            }
            if (removable(first.get()) && first.get().probability() > ACT_ON) {
                add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
            }
        }
        portOff(net);
        Optional<Inject> fed = timeline.current(Inject.class)
                .filter(i -> i.net().equals(net) && i.volts().isPresent())
                .reduce((x, y) -> y);
        Optional<Warm> picture = timeline.current(Warm.class)
                .filter(w -> fed.isEmpty() || w.seq() > fed.get().seq())
                .reduce((x, y) -> y);
        if (signal) {
            otherLines(net);
        }
        if (fed.isPresent() && picture.isEmpty()) {
            add(Step.of(Action.IMAGE, net, findWarmth()));
        }
        if (failures(net) < MOST_FAILED_INJECTIONS && (fed.isEmpty() || mayRise(net, fed.get(), picture))) {
            add(injection(net, Reason.SHORTED_INJECT_LOW));
        }
        if (first.isPresent() && !looked(first.get().target())) {
            add(Step.of(Action.LOOK, first.get().target(), Reason.FIRST_LOOK));
        }
        boolean vague = picture.map(w -> !w.nothing()).orElse(false)
                && first.map(h -> h.probability() < ACT_ON).orElse(false);
        long pictures = timeline.current(Warm.class).count();
        if (picture.isEmpty() || vague && pictures < MOST_PICTURES) {
            add(Step.of(Action.IMAGE, net, findWarmth()));
        } else if (vague && first.isPresent() && bypass(first.get().target()) && removable(first.get())) {
            // Equal capacitors side by side: no picture parts them, one that is taken off does.
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
        later.forEach(this::add);
        unplug(net);
        if (first.isPresent() && first.get().probability() > ACT_ON && removable(first.get())) {
            add(Step.of(Action.REMOVE, first.get().target(), Reason.LIKELY_FAULT));
        }
    }

    private int lastInjection(String net) {
        return timeline.current(Inject.class)
                .filter(i -> i.net().equals(net))
                .mapToInt(Observation::seq)
                .max()
                .orElse(0);
    }

    /** Where a picture showed nothing, more current may: as long as there is more to give. */
    private boolean mayRise(String net, Inject fed, Optional<Warm> picture) {
        boolean cold = picture.map(Warm::nothing).orElse(false);
        double more = injection(net, Reason.SHORTED_INJECT_LOW).limitAmps().orElse(0);
        return cold && more > 1.05 * fed.limitAmps().orElse(fed.amps().orElse(0));
    }

    /** Whether at least two lines that are held down meet in a chip. */
    private boolean several(String ref) {
        return board.part(ref)
                .filter(p -> p.kind() == PartKind.IC)
                .map(p -> p.pins().stream()
                                .map(Pin::net)
                                .distinct()
                                .filter(book.pulledDown()::contains)
                                .map(n -> Set.copyOf(book.joinedTo(n)))
                                .distinct()
                                .count()
                        >= 2)
                .orElse(false);
    }

    /** A line that is held down: if others of one chip's lines are too, it is the chip that holds them. */
    private void otherLines(String net) {
        long read = book.nets().stream()
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .filter(n -> book.unpowered(n).isPresent())
                .count();
        if (read >= ENOUGH_LINES) {
            return;
        }
        board.partsOn(net)
                .filter(p -> p.kind() == PartKind.IC && timeline.now().has(p))
                .sorted(Comparator.comparingDouble(p -> -diagnosis.guilt(p.ref())))
                .flatMap(p -> p.pins().stream().map(Pin::net).distinct())
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .filter(n -> !n.equals(net) && book.unpowered(n).isEmpty())
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n, Reason.TELLS_MOST)));
    }

    private Reason findWarmth() {
        return switch (schools.warmth()) {
            case CAMERA -> Reason.SHORTED_FIND_WARMTH;
            case LIQUID -> Reason.FIND_WARMTH_BY_LIQUID;
            case TOUCH -> Reason.FIND_WARMTH_BY_TOUCH;
        };
    }

    /** The other school takes the port off before anything else is measured. */
    private void portOff(String net) {
        if (schools.port() == Schools.Port.OFF_FIRST) {
            tree.inputs().stream()
                    .filter(p -> timeline.now().has(p))
                    .filter(p -> board.powerNets(p).stream()
                            .anyMatch(n -> book.joinedTo(net).contains(n)))
                    .limit(1)
                    .forEach(p -> add(Step.of(Action.REMOVE, p.ref(), Reason.PORT_OFF_FIRST)));
        }
    }

    /** What can be unplugged from a shorted rail goes before anything is heated. */
    private void unplug(String net) {
        board.partsOn(net)
                .filter(p -> p.kind() == PartKind.CONNECTOR && !tree.isInput(p.ref()) && !tree.isBattery(p.ref()))
                .filter(p -> !timeline.now().unplugged().contains(p.ref()))
                .limit(1)
                .forEach(p -> add(Step.of(Action.DISCONNECT, p.ref(), Reason.ISOLATE)));
    }

    private String deepest(List<String> nets) {
        return nets.stream()
                .max(Comparator.comparingDouble(n ->
                        likely(n).stream().mapToDouble(Hypothesis::probability).sum()))
                .orElseThrow();
    }

    /** Faults that would short this net, most probable first. */
    private List<Hypothesis> likely(String net) {
        Set<String> joined = book.joinedTo(net);
        return diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.SHORT || h.code() == Code.DAMAGED_PORT || h.code() == Code.LEAKY)
                .filter(h -> diagnosis
                        .likeliest(h.code(), h.target())
                        .map(v -> v.faults().stream()
                                .filter(Bridge.class::isInstance)
                                .map(Bridge.class::cast)
                                .anyMatch(b -> joined.contains(b.netA()) || joined.contains(b.netB())))
                        .orElse(false))
                .toList();
    }

    /** Whether somebody saw, felt or filmed something on the part itself. */
    private boolean pointedAt(String ref) {
        for (Observation observation :
                timeline.moments().stream().map(Timeline.Moment::observation).toList()) {
            boolean hurt = observation instanceof Look l && l.target().equals(ref) && l.finding() != LookFinding.CLEAN;
            boolean warm =
                    observation instanceof Warm w && w.ref().map(ref::equals).orElse(false) && !w.nothing();
            if (hurt || warm) {
                return true;
            }
        }
        return false;
    }

    private boolean hurt(String ref) {
        return timeline.all(Look.class).anyMatch(l -> l.target().equals(ref) && l.finding() != LookFinding.CLEAN);
    }

    /** For a part that was renewed, whether the new one was. */
    private boolean looked(String ref) {
        return timeline.now().renewed().contains(ref)
                ? joints(ref)
                : timeline.all(Look.class).anyMatch(l -> l.target().equals(ref));
    }

    private boolean removable(Hypothesis h) {
        // The old part's fault is gone with it, whatever speaks for it: what is wrong now came with the new one.
        boolean fitted = diagnosis.asFitted(h) > WORTH_A_LOOK;
        return board.part(h.target())
                .map(p -> timeline.now().has(p)
                        && (!timeline.now().renewed().contains(p.ref())
                                || fitted && joints(p.ref()) && renewals(p.ref()) < MOST_RENEWALS))
                .orElse(false);
    }

    /** Whether the joints of a part were looked at since it was put in. */
    private boolean joints(String ref) {
        return timeline.all(Look.class)
                .anyMatch(l -> l.target().equals(ref)
                        && timeline.lastChangeOf(ref)
                                .map(c -> l.seq() > c.seq())
                                .orElse(true));
    }

    private long renewals(String ref) {
        return timeline.all(Change.class)
                .filter(c -> c.target().equals(ref)
                        && (c.action() == ChangeAction.REPLACED || c.action() == ChangeAction.FITTED))
                .count();
    }

    /** No short: what the likeliest fault asks for. */
    private void leading(double least) {
        List<Hypothesis> some = diagnosis.hypotheses().stream()
                .filter(h -> h.probability() > least)
                .limit(3)
                .toList();
        for (Hypothesis h : some) {
            boolean sure = h.probability() > ACT_ON_READINGS;
            switch (h.code()) {
                case OPEN -> open(h, sure);
                case LEAKY, SHORT -> leak(h, sure);
                case DEAD_CONTROLLER -> controller(h, sure);
                case NO_ENABLE -> enable(h);
                case DAMAGED_PORT -> port(h, sure);
                case BATTERY -> batteryItself(h);
                case NONE -> healthy();
                default -> {}
            }
        }
    }

    private void open(Hypothesis h, boolean sure) {
        if (!removable(h)) {
            return;
        }
        Optional<String> gate = unmeasuredGate(h.target());
        if (gate.isPresent()) {
            // Off because nobody tells it to be on is not open.
            add(Step.of(Action.READ, gate.get(), Reason.LIKELY_FAULT).how(Step.Probe.UNDER_POWER));
            return;
        }
        boolean across = timeline.current(Read.class)
                .anyMatch(r -> r.across().map(h.target()::equals).orElse(false));
        boolean twoEnds = board.part(h.target())
                .map(p -> p.pins().stream().map(Pin::net).distinct().count() == 2)
                .orElse(false);
        if (!across && twoEnds) {
            add(Step.of(Action.READ, h.target(), Reason.LIKELY_FAULT).how(Step.Probe.ACROSS));
        }
        if (sure) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        }
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    private Optional<String> unmeasuredGate(String ref) {
        return board.part(ref)
                .filter(p -> p.kind() == PartKind.MOSFET || p.kind() == PartKind.TRANSISTOR)
                .flatMap(p -> p.gate()
                        .map(g -> g.net())
                        .or(() -> p.pins().stream()
                                .filter(pin -> pin.name().equalsIgnoreCase("G")
                                        || pin.name().equalsIgnoreCase("B"))
                                .map(Pin::net)
                                .findFirst()))
                .filter(net -> timeline.current(Read.class)
                        .noneMatch(r -> r.mode() == ReadMode.VOLTS
                                && timeline.netOf(r).map(net::equals).orElse(false)));
    }

    private void leak(Hypothesis h, boolean sure) {
        if (!removable(h)) {
            return;
        }
        if (sure || h.probability() > ACT_ON && pointedAt(h.target())) {
            add(Step.of(bypass(h.target()) ? Action.REMOVE : Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        }
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    private boolean bypass(String ref) {
        return board.part(ref).map(p -> board.role(p) == Role.BYPASS).orElse(false);
    }

    /** A chip is blamed last: after its supply, its enable and its output are known. */
    private void controller(Hypothesis h, boolean sure) {
        Optional<Part> part = board.part(h.target());
        if (part.isEmpty()) {
            return;
        }
        List<String> asked = new ArrayList<>();
        for (String net : supplies(part.get())) {
            if (book.powered(net).isEmpty()) {
                asked.add(net);
            }
        }
        asked.stream()
                .limit(2)
                .forEach(n ->
                        add(Step.of(Action.READ, n, Reason.SUPPLY_OF_CONTROLLER).how(Step.Probe.UNDER_POWER)));
        if (sure && asked.isEmpty() && removable(h)) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        } else if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    private List<String> supplies(Part part) {
        return board.powerNets(part).stream()
                .filter(n -> part.supplies().stream().noneMatch(s -> s.out().equals(n)))
                .toList();
    }

    private void enable(Hypothesis h) {
        add(Step.of(Action.READ, h.target(), Reason.LIKELY_FAULT).how(Step.Probe.UNDER_POWER));
        board.partsOn(h.target())
                .filter(p ->
                        p.kind() == PartKind.RESISTOR || p.kind() == PartKind.TRANSISTOR || board.role(p) == Role.DRIVE)
                .limit(1)
                .forEach(p ->
                        add(Step.of(Action.READ, p.ref(), Reason.LIKELY_FAULT).how(Step.Probe.ACROSS)));
    }

    private void port(Hypothesis h, boolean sure) {
        boolean hurt = pointedAt(h.target());
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
        if (removable(h) && (hurt || sure)) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        }
    }

    private void batteryItself(Hypothesis h) {
        add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        board.powerNets(board.part(h.target()).orElseThrow()).stream()
                .limit(1)
                .forEach(n -> add(Step.of(Action.READ, n, Reason.LIKELY_FAULT)));
    }

    private void healthy() {
        boolean ran = timeline.last(Run.class).map(r -> r.finding().well()).orElse(false);
        if (ran) {
            add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        } else if (!powered()) {
            add(Step.of(Action.POWER, Reason.FIRST_POWER));
        } else if (findings.stream().noneMatch(Finding::wrong)) {
            add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        }
    }

    private void readings() {
        experiments.readings().stream().limit(4).map(Experiments.Worth::step).forEach(this::add);
    }

    /** Little is known: the usual order. */
    private void begin() {
        boolean looked = timeline.all(Look.class).findAny().isPresent();
        if (!looked) {
            tree.inputs().stream().limit(1).forEach(p -> add(Step.of(Action.LOOK, p.ref(), Reason.FIRST_LOOK)));
        }
        boolean unread = book.unpowered(tree.mainRail()).isEmpty()
                && book.powered(tree.mainRail()).isEmpty();
        if (unread && schools.proof() == Schools.Proof.SUPPLY) {
            add(injection(tree.mainRail(), Reason.PROVE_BY_SUPPLY));
        }
        if (unread) {
            add(Step.of(Action.READ, tree.mainRail(), Reason.MAIN_RAIL_FIRST));
        }
        if (!powered()) {
            tree.inputs().stream()
                    .map(Part::ref)
                    .filter(timeline.now().absent()::contains)
                    .forEach(ref -> add(Step.of(Action.REPLACE, ref, Reason.PORT_TO_BE_FITTED)));
            add(Step.of(Action.POWER, Reason.FIRST_POWER));
        }
    }

    private boolean powered() {
        return timeline.current(Power.class).findAny().isPresent()
                || timeline.current(Read.class).anyMatch(r -> r.power().isPresent());
    }

    /** Power goes in without harm, and the device does not start: in volts to the point where it stops. */
    private void walk() {
        boolean well = timeline.last(Run.class).map(r -> r.finding().well()).orElse(false);
        if (powered() && !well && !stopped(Stop.Code.DO_NOT_POWER)) {
            PoweredWalk.of(timeline, book).forEach(this::add);
        }
    }

    private void reference() {
        boolean unknown = board.nets().stream().noneMatch(n -> n.expect().isPresent());
        if (unknown && !book.nets().isEmpty()) {
            add(Step.of(Action.COMPARE_GOOD_BOARD, Reason.NO_REFERENCE));
        }
    }

    /** A reading under power or across a part that the present circuit has been asked for tells nothing new. */
    private boolean readAlready(Step step) {
        Optional<Step.Probe> probe = step.probe().filter(p -> step.action() == Action.READ);
        return probe.isPresent()
                && timeline.current(Read.class)
                        .anyMatch(r -> probe.get().across()
                                ? r.across().equals(step.target())
                                : r.across().isEmpty()
                                        && probe.get()
                                                .mode()
                                                .map(m -> m == r.mode())
                                                .orElse(false)
                                        && timeline.netOf(r).equals(step.target()));
    }

    private void add(Step step) {
        boolean underPower = step.action() == Action.READ
                && step.probe().flatMap(Step.Probe::power).isPresent();
        if (underPower
                && !readAlready(step)
                && timeline.current(Power.class).findAny().isEmpty()) {
            // What the board draws is seen before anybody measures on it for minutes.
            add(Step.of(Action.POWER, Reason.FIRST_POWER));
        }
        if (steps.stream().noneMatch(step::same) && !readAlready(step)) {
            steps.add(step);
        }
    }
}
