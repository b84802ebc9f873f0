package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.Says;

/**
 * Rules of one concern: each looks at the situation and adds the steps that it asks for. What several of them ask of the
 * situation is here.
 */
abstract class PlanRules {
    /** A fault this likely may be acted on, when something was seen or felt on the part itself. */
    static final double ACT_ON = 0.5;

    static final double WORTH_A_LOOK = 0.15;
    /** After so many the meter is asked again. */
    static final int MOST_FAILED_INJECTIONS = 2;
    /** Lines that are named at once. */
    static final int MOST_LINES = 3;
    /** A part that was put in badly twice is not the fault. */
    static final int MOST_RENEWALS = 3;
    /** Below any junction's knee, and little enough for a line's own copper. */
    static final double LINE_VOLTS = 0.3;

    static final double LINE_LIMIT_AMPS = 0.3;
    static final double LOW_AND_CLIMB_VOLTS = 1.0;
    static final double LIMIT_AMPS = 2.0;
    /** As near to its limit as this the supply is held by it. */
    private static final double AT_LIMIT = 0.9;
    /** By so much the volts climb at a time. */
    private static final double CLIMB = 1.8;
    /** No more of what the leads carry is asked of them. */
    static final double LEAD_SHARE = 0.9;
    /** At the rail's own voltage the limit is what protects. */
    static final double LIMIT_AT_RAIL_AMPS = 1.0;

    final Timeline timeline;
    final BoardIndex board;
    final PowerTree tree;
    final RailBook book;
    final Diagnosis diagnosis;
    final Experiments experiments;
    final List<Finding> findings;
    final List<Stop> stops;
    final Optional<Mending> mending;
    final Optional<String> rail;
    final Schools schools;
    final List<Experience.Tempered> experience;
    private final Plan plan;

    PlanRules(Situation situation) {
        timeline = situation.timeline();
        board = timeline.board();
        tree = timeline.tree();
        book = situation.book();
        diagnosis = situation.diagnosis();
        experiments = situation.experiments();
        findings = situation.findings();
        stops = situation.stops();
        mending = situation.mending();
        rail = situation.rail();
        schools = situation.schools();
        experience = situation.experience();
        plan = situation.plan();
    }

    void add(Step step) {
        plan.add(step);
    }

    /** For when the other steps are named. */
    void addLater(Step step) {
        plan.addLater(step);
    }

    void addWhatWaited() {
        plan.addWhatWaited();
    }

    /** Whether the device was seen to work, or nobody has said that it does not. */
    boolean ran() {
        return timeline.last(Run.class).map(r -> r.finding().well()).orElse(true);
    }

    /** Seen not to work as it is now, whatever its readings and its draw say. */
    boolean stillIll() {
        return timeline.current(Run.class)
                .reduce((a, b) -> b)
                .map(r -> !r.finding().well())
                .orElse(false);
    }

    Stream<Net> unread(NetKind kind) {
        Map<String, Double> guilt = new HashMap<>();
        return board.nets().stream()
                .filter(n -> n.kind() == kind && book.unpowered(n.name()).isEmpty())
                .sorted(Comparator.comparingDouble(n -> -guilt.computeIfAbsent(n.name(), this::guiltOn)));
    }

    /** How likely it is that a net leads to the fault; a port's own nets take what comes in. */
    double guiltOn(String net) {
        return board.partsOn(net)
                .mapToDouble(p -> diagnosis.guilt(p.ref()) + (tree.isInput(p.ref()) ? 1 : 0))
                .sum();
    }

    boolean stopped(Stop.Code code) {
        return stops.stream().anyMatch(s -> s.code() == code);
    }

    Optional<String> touching() {
        return stops.stream()
                .filter(s -> s.code() == Stop.Code.DO_NOT_POWER)
                .flatMap(s -> s.place().stream())
                .filter(p -> timeline.all(Look.class)
                        .anyMatch(l -> l.target().equals(p) && l.finding() == LookFinding.PINS_TOUCHING))
                .findFirst();
    }

    /** How likely a hypothesis is by this board's own evidence: what others of its model had taken out again. */
    double ofThisBoard(Hypothesis h) {
        double rest = 1;
        double times = 1;
        for (Experience.Tempered t : experience) {
            rest -= diagnosis.probability(t.code(), t.target()) * (1 - 1 / t.times());
            if (t.code() == h.code() && t.target().equals(h.target())) {
                times = t.times();
            }
        }
        return h.probability() / times / rest;
    }

    boolean twoEnds(String ref) {
        return board.part(ref)
                .map(p -> p.pins().stream().map(pin -> pin.net()).distinct().count() == 2)
                .orElse(false);
    }

    /** Whether somebody has read across a part, the board being as it is. */
    boolean readAcross(String ref) {
        return timeline.current(Read.class)
                .anyMatch(r -> r.across().map(ref::equals).orElse(false));
    }

    long failures(String net) {
        return book.now(net).stream()
                .filter(s -> s.says() == Says.NO_CONTACT || s.says() == Says.INTO_GROUND)
                .count();
    }

    Step injection(String net, Reason reason) {
        double nominal = board.net(net)
                .map(n -> n.nominalVolts().orElse(LOW_AND_CLIMB_VOLTS))
                .orElse(LOW_AND_CLIMB_VOLTS);
        boolean atRail = schools.injection() == Schools.Injection.RAIL_VOLTAGE
                && reason == Reason.SHORTED_INJECT_LOW
                && timeline.all(Inject.class).noneMatch(i -> i.net().equals(net) && shutOff(i));
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
        boolean cold = timeline.last(Warm.class).map(Warm::nothing).orElse(false);
        double volts = cold ? climbed(net, nominal) : Math.min(LOW_AND_CLIMB_VOLTS, nominal);
        double used = timeline.all(Inject.class)
                .filter(i -> i.net().equals(net))
                .mapToDouble(i -> i.amps().orElse(0))
                .max()
                .orElse(0);
        double most = LEAD_SHARE * schools.leadRatedAmps();
        double amps = Math.min(most, cold ? Math.max(LIMIT_AMPS, 1.5 * used) : LIMIT_AMPS);
        return new Step(
                Action.INJECT, Optional.of(net), OptionalDouble.of(volts), OptionalDouble.of(amps), reason, List.of());
    }

    /** A partial short takes what the volts give it: they climb to the rail's own, where the current was not what limited. */
    private double climbed(String net, double nominal) {
        double used = timeline.all(Inject.class)
                .filter(i -> i.net().equals(net) && !shutOff(i))
                .filter(i -> i.amps().orElse(0) > 0 && !atLimit(i))
                .mapToDouble(i -> i.setVolts().orElse(i.volts().orElse(0)))
                .max()
                .orElse(0);
        return Math.min(nominal, Math.max(LOW_AND_CLIMB_VOLTS, CLIMB * used));
    }

    /** Whether the current was what limited, not the volts. */
    static boolean atLimit(Inject inject) {
        return inject.amps().orElse(0) >= AT_LIMIT * inject.limitAmps().orElse(LIMIT_AMPS);
    }

    /** Amperes for a moment, then none: the board's protection, or the supply's, ended it before anything warmed. */
    static boolean shutOff(Inject inject) {
        return inject.shape().map(s -> s == TraceShape.BURST_THEN_ZERO).orElse(false);
    }

    /** What the device drew when it was last powered as it is. */
    Optional<Draw> lastDraw() {
        return timeline.current(Power.class).reduce((a, b) -> b).flatMap(p -> Draw.of(board, tree, p));
    }

    boolean drawsWell() {
        return lastDraw().filter(d -> d == Draw.NORMAL).isPresent();
    }

    boolean drawsTooMuch() {
        return lastDraw().filter(d -> d == Draw.EXCESSIVE || d == Draw.PULSING).isPresent();
    }

    /** Rails that something holds down: dead shorts first, else what reads a few ohms where it should not. */
    List<String> held() {
        List<String> shorted = book.shorted();
        return shorted.isEmpty() ? book.low() : shorted;
    }

    /** Whether somebody saw, felt or filmed something on the part itself. */
    boolean pointedAt(String ref) {
        for (Observation observation :
                timeline.moments().stream().map(Timeline.Moment::observation).toList()) {
            boolean hurt = observation instanceof Look l && l.target().equals(ref) && harm(l);
            boolean warm = observation instanceof Warm w
                    && w.ref().map(ref::equals).orElse(false)
                    && !w.nothing()
                    && !timeline.atLead(w);
            if (hurt || warm) {
                return true;
            }
        }
        return false;
    }

    boolean hurt(String ref) {
        return timeline.all(Look.class).anyMatch(l -> l.target().equals(ref) && harm(l));
    }

    /** Seen to be other than it should, and not dirt that was cleaned away. */
    private boolean harm(Look look) {
        return look.finding() != LookFinding.CLEAN
                && !(Timeline.dirt(look.finding()) && timeline.cleanedSince(look.target()));
    }

    /** For a part that was renewed, whether the new one was. */
    boolean looked(String ref) {
        return timeline.now().renewed().contains(ref)
                ? joints(ref)
                : timeline.all(Look.class).anyMatch(l -> l.target().equals(ref));
    }

    boolean removable(Hypothesis h) {
        // The old part's fault is gone with it, whatever speaks for it: what is wrong now came with the new one.
        boolean fitted = diagnosis.asFitted(h) > WORTH_A_LOOK;
        return board.part(h.target())
                .map(p -> !timeline.now().absent().contains(p.ref())
                        && (!timeline.now().renewed().contains(p.ref())
                                || fitted && joints(p.ref()) && timeline.renewals(p.ref()) < MOST_RENEWALS))
                .orElse(false);
    }

    /** Whether the joints of a part were looked at since it was put in. */
    boolean joints(String ref) {
        return timeline.all(Look.class)
                .anyMatch(l -> l.target().equals(ref)
                        && timeline.lastChangeOf(ref)
                                .map(c -> l.seq() > c.seq())
                                .orElse(true));
    }

    boolean bypass(String ref) {
        return board.part(ref).map(p -> board.role(p) == Role.BYPASS).orElse(false);
    }

    boolean powered() {
        return timeline.current(Power.class).findAny().isPresent()
                || timeline.current(Read.class).anyMatch(r -> r.power().isPresent());
    }
}
