package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;
import ohmoscope.core.circuit.PowerTree.Kind;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.reading.Says;

/**
 * A board whose rails are free and that does not start, in volts: to the first rail that is missing, halving the way to
 * it, then to what could stop it there. Supply before enable, enable before output, output before the part itself; a part
 * is named only when all that it needs is there and what it gives is not.
 */
final class PoweredWalk {
    private static final double ACTIVE_VOLTS = 0.9;
    private static final double SAME_VOLTS = 0.6;
    /** A whole gate conducts nothing; what else joins gate and source is some ten kilohms. */
    private static final double GATE_LEAK_OHMS = 8_000;
    /** A switch that is on drops millivolts. */
    private static final double BODY_DIODE_DROP_VOLTS = 0.15;

    /** Two readings of twenty volts by one meter differ by so much and no more. */
    private static final double METER_SHARE = 0.012;
    /** How far a gate must stand from its source to close the switch, at most, and as a share of the source. */
    private static final double GATE_VOLTS = 1.2;

    private static final double GATE_SHARE = 0.3;

    private final Timeline timeline;
    private final BoardIndex board;
    private final PowerTree tree;
    private final RailBook book;
    private final Map<String, Double> volts;
    private final List<Step> steps = new ArrayList<>();
    /** Lines that were asked about on the way here: who drives whom may go in a ring. */
    private final Set<String> asked = new LinkedHashSet<>();

    private PoweredWalk(Timeline timeline, RailBook book) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.book = book;
        this.volts = timeline.volts();
    }

    /** @return what to do next, most telling first; empty where every rail that can be asked for stands */
    static List<Step> of(Timeline timeline, RailBook book) {
        PoweredWalk walk = new PoweredWalk(timeline, book);
        walk.walk();
        return walk.steps;
    }

    private enum State {
        UNKNOWN,
        PRESENT,
        ABSENT
    }

    private State state(String net) {
        Optional<Sign> sign = book.powered(net);
        if (sign.isEmpty()) {
            return State.UNKNOWN;
        }
        return sign.get().says() == Says.PRESENT || sign.get().says() == Says.BACKFED ? State.PRESENT : State.ABSENT;
    }

    private void walk() {
        List<String> rails = rails();
        Optional<String> absent =
                rails.stream().filter(r -> state(r) == State.ABSENT).findFirst();
        Optional<String> unknown =
                rails.stream().filter(r -> state(r) == State.UNKNOWN).findFirst();
        // What is known to be missing comes before what nobody has asked for, but for the main rail.
        boolean mainFirst = unknown.filter(r -> r.equals(rails.get(0))).isPresent();
        if (absent.isPresent() && !mainFirst) {
            missing(absent.get());
        } else if (unknown.isPresent()) {
            volts(unknown.get(), Reason.RAILS_IN_ORDER);
        } else {
            wayIn();
        }
    }

    /** Every rail stands and the device is ill still: a switch that is off lets its body diode carry, a little lower. */
    private void wayIn() {
        List<Feed> ways = Stream.concat(
                        tree.pathTo(tree.mainRail()).stream(),
                        tree.feeds().values().stream()
                                .flatMap(List::stream)
                                .filter(f ->
                                        f.kind() == Kind.PASS && !tree.ofBattery(f.from()) && !tree.ofBattery(f.to()))
                                .sorted(Comparator.comparing(
                                                (Feed f) -> tree.pathTo(f.to()).size())
                                        .thenComparing(Feed::to)))
                .distinct()
                .toList();
        for (Feed feed : ways) {
            Optional<String> unread = Stream.of(feed.from(), feed.to())
                    .filter(n -> !volts.containsKey(n))
                    .findFirst();
            if (unread.isPresent()) {
                volts(unread.get(), Reason.RAILS_IN_ORDER);
                return;
            }
            double drop = volts.get(feed.from()) - volts.get(feed.to());
            boolean drops = feed.kind() == Kind.PASS
                    && drop > Math.max(BODY_DIODE_DROP_VOLTS, METER_SHARE * volts.get(feed.from()));
            if (drops) {
                pass(feed);
                return;
            }
        }
    }

    /** The main rail first, then what is made without asking, then what must be asked for; each from the input on. */
    private List<String> rails() {
        Set<String> outs = new LinkedHashSet<>();
        outs.add(tree.mainRail());
        Comparator<Feed> unasked = Comparator.comparing(f -> f.enable().isPresent());
        tree.feeds().values().stream()
                .flatMap(List::stream)
                .filter(f -> f.kind() == Kind.CONVERTS)
                .sorted(unasked.thenComparing(f -> tree.pathTo(f.to()).size()).thenComparing(Feed::to))
                .map(Feed::to)
                .filter(n -> !tree.ofBattery(n))
                .forEach(outs::add);
        return outs.stream().filter(n -> board.net(n).isPresent()).toList();
    }

    /** Somewhere on the way to this rail the voltage stops: half of the way that is left, each time. */
    private void missing(String rail) {
        List<Feed> path = tree.pathTo(rail);
        if (path.isEmpty()) {
            port(rail);
            return;
        }
        List<String> nets = new ArrayList<>();
        nets.add(path.get(0).from());
        path.forEach(f -> nets.add(f.to()));
        int present = -1;
        int absent = nets.size() - 1;
        for (int i = 0; i < nets.size(); i++) {
            if (state(nets.get(i)) == State.PRESENT) {
                present = i;
            }
        }
        for (int i = nets.size() - 1; i > present; i--) {
            if (state(nets.get(i)) == State.ABSENT) {
                absent = i;
            }
        }
        if (absent - present > 1) {
            volts(nets.get((present + absent) / 2), Reason.RAILS_IN_ORDER);
            return;
        }
        if (absent == 0) {
            port(nets.get(0));
            return;
        }
        stage(path.get(absent - 1));
    }

    /** Power goes in and does not reach the first net: the port itself. */
    private void port(String net) {
        board.partsOn(net)
                .filter(p -> tree.isInput(p.ref()) && timeline.now().has(p))
                .findFirst()
                .ifPresent(p -> {
                    unlessLooked(p.ref());
                    name(p);
                });
    }

    private void stage(Feed feed) {
        if (unread(feed.to())) {
            steps.add(Step.of(Action.READ, feed.to(), Reason.RAILS_IN_ORDER));
            return;
        }
        boolean held = book.down(feed.to());
        if (held || !timeline.now().has(feed.part())) {
            return;
        }
        switch (feed.kind()) {
            case SERIES -> series(feed.part());
            case PASS -> pass(feed);
            case CONVERTS -> converter(feed);
        }
    }

    private boolean unread(String net) {
        return book.unpowered(net).isEmpty();
    }

    private void series(Part part) {
        Optional<Read> across = acrossOf(part.ref());
        if (across.isEmpty()) {
            across(part.ref());
        } else if (timeline.interpreter().across(part, across.get()).isPresent()) {
            name(part);
        } else {
            unlessLooked(part.ref());
            name(part);
        }
    }

    private Optional<Read> acrossOf(String ref) {
        return timeline.current(Read.class)
                .filter(r -> r.across().map(ref::equals).orElse(false))
                .reduce((a, b) -> b);
    }

    private void pass(Feed feed) {
        Part part = feed.part();
        Optional<String> gate = part.gate().map(g -> g.net());
        if (gate.isEmpty()) {
            name(part);
            return;
        }
        if (!volts.containsKey(gate.get())) {
            volts(gate.get(), Reason.RAILS_IN_ORDER);
            return;
        }
        double source = volts.getOrDefault(feed.from(), 5.0);
        double level = volts.get(gate.get());
        double needed = Math.min(GATE_VOLTS, GATE_SHARE * source);
        boolean low = part.gate().orElseThrow().onWhen() == OnWhen.LOW;
        // The source of a switch that carries a rail rises with it: its gate must stand above.
        double active = part.kind() == PartKind.MOSFET ? source + needed : ACTIVE_VOLTS;
        boolean told = low ? level < source - needed : level > active;
        if (told) {
            name(part);
        } else if (held(part, level)) {
            Optional<Read> across = acrossOf(part.ref());
            if (across.isEmpty()) {
                across(part.ref());
            } else if (across.get().value().orElse(Double.POSITIVE_INFINITY) < GATE_LEAK_OHMS) {
                name(part);
            } else {
                driven(gate.get());
            }
        } else if (low) {
            pulledDown(gate.get());
        } else {
            driven(gate.get());
        }
    }

    /** A gate that stands where the switch's own ends do may be joined to them. */
    private boolean held(Part part, double level) {
        return part.kind() == PartKind.MOSFET
                && board.powerNets(part).stream()
                        .anyMatch(n -> Math.abs(volts.getOrDefault(n, -9.0) - level) < SAME_VOLTS);
    }

    /** A gate that should be low and is not: through its resistors to the small transistor that should pull it. */
    private void pulledDown(String gate) {
        List<Part> small = pullers(gate);
        if (small.isEmpty()) {
            driven(gate);
            return;
        }
        Part fet = small.get(0);
        Optional<String> control = fet.pins().stream()
                .filter(p -> p.name().equalsIgnoreCase("G") || p.name().equalsIgnoreCase("B"))
                .map(Pin::net)
                .findFirst();
        if (control.isEmpty()) {
            name(fet);
        } else if (!volts.containsKey(control.get())) {
            volts(control.get(), Reason.RAILS_IN_ORDER);
        } else if (volts.get(control.get()) > ACTIVE_VOLTS) {
            List<Part> between = resistors(gate);
            Optional<Part> untested =
                    between.stream().filter(r -> acrossOf(r.ref()).isEmpty()).findFirst();
            if (untested.isPresent()) {
                across(untested.get().ref());
            } else {
                name(fet);
            }
        } else {
            driven(control.get());
        }
    }

    private List<Part> pullers(String gate) {
        Set<String> near = new LinkedHashSet<>(Set.of(gate));
        resistors(gate).forEach(r -> r.pins().forEach(p -> near.add(p.net())));
        return near.stream()
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .flatMap(board::partsOn)
                .filter(p -> board.role(p) == Role.DRIVE && timeline.now().has(p))
                .filter(p -> p.pins().stream().anyMatch(pin -> board.isGround(pin.net())))
                .distinct()
                .toList();
    }

    private List<Part> resistors(String net) {
        return board.partsOn(net)
                .filter(p -> p.kind() == PartKind.RESISTOR && timeline.now().has(p))
                .filter(p -> p.pins().stream()
                        .map(Pin::net)
                        .allMatch(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL))
                .toList();
    }

    private void converter(Feed feed) {
        Part chip = feed.part();
        Optional<Part> coil = board.switching(chip, feed.to())
                .filter(n -> volts.getOrDefault(n, 0.0) > ACTIVE_VOLTS)
                .flatMap(n -> board.partsOn(n)
                        .filter(p -> p.kind() == PartKind.INDUCTOR && p.touches(feed.to()))
                        .findFirst());
        if (coil.isPresent()) {
            // The chip gives what does not arrive.
            name(coil.get());
            return;
        }
        for (String supply : supplies(chip)) {
            if (!volts.containsKey(supply)) {
                volts(supply, Reason.SUPPLY_OF_CONTROLLER);
                return;
            }
        }
        Optional<String> enable = chip.supplies().stream()
                .filter(s -> s.out().equals(feed.to()))
                .findFirst()
                .flatMap(Supply::enable)
                .filter(e -> board.net(e).orElseThrow().kind() == NetKind.SIGNAL);
        if (enable.isEmpty() || nobodySets(enable.get()) && !volts.containsKey(enable.get())) {
            name(chip);
        } else if (!volts.containsKey(enable.get())) {
            volts(enable.get(), Reason.RAILS_IN_ORDER);
        } else if (volts.get(enable.get()) > ACTIVE_VOLTS) {
            name(chip);
        } else {
            driven(enable.get());
        }
    }

    /** A line that nothing on the board sets tells nothing by floating. */
    private boolean nobodySets(String line) {
        return board.partsOn(line)
                .noneMatch(p -> p.kind() == PartKind.RESISTOR
                        || board.role(p) == Role.DRIVE
                        || p.kind() == PartKind.CONNECTOR
                        || p.kind() == PartKind.IC
                                && p.supplies().stream()
                                        .noneMatch(s ->
                                                s.enable().map(line::equals).orElse(false)));
    }

    private List<String> supplies(Part chip) {
        return tree.supplies(board, chip).stream()
                .filter(n -> !tree.ofBattery(n))
                .toList();
    }

    /** A line that should be high and is not: is it held down, does its resistor reach, does its driver live. */
    private void driven(String line) {
        if (!asked.add(line)) {
            return;
        }
        for (Part resistor : resistors(line)) {
            // High on one side of a resistor and low on the other: the resistor, or what holds the line down.
            if (volts.getOrDefault(otherEnd(resistor, line), 0.0) > ACTIVE_VOLTS
                    && acrossOf(resistor.ref()).isEmpty()) {
                across(resistor.ref());
                return;
            }
        }
        if (unread(line)) {
            steps.add(Step.of(Action.READ, line, Reason.RAILS_IN_ORDER));
            return;
        }
        for (Part resistor : resistors(line)) {
            String other = otherEnd(resistor, line);
            if (asked.contains(other)) {
                continue;
            }
            if (!volts.containsKey(other)) {
                volts(other, Reason.RAILS_IN_ORDER);
            } else if (volts.get(other) > ACTIVE_VOLTS) {
                boolean whole = acrossOf(resistor.ref())
                        .map(r -> timeline.interpreter().across(resistor, r).isEmpty())
                        .orElse(false);
                if (!whole) {
                    name(resistor);
                }
            } else {
                driven(other);
            }
            // What lies behind the resistor may be another that waits for the same line.
            if (!steps.isEmpty()) {
                return;
            }
        }
        drivers(line);
    }

    private static String otherEnd(Part resistor, String line) {
        return resistor.pins().stream()
                .map(Pin::net)
                .filter(n -> !n.equals(line))
                .findFirst()
                .orElse(line);
    }

    private void drivers(String line) {
        List<Part> chips = board.partsOn(line)
                .filter(p -> p.kind() == PartKind.IC && timeline.now().has(p))
                .filter(p -> p.supplies().stream()
                        .noneMatch(s -> s.enable().map(line::equals).orElse(false)))
                .toList();
        for (Part chip : chips) {
            Optional<String> missing =
                    supplies(chip).stream().filter(n -> !volts.containsKey(n)).findFirst();
            if (missing.isPresent()) {
                volts(missing.get(), Reason.SUPPLY_OF_CONTROLLER);
                return;
            }
        }
        for (Part chip : chips) {
            Optional<String> absent = supplies(chip).stream()
                    .filter(n -> state(n) == State.ABSENT && !waitsForAsked(n))
                    .findFirst();
            if (absent.isPresent()) {
                missing(absent.get());
                // Where that way leads back to what was asked already, the chip itself is left.
                if (!steps.isEmpty()) {
                    return;
                }
            }
        }
        chips.stream().findFirst().ifPresent(this::name);
    }

    /** A rail that is made only once the line in question is up cannot be what keeps that line down. */
    private boolean waitsForAsked(String net) {
        return tree.pathTo(net).stream().flatMap(f -> f.enable().stream()).anyMatch(asked::contains);
    }

    private void volts(String net, Reason reason) {
        steps.add(Step.of(Action.READ, net, reason).how(Step.Probe.UNDER_POWER));
    }

    private void across(String ref) {
        steps.add(Step.of(Action.READ, ref, Reason.LIKELY_FAULT)
                .how(Step.Probe.across(board.part(ref).orElseThrow())));
    }

    private void unlessLooked(String ref) {
        if (timeline.all(Look.class).noneMatch(l -> l.target().equals(ref))) {
            steps.add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT));
        }
    }

    /** All that the part needs is there, and what it gives is not. A new one is not doubted before its joints. */
    private void name(Part part) {
        if (timeline.now().renewed().contains(part.ref())) {
            boolean looked = timeline.all(Look.class)
                    .anyMatch(l -> l.target().equals(part.ref())
                            && l.finding() == LookFinding.CLEAN
                            && timeline.lastChangeOf(part.ref())
                                    .map(c -> l.seq() > c.seq())
                                    .orElse(true));
            if (!looked) {
                steps.add(Step.of(Action.LOOK, part.ref(), Reason.LIKELY_FAULT));
                return;
            }
            if (timeline.renewals(part.ref()) > 1) {
                return;
            }
        }
        steps.add(Step.of(Action.REPLACE, part.ref(), Reason.LIKELY_FAULT));
    }
}
