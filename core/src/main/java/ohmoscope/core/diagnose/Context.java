package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.Says;

/**
 * What is not electrical: what was seen, where it was warm, how the device behaves, what was taken off and never put
 * back, and what the customer says. Each as a likelihood ratio on one suspicion.
 */
final class Context {
    private static final double CABLE = 1.6;
    /** Contacts differ as much as what lies between two pads: a hint, no more. */
    private static final double NEAREST = 3;
    /** The same circuit draws and reads the same twice: what went in between is what did it. */
    private static final double RELIEVED = 30;

    /** All else works: it, what it is plugged into, or its joints. */
    private static final double FUNCTION_MISSING = 30;

    private static final double WARM_ITSELF = 40;
    /** The lead's own contact would have done it too. */
    private static final double WARM_AT_LEAD = 2;

    /** On a rail that reads well a chip warms by what it draws. */
    private static final double WARM_AS_A_LOAD = 2;
    /** In a device that runs all chips are, some more than others. */
    private static final double WARM_AT_WORK = 5;

    private static final double WARM_NEIGHBOUR = 8;
    private static final double WARM_UNDER = 15;
    private static final double NEIGHBOUR_MM = 3.5;
    private static final double COLD = 0.3;
    private static final double INNOCENT_SINCE = 0.005;
    /** Millimetres from a part that was heated within which others take harm, and how much likelier that makes them. */
    private static final double HEAT_REACH_MM = 4;

    private static final double SENSITIVE_REACH_MM = 12;
    private static final double BESIDE_HEAT = 4;

    private final Timeline timeline;
    private final BoardIndex board;
    private final PowerTree tree;
    private final RailBook book;
    private final Account said;
    private final Map<String, List<Look>> looks = new HashMap<>();
    private final List<Heated> heatings = new ArrayList<>();
    /** By the volts across series parts while current was injected. */
    private final List<SeriesSide> dropped = new ArrayList<>();

    private final Set<String> exchanged = new HashSet<>();
    /** Parts that were heated before the device was last found ill. */
    private final List<Part> heated = new ArrayList<>();

    /** Nets that read right before the first heat, and wrong since. */
    private final Set<String> wrongSince = new HashSet<>();

    /** What went before a draw that had been too much was right, or a rail that had been shorted free. */
    private final List<String> relieved;

    /** What makes a rail that had to be held up from the bench for the board to ask for power. */
    private final Set<String> besideHeld;

    /** Parts that read lowest of those that were read on their rail. */
    private final Set<String> lowest = new HashSet<>();

    /** By millivolts along the copper while current was injected. */
    private final Map<String, Double> nearness;

    /** Parts that are called like the function that is missing. */
    private final Set<String> missing;

    private int firstHeatSeq = Integer.MAX_VALUE;
    /** References of parts on a port's own nets. */
    private final Set<String> atPort = new HashSet<>();
    /** Last time the device was put together, tried and found ill; before all entries when never. */
    private int lastIllSeq = Integer.MIN_VALUE;
    /** Last time that it took far too much. */
    private int lastWrongDrawSeq = Integer.MIN_VALUE;

    Context(Timeline timeline, RailBook book, String account) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.book = book;
        this.said = Account.of(account);
        timeline.all(Look.class)
                .forEach(l -> looks.computeIfAbsent(l.target(), k -> new ArrayList<>())
                        .add(l));
        tree.inputs().stream()
                .flatMap(p -> board.powerNets(p).stream())
                .flatMap(board::partsOn)
                .forEach(p -> atPort.add(p.ref()));
        follow();
        List<String> gone = new ArrayList<>(Relief.of(timeline));
        Repair.of(timeline, book)
                .filter(r -> open(book.shortedBefore(r.net()).orElseThrow()))
                .ifPresent(r -> gone.add(r.culprit().target()));
        relieved = List.copyOf(gone);
        besideHeld = Woken.of(timeline);
        missing = MissingFunction.parts(timeline).map(Part::ref).collect(Collectors.toSet());
        nearness = Lowest.byMillivolts(timeline);
        book.nets().stream().flatMap(n -> Lowest.on(n, timeline).stream()).forEach(lowest::add);
        timeline.all(Change.class)
                .filter(c -> c.heat() && Math.max(lastIllSeq, lastWrongDrawSeq) > c.seq())
                .forEach(c -> {
                    firstHeatSeq = Math.min(firstHeatSeq, c.seq());
                    board.part(c.target()).ifPresent(heated::add);
                });
        Set<String> rightBefore = book.everySign()
                .filter(s -> s.seq() < firstHeatSeq && s.says().right())
                .map(Sign::net)
                .collect(Collectors.toSet());
        book.inForce().stream()
                .filter(s -> s.says().concern() == Says.Concern.WRONG && rightBefore.contains(s.net()))
                .forEach(s -> wrongSince.add(s.net()));
    }

    /** Whether an entry still speaks: those of a fault that is closed do not. */
    private boolean open(Sign sign) {
        return timeline.moments().stream().anyMatch(m -> m.seq() == sign.seq());
    }

    private void follow() {
        Optional<Set<String>> fed = Optional.empty();
        Optional<String> net = Optional.empty();
        double amps = 0;
        boolean runs = false;
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Power power && power.net().isEmpty()) {
                runs = Draw.of(board, tree, power).filter(d -> d == Draw.NORMAL).isPresent()
                        && power.state() == DeviceState.ON;
            } else if (moment.observation() instanceof Inject) {
                runs = false;
            }
            if (moment.observation() instanceof Inject inject) {
                net = board.net(inject.net()).map(Net::name);
                fed = net.map(book::joinedTo);
                amps = inject.amps().orElse(0);
            } else if (moment.observation() instanceof Read read && underInjection(read) && amps > 0) {
                double flowed = amps;
                net.flatMap(n -> SeriesSide.of(board, book, read, n, flowed, moment.state()))
                        .ifPresent(dropped::add);
            } else if (moment.observation() instanceof Warm warm) {
                heatings.add(new Heated(
                        warm,
                        share(warm, moment.epoch()),
                        net.map(n -> readRight(n, moment.seq())).orElse(false)
                                ? WARM_AS_A_LOAD
                                : runs ? WARM_AT_WORK : WARM_ITSELF,
                        moment.state(),
                        fed,
                        net.flatMap(n -> SeriesSide.of(board, book, warm, n, moment.state()))));
            } else if (moment.observation() instanceof Power power
                    && Draw.of(board, tree, power)
                            .map(d -> d == Draw.EXCESSIVE || d == Draw.PULSING)
                            .orElse(false)) {
                lastWrongDrawSeq = Math.max(lastWrongDrawSeq, moment.seq());
            } else if (assembled(moment)) {
                lastIllSeq = Math.max(lastIllSeq, moment.seq());
            } else if (moment.observation() instanceof Change change && change.action() == ChangeAction.REPLACED) {
                exchanged.add(change.target());
            }
        }
    }

    /** Whether a net read as a good board's before an entry. */
    private boolean readRight(String net, int seq) {
        return book.everySign()
                .filter(s -> s.net().equals(net) && s.seq() < seq && s.says().unpowered())
                .max(Comparator.comparingInt(Sign::seq))
                .map(s -> s.says().right())
                .orElse(false);
    }

    /** How warm a part got beside the warmest found in the same circuit that could make it, from 0 to 1. */
    private double share(Warm warm, int epoch) {
        double most = timeline.moments().stream()
                .filter(m -> m.epoch() == epoch)
                .map(Moment::observation)
                .filter(Warm.class::isInstance)
                .map(Warm.class::cast)
                .filter(w -> w.ref().flatMap(board::part).map(this::mayHeat).orElse(false))
                .mapToDouble(w -> w.deltaK().orElse(0))
                .max()
                .orElse(0);
        double own = warm.deltaK().orElse(most);
        return most > 0 && own > 0 ? Math.min(1, own / most) : 1;
    }

    private static boolean underInjection(Read read) {
        return read.mode() == ReadMode.VOLTS
                && read.power().equals(Optional.of(PowerSource.BENCH))
                && read.value().isPresent();
    }

    Timeline timeline() {
        return timeline;
    }

    RailBook book() {
        return book;
    }

    /** Last time the device was put together, tried and found ill; before all entries when never. */
    int lastIllSeq() {
        return lastIllSeq;
    }

    boolean exchanged(String ref) {
        return exchanged.contains(ref);
    }

    List<Look> looks(String ref) {
        return looks.getOrDefault(ref, List.of());
    }

    /** Natural logarithm of the ratio, but for what depends on the fault's form. */
    double of(Suspicion suspicion) {
        FaultKind kind = FaultKind.of(suspicion.code());
        return Math.log(looks(kind, suspicion)
                * (suspicion.code() == Code.SHORT && lowest.contains(suspicion.target()) ? NEAREST : 1)
                * (kind.heats() ? nearness.getOrDefault(suspicion.target(), 1.0) : 1)
                * (kind.heats() && relieved.contains(suspicion.target()) ? RELIEVED : 1)
                * (missing.contains(suspicion.target()) ? FUNCTION_MISSING : 1)
                * (givesNothing(suspicion) && besideHeld.contains(suspicion.target()) ? RELIEVED : 1)
                * said(kind, suspicion)
                * besideHeat(kind, suspicion)
                * kind.besides(this, suspicion.target())
                * illAfterwards(suspicion));
    }

    private static boolean givesNothing(Suspicion suspicion) {
        return suspicion.code() == Code.OPEN || suspicion.code() == Code.DEAD_CONTROLLER;
    }

    /** A part that has been exchanged or taken off does not explain what the device does afterwards. */
    private double illAfterwards(Suspicion suspicion) {
        boolean exchanged = timeline.now().renewed().contains(suspicion.target());
        if (!exchanged || suspicion.asFitted()) {
            return 1;
        }
        Optional<Change> change = timeline.lastChangeOf(suspicion.target());
        boolean illSince = change.isPresent()
                && Math.max(lastIllSeq, lastWrongDrawSeq) > change.get().seq();
        return illSince ? INNOCENT_SINCE : 1;
    }

    /** What stood beside a part that was heated, where something reads wrong since that was right before. */
    private double besideHeat(FaultKind kind, Suspicion suspicion) {
        if (!kind.byHeat() || heated.isEmpty()) {
            return 1;
        }
        Optional<Part> part = board.part(suspicion.target());
        return part.isPresent()
                        && wrongSinceHeat(part.get())
                        && heated.stream()
                                .filter(h -> !h.ref().equals(suspicion.target()))
                                .anyMatch(h -> gap(h.xMm(), h.yMm(), part.get())
                                        < Math.max(h.wMm(), h.hMm()) / 2
                                                + (part.get().sensitive() ? SENSITIVE_REACH_MM : HEAT_REACH_MM))
                ? BESIDE_HEAT
                : 1;
    }

    private boolean wrongSinceHeat(Part part) {
        return part.pins().stream().anyMatch(pin -> wrongSince.contains(pin.net()));
    }

    private double looks(FaultKind kind, Suspicion suspicion) {
        List<Look> all = looks(suspicion.target());
        if (all.isEmpty()) {
            return 1;
        }
        boolean asFitted = suspicion.asFitted();
        return all.stream()
                .filter(look -> asFitted == atTheNewPart(look))
                .mapToDouble(look -> {
                    double seen = kind.look(look.finding());
                    boolean gone = Timeline.dirt(look.finding()) && timeline.cleanedSince(look.target());
                    return gone ? Math.sqrt(seen) : seen;
                })
                .reduce(1, (x, y) -> x * y);
    }

    private boolean atTheNewPart(Look look) {
        return timeline.now().renewed().contains(look.target())
                && timeline.all(Change.class)
                        .anyMatch(c -> c.target().equals(look.target())
                                && c.seq() < look.seq()
                                && (c.action() == ChangeAction.REPLACED || c.action() == ChangeAction.FITTED));
    }

    /**
     * Warmth speaks for what shorts the injected rail: itself, its neighbours, what lies under it. Natural logarithm of the
     * ratio.
     */
    double warmth(Suspicion suspicion, Variant variant) {
        Optional<Part> part = board.part(suspicion.target());
        if (!FaultKind.of(suspicion.code()).heats() || part.isEmpty()) {
            return 0;
        }
        double ratio = 1;
        for (SeriesSide side : dropped) {
            ratio *= side.of(variant);
        }
        for (Heated heated : heatings) {
            if (heated.side.isPresent()) {
                ratio *= heated.side.get().of(variant);
            } else if (heated.state.has(part.get()) && heated.reaches(variant)) {
                ratio *= heated.warm.nothing() ? cold(heated.warm, part.get()) : warm(heated, part.get());
            }
        }
        return Math.log(ratio);
    }

    /**
     * @param share how warm beside the warmest that was found
     * @param itself what it says for the part that is warm: little where a good board's would be
     * @param fed the nets joined to the one that was fed before; empty when none was
     */
    private record Heated(
            Warm warm,
            double share,
            double itself,
            BoardState state,
            Optional<Set<String>> fed,
            Optional<SeriesSide> side) {
        boolean reaches(Variant variant) {
            return fed.isEmpty()
                    || variant.faults().stream()
                            .filter(Bridge.class::isInstance)
                            .map(Bridge.class::cast)
                            .anyMatch(b ->
                                    fed.get().contains(b.netA()) || fed.get().contains(b.netB()));
        }
    }

    private static double cold(Warm warm, Part part) {
        return warm.side().map(s -> s == part.side()).orElse(true) ? COLD : 1;
    }

    private double warm(Heated heated, Part part) {
        Warm warm = heated.warm;
        Optional<Part> seen = warm.ref().flatMap(board::part);
        boolean itself = seen.isPresent() && seen.get().ref().equals(part.ref());
        if (timeline.atLead(warm)) {
            return itself ? WARM_AT_LEAD : 1;
        }
        if (itself) {
            // Of two that are warm the warmer makes it.
            return heated.itself < WARM_ITSELF ? heated.itself : Math.max(1, WARM_ITSELF * heated.share);
        }
        double x = seen.map(Part::xMm).orElse(warm.xMm().orElse(Double.NaN));
        double y = seen.map(Part::yMm).orElse(warm.yMm().orElse(Double.NaN));
        if (Double.isNaN(x) || Double.isNaN(y)) {
            return 1;
        }
        boolean sameSide =
                seen.map(Part::side).or(warm::side).map(s -> s == part.side()).orElse(true);
        double reach = Math.max(NEIGHBOUR_MM, warm.spreadMm().orElse(0) / 2);
        double distance = gap(x, y, part);
        boolean candidate = seen.isEmpty() || mayHeat(seen.get());
        if (sameSide) {
            if (seen.isEmpty()) {
                return 1 + WARM_ITSELF * Math.exp(-0.5 * Math.pow(distance / (0.5 * reach), 2));
            }
            return distance < reach ? candidate ? 1 : WARM_NEIGHBOUR : candidate ? 0.15 : 1;
        }
        double across = seen.map(p -> Math.max(p.wMm(), p.hMm()) / 2 + 2).orElse(reach);
        return distance < across ? candidate ? 2 : WARM_UNDER : candidate ? 0.3 : 1;
    }

    /** Whether a part found warm could itself be what shorts a rail that is known to be shorted. */
    private boolean mayHeat(Part part) {
        Set<String> shorted = Set.copyOf(book.everShorted());
        return shorted.isEmpty()
                || part.pins().stream()
                        .map(Pin::net)
                        .anyMatch(n -> shorted.contains(n)
                                || shorted.stream()
                                        .anyMatch(s -> book.joinedTo(s).contains(n)));
    }

    private static double gap(double x, double y, Part part) {
        double dx = Math.max(0, Math.abs(x - part.xMm()) - part.wMm() / 2);
        double dy = Math.max(0, Math.abs(y - part.yMm()) - part.hMm() / 2);
        return Math.hypot(dx, dy);
    }

    /** The device was put together again and tried. */
    private static boolean assembled(Moment moment) {
        return moment.observation() instanceof Run run && !run.finding().well();
    }

    private double said(FaultKind kind, Suspicion suspicion) {
        boolean electrical =
                suspicion.variants().stream().anyMatch(v -> !v.faults().isEmpty());
        boolean front = suspicion.code() == Code.DAMAGED_PORT || electrical && atPort.contains(suspicion.target());
        return kind.said(said, suspicion) * (said.cable() && front ? CABLE : 1);
    }
}
