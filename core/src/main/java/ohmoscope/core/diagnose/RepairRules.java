package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;
import ohmoscope.core.reading.Unit;

/** After something was taken off or put in: what goes back, what is read again, and when it is proven. */
final class RepairRules extends PlanRules {
    /** Of the most that a good device takes. */
    private static final double MUCH = 0.6;

    private final List<Step> unsettled = new ArrayList<>();

    RepairRules(Situation situation) {
        super(situation);
    }

    /** A short is gone: put right what was taken off, and prove it. */
    void cleared() {
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
                    settle(Step.of(Action.LEAVE_OFF, culprit, Reason.CLEARED_LEAVE_OFF));
                    settle(Step.of(Action.REPLACE, culprit, Reason.CLEARED_REPLACE));
                } else {
                    Reason reason = tree.isInput(culprit) ? Reason.PORT_TO_BE_FITTED : Reason.CLEARED_REPLACE;
                    settle(Step.of(Action.REPLACE, culprit, reason), !held().isEmpty());
                }
            } else if (part && action == ChangeAction.DISCONNECTED) {
                add(Step.of(Action.LOOK, culprit, Reason.CLEARED_UNPLUGGED));
                add(Step.of(Action.REPLACE, culprit, Reason.CLEARED_UNPLUGGED));
            }
            repair.innocent().forEach(ref -> add(Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK)));
            if (book.shorted().isEmpty()) {
                places();
                tried(Optional.of(repair.net()));
            }
        });
    }

    /** Left off it was tried already and the draw is not right, or another rail is down: that comes first. */
    private void settle(Step step) {
        settle(
                step,
                !held().isEmpty() || timeline.current(Power.class).findAny().isPresent() && !drawsWell());
    }

    private void settle(Step step, boolean waits) {
        if (waits) {
            unsettled.add(step);
        } else {
            add(step);
        }
    }

    /** No meter saw a short, and the draw is right without what was unplugged: the load hangs there, not on the board. */
    void relieved() {
        if (Repair.of(timeline, book).isEmpty()) {
            Relief.of(timeline).stream()
                    .filter(ref -> board.part(ref).isPresent())
                    .filter(ref -> timeline.now().unplugged().contains(ref))
                    .forEach(ref -> {
                        add(Step.of(Action.LOOK, ref, Reason.RELIEVED));
                        add(Step.of(Action.REPLACE, ref, Reason.RELIEVED));
                    });
        }
    }

    /** What becomes of a place, once the rest is plugged in and known to work. */
    void settled() {
        unsettled.forEach(this::add);
    }

    /** What must be there before anything is tried: the port, and whatever cannot be left off. */
    private void places() {
        for (String ref : timeline.now().absent().stream().sorted().toList()) {
            Optional<Part> part = board.part(ref);
            if (part.isEmpty() || bypass(ref) && hasSibling(part.get())) {
                continue;
            }
            boolean bad = diagnosis.guilt(ref) > ACT_ON || pointedAt(ref);
            if (tree.isInput(ref)) {
                portToBeFitted(Step.of(Action.REPLACE, ref, Reason.PORT_TO_BE_FITTED));
            } else {
                add(
                        bad
                                ? Step.of(Action.REPLACE, ref, Reason.CLEARED_REPLACE)
                                : Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK));
            }
        }
    }

    /** No port is ordered before the rest is known to work: fed past it, the board has shown whether it does. */
    private void portToBeFitted(Step fit) {
        boolean fedPast = timeline.current(Power.class).anyMatch(p -> p.net().isPresent());
        if (fedPast && findings.stream().anyMatch(Finding::wrong)) {
            unsettled.add(fit);
        } else {
            add(fit);
        }
    }

    /** Whether two others do its work: one alone may be the whole of what a regulator needs. */
    private boolean hasSibling(Part capacitor) {
        return board.powerNets(capacitor).stream()
                        .flatMap(board::partsOn)
                        .filter(p -> bypass(p.ref())
                                && !p.ref().equals(capacitor.ref())
                                && timeline.now().has(p))
                        .distinct()
                        .count()
                >= 2;
    }

    /** Nothing is proven while the rail that everything hangs on was never read; the port's own volts the source shows. */
    private void mainRail() {
        Optional.of(tree.mainRail())
                .filter(n -> board.net(n).isPresent()
                        && book.lastUnpowered(n).isEmpty()
                        && !book.stands(n)
                        && timeline.now().absent().isEmpty())
                .ifPresent(n -> add(ofTheRail(n)));
    }

    /** With the cell in, a rail is read in volts: nothing has to come apart again for it. */
    private Step ofTheRail(String net) {
        Step read = Step.of(Action.READ, net, Reason.PROVE_REPAIR);
        return timeline.now().battery() ? read.how(Step.Probe.UNDER_POWER) : read;
    }

    /** Power first, as it can show that something else is wrong; a device whose draw is right may be proven. */
    private void tried(Optional<String> net) {
        if (railStaysAway() || !held().isEmpty()) {
            // Whatever was mended, that is a fault of its own.
            return;
        }
        Step prove = net.map(n -> Step.of(Action.PROVE, n, Reason.PROVE_REPAIR))
                .orElseGet(() -> Step.of(Action.PROVE, Reason.PROVE_REPAIR));
        if (drawsWell()) {
            mainRail();
            net.filter(n -> drawsMuch() && book.now(n).isEmpty())
                    .ifPresent(n -> add(Step.of(Action.READ, n, Reason.PROVE_REPAIR)));
            if (nothingMeasuredBefore() || behindThePort()) {
                railsOnce();
            } else if (mending.map(m -> tree.isInput(m.repair().target())).orElse(false)) {
                coresOnce();
            }
            add(prove);
        } else if (timeline.current(Power.class).findAny().isEmpty()) {
            add(Step.of(Action.POWER, Reason.PROVE_REPAIR));
            add(prove);
        }
    }

    /** So near to the most that it runs on that solder under the new part may take a share of it. */
    private boolean drawsMuch() {
        return timeline.current(Power.class)
                .reduce((a, b) -> b)
                .flatMap(p -> DrawReading.of(board, tree, p).map(d -> p.amps().orElse(0) > MUCH * d.mostAmps()))
                .orElse(false);
    }

    /** Told to start, and a rail that something makes does not come up. */
    private boolean railStaysAway() {
        boolean on = timeline.current(Power.class)
                .reduce((a, b) -> b)
                .map(p -> p.state() == DeviceState.ON)
                .orElse(false);
        return on
                && book.nets().stream()
                        .filter(n -> !tree.pathTo(n).isEmpty())
                        .anyMatch(n -> book.powered(n)
                                .map(p -> p.says() == Says.ABSENT)
                                .orElse(false));
    }

    /** Each rail is read before a repair counts that nobody has measured anything for. */
    private void railsOnce() {
        unread(NetKind.POWER)
                .filter(n -> Survey.place(board, timeline, n.name()).isPresent())
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.PROVE_REPAIR)));
        coresOnce();
    }

    /** What crushes a port often takes a chip's core with it, and no draw shows a core that nobody has told to start. */
    private void coresOnce() {
        unread(NetKind.POWER)
                .filter(n -> Interpreter.core(n) && book.powered(n.name()).isEmpty())
                .filter(n -> Survey.place(board, timeline, n.name()).isPresent())
                .forEach(n -> add(ofTheRail(n.name())));
        // In diode mode a core looks the same with an ohm across it: its volts tell, or ohms where nobody knows its
        // maker.
        board.nets().stream()
                .map(Net::name)
                .filter(n -> book.unpowered(n)
                                .map(s -> s.says() == Says.BY_DESIGN && s.unit() == Unit.DIODE_VOLTS)
                                .orElse(false)
                        && book.powered(n).isEmpty())
                .forEach(n -> add(Step.of(Action.READ, n, Reason.PROVE_REPAIR)
                        .how(tree.pathTo(n).isEmpty() ? Step.Probe.IN_OHMS : Step.Probe.UNDER_POWER)));
    }

    /** What was mended was only seen: no reading or draw was wrong before it that could be right now. */
    private boolean nothingMeasuredBefore() {
        return mending.map(m -> m.wrongs().stream().allMatch(w -> w.test() == Mending.Test.RUN))
                .orElse(true);
    }

    /** A port without contact hid everything behind it, and what crushes a port often takes a chip with it. */
    private boolean behindThePort() {
        return mending.map(m -> tree.isInput(m.repair().target())
                        && m.wrongs().stream().noneMatch(w -> w.test() == Mending.Test.UNPOWERED))
                .orElse(false);
    }

    /** After a repair: what was wrong before is tried again, in the way it was wrong. */
    void mending() {
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
        open.filter(m -> m.readsWell() && held().isEmpty()).ifPresent(m -> {
            places();
            if (m.proven() && m.runs()) {
                add(Step.of(Action.PROVE, Reason.PROVE_REPAIR));
            } else {
                tried(Optional.empty());
            }
        });
    }

    /** A port was put in and nothing flows: its joints before what is behind it. */
    private void newPortWithoutContact() {
        boolean nothing = lastDraw().filter(d -> d == Draw.NONE).isPresent();
        tree.inputs().stream()
                .map(Part::ref)
                .filter(ref -> nothing && timeline.renewals(ref) > 0 && !joints(ref))
                .filter(ref -> timeline.current(Power.class)
                        .anyMatch(p -> p.port().map(ref::equals).orElse(true)))
                .forEach(ref -> add(Step.of(Action.LOOK, ref, Reason.NEW_PORT_SILENT)));
    }

    /** Free before something was put in or plugged in, and down since: a bridge under it, or it is bad or turned. */
    private void downSincePutIn() {
        for (String net : book.shorted()) {
            int shorted = book.unpowered(net).orElseThrow().seq();
            Optional<Sign> free = book.before(net).stream()
                    .filter(s -> s.says().unpowered())
                    .reduce((a, b) -> b)
                    .filter(s -> s.says().notShorted());
            timeline.all(Change.class)
                    .filter(c -> free.isPresent() && c.seq() > free.get().seq() && c.seq() < shorted)
                    .forEach(this::putIn);
        }
    }

    private void putIn(Change change) {
        boolean part = change.action() == ChangeAction.REPLACED || change.action() == ChangeAction.FITTED;
        if (part && !joints(change.target())) {
            add(Step.of(Action.LOOK, change.target(), Reason.NEW_JOINTS));
        } else if (change.action() == ChangeAction.CONNECTED
                && board.part(change.target()).isPresent()
                && !timeline.now().unplugged().contains(change.target())) {
            add(Step.of(Action.DISCONNECT, change.target(), Reason.ISOLATE));
        }
    }

    /** A part was put in, and it draws too much again: its own net first, as solder may bridge under it. */
    void newPart() {
        downSincePutIn();
        newPortWithoutContact();
        boolean putIn = mending.map(m -> m.repair().action() == ChangeAction.REPLACED
                        || m.repair().action() == ChangeAction.FITTED)
                .orElse(false);
        if (drawsTooMuch() && putIn) {
            mending.stream()
                    .flatMap(m -> m.wrongs().stream())
                    .filter(w -> w.test() == Mending.Test.UNPOWERED
                            && book.unpowered(w.place()).isEmpty())
                    .forEach(w -> add(Step.of(Action.READ, w.place(), Reason.PROVE_REPAIR)));
        }
    }

    private static Step again(Mending.Wrong wrong, boolean across, Optional<PowerSource> power) {
        ReadMode mode = ((Read) wrong.before()).mode();
        return Step.of(Action.READ, wrong.place(), Reason.PROVE_REPAIR)
                .how(new Step.Probe(Optional.of(mode), across, power, false));
    }

    void notProven() {
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

    /** Read across since it came off, a capacitor that conducts is bad, whatever else the rail has. */
    private boolean badByItself(String ref) {
        return bypass(ref)
                && timeline.all(Read.class)
                        .filter(r -> r.across().equals(Optional.of(ref))
                                && (r.mode() == ReadMode.OHMS || r.mode() == ReadMode.CONTINUITY)
                                && timeline.lastChangeOf(ref)
                                        .map(c -> c.seq() < r.seq())
                                        .orElse(false))
                        .mapToDouble(r -> r.mode() == ReadMode.CONTINUITY
                                ? Interpreter.beep(r.value().orElse(0))
                                : r.value().orElse(Double.POSITIVE_INFINITY))
                        .anyMatch(ohms -> ohms < Thresholds.LOW_OHMS);
    }

    /** Something was taken off for nothing. */
    void remains() {
        for (String net : book.shorted()) {
            if (!book.remains(net)) {
                continue;
            }
            int since = book.unpowered(net).orElseThrow().seq();
            timeline.all(Change.class)
                    .filter(c -> c.action() == ChangeAction.REMOVED && c.seq() < since)
                    .map(Change::target)
                    .filter(ref -> timeline.now().absent().contains(ref))
                    .filter(ref -> !tree.isInput(ref) && !badByItself(ref))
                    .distinct()
                    .forEach(ref -> addLater(Step.of(Action.FIT, ref, Reason.INNOCENT_FIT_BACK)));
        }
    }
}
