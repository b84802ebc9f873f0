package ohmoscope.core.board;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A board whose nets and parts are found by name at once, and whose roles are worked out once. Built in O(pins); for work
 * that asks thousands of times. Immutable.
 */
public final class BoardIndex {
    private final Board board;
    private final Map<String, Net> nets = new HashMap<>();
    private final Map<String, Part> parts = new HashMap<>();
    private final Map<String, Role> roles = new HashMap<>();
    private final Map<String, List<Part>> partsOn = new HashMap<>();
    private final Map<String, List<String>> powerNets = new HashMap<>();

    public BoardIndex(Board board) {
        this.board = board;
        board.nets().forEach(n -> nets.put(n.name(), n));
        for (Part part : board.parts()) {
            parts.put(part.ref(), part);
            List<String> names = part.pins().stream().map(Pin::net).distinct().toList();
            names.forEach(
                    n -> partsOn.computeIfAbsent(n, k -> new ArrayList<>()).add(part));
            powerNets.put(
                    part.ref(),
                    names.stream()
                            .filter(n -> nets.get(n).kind() == NetKind.POWER)
                            .toList());
        }
        board.parts()
                .forEach(p -> roles.put(
                        p.ref(),
                        p.statedRole()
                                .orElseGet(() -> Roles.implied(n -> nets.get(n).kind(), p))));
    }

    public Board board() {
        return board;
    }

    public List<Net> nets() {
        return board.nets();
    }

    public List<Part> parts() {
        return board.parts();
    }

    public List<TestPoint> testPoints() {
        return board.testPoints();
    }

    public Optional<Net> net(String name) {
        return Optional.ofNullable(nets.get(name));
    }

    public Optional<Part> part(String ref) {
        return Optional.ofNullable(parts.get(ref));
    }

    public Optional<TestPoint> testPoint(String ref) {
        return board.testPoint(ref);
    }

    public boolean isGround(String net) {
        Net known = nets.get(net);
        return known != null && known.kind() == NetKind.GROUND;
    }

    /** The stated role, or the one that kind and nets imply. */
    public Role role(Part part) {
        return roles.get(part.ref());
    }

    /** Parts with a pin on the net, in the file's order. */
    public Stream<Part> partsOn(String net) {
        return listOn(net).stream();
    }

    /** The same, for loops that run often. */
    public List<Part> listOn(String net) {
        return partsOn.getOrDefault(net, List.of());
    }

    /**
     * The net at the far end of a converter's coil, where its chip switches.
     *
     * @return empty where no coil of the chip makes this rail
     */
    public Optional<String> switching(Part chip, String out) {
        return partsOn(out)
                .filter(p -> p.kind() == PartKind.INDUCTOR)
                .flatMap(p -> p.pins().stream())
                .map(Pin::net)
                .filter(n -> net(n).map(Net::kind).orElse(NetKind.GROUND) == NetKind.SIGNAL && chip.touches(n))
                .findFirst();
    }

    /**
     * The net that a diode conducts from, by its pins' names, else by their order; of a clamp, ground.
     *
     * @return empty for a part with other than two nets
     */
    public Optional<String> anode(Part diode) {
        List<String> nets = diode.pins().stream().map(Pin::net).distinct().toList();
        if (nets.size() != 2) {
            return Optional.empty();
        }
        return named(diode, "A", "anode")
                .or(() -> named(diode, "K", "C", "cathode")
                        .map(cathode -> nets.get(0).equals(cathode) ? nets.get(1) : nets.get(0)))
                .or(() -> nets.stream().filter(this::isGround).findFirst())
                .or(() -> Optional.of(nets.get(0)));
    }

    private static Optional<String> named(Part part, String... pinNames) {
        return part.pins().stream()
                .filter(p -> Arrays.stream(pinNames).anyMatch(p.name()::equalsIgnoreCase))
                .map(Pin::net)
                .findFirst();
    }

    /** The power nets a part has pins on, in the order of its pins. */
    public List<String> powerNets(Part part) {
        return powerNets.get(part.ref());
    }

    /** The first ground net's name; the first net's on a board without ground. */
    public String ground() {
        return board.nets().stream()
                .filter(n -> n.kind() == NetKind.GROUND)
                .findFirst()
                .orElseGet(() -> board.nets().get(0))
                .name();
    }
}
