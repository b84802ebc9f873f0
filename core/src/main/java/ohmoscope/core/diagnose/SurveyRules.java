package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.reading.Says;

/** Little is known, or all is well and the device is not: what to look at and read next. */
final class SurveyRules extends PlanRules {
    private static final double HIGH_VOLTS = 1.2;
    private static final double LOW_SHARE = 0.4;
    /** What a reading that is believed leaves to other faults is less. */
    private static final double TOLD = 0.7;
    /** What the walk would have renewed stays while the evidence says this little for it, and much for another part. */
    private static final double HARDLY = 0.05;

    private final boolean oneWayRound;

    SurveyRules(Situation situation) {
        super(situation);
        oneWayRound = worksOneWayRound();
    }

    /** Before all else, the port. */
    void look() {
        boolean looked = timeline.all(Look.class).findAny().isPresent();
        if (!looked) {
            tree.inputs().stream().limit(1).forEach(p -> add(Step.of(Action.LOOK, p.ref(), Reason.FIRST_LOOK)));
        }
    }

    /** One line reads low, and what could hold it down is no likelier than all else: one reading in fifty is wrong. */
    void onceMore() {
        for (String net : List.copyOf(book.nets())) {
            boolean line = board.net(net).orElseThrow().kind() == NetKind.SIGNAL;
            boolean once =
                    book.now(net).stream().filter(s -> s.says().unpowered()).count() == 1;
            if (line && once && book.down(net) && heldDownBy(net) < TOLD) {
                add(Step.of(Action.READ, net, Reason.ONCE_MORE));
            }
        }
    }

    private double heldDownBy(String net) {
        return board.partsOn(net).mapToDouble(p -> diagnosis.guilt(p.ref())).sum();
    }

    /** A rail that stands at part of its volts: is it pulled down, or does what feeds it let too little through? */
    void partOfItsVolts() {
        for (String net : List.copyOf(book.nets())) {
            boolean half = book.powered(net).map(s -> s.says() == Says.HALF).orElse(false);
            if (!half || book.down(net)) {
                continue;
            }
            if (book.unpowered(net).isEmpty()) {
                add(Step.of(Action.READ, net, Reason.PART_OF_ITS_VOLTS));
            }
            tree.pathTo(net).stream()
                    .filter(f -> f.to().equals(net))
                    .map(PowerTree.Feed::part)
                    .filter(p -> timeline.now().has(p) && !readAcross(p.ref()) && board.role(p) == Role.SERIES)
                    .forEach(p -> add(Step.of(Action.READ, p.ref(), Reason.PART_OF_ITS_VOLTS)
                            .how(Step.Probe.ACROSS)));
        }
    }

    /** High on one side of a resistor and low on the other: the resistor, or what holds the line down. */
    void stopsAtAResistor() {
        board.parts().stream()
                .filter(p -> p.kind() == PartKind.RESISTOR && timeline.now().has(p) && !readAcross(p.ref()))
                .filter(p -> {
                    List<String> nets =
                            p.pins().stream().map(Pin::net).distinct().toList();
                    return nets.size() == 2 && nets.stream().allMatch(this::plainLine) && far(nets.get(0), nets.get(1));
                })
                .forEach(p ->
                        add(Step.of(Action.READ, p.ref(), Reason.RAILS_IN_ORDER).how(Step.Probe.ACROSS)));
    }

    /** A signal that no small transistor pulls and no switch hangs on. */
    private boolean plainLine(String net) {
        return board.net(net).orElseThrow().kind() == NetKind.SIGNAL
                && timeline.volts().containsKey(net)
                && board.partsOn(net)
                        .noneMatch(p -> board.role(p) == Role.DRIVE && p.kind() != PartKind.RESISTOR
                                || p.gate().map(g -> g.net().equals(net)).orElse(false));
    }

    private boolean far(String a, String b) {
        double high = Math.max(timeline.volts().get(a), timeline.volts().get(b));
        double low = Math.min(timeline.volts().get(a), timeline.volts().get(b));
        return high > HIGH_VOLTS && low < LOW_SHARE * high;
    }

    /** Little is known: the usual order. */
    void begin() {
        // What works one way round has shown that all behind the port does.
        boolean unread = book.unpowered(tree.mainRail()).isEmpty()
                && book.powered(tree.mainRail()).isEmpty()
                && !oneWayRound;
        if (unread && schools.proof() == Schools.Proof.SUPPLY) {
            add(injection(tree.mainRail(), Reason.PROVE_BY_SUPPLY));
        }
        if (unread) {
            add(Step.of(Action.READ, tree.mainRail(), Reason.MAIN_RAIL_FIRST));
        }
        timeline.uncleaned().forEach(ref -> add(Step.of(Action.LOOK, ref, Reason.CLEAN_FIRST)));
        if (!powered()) {
            tree.inputs().stream()
                    .map(Part::ref)
                    .filter(timeline.now().absent()::contains)
                    .forEach(ref -> add(Step.of(Action.REPLACE, ref, Reason.PORT_TO_BE_FITTED)));
            add(Step.of(Action.POWER, Reason.FIRST_POWER));
        }
    }

    /** Power goes in without harm, and the device does not start: in volts to the point where it stops. */
    void walk() {
        boolean well = timeline.last(Run.class).map(r -> r.finding().well()).orElse(false);
        if (powered() && !well && !stopped(Stop.Code.DO_NOT_POWER) && !oneWayRound) {
            madeOffTheMap();
            PoweredWalk.of(timeline, book).stream()
                    .filter(s -> !renewsTheUnlikely(s))
                    .forEach(this::add);
        }
    }

    private boolean renewsTheUnlikely(Step step) {
        return step.action() == Action.REPLACE
                && diagnosis.guilt(step.target().orElseThrow()) < HARDLY
                && diagnosis.first().code() != Hypothesis.Code.NO_ENABLE
                && diagnosis.first().probability() > ACT_ON;
    }

    /** A rail that is missing while all that the map makes stands: its maker is looked for where there is one. */
    private void madeOffTheMap() {
        Map<Boolean, List<String>> missing = book.nets().stream()
                .filter(n -> book.powered(n).map(s -> s.says() == Says.ABSENT).orElse(false) && !book.down(n))
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.POWER)
                .collect(Collectors.partitioningBy(n -> tree.pathTo(n).isEmpty()
                        && tree.inputs().stream().noneMatch(port -> port.touches(n))
                        && !tree.ofBattery(n)));
        if (missing.get(false).isEmpty()) {
            missing.get(true).forEach(n -> add(Step.of(Action.COMPARE_GOOD_BOARD, n, Reason.MAKER_NOT_ON_MAP)));
        }
    }

    /** It works one way round: the lines of the port's two rows should read alike. */
    void oneWay() {
        if (!oneWayRound) {
            return;
        }
        for (Part port : tree.inputs()) {
            List<String> lines = port.pins().stream()
                    .map(Pin::net)
                    .filter(n -> NetUses.asksOver(board, tree, n))
                    .toList();
            if (timeline.renewals(port.ref()) > 0 && !joints(port.ref())) {
                add(Step.of(Action.LOOK, port.ref(), Reason.ONE_WAY_ROUND));
            }
            List<String> unread =
                    lines.stream().filter(n -> book.unpowered(n).isEmpty()).toList();
            unread.forEach(n -> add(Step.of(Action.READ, n, Reason.ONE_WAY_ROUND)));
            if (!lines.isEmpty() && unread.isEmpty() && timeline.now().has(port)) {
                add(Step.of(Action.REPLACE, port.ref(), Reason.ONE_WAY_ROUND));
            }
        }
    }

    private boolean worksOneWayRound() {
        return DrawsBySide.of(timeline).oneSideOnly()
                && timeline.current(Power.class)
                        .anyMatch(p -> Draw.of(board, tree, p)
                                .filter(d -> d == Draw.NORMAL)
                                .isPresent());
    }

    /** It takes what a device takes that runs, and does not run: where that goes is a meter's question. */
    void drawnInVain() {
        if (drawsWell() && stillIll()) {
            readings();
        }
    }

    void readings() {
        experiments.readings().stream().limit(4).map(Experiments.Worth::step).forEach(this::add);
    }

    void reference() {
        boolean unknown = board.nets().stream().noneMatch(n -> n.expect().isPresent());
        if (unknown && !book.nets().isEmpty()) {
            add(Step.of(Action.COMPARE_GOOD_BOARD, Reason.NO_REFERENCE));
        }
    }

    /** Every rail is well and the device is not: the lines, those of the port and of the likeliest chips first. */
    void lines() {
        // A rail may stand and feed a chip that burnt through: each is read before any line is.
        unread(NetKind.POWER).limit(MOST_LINES).forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
        unread(NetKind.SIGNAL)
                .filter(n -> board.partsOn(n.name()).count() > 1)
                .limit(MOST_LINES)
                .forEach(n -> add(Step.of(Action.READ, n.name(), Reason.TELLS_MOST)));
    }

    /** Nothing is left to measure: the likeliest parts under the microscope. */
    void looks() {
        diagnosis.hypotheses().stream()
                .map(Hypothesis::target)
                .filter(ref -> board.part(ref).isPresent() && !looked(ref))
                .distinct()
                .limit(MOST_LINES)
                .forEach(ref -> add(Step.of(Action.LOOK, ref, Reason.LIKELY_FAULT)));
    }
}
