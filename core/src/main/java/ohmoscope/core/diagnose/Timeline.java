package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Storey;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
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
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.reading.Interpreter;

/**
 * The entries in order, each with the board as it was when it was made. A change starts a new circuit. Entries are found
 * by kind and changes by target at once.
 */
final class Timeline {
    static final String BATTERY = Change.BATTERY;

    /** Two readings of one point differ by less. */
    private static final double ALIKE_SHARE = 0.3;

    static final String PERIPHERALS = "peripherals";

    /** @param epoch circuits are numbered from 0 */
    record Moment(Observation observation, BoardState state, int epoch) {
        int seq() {
            return observation.seq();
        }
    }

    private final BoardIndex board;
    private final PowerTree tree;
    private final Interpreter interpreter;
    private final List<Moment> moments;
    private final BoardState now;
    private final int epoch;
    private final Map<Class<?>, List<Observation>> byKind = new HashMap<>();
    /** Numbers of volts that were read while a bench supply injected. */
    private final Set<Integer> underInjection;

    private final Map<String, Change> lastChanges = new HashMap<>();
    /** Numbers of readings that say what one before them said. */
    private final Set<Integer> confirmed;

    private Timeline(
            BoardIndex board, PowerTree tree, List<Moment> moments, BoardState now, int epoch, Set<Integer> confirmed) {
        this.board = board;
        this.tree = tree;
        this.interpreter = new Interpreter(board);
        this.moments = List.copyOf(moments);
        this.underInjection = underInjection(moments);
        this.now = now;
        this.epoch = epoch;
        this.confirmed = Set.copyOf(confirmed);
        for (Moment moment : moments) {
            Observation observation = moment.observation();
            byKind.computeIfAbsent(observation.getClass(), k -> new ArrayList<>())
                    .add(observation);
            if (observation instanceof Change change) {
                lastChanges.put(change.target(), change);
            }
        }
    }

    /** They are along the copper, less than what the supply gives, and not of a board that runs. */
    private static Set<Integer> underInjection(List<Moment> moments) {
        Set<Integer> seqs = new HashSet<>();
        double fedVolts = 0;
        for (Moment moment : moments) {
            Observation entry = moment.observation();
            if (entry instanceof Inject inject) {
                fedVolts = Math.max(inject.setVolts().orElse(0), inject.volts().orElse(0));
            } else if (entry instanceof Power || entry instanceof Change) {
                fedVolts = 0;
            } else if (entry instanceof Read read
                    && read.mode() == ReadMode.VOLTS
                    && read.power().equals(Optional.of(PowerSource.BENCH))
                    && read.value().orElse(Double.POSITIVE_INFINITY) < fedVolts) {
                seqs.add(read.seq());
            }
        }
        return seqs;
    }

    /** Whether these volts were read while a bench supply injected. */
    boolean underInjection(Read read) {
        return underInjection.contains(read.seq());
    }

    BoardIndex board() {
        return board;
    }

    /** What a reading on this board says. */
    Interpreter interpreter() {
        return interpreter;
    }

    PowerTree tree() {
        return tree;
    }

    List<Moment> moments() {
        return moments;
    }

    /** The board after the last entry. */
    BoardState now() {
        return now;
    }

    /** Number of the circuit after the last entry. */
    int epoch() {
        return epoch;
    }

    static Timeline of(BoardIndex board, PowerTree tree, List<Observation> observations) {
        List<Moment> moments = new ArrayList<>();
        BoardState state = BoardState.WHOLE;
        int epoch = 0;
        for (Observation observation : observations) {
            if (observation instanceof Power power) {
                BoardState before = state;
                state = power.battery()
                        .map(b -> before.withBattery(b == BatteryState.IN))
                        .orElse(before);
            }
            if (observation instanceof Change change) {
                moments.add(new Moment(change, state, epoch));
                state = after(board, tree, state, change);
                epoch++;
            } else {
                moments.add(new Moment(observation, state, epoch));
            }
        }
        return new Timeline(board, tree, moments, state, epoch, Set.of());
    }

    /** Whether somebody said if the battery is in, or the board has none: unknown is not out. */
    boolean batteryKnown() {
        return tree.battery().isEmpty()
                || all(Change.class).anyMatch(c -> c.target().equals(BATTERY) || tree.isBattery(c.target()))
                || all(Power.class).anyMatch(p -> p.battery().isPresent());
    }

    /** Whether the cell was taken out, never put back, and the device then said not to charge it. */
    boolean cellLeftOut() {
        return !now.battery()
                && batteryKnown()
                && last(Run.class)
                        .filter(r -> r.finding() == RunFinding.DOES_NOT_CHARGE
                                || r.finding() == RunFinding.SHOWS_CHARGING_ONLY)
                        .filter(r -> moments.stream()
                                .filter(m -> m.seq() == r.seq())
                                .noneMatch(m -> m.state().battery()))
                        .isPresent();
    }

    /** How much more than a good device each draw is, by the entry's number. */
    Map<Integer, DrawReading> draws() {
        Map<Integer, DrawReading> draws = new HashMap<>();
        all(Power.class).forEach(p -> DrawReading.of(board, tree, p).ifPresent(d -> draws.put(p.seq(), d)));
        return draws;
    }

    /** Unpowered readings that were taken while a cell was on the board, by number. */
    Set<Integer> live() {
        return moments.stream()
                .filter(m -> m.state().battery()
                        && m.observation() instanceof Read read
                        && read.power().isEmpty()
                        && read.mode() != ReadMode.VOLTS
                        && read.mode() != ReadMode.VOLTS_AC)
                .map(Moment::seq)
                .collect(Collectors.toSet());
    }

    /** The half that a change of the stack names. */
    static Storey half(String target) {
        return target.endsWith("upper") ? Storey.UPPER : Storey.LOWER;
    }

    private static BoardState after(BoardIndex board, PowerTree tree, BoardState state, Change change) {
        String target = change.target();
        boolean battery = target.equals(BATTERY) || tree.isBattery(target) && unplugs(change.action());
        if (battery) {
            return state.withBattery(change.action() == ChangeAction.CONNECTED);
        }
        if (target.startsWith(Change.STACK)) {
            Storey storey = half(target);
            return state.separated(
                    change.action() == ChangeAction.SEPARATED || change.action() == ChangeAction.REMOVED
                            ? Optional.of(storey)
                            : Optional.empty());
        }
        List<String> targets = target.equals(PERIPHERALS) ? peripherals(board, tree) : List.of(target);
        for (String ref : targets) {
            state = switch (change.action()) {
                case REMOVED -> state.without(ref);
                case FITTED -> state.with(ref, false);
                case REPLACED -> state.with(ref, true);
                case DISCONNECTED, SEPARATED -> state.unplug(ref);
                case CONNECTED -> state.plug(ref);
                case CLEANED -> state;
            };
        }
        return state;
    }

    private static boolean unplugs(ChangeAction action) {
        return action == ChangeAction.DISCONNECTED || action == ChangeAction.CONNECTED;
    }

    private static List<String> peripherals(BoardIndex board, PowerTree tree) {
        return board.parts().stream()
                .filter(p -> p.kind() == ohmoscope.core.board.PartKind.CONNECTOR)
                .map(Part::ref)
                .filter(r -> !tree.isInput(r) && !tree.isBattery(r))
                .toList();
    }

    /**
     * The same without readings that were taken again while the board stayed as it was: the last one counts, as they share
     * their meter, their probe and their hand.
     */
    Timeline lastOfEach() {
        Map<Object, Read> later = new HashMap<>();
        List<Moment> kept = new ArrayList<>();
        Set<Integer> confirmed = new HashSet<>();
        for (int i = moments.size() - 1; i >= 0; i--) {
            Moment moment = moments.get(i);
            Optional<Read> last = moment.observation() instanceof Read read
                    ? Optional.ofNullable(later.putIfAbsent(
                            List.of(
                                    moment.epoch(),
                                    read.mode(),
                                    netOf(read),
                                    read.ref(),
                                    read.across(),
                                    read.to(),
                                    read.lead(),
                                    read.power()),
                            read))
                    : Optional.empty();
            if (last.isEmpty()) {
                kept.add(moment);
            } else if (alike((Read) moment.observation(), last.get())) {
                confirmed.add(last.get().seq());
            }
        }
        Collections.reverse(kept);
        return new Timeline(board, tree, kept, now, epoch, confirmed);
    }

    private static boolean alike(Read a, Read b) {
        double x = a.value().orElse(Double.POSITIVE_INFINITY);
        double y = b.value().orElse(Double.POSITIVE_INFINITY);
        return x == y || Math.abs(x - y) < ALIKE_SHARE * Math.max(x, y);
    }

    /** Whether the same was read before, the board untouched between: it was not misread. */
    boolean confirmed(Read read) {
        return confirmed.contains(read.seq());
    }

    /** The same without some entries; what they changed on the board stays changed. */
    Timeline without(Predicate<Moment> dropped) {
        return new Timeline(
                board, tree, moments.stream().filter(dropped.negate()).toList(), now, epoch, confirmed);
    }

    <T extends Observation> Stream<T> all(Class<T> kind) {
        return byKind.getOrDefault(kind, List.of()).stream().map(kind::cast);
    }

    /** Those of the present circuit. */
    <T extends Observation> Stream<T> current(Class<T> kind) {
        return moments.stream()
                .filter(m -> m.epoch() == epoch)
                .map(Moment::observation)
                .filter(kind::isInstance)
                .map(kind::cast);
    }

    /** How often a part was put in. */
    long renewals(String ref) {
        return all(Change.class)
                .filter(c -> c.target().equals(ref)
                        && (c.action() == ChangeAction.REPLACED || c.action() == ChangeAction.FITTED))
                .count();
    }

    <T extends Observation> Optional<T> last(Class<T> kind) {
        List<Observation> all = byKind.getOrDefault(kind, List.of());
        return all.isEmpty() ? Optional.empty() : Optional.of(kind.cast(all.get(all.size() - 1)));
    }

    Optional<Moment> lastMoment() {
        return moments.isEmpty() ? Optional.empty() : Optional.of(moments.get(moments.size() - 1));
    }

    /** Whether what warmed is the part that the supply's lead was clipped to: a contact warms by itself. */
    boolean atLead(Warm warm) {
        return !warm.nothing()
                && warm.ref().isPresent()
                && all(Inject.class)
                        .filter(i -> i.seq() < warm.seq())
                        .reduce((a, b) -> b)
                        .flatMap(Inject::ref)
                        .equals(warm.ref());
    }

    /** Parts and places that were seen wet or corroded, and neither cleaned nor exchanged nor seen clean since. */
    List<String> uncleaned() {
        return all(Look.class)
                .filter(l -> dirt(l.finding()))
                .map(Look::target)
                .distinct()
                .filter(ref -> !cleanedSince(ref))
                .toList();
    }

    static boolean dirt(LookFinding finding) {
        return finding == LookFinding.CORRODED || finding == LookFinding.WET_MARK;
    }

    /** Whether what was last seen there of dirt is gone. */
    boolean cleanedSince(String ref) {
        int seen = all(Look.class)
                .filter(l -> l.target().equals(ref) && dirt(l.finding()))
                .mapToInt(Observation::seq)
                .max()
                .orElse(Integer.MAX_VALUE);
        return all(Look.class)
                        .anyMatch(l -> l.seq() > seen && l.target().equals(ref) && l.finding() == LookFinding.CLEAN)
                || all(Change.class)
                        .anyMatch(c -> c.seq() > seen
                                && c.target().equals(ref)
                                && (c.action() == ChangeAction.CLEANED
                                        || c.action() == ChangeAction.REMOVED
                                        || c.action() == ChangeAction.REPLACED));
    }

    /** The last change that touched this part. */
    Optional<Change> lastChangeOf(String target) {
        return Optional.ofNullable(lastChanges.get(target));
    }

    /** What nets were last read at under power in the present circuit, to ground. */
    Map<String, Double> volts() {
        Map<String, Double> volts = new HashMap<>();
        current(Read.class)
                .filter(r -> r.mode() == ReadMode.VOLTS && r.across().isEmpty() && r.to().isEmpty())
                .filter(r -> r.value().isPresent())
                .forEach(r -> netOf(r).ifPresent(net -> volts.put(net, r.value().getAsDouble())));
        return volts;
    }

    /** The net a reading was taken on: as named, else by its pin, else the part's or test point's own. */
    Optional<String> netOf(Read read) {
        return read.net().or(() -> read.ref().flatMap(ref -> netAt(ref, read.pin())));
    }

    Optional<String> netAt(String ref, Optional<String> pin) {
        return board.part(ref)
                .flatMap(p -> p.probed(pin, n -> board.net(n).map(Net::kind).orElse(NetKind.SIGNAL)))
                .or(() -> board.testPoint(ref).map(t -> t.net()));
    }
}
