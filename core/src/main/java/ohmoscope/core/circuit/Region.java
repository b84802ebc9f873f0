package ohmoscope.core.circuit;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Deque;
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

    private final int[] local;
    private final List<Integer> nodes = new ArrayList<>();
    private final List<Element> elements = new ArrayList<>();
    /** How many branches the one that ends at a node stands for, where that is more than itself. */
    private final Map<Integer, Integer> alike = new HashMap<>();

    /**
     * All of it.
     *
     * @param seeds nodes of the board; ground is left out
     */
    Region(Wiring wiring, BoardState state, Collection<Tie> ties, int... seeds) {
        this(wiring, state, ties, Optional.empty(), seeds);
    }

    /**
     * One of many equal branches of a node stands for all, as with a hundred pull-ups of one rail: their ends have the
     * same volts.
     *
     * @param apart nodes where a branch ends that is not like the others, such as one with a fault
     */
    static Region folded(Wiring wiring, BoardState state, Collection<Tie> ties, Set<Integer> apart, int... seeds) {
        Set<Integer> own = new HashSet<>(apart);
        ties.forEach(t -> own.addAll(List.of(t.a, t.b)));
        for (int seed : seeds) {
            own.add(seed);
        }
        return new Region(wiring, state, ties, Optional.of(own), seeds);
    }

    private Region(Wiring wiring, BoardState state, Collection<Tie> ties, Optional<Set<Integer>> apart, int... seeds) {
        local = new int[wiring.names.size()];
        Arrays.fill(local, Network.GROUND);
        Deque<Integer> queue = new ArrayDeque<>();
        for (int seed : seeds) {
            reach(seed, queue);
        }
        while (!queue.isEmpty()) {
            int at = queue.poll();
            List<Element> each = apart.isPresent() ? wiring.singlesOn(at) : wiring.elementsOn(at);
            each.forEach(element -> follow(element, at, state, queue));
            if (apart.isPresent()) {
                wiring.foldsOn(at).forEach(fold -> follow(fold, at, wiring, state, apart.get(), queue));
            }
            for (Tie tie : ties) {
                if (tie.a == at || tie.b == at) {
                    reach(tie.a == at ? tie.b : tie.a, queue);
                }
            }
        }
    }

    private void follow(Element element, int at, BoardState state, Deque<Integer> queue) {
        if (!state.has(element.part())) {
            return;
        }
        int other = element.a() == at ? element.b() : element.a();
        reach(other, queue);
        // Each element once: where it is found from its first net, or from its only one.
        if (element.a() == at || element.a() < 0) {
            elements.add(element);
        }
    }

    private void follow(Fold fold, int at, Wiring wiring, BoardState state, Set<Integer> apart, Deque<Integer> queue) {
        List<Element> own = apart.stream()
                .filter(end -> wiring.foldOf(end).filter(f -> f == fold).isPresent())
                .flatMap(end -> wiring.elementsOn(end).stream())
                .toList();
        own.forEach(element -> follow(element, at, state, queue));
        Optional<Element> one = fold.branches().stream()
                .filter(e -> state.has(e.part()) && !own.contains(e))
                .findFirst();
        if (one.isPresent()) {
            follow(one.get(), at, state, queue);
            int present = state.equals(BoardState.WHOLE)
                    ? fold.branches().size()
                    : (int) fold.branches().stream()
                            .filter(e -> state.has(e.part()))
                            .count();
            int kept = (int) own.stream().filter(e -> state.has(e.part())).count();
            alike.put(wiring.endsAt(one.get()), present - kept);
        }
    }

    /** How many branches the one that ends at a node stands for. */
    int alike(int node) {
        return alike.getOrDefault(node, 1);
    }

    private void reach(int node, Deque<Integer> queue) {
        if (node >= 0 && local[node] < 0) {
            local[node] = nodes.size();
            nodes.add(node);
            queue.add(node);
        }
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

    /** Whether a bridge between two nodes touches it: then both ends are in it, or ground. */
    boolean has(Tie tie) {
        return has(tie.a) || has(tie.b);
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
