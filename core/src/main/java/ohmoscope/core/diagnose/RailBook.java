package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Storey;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;

/**
 * What is known of each net now, and what was known before the board was changed. A sign holds until something that is
 * joined to its net is changed; unplugging the battery changes no unpowered reading.
 */
final class RailBook {
    /** A chip without a heat spreader does not lose this for long. */
    private static final double BURNING_WATTS = 3;
    /** Less current opens nothing, amperes. */
    private static final double OPENING_AMPS = 0.5;

    private final Timeline timeline;
    private final Twin twin;
    private final Map<String, List<Sign>> current = new LinkedHashMap<>();
    private final Map<String, List<Sign>> earlier = new LinkedHashMap<>();
    private final Map<String, Set<String>> touched = new LinkedHashMap<>();

    private final Map<String, Set<String>> islands = new HashMap<>();

    private Optional<List<Measured.Gap>> gaps = Optional.empty();
    private Optional<Map<String, Integer>> burntOpen = Optional.empty();

    RailBook(Timeline timeline, Twin twin) {
        this.timeline = timeline;
        this.twin = twin;
        List<Change> changes = timeline.all(Change.class).toList();
        for (Sign sign : new SignReader(timeline).read()) {
            boolean holds = changes.stream().noneMatch(c -> c.seq() > sign.seq() && touches(c, sign));
            (holds ? current : earlier)
                    .computeIfAbsent(sign.net(), k -> new ArrayList<>())
                    .add(sign);
        }
    }

    private boolean touches(Change change, Sign sign) {
        String target = change.target();
        if (target.equals(Timeline.BATTERY)
                || timeline.tree().isBattery(target) && change.action() != ChangeAction.REMOVED) {
            return !sign.says().unpowered();
        }
        if (!sign.says().unpowered()) {
            return true;
        }
        if (sign.says() == Says.SHORTED && adds(change.action())) {
            return false;
        }
        if (target.equals(Timeline.PERIPHERALS)) {
            return true;
        }
        return touched.computeIfAbsent(target, t -> t.startsWith(Change.STACK) ? ofHalf(t) : joined(t))
                .contains(sign.net());
    }

    /** What is put beside a short does not take it away. */
    private static boolean adds(ChangeAction action) {
        return action == ChangeAction.FITTED || action == ChangeAction.CONNECTED;
    }

    /** The nets that one half of a two-storey board has to do with. */
    private Set<String> ofHalf(String target) {
        Storey half = Timeline.half(target);
        Set<String> nets = new LinkedHashSet<>();
        timeline.board().parts().stream()
                .filter(p -> p.storey().filter(half::equals).isPresent())
                .map(p -> joined(p.ref()))
                .forEach(nets::addAll);
        return nets;
    }

    /** The nets that a part has to do with: its own and all that conduct to them. */
    private Set<String> joined(String target) {
        Set<String> nets = new LinkedHashSet<>();
        Optional<Part> part = timeline.board().part(target);
        if (part.isEmpty()) {
            return nets;
        }
        for (Pin pin : part.get().pins()) {
            if (!timeline.board().isGround(pin.net())) {
                nets.addAll(joinedTo(pin.net()));
            }
        }
        return nets;
    }

    /** The nets that anything conducts to from this one on the whole board. */
    Set<String> joinedTo(String net) {
        return islands.computeIfAbsent(net, n -> twin.island(n, BoardState.WHOLE));
    }

    /** The same as the board was. */
    Set<String> joined(String net, BoardState state) {
        return twin.island(net, state);
    }

    /** Series parts that were measured to be open, worked out once. */
    List<Measured.Gap> gaps() {
        if (gaps.isEmpty()) {
            gaps = Optional.of(Measured.gaps(timeline, this));
        }
        return gaps.get();
    }

    /** Nets that were found shorted at any time. */
    List<String> everShorted() {
        Set<String> nets = new LinkedHashSet<>(shorted());
        earlier.keySet().stream().filter(n -> shortedBefore(n).isPresent()).forEach(nets::add);
        return List.copyOf(nets);
    }

    /** Nets that anything is known of now. */
    Set<String> nets() {
        return current.keySet();
    }

    /** Signs that hold now, oldest first. */
    List<Sign> now(String net) {
        return current.getOrDefault(net, List.of());
    }

    /** Signs of circuits before this one, oldest first. */
    List<Sign> before(String net) {
        return earlier.getOrDefault(net, List.of());
    }

    Set<String> netsBefore() {
        return earlier.keySet();
    }

    List<Sign> inForce() {
        return current.values().stream().flatMap(List::stream).toList();
    }

    List<Sign> outdated() {
        return earlier.values().stream().flatMap(List::stream).toList();
    }

    /** Signs of every circuit. */
    Stream<Sign> everySign() {
        return Stream.concat(outdated().stream(), inForce().stream());
    }

    /** The same by their entries' numbers. */
    Map<Integer, Sign> bySeq() {
        return everySign().collect(Collectors.toMap(Sign::seq, Function.identity(), (a, b) -> b));
    }

    /** The latest unpowered word on a net. */
    Optional<Sign> unpowered(String net) {
        return now(net).stream().filter(s -> s.says().unpowered()).reduce((a, b) -> b);
    }

    /** The latest powered word on a net. */
    Optional<Sign> powered(String net) {
        return now(net).stream()
                .filter(s -> s.says() == Says.PRESENT
                        || s.says() == Says.ABSENT
                        || s.says() == Says.HALF
                        || s.says() == Says.BACKFED)
                .reduce((a, b) -> b);
    }

    /** Whether a net was read to be at its voltage. */
    boolean stands(String net) {
        return powered(net).map(s -> s.says() == Says.PRESENT).orElse(false);
    }

    Optional<Sign> last(String net, Says says) {
        return now(net).stream().filter(s -> s.says() == says).reduce((a, b) -> b);
    }

    boolean shorted(String net) {
        return unpowered(net).map(s -> s.says() == Says.SHORTED).orElse(false);
    }

    /** Nets that are shorted now, in the order they were found. */
    List<String> shorted() {
        return current.keySet().stream().filter(this::shorted).toList();
    }

    /**
     * Nets that are lower now than they should be and not dead shorts, in the order they were found: rails, and lines that
     * the meter found shorted before a supply said how much.
     */
    List<String> low() {
        return current.keySet().stream()
                .filter(n -> power(n) || now(n).stream().anyMatch(s -> s.says() == Says.SHORTED))
                .filter(n -> unpowered(n).map(s -> s.says() == Says.LOW).orElse(false))
                .filter(n -> !stands(n))
                .toList();
    }

    private boolean power(String net) {
        return timeline.board().net(net).map(n -> n.kind() == NetKind.POWER).orElse(false);
    }

    /** Whether a net reads shorted or low now, whatever kind of net it is. */
    boolean down(String net) {
        return unpowered(net)
                .map(s -> s.says() == Says.SHORTED || s.says() == Says.LOW)
                .orElse(false);
    }

    /** Rails that read low and stand at their voltage: a strong supply carries a weak short. */
    List<String> lowYetPresent() {
        return current.keySet().stream()
                .filter(this::power)
                .filter(n -> unpowered(n).map(s -> s.says() == Says.LOW).orElse(false))
                .filter(this::stands)
                .toList();
    }

    /** Of these, those that take more than a good board's chips can lose: nothing is proven while they do. */
    List<String> burning() {
        return lowYetPresent().stream()
                .filter(n -> {
                    double volts = powered(n).orElseThrow().value();
                    return unpowered(n)
                            .filter(s -> s.unit() == Unit.OHMS)
                            .map(s -> volts * volts / s.value() > BURNING_WATTS)
                            .orElse(false);
                })
                .toList();
    }

    /** Nets that read shorted or low now, or did in a circuit before. */
    Set<String> pulledDown() {
        Set<String> nets = new LinkedHashSet<>();
        for (Map<String, List<Sign>> signs : List.of(earlier, current)) {
            signs.forEach((net, list) -> {
                boolean down = list.stream().anyMatch(s -> s.says() == Says.SHORTED || s.says() == Says.LOW);
                if (down) {
                    nets.add(net);
                }
            });
        }
        return nets;
    }

    /** Shorted before the last change that concerns it. */
    Optional<Sign> shortedBefore(String net) {
        return before(net).stream().filter(s -> s.says() == Says.SHORTED).reduce((a, b) -> b);
    }

    boolean cleared(String net) {
        return shortedBefore(net).isPresent()
                && unpowered(net).map(s -> s.says().notShorted()).orElseGet(() -> wasCleared(net));
    }

    /** The last unpowered word on a net, in this circuit or in one before it. */
    Optional<Sign> lastUnpowered(String net) {
        return unpowered(net)
                .or(() -> before(net).stream().filter(s -> s.says().unpowered()).reduce((a, b) -> b));
    }

    /** Free when it was last read, and since then things were only put back, after which the device draws as it should. */
    private boolean wasCleared(String net) {
        Optional<Sign> last =
                before(net).stream().filter(s -> s.says().unpowered()).reduce((a, b) -> b);
        boolean free = last.map(s -> s.says().notShorted()).orElse(false);
        boolean putBack = free
                && timeline.all(Change.class)
                        .filter(c -> c.seq() > last.get().seq())
                        .noneMatch(c -> c.action() == ChangeAction.REMOVED
                                || c.action() == ChangeAction.DISCONNECTED
                                || c.action() == ChangeAction.SEPARATED);
        return putBack
                && timeline.current(Power.class)
                        .reduce((a, b) -> b)
                        .flatMap(p -> Draw.of(timeline.board(), timeline.tree(), p))
                        .map(d -> d == Draw.NORMAL)
                        .orElse(false);
    }

    /**
     * Nets that read shorted and, nothing on them touched since, do not any more, a current having been driven in between;
     * with the number of the last entry that found them shorted. Worked out once.
     */
    Map<String, Integer> burntOpen() {
        if (burntOpen.isEmpty()) {
            burntOpen = Optional.of(findBurntOpen());
        }
        return burntOpen.get();
    }

    private Map<String, Integer> findBurntOpen() {
        Map<String, Integer> burnt = new LinkedHashMap<>();
        for (String net : current.keySet()) {
            // What a core reads by design in one mode may look like a short in another.
            Optional<Sign> last = unpowered(net).filter(s -> s.says().notShorted() && s.says() != Says.BY_DESIGN);
            Optional<Sign> shorted = last(net, Says.SHORTED);
            boolean driven = last.isPresent()
                    && shorted.isPresent()
                    && timeline.all(Inject.class)
                            .anyMatch(i -> i.seq() >= shorted.get().seq()
                                    && i.seq() < last.get().seq()
                                    && i.amps().orElse(0) > OPENING_AMPS
                                    && joinedTo(net).contains(i.net()));
            if (driven) {
                burnt.put(net, shorted.get().seq());
            }
        }
        return burnt;
    }

    boolean remains(String net) {
        return shorted(net) && !wasFree(net) && (shortedBefore(net).isPresent() || shortedThroughRemoval(net));
    }

    /** Whether it read free in this circuit: what shorts it now came after. */
    private boolean wasFree(String net) {
        return now(net).stream().anyMatch(s -> s.says().unpowered() && s.says().notShorted());
    }

    /** Read shorted, something was taken off that the net has nothing to do with, and it read shorted again. */
    private boolean shortedThroughRemoval(String net) {
        List<Integer> shorts = now(net).stream()
                .filter(s -> s.says() == Says.SHORTED)
                .map(Sign::seq)
                .toList();
        return !shorts.isEmpty()
                && timeline.all(Change.class)
                        .filter(c -> c.action() == ChangeAction.REMOVED || c.action() == ChangeAction.SEPARATED)
                        .anyMatch(c -> c.seq() > shorts.get(0) && c.seq() < shorts.get(shorts.size() - 1));
    }
}
