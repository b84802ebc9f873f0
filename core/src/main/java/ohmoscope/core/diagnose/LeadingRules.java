package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.reading.Says;

/** What the likeliest faults ask for, each by its kind. */
final class LeadingRules extends PlanRules {
    /** What most devices start on. */
    private static final double PAST_PORT_AMPS = 1;

    private static final double ACT_ON_READINGS = 0.7;

    private static final double LINE_IS_DOWN_VOLTS = 0.9;
    private static final double STANDS_OUT = 0.25;
    private static final double STANDS_OUT_TIMES = 3;

    LeadingRules(Situation situation) {
        super(situation);
    }

    /** What Ohm's law says is open is renewed, whatever else is wrong; a short behind it comes first, as it would go again. */
    void measuredOpen() {
        for (Measured.Gap gap : book.gaps()) {
            String ref = gap.part().ref();
            // Two ends are two readings, and one in fifty is misread: a minute settles it.
            if (Measured.across(timeline, ref).isEmpty() && !pointedAt(ref)) {
                add(Step.of(Action.READ, ref, Reason.LIKELY_FAULT).how(Step.Probe.ACROSS));
            }
            if (!looked(ref)) {
                add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT));
            }
            Step renew = Step.of(Action.REPLACE, ref, Reason.LIKELY_FAULT);
            if (gap.part().pins().stream().anyMatch(pin -> book.shorted(pin.net()))) {
                addLater(renew);
            } else {
                add(renew);
            }
        }
    }

    /** A part across which the meter found another value than is written for it. */
    void offValue() {
        findings.stream()
                .filter(f -> f.code() == Finding.Code.PART_OFF_VALUE)
                .flatMap(f -> f.place().stream())
                .forEach(ref -> {
                    if (!looked(ref)) {
                        add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT));
                    }
                    add(Step.of(Action.REPLACE, ref, Reason.LIKELY_FAULT));
                });
    }

    /** A fuse blows for a reason: what is behind it is read before a new one goes in. */
    void behindFuse() {
        findings.stream()
                .filter(f -> f.code() == Finding.Code.PART_OPEN)
                .flatMap(f -> f.place().stream())
                .flatMap(ref -> board.part(ref).stream())
                .filter(p -> p.kind() == PartKind.FUSE)
                .flatMap(p -> board.powerNets(p).stream())
                .filter(n -> book.unpowered(n).isEmpty())
                .sorted(Comparator.comparing(n -> -tree.pathTo(n).size()))
                .forEach(n -> add(Step.of(Action.READ, n, Reason.BEHIND_FUSE)));
    }

    /** No short: what the likeliest fault asks for. */
    void leading(double least) {
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
        if (!readAcross(h.target()) && twoEnds(h.target())) {
            across(h.target());
        }
        if (sure) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        }
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    private void across(String ref) {
        Part part = board.part(ref).orElseThrow();
        add(Step.of(Action.READ, ref, Reason.LIKELY_FAULT).how(Step.Probe.across(part)));
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
        List<String> unmeasured = unmeasured(h.target());
        if (!unmeasured.isEmpty()) {
            Reason reason = pointedAt(h.target()) ? Reason.MEASURE_FIRST : Reason.TELLS_MOST;
            unmeasured.stream().limit(2).forEach(net -> add(Step.of(Action.READ, net, reason)));
        } else if (acrossUnread(h.target())) {
            across(h.target());
        } else if (sure || h.probability() > ACT_ON && pointedAt(h.target())) {
            add(Step.of(bypass(h.target()) ? Action.REMOVE : Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        }
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    /** A diode between two rails: a minute across it tells. */
    private boolean acrossUnread(String ref) {
        return board.part(ref)
                .filter(p ->
                        p.kind() == PartKind.DIODE && p.pins().stream().noneMatch(pin -> board.isGround(pin.net())))
                .filter(p -> twoEnds(ref) && !readAcross(ref))
                .isPresent();
    }

    /** Rails of a part on which nobody has measured anything; empty where one of its nets was measured. */
    private List<String> unmeasured(String ref) {
        Optional<Part> part = board.part(ref);
        Set<String> nets =
                part.stream().flatMap(p -> p.pins().stream()).map(Pin::net).collect(Collectors.toSet());
        boolean measured = Stream.concat(
                        timeline.all(Read.class).flatMap(r -> timeline.netOf(r).stream()),
                        timeline.all(Inject.class).map(Inject::net))
                .anyMatch(n -> nets.contains(n) && !board.isGround(n));
        return measured ? List.of() : part.map(board::powerNets).orElse(List.of());
    }

    /** A chip is blamed last: after its supply, its enable and its output are known. */
    private void controller(Hypothesis h, boolean sure) {
        Optional<Part> part = board.part(h.target());
        if (part.isEmpty()) {
            return;
        }
        List<String> asked = new ArrayList<>();
        for (String net : tree.supplies(board, part.get())) {
            boolean withoutCell = tree.ofBattery(net) && !timeline.now().battery();
            if (book.powered(net).isEmpty() && !withoutCell) {
                asked.add(net);
            }
        }
        // What it makes for itself tells whether it lives.
        DeadFault.innerRails(timeline, part.get()).stream()
                .filter(n -> book.powered(n).isEmpty())
                .forEach(asked::add);
        asked.stream()
                .limit(2)
                .forEach(n ->
                        add(Step.of(Action.READ, n, Reason.SUPPLY_OF_CONTROLLER).how(Step.Probe.UNDER_POWER)));
        if ((sure || looked(h.target()) && standsOut(h)) && asked.isEmpty() && removable(h)) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
        } else if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
    }

    /** Everything else is far less likely, and no reading that is left would change that. */
    private boolean standsOut(Hypothesis h) {
        double next = diagnosis.hypotheses().stream()
                .filter(other -> !other.target().equals(h.target()))
                .mapToDouble(this::ofThisBoard)
                .max()
                .orElse(0);
        double own = ofThisBoard(h);
        return own > STANDS_OUT && own > STANDS_OUT_TIMES * next;
    }

    private void enable(Hypothesis h) {
        add(Step.of(Action.READ, h.target(), Reason.LIKELY_FAULT).how(Step.Probe.UNDER_POWER));
        board.partsOn(h.target())
                .filter(p ->
                        p.kind() == PartKind.RESISTOR || p.kind() == PartKind.TRANSISTOR || board.role(p) == Role.DRIVE)
                .filter(p -> !downAtBothEnds(p, h.target()))
                .limit(1)
                .forEach(p ->
                        add(Step.of(Action.READ, p.ref(), Reason.LIKELY_FAULT).how(Step.Probe.ACROSS)));
    }

    /** A resistor whose other end is down too passes on what it gets. */
    private boolean downAtBothEnds(Part part, String line) {
        return part.kind() == PartKind.RESISTOR
                && part.pins().stream()
                        .map(Pin::net)
                        .filter(n -> !n.equals(line))
                        .allMatch(n -> timeline.volts().containsKey(n)
                                && timeline.volts().get(n) < LINE_IS_DOWN_VOLTS);
    }

    private void port(Hypothesis h, boolean sure) {
        boolean hurt = pointedAt(h.target());
        if (!looked(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.LIKELY_FAULT));
        }
        if (timeline.uncleaned().contains(h.target())) {
            add(Step.of(Action.LOOK, h.target(), Reason.CLEAN_FIRST));
        }
        if (removable(h) && (hurt || sure)) {
            add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
            if (!hurt) {
                pastThePort(h.target());
            }
        }
    }

    /** If the board runs on a supply that is held behind the port, the port is all that is missing. */
    private void pastThePort(String port) {
        board.part(port).stream()
                .flatMap(p -> board.powerNets(p).stream())
                .filter(net -> timeline.current(Power.class)
                        .noneMatch(p -> p.net().map(net::equals).orElse(false)))
                .filter(net -> book.unpowered(net).map(s -> s.says().right()).orElse(false))
                .limit(1)
                .forEach(net -> add(new Step(
                        Action.POWER,
                        Optional.of(net),
                        board.net(net).orElseThrow().nominalVolts(),
                        OptionalDouble.of(PAST_PORT_AMPS),
                        Reason.FEED_PAST_PORT,
                        List.of())));
    }

    /** Fed, its cell in, and no charge: what closes the switch before the cell, and what stands behind it. */
    void wayToTheCell() {
        boolean chargeless = timeline.now().battery()
                && timeline.current(Run.class)
                        .reduce((a, b) -> b)
                        .filter(r -> r.finding() == RunFinding.DOES_NOT_CHARGE
                                || r.finding() == RunFinding.SHOWS_CHARGING_ONLY)
                        .isPresent();
        if (!chargeless || !powered()) {
            return;
        }
        Set<String> cell = tree.battery().stream()
                .flatMap(b -> board.powerNets(b).stream())
                .collect(Collectors.toSet());
        Stream<String> gates = cell.stream()
                .flatMap(board::partsOn)
                .flatMap(p -> p.gate().stream())
                .map(Gate::net)
                .distinct();
        Stream.concat(gates, cell.stream())
                .filter(n -> !timeline.volts().containsKey(n))
                .forEach(
                        n -> add(Step.of(Action.READ, n, Reason.WAY_TO_THE_CELL).how(Step.Probe.UNDER_POWER)));
    }

    private void batteryItself(Hypothesis h) {
        board.powerNets(board.part(h.target()).orElseThrow()).stream()
                .filter(n -> book.unpowered(n).isEmpty())
                .limit(1)
                .forEach(n -> add(Step.of(Action.READ, n, Reason.BEFORE_THE_CELL)));
        add(Step.of(Action.REPLACE, h.target(), Reason.LIKELY_FAULT));
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

    /** Five volts and no more while the main rail stands: what asks for more goes over the port's lines. */
    void negotiationLines() {
        if (book.stands(tree.mainRail()) && staysAtFirstVolts()) {
            portLines();
        }
    }

    /** Every rail that was read stands, it takes next to nothing and does not start: what the port is asked over its lines may not arrive. */
    void linesOfAnIdlePort() {
        boolean idle = lastDraw().filter(d -> d == Draw.NONE).isPresent();
        boolean allStand =
                book.nets().stream().flatMap(n -> book.powered(n).stream()).allMatch(s -> s.says() == Says.PRESENT);
        if (held().isEmpty() && stillIll() && book.stands(tree.mainRail()) && idle && allStand) {
            portLines();
        }
    }

    private void portLines() {
        unread(NetKind.SIGNAL)
                .filter(n -> tree.inputs().stream().anyMatch(port -> port.touches(n.name()))
                        && board.partsOn(n.name()).anyMatch(p -> p.kind() == PartKind.IC)
                        && Survey.place(board, timeline, n.name()).isPresent())
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
    }

    private boolean staysAtFirstVolts() {
        return lastDraw().filter(d -> d == Draw.NO_NEGOTIATION).isPresent();
    }

    /** Five volts and no more: look at the port's pins, then at what feeds the chip that should ask for more. */
    void negotiation() {
        if (!staysAtFirstVolts()) {
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
}
