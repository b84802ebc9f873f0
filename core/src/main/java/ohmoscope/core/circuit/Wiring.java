package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;

/**
 * The board's parts as two-terminal elements between numbered nets, and each net's load: what a good board reads there
 * to ground. Read once a board; O(pins). Ground nets are all {@link Network#GROUND}.
 */
final class Wiring {
    /** What an element does. */
    enum Type {
        /** Conducts both ways. */
        RESISTANCE,
        /** Conducts from {@code a} to {@code b}. */
        JUNCTION,
        /** A switch with a body diode from {@code a} to {@code b}. */
        SWITCH
    }

    /** @param ohms of a resistance, or of a switch that is on */
    record Element(Part part, Type type, int a, int b, double ohms) {}

    /**
     * What a good board shows at a net to ground, unpowered.
     *
     * @param lowOhms least and most resistance
     * @param lowDropVolts least and most drop at 1 mA with red on ground
     */
    record Load(double lowOhms, double highOhms, double lowDropVolts, double highDropVolts) {}

    /** Of a series part whose resistance nobody states. */
    private static final double UNSTATED_SERIES_OHMS = 0.02;

    /** A series element up to this joins its two nets into one for a meter in ohms. */
    private static final double JOINS_OHMS = 200;
    /** A meter's milliampere would drop more across it than the meter shows. */
    private static final double LARGE_OHMS = 1_000;
    /** A signal pin of a chip, where nothing is stated. */
    private static final Load SIGNAL_PIN = new Load(8_000, 10e6, 0.35, 0.85);
    /** A power net where nothing is stated. */
    private static final Load UNSTATED_POWER = new Load(60, 300_000, 0.25, 0.75);

    private static final Pattern SUPPLY_PIN =
            Pattern.compile("(?i)(V(DD|CC|IN|BUS|SUP|PWR|P|BAT|VM)?\\d*|IN\\d*|PVIN\\d*|AVDD)");

    final BoardIndex board;
    final List<String> names = new ArrayList<>();
    final List<Element> elements = new ArrayList<>();
    final List<Optional<Load>> loads = new ArrayList<>();

    private record Likeness(double ohms, Optional<Load> load) {}

    private final Map<Likeness, Integer> likenesses = new HashMap<>();
    private final Map<String, List<Element>> elementsOf = new HashMap<>();
    private final Map<String, List<String>> supplyNets = new HashMap<>();
    private final Map<String, Integer> index = new HashMap<>();
    private final List<List<Element>> elementsOn = new ArrayList<>();
    private final List<List<Element>> singlesOn = new ArrayList<>();
    private final List<List<Fold>> foldsOn = new ArrayList<>();
    private final Map<Integer, Fold> foldOf = new HashMap<>();
    private final Map<Integer, Set<String>> clusters = new HashMap<>();
    private final int[] clusterOf;

    Wiring(BoardIndex board) {
        this.board = board;
        for (Net net : board.nets()) {
            if (net.kind() == NetKind.GROUND) {
                index.put(net.name(), Network.GROUND);
            } else {
                index.put(net.name(), names.size());
                names.add(net.name());
                elementsOn.add(new ArrayList<>());
            }
        }
        for (Part part : board.parts()) {
            elements(part);
        }
        for (Element element : elements) {
            elementsOf
                    .computeIfAbsent(element.part.ref(), k -> new ArrayList<>())
                    .add(element);
            if (element.a >= 0) {
                elementsOn.get(element.a).add(element);
            }
            if (element.b >= 0) {
                elementsOn.get(element.b).add(element);
            }
        }
        loads();
        folds();
        clusterOf = clusters();
    }

    /** @return the node's number, {@link Network#GROUND} for ground */
    int node(String net) {
        Integer node = index.get(net);
        if (node == null) {
            throw new IllegalArgumentException("the board has no net " + net);
        }
        return node;
    }

    Net net(String name) {
        return board.net(name).orElseThrow();
    }

    Optional<Part> part(String ref) {
        return board.part(ref);
    }

    List<Part> partsOn(String net) {
        return board.listOn(net);
    }

    List<Element> elementsOf(String ref) {
        return elementsOf.getOrDefault(ref, List.of());
    }

    List<Element> elementsOn(int node) {
        return elementsOn.get(node);
    }

    /**
     * Where a branch ends: the node that a resistance leads to and nothing else does, such as a pulled-up pin.
     *
     * @return {@link Network#GROUND} for an element that is no such branch, or joins two of them
     */
    int endsAt(Element element) {
        boolean endsAtA = ends(element.a);
        if (element.type != Type.RESISTANCE || endsAtA == ends(element.b)) {
            return Network.GROUND;
        }
        return endsAtA ? element.a : element.b;
    }

    /** The same number for branches that are equal in resistance and load. */
    int likeness(Element branch) {
        return likenesses.computeIfAbsent(new Likeness(branch.ohms, loads.get(endsAt(branch))), k -> likenesses.size());
    }

    /** Whether so little goes through it that it parts what a meter reads on either side. */
    boolean isLarge(Element element) {
        return element.type == Type.RESISTANCE && element.ohms >= LARGE_OHMS;
    }

    /** The nets that conduct to one through no large resistance; none for ground. */
    Set<String> cluster(int node) {
        return node < 0 ? Set.of() : clusters.get(clusterOf[node]);
    }

    private int[] clusters() {
        int[] group = joined(e -> !isLarge(e));
        for (int i = 0; i < group.length; i++) {
            clusters.computeIfAbsent(group[i], k -> new HashSet<>()).add(names.get(i));
        }
        return group;
    }

    /** Equal branches of one node: two or more. */
    record Fold(List<Element> branches) {}

    /** What is equal on a node. */
    List<Fold> foldsOn(int node) {
        return foldsOn.get(node);
    }

    /** A node's elements but for those in a fold. */
    List<Element> singlesOn(int node) {
        return singlesOn.get(node);
    }

    /** The fold with a branch that ends at a node. */
    Optional<Fold> foldOf(int end) {
        return Optional.ofNullable(foldOf.get(end));
    }

    private void folds() {
        for (int node = 0; node < names.size(); node++) {
            Map<Integer, List<Element>> alike = new LinkedHashMap<>();
            for (Element element : elementsOn.get(node)) {
                int end = endsAt(element);
                if (end >= 0 && end != node) {
                    alike.computeIfAbsent(likeness(element), k -> new ArrayList<>())
                            .add(element);
                }
            }
            alike.values().removeIf(branches -> branches.size() < 2);
            List<Fold> folds = alike.values().stream().map(Fold::new).toList();
            for (Fold fold : folds) {
                fold.branches.forEach(e -> foldOf.put(endsAt(e), fold));
            }
            foldsOn.add(folds);
            singlesOn.add(
                    folds.isEmpty()
                            ? elementsOn.get(node)
                            : elementsOn.get(node).stream()
                                    .filter(e -> endsAt(e) == Network.GROUND || !foldOf.containsKey(endsAt(e)))
                                    .toList());
        }
    }

    private boolean ends(int node) {
        return node >= 0 && elementsOn.get(node).size() == 1;
    }

    /**
     * The nets a chip is fed from: those on pins named as supplies, else its power nets that it does not make itself.
     */
    List<String> supplyNets(Part chip) {
        return supplyNets.computeIfAbsent(chip.ref(), k -> findSupplyNets(chip));
    }

    private List<String> findSupplyNets(Part chip) {
        List<String> named = chip.pins().stream()
                .filter(p -> SUPPLY_PIN.matcher(p.name()).matches())
                .map(Pin::net)
                .filter(n -> net(n).kind() == NetKind.POWER)
                .distinct()
                .toList();
        if (!named.isEmpty()) {
            return named;
        }
        return board.powerNets(chip).stream()
                .filter(n -> chip.supplies().stream().noneMatch(s -> s.out().equals(n)))
                .toList();
    }

    private void elements(Part part) {
        Role role = board.role(part);
        List<String> nets = part.pins().stream().map(Pin::net).distinct().toList();
        switch (part.kind()) {
            case RESISTOR -> pair(part, nets, PartValue.ohms(part.value()));
            case INDUCTOR, FERRITE, FUSE -> pair(part, nets, OptionalDouble.of(UNSTATED_SERIES_OHMS));
            case DIODE, TVS -> diode(part, nets);
            case MOSFET, TRANSISTOR -> transistor(part);
            case IC -> {
                if (role == Role.PASS) {
                    List<String> power = board.powerNets(part);
                    if (power.size() >= 2) {
                        add(
                                part,
                                Type.SWITCH,
                                power.get(1),
                                power.get(0),
                                part.resistanceOhms().orElse(0.03));
                    }
                }
            }
            default -> {
                if (role == Role.SERIES) {
                    pair(part, nets, OptionalDouble.of(UNSTATED_SERIES_OHMS));
                }
            }
        }
    }

    private void pair(Part part, List<String> nets, OptionalDouble ohms) {
        if (nets.size() == 2 && (part.resistanceOhms().isPresent() || ohms.isPresent())) {
            double stated = part.resistanceOhms().orElseGet(ohms::getAsDouble);
            add(part, Type.RESISTANCE, nets.get(0), nets.get(1), Math.max(1e-4, stated));
        }
    }

    private void diode(Part part, List<String> nets) {
        board.anode(part).ifPresent(from -> {
            String to = from.equals(nets.get(0)) ? nets.get(1) : nets.get(0);
            add(part, Type.JUNCTION, from, to, 0.05);
        });
    }

    private void transistor(Part part) {
        Optional<String> drain = pin(part, "D", "drain");
        Optional<String> source = pin(part, "S", "source");
        if (drain.isEmpty() || source.isEmpty()) {
            List<String> power = board.powerNets(part);
            if (power.size() < 2) {
                return;
            }
            drain = Optional.of(power.get(1));
            source = Optional.of(power.get(0));
        }
        boolean pChannel = part.gate().map(g -> g.onWhen() == OnWhen.LOW).orElse(false);
        String from = pChannel ? drain.get() : source.get();
        String to = pChannel ? source.get() : drain.get();
        add(part, Type.SWITCH, from, to, part.resistanceOhms().orElse(0.03));
    }

    static Optional<String> pin(Part part, String... pinNames) {
        return part.pins().stream()
                .filter(p -> Arrays.stream(pinNames).anyMatch(p.name()::equalsIgnoreCase))
                .map(Pin::net)
                .findFirst();
    }

    private void add(Part part, Type type, String a, String b, double ohms) {
        elements.add(new Element(part, type, node(a), node(b), ohms));
    }

    /**
     * Each net's own load. Where series parts join nets, every one of them reads the whole group's load, so the
     * group's least stated resistance is shared out among its nets.
     */
    private void loads() {
        int[] group = joined(e -> e.type == Type.RESISTANCE && e.ohms <= JOINS_OHMS);
        double[] strongest = new double[names.size()];
        double[] sum = new double[names.size()];
        List<Optional<Load>> stated = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            Optional<Load> load = stated(names.get(i));
            stated.add(load);
            double siemens =
                    load.map(l -> 1 / Math.sqrt(l.lowOhms * l.highOhms)).orElse(0.0);
            strongest[group[i]] = Math.max(strongest[group[i]], siemens);
            sum[group[i]] += siemens;
        }
        for (int i = 0; i < names.size(); i++) {
            double share = sum[group[i]] > 0 ? strongest[group[i]] / sum[group[i]] : 1;
            loads.add(stated.get(i)
                    .map(l -> new Load(l.lowOhms / share, l.highOhms / share, l.lowDropVolts, l.highDropVolts)));
        }
    }

    private Optional<Load> stated(String name) {
        Net net = net(name);
        boolean chip = partsOn(name).stream()
                .anyMatch(
                        p -> p.kind() == PartKind.IC || p.kind() == PartKind.CONNECTOR && net.kind() == NetKind.POWER);
        Load usual = net.kind() == NetKind.POWER ? UNSTATED_POWER : SIGNAL_PIN;
        if (net.expect().isEmpty()) {
            return chip ? Optional.of(usual) : Optional.empty();
        }
        Range ohms = net.expect().get().ohms().orElse(new Range(usual.lowOhms, usual.highOhms));
        Range drop = net.expect().get().diodeVolts().orElse(new Range(usual.lowDropVolts, usual.highDropVolts));
        double low = Math.max(1e-3, ohms.low());
        return Optional.of(new Load(low, Math.max(low, ohms.high()), drop.low(), drop.high()));
    }

    /** For each net the first one that elements join it to: union-find with path halving. */
    private int[] joined(Predicate<Element> joins) {
        int[] group = new int[names.size()];
        for (int i = 0; i < group.length; i++) {
            group[i] = i;
        }
        for (Element element : elements) {
            if (element.a >= 0 && element.b >= 0 && joins.test(element)) {
                group[root(group, element.b)] = root(group, element.a);
            }
        }
        for (int i = 0; i < group.length; i++) {
            group[i] = root(group, i);
        }
        return group;
    }

    private static int root(int[] group, int node) {
        int at = node;
        while (group[at] != at) {
            group[at] = group[group[at]];
            at = group[at];
        }
        return at;
    }
}
