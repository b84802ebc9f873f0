package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
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
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.Says;

/**
 * What is not electrical: what was seen, where it was warm, how the device behaves, what was taken off and never put
 * back, and what the customer says. Each as a likelihood ratio on one suspicion.
 */
final class Context {
    private static final Map<LookFinding, Double> HURT = new EnumMap<>(Map.of(
            LookFinding.BURNT, 14.0,
            LookFinding.HOLE, 20.0,
            LookFinding.CRACKED, 14.0,
            LookFinding.CHIPPED, 8.0,
            LookFinding.CORRODED, 6.0,
            LookFinding.DISCOLOURED, 6.0,
            LookFinding.WET_MARK, 2.5,
            LookFinding.EARLIER_WORK, 2.5,
            LookFinding.LOOSE, 4.0));

    private static final Map<LookFinding, Double> PORT = new EnumMap<>(Map.of(
            LookFinding.PINS_TOUCHING, 150.0,
            LookFinding.PIN_BENT, 25.0,
            LookFinding.PIN_MISSING, 40.0,
            LookFinding.LOOSE, 20.0,
            LookFinding.BURNT, 20.0,
            LookFinding.CORRODED, 8.0,
            LookFinding.WET_MARK, 3.0));

    private static final double PORT_SAID_TO_BE_HURT = 3;
    private static final double CLEAN_PORT = 0.3;
    private static final double CLEAN_PART = 0.6;
    private static final double MISSING = 60;
    private static final double ONE_SIDE_PORT = 40;
    private static final double WARM_ITSELF = 40;
    private static final double WARM_NEIGHBOUR = 8;
    private static final double WARM_UNDER = 15;
    private static final double NEIGHBOUR_MM = 3.5;
    private static final double COLD = 0.3;
    private static final double LEFT_UNPLUGGED = 60;
    private static final double NEVER_UNPLUGGED = 0.02;
    private static final double PAIR_BROKEN = 200;
    private static final double INNOCENT_SINCE = 0.005;
    private static final double HEALTHY_RUN = 12;
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
    private final Set<String> exchanged = new HashSet<>();
    /** Parts that were heated before the device was last found ill. */
    private final List<Part> heated = new ArrayList<>();

    /** Nets that read right before the first heat, and wrong since. */
    private final Set<String> wrongSince = new HashSet<>();

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
        timeline.all(Change.class)
                .filter(c -> c.heat() && Math.max(lastIllSeq, lastWrongDrawSeq) > c.seq())
                .forEach(c -> {
                    firstHeatSeq = Math.min(firstHeatSeq, c.seq());
                    board.part(c.target()).ifPresent(heated::add);
                });
        Set<String> rightBefore = Stream.concat(book.outdated().stream(), book.inForce().stream())
                .filter(s -> s.seq() < firstHeatSeq && s.says().right())
                .map(Sign::net)
                .collect(Collectors.toSet());
        book.inForce().stream()
                .filter(s -> s.says().concern() == Says.Concern.WRONG && rightBefore.contains(s.net()))
                .forEach(s -> wrongSince.add(s.net()));
    }

    private void follow() {
        Optional<Set<String>> fed = Optional.empty();
        Optional<String> net = Optional.empty();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Inject inject) {
                net = board.net(inject.net()).map(Net::name);
                fed = net.map(book::joinedTo);
            } else if (moment.observation() instanceof Warm warm) {
                heatings.add(new Heated(
                        warm,
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

    /** Natural logarithm of the ratio, but for what depends on the fault's form. */
    double of(Suspicion suspicion) {
        double ratio = looks(suspicion) * account(suspicion) * besideHeat(suspicion);
        ratio *= switch (suspicion.code()) {
            case NOT_FITTED -> notFitted(suspicion.target());
            case PAIRED_PART -> paired(suspicion.target());
            case BATTERY -> battery();
            case DAMAGED_PORT -> oneSide();
            case NONE -> runs();
            default -> 1;
        };
        return Math.log(ratio * illAfterwards(suspicion));
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
    private double besideHeat(Suspicion suspicion) {
        boolean harmed = suspicion.code() == Code.SHORT
                || suspicion.code() == Code.OPEN
                || suspicion.code() == Code.DEAD_CONTROLLER;
        if (!harmed || heated.isEmpty()) {
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

    private double looks(Suspicion suspicion) {
        double ratio = 1;
        List<Look> all = looks.getOrDefault(suspicion.target(), List.of());
        if (all.isEmpty()) {
            return ratio;
        }
        boolean asFitted = suspicion.asFitted();
        for (Look look : all) {
            if (asFitted != atTheNewPart(look)) {
                continue;
            }
            ratio *= switch (suspicion.code()) {
                case DAMAGED_PORT ->
                    look.finding() == LookFinding.CLEAN ? CLEAN_PORT : PORT.getOrDefault(look.finding(), 1.0);
                case NOT_FITTED -> look.finding() == LookFinding.MISSING ? MISSING : 1;
                case SHORT, OPEN, LEAKY, DEAD_CONTROLLER -> hurt(suspicion.code(), look.finding());
                default -> 1;
            };
        }
        return ratio;
    }

    private boolean atTheNewPart(Look look) {
        return timeline.now().renewed().contains(look.target())
                && timeline.all(Change.class)
                        .anyMatch(c -> c.target().equals(look.target())
                                && c.seq() < look.seq()
                                && (c.action() == ChangeAction.REPLACED || c.action() == ChangeAction.FITTED));
    }

    private static double hurt(Code code, LookFinding finding) {
        if (finding == LookFinding.CLEAN) {
            return CLEAN_PART;
        }
        if (finding == LookFinding.MISSING) {
            return code == Code.OPEN ? MISSING : 0.1;
        }
        double ratio = HURT.getOrDefault(finding, 1.0);
        return code == Code.LEAKY || code == Code.DEAD_CONTROLLER ? Math.sqrt(ratio) : ratio;
    }

    /**
     * Warmth speaks for what shorts the injected rail: itself, its neighbours, what lies under it. Natural logarithm of the
     * ratio.
     */
    double warmth(Suspicion suspicion, Variant variant) {
        boolean heats = suspicion.code() == Code.SHORT
                || suspicion.code() == Code.LEAKY
                || suspicion.code() == Code.DAMAGED_PORT;
        Optional<Part> part = board.part(suspicion.target());
        if (!heats || part.isEmpty()) {
            return 0;
        }
        double ratio = 1;
        for (Heated heated : heatings) {
            if (heated.side.isPresent()) {
                ratio *= heated.side.get().of(variant);
            } else if (heated.state.has(part.get()) && heated.reaches(variant)) {
                ratio *= heated.warm.nothing() ? cold(heated.warm, part.get()) : warm(heated.warm, part.get());
            }
        }
        return Math.log(ratio);
    }

    /** @param fed the nets joined to the one that was fed before; empty when none was */
    private record Heated(Warm warm, BoardState state, Optional<Set<String>> fed, Optional<SeriesSide> side) {
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

    private double warm(Warm warm, Part part) {
        Optional<Part> seen = warm.ref().flatMap(board::part);
        if (seen.isPresent() && seen.get().ref().equals(part.ref())) {
            return WARM_ITSELF;
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

    private double notFitted(String ref) {
        boolean unplugged = timeline.now().unplugged().contains(ref)
                || timeline.now().absent().contains(ref);
        boolean ranAfter =
                timeline.lastChangeOf(ref).map(c -> lastIllSeq > c.seq()).orElse(false);
        if (unplugged && ranAfter) {
            return LEFT_UNPLUGGED;
        }
        boolean missing = looks.getOrDefault(ref, List.of()).stream().anyMatch(l -> l.finding() == LookFinding.MISSING);
        return missing ? 1 : unplugged ? 0.2 : worksWithout() ? NEVER_UNPLUGGED * 4 : NEVER_UNPLUGGED;
    }

    /** The device was put together again and tried. */
    private static boolean assembled(Moment moment) {
        return moment.observation() instanceof Run run && !run.finding().well();
    }

    private boolean worksWithout() {
        return timeline.last(Run.class)
                .map(r -> r.finding() == RunFinding.NO_PICTURE || r.finding() == RunFinding.FUNCTION_MISSING)
                .orElse(false);
    }

    private double paired(String ref) {
        Optional<String> other = board.part(ref).flatMap(Part::pairedWith);
        boolean one = exchanged.contains(ref);
        boolean two = other.map(exchanged::contains).orElse(false);
        boolean bad = lastIllSeq > Integer.MIN_VALUE;
        return one != two ? bad ? PAIR_BROKEN : PAIR_BROKEN / 6 : 0.1;
    }

    /** The battery is to blame when the board is well without it and ill with it. */
    private double battery() {
        boolean illWith = false;
        boolean wellWithout = false;
        boolean backfed = false;
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Power power) {
                Optional<Draw> draw = Draw.of(board, tree, power);
                boolean in = moment.state().battery()
                        || power.battery().map(b -> b == BatteryState.IN).orElse(false);
                illWith |= in
                        && draw.map(d -> d == Draw.EXCESSIVE || d == Draw.PULSING || d == Draw.NONE || d == Draw.STUCK)
                                .orElse(false);
                wellWithout |= !in && draw.map(d -> d == Draw.NORMAL).orElse(false);
            }
        }
        backfed = book.nets().stream().anyMatch(n -> book.last(n, Says.BACKFED).isPresent());
        double ratio = illWith && wellWithout ? 20 : 1;
        boolean chargeless = timeline.last(Run.class)
                .map(r -> r.finding() == RunFinding.DOES_NOT_CHARGE || r.finding() == RunFinding.SHOWS_CHARGING_ONLY)
                .orElse(false);
        ratio *= chargeless ? 3 : 1;
        return backfed ? 0.1 * ratio : ratio;
    }

    private double oneSide() {
        return DrawsBySide.of(timeline).oneSideOnly() ? ONE_SIDE_PORT : 1;
    }

    private double runs() {
        return timeline.last(Run.class)
                .map(r -> r.finding().well() ? HEALTHY_RUN : 0.3)
                .orElse(1.0);
    }

    private double account(Suspicion suspicion) {
        double ratio = 1;
        boolean electrical =
                suspicion.variants().stream().anyMatch(v -> !v.faults().isEmpty());
        boolean front = suspicion.code() == Code.DAMAGED_PORT || electrical && atPort.contains(suspicion.target());
        if (said.hot() && suspicion.code() == Code.SHORT) {
            ratio *= 1.3;
        }
        if (said.cable() && front) {
            ratio *= 1.6;
        }
        if (said.hurtPort() && suspicion.code() == Code.DAMAGED_PORT && !suspicion.asFitted()) {
            ratio *= PORT_SAID_TO_BE_HURT;
        }
        if (said.wet() && (suspicion.code() == Code.LEAKY || suspicion.code() == Code.OPEN)) {
            ratio *= 1.5;
        }
        return ratio;
    }
}
