package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Fold;

/**
 * The part of a circuit that some nets conduct to: its nodes, numbered from 0, and its elements, each once. Time and
 * memory are linear in that part, but for one number a net of the board.
 */
final class Region {
    /** Two nodes of the board that a bridge joins; either may be ground. */
    record Tie(int a, int b) {}

    private final Wiring wiring;
    private final BoardState state;
    private final double mostOhms;
    private final Collection<Tie> ties;
    private final Optional<Set<Integer>> apart;
    private final int[] local;
    private final List<Integer> nodes = new ArrayList<>();
    /** What is on each node. */
    private final List<List<Element>> found = new ArrayList<>();

    private final List<Element> elements = new ArrayList<>();
    /** How many branches the one that ends at a node stands for, where that is more than itself. */
    private final Map<Integer, Integer> alike = new HashMap<>();

    /**
     * All of it.
     *
     * @param seeds nodes of the board; ground is left out
     */
    Region(Wiring wiring, BoardState state, Collection<Tie> ties, int... seeds) {
        this(wiring, state, Double.POSITIVE_INFINITY, ties, Optional.empty(), seeds);
        explore(0, true);
        collect();
    }

    /**
     * What a meter's current notices: up to the second large resistance. One of many equal branches of a node stands for
     * all, as with a hundred pull-ups of one rail: their ends have the same volts.
     *
     * @param mostOhms more than that between two nets conducts nothing to speak of
     * @param apart nodes where a branch ends that is not like the others, such as one with a fault
     */
    static Region around(
            Wiring wiring, BoardState state, double mostOhms, Collection<Tie> ties, Set<Integer> apart, int... seeds) {
        Set<Integer> own = new HashSet<>(apart);
        ties.forEach(t -> own.addAll(List.of(t.a, t.b)));
        for (int seed : seeds) {
            own.add(seed);
        }
        Region region = new Region(wiring, state, mostOhms, ties, Optional.of(own), seeds);
        region.explore(0, false);
        int joined = region.nodes.size();
        for (int i = 0; i < joined; i++) {
            int at = region.nodes.get(i);
            region.found.get(i).stream().filter(wiring::isLarge).forEach(e -> region.reach(other(e, at)));
        }
        region.explore(joined, false);
        region.collect();
        return region;
    }

    private Region(
            Wiring wiring,
            BoardState state,
            double mostOhms,
            Collection<Tie> ties,
            Optional<Set<Integer>> apart,
            int... seeds) {
        this.mostOhms = mostOhms;
        this.wiring = wiring;
        this.state = state;
        this.ties = ties;
        this.apart = apart;
        this.local = new int[wiring.names.size()];
        Arrays.fill(local, Network.GROUND);
        for (int seed : seeds) {
            reach(seed);
        }
    }

    private void explore(int from, boolean throughLarge) {
        for (int i = from; i < nodes.size(); i++) {
            int at = nodes.get(i);
            List<Element> here = apart.map(own -> folded(at, own))
                    .orElseGet(() ->
                            wiring.elementsOn(at).stream().filter(this::isThere).toList());
            found.add(here);
            for (Element element : here) {
                if (throughLarge || !wiring.isLarge(element)) {
                    reach(other(element, at));
                }
            }
            for (Tie tie : ties) {
                if (tie.a == at || tie.b == at) {
                    reach(tie.a == at ? tie.b : tie.a);
                }
            }
        }
    }

    private static int other(Element element, int at) {
        return element.a() == at ? element.b() : element.a();
    }

    private boolean isThere(Element element) {
        boolean conducts = element.ohms() < mostOhms || element.a() < 0 || element.b() < 0;
        return conducts && state.has(element.part());
    }

    private void reach(int node) {
        if (node >= 0 && local[node] < 0) {
            local[node] = nodes.size();
            nodes.add(node);
        }
    }

    /** A node's elements, one for each kind of equal branch. */
    private List<Element> folded(int at, Set<Integer> apart) {
        List<Element> here = new ArrayList<>();
        wiring.singlesOn(at).stream().filter(this::isThere).forEach(here::add);
        for (Fold fold : wiring.foldsOn(at)) {
            List<Element> own = apart.stream()
                    .filter(end -> wiring.foldOf(end).filter(f -> f == fold).isPresent())
                    .flatMap(end -> wiring.elementsOn(end).stream())
                    .filter(this::isThere)
                    .toList();
            here.addAll(own);
            Optional<Element> one = fold.branches().stream()
                    .filter(e -> isThere(e) && !own.contains(e))
                    .findFirst();
            if (one.isPresent()) {
                here.add(one.get());
                // On the whole board one that is there stands for all: they are of equal ohms.
                long present = state.equals(BoardState.WHOLE)
                        ? fold.branches().size()
                        : fold.branches().stream().filter(this::isThere).count();
                alike.put(wiring.endsAt(one.get()), (int) present - own.size());
            }
        }
        return here;
    }

    /** Each element once, both ends being reached: where it is found from its first net, or from its only one. */
    private void collect() {
        for (int i = 0; i < nodes.size(); i++) {
            int at = nodes.get(i);
            for (Element element : found.get(i)) {
                int other = other(element, at);
                if ((other < 0 || has(other)) && (element.a() == at || element.a() < 0)) {
                    elements.add(element);
                }
            }
        }
    }

    /** The names of its nets, among them those that another stands for. */
    Set<String> names() {
        Set<String> names = new HashSet<>();
        for (int node : nodes) {
            names.add(wiring.names.get(node));
            if (alike(node) > 1) {
                wiring.foldOf(node).orElseThrow().branches().stream()
                        .filter(this::isThere)
                        .forEach(e -> names.add(wiring.names.get(wiring.endsAt(e))));
            }
        }
        return names;
    }

    /** How many branches the one that ends at a node stands for. */
    int alike(int node) {
        return alike.getOrDefault(node, 1);
    }

    /** The board's numbers of its nodes, in the order of its own. */
    List<Integer> nodes() {
        return nodes;
    }

    List<Element> elements() {
        return elements;
    }

    int size() {
        return nodes.size();
    }

    /** @return a node's number here; {@link Network#GROUND} for ground and for what is not reached */
    int local(int node) {
        return node < 0 ? Network.GROUND : local[node];
    }

    boolean has(int node) {
        return node >= 0 && local[node] >= 0;
    }

    /** Whether both ends of a bridge are in it, or one is and the other is ground. */
    boolean has(Tie tie) {
        return has(tie.a) ? tie.b < 0 || has(tie.b) : tie.a < 0 && has(tie.b);
    }

    /** Whether ties lead to nothing new. */
    boolean closed(Collection<Tie> ties) {
        return ties.stream().allMatch(t -> t.a < 0 || t.b < 0 || has(t.a) == has(t.b));
    }

    /** Whether ties couple no two of its nodes. */
    boolean uncoupled(Collection<Tie> ties) {
        return ties.stream().noneMatch(t -> has(t.a) && has(t.b));
    }

    /** The couplings of its elements and of ties that touch it. */
    Factor.Pattern pattern(Collection<Tie> ties) {
        List<int[]> edges = new ArrayList<>();
        elements.forEach(e -> edges.add(new int[] {local(e.a()), local(e.b())}));
        ties.stream().filter(this::has).forEach(t -> edges.add(new int[] {local(t.a), local(t.b)}));
        return Factor.Pattern.of(size(), edges.toArray(int[][]::new));
    }
}
