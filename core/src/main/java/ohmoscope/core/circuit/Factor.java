package ohmoscope.core.circuit;

import java.util.ArrayDeque;
import java.util.Arrays;

/**
 * LDLᵀ of a sparse symmetric matrix in minimum-degree order (Tinney and Walker 1967). Its {@link Pattern} is worked out
 * once for all matrices whose couplings lie within it. Not shared between threads.
 */
final class Factor {
    /** Up to this many neighbours a node goes without fill. */
    private static final int LOOSE = 1;

    private final int[] order;
    private final int[] place;
    private final int[][] later;
    private final int[] first;

    /** The diagonal by place, then each step's couplings in turn. */
    private final double[] values;

    private final double[] kept;
    private final double[] solved;

    /**
     * Which nodes are coupled, and in which order they are eliminated. Immutable once built.
     *
     * @param order the nodes in the order of elimination
     * @param place the step at which a node goes
     * @param later for each step, the places of the nodes coupled to it that go later, ascending
     * @param first for each step, where its couplings begin among the values; one more for their end
     */
    record Pattern(int[] order, int[] place, int[][] later, int[] first) {
        /** @param edges pairs of nodes; a negative node is ground and is left out */
        static Pattern of(int nodes, int[][] edges) {
            Pattern pattern = new Pattern(new int[nodes], new int[nodes], new int[nodes][], new int[nodes + 1]);
            pattern.eliminate(neighbours(nodes, edges));
            return pattern;
        }

        private static Neighbours[] neighbours(int nodes, int[][] edges) {
            Neighbours[] near = new Neighbours[nodes];
            for (int i = 0; i < nodes; i++) {
                near[i] = new Neighbours();
            }
            for (int[] edge : edges) {
                if (edge[0] >= 0 && edge[1] >= 0 && edge[0] != edge[1]) {
                    near[edge[0]].add(edge[1]);
                    near[edge[1]].add(edge[0]);
                }
            }
            return near;
        }

        private void eliminate(Neighbours[] near) {
            int nodes = order.length;
            boolean[] done = new boolean[nodes];
            int[][] lists = new int[nodes][];
            ArrayDeque<Integer> loose = new ArrayDeque<>();
            for (int i = 0; i < nodes; i++) {
                if (near[i].size() <= LOOSE) {
                    loose.add(i);
                }
            }
            for (int step = 0; step < nodes; step++) {
                int least = next(near, done, loose);
                done[least] = true;
                order[step] = least;
                place[least] = step;
                lists[step] = near[least].toArray();
                for (int a : lists[step]) {
                    near[a].remove(least);
                    for (int b : lists[step]) {
                        if (a != b) {
                            near[a].add(b);
                        }
                    }
                    if (near[a].size() <= LOOSE) {
                        loose.add(a);
                    }
                }
            }
            for (int step = 0; step < nodes; step++) {
                for (int i = 0; i < lists[step].length; i++) {
                    lists[step][i] = place[lists[step][i]];
                }
                Arrays.sort(lists[step]);
                later[step] = lists[step];
            }
            first[0] = nodes;
            for (int step = 0; step < nodes; step++) {
                first[step + 1] = first[step] + later[step].length;
            }
        }

        /** Ends of branches first, which is most of a board and costs nothing; then whichever has fewest neighbours. */
        private static int next(Neighbours[] near, boolean[] done, ArrayDeque<Integer> loose) {
            while (!loose.isEmpty()) {
                int node = loose.poll();
                if (!done[node] && near[node].size() <= LOOSE) {
                    return node;
                }
            }
            int least = -1;
            for (int i = 0; i < near.length; i++) {
                if (!done[i] && (least < 0 || near[i].size() < near[least].size())) {
                    least = i;
                }
            }
            return least;
        }
    }

    Factor(Pattern pattern) {
        order = pattern.order;
        place = pattern.place;
        later = pattern.later;
        first = pattern.first;
        values = new double[first[order.length]];
        kept = new double[values.length];
        solved = new double[order.length];
    }

    /** A few node numbers, each once. */
    private static final class Neighbours {
        private int[] list = new int[4];
        private int size;

        void add(int node) {
            for (int i = 0; i < size; i++) {
                if (list[i] == node) {
                    return;
                }
            }
            if (size == list.length) {
                list = Arrays.copyOf(list, 2 * size);
            }
            list[size++] = node;
        }

        void remove(int node) {
            for (int i = 0; i < size; i++) {
                if (list[i] == node) {
                    list[i] = list[--size];
                    return;
                }
            }
        }

        int size() {
            return size;
        }

        int[] toArray() {
            return Arrays.copyOf(list, size);
        }
    }

    /** Makes the matrix as it is now the one that {@link #restore} goes back to. */
    void keep() {
        System.arraycopy(values, 0, kept, 0, values.length);
    }

    /** Goes back to what was kept; nothing, at first. */
    void restore() {
        System.arraycopy(kept, 0, values, 0, values.length);
    }

    /** A conductance between two nodes or to ground. */
    void branch(int a, int b, double siemens) {
        add(slots(a, b), siemens);
    }

    void add(int[] slots, double siemens) {
        for (int i = 0; i < slots.length; i++) {
            values[slots[i]] += i == 2 ? -siemens : siemens;
        }
    }

    /** Where a conductance between two nodes goes: one or both diagonal elements, then their coupling. */
    int[] slots(int a, int b) {
        if (a < 0 || b < 0) {
            return a < 0 && b < 0 ? new int[0] : new int[] {place[Math.max(a, b)]};
        }
        int low = Math.min(place[a], place[b]);
        int high = Math.max(place[a], place[b]);
        return new int[] {low, high, first[low] + Arrays.binarySearch(later[low], high)};
    }

    /** Factors the matrix and puts the solution in place of the right-hand side, numbered as the nodes are. */
    void solve(double[] rhs) {
        int nodes = order.length;
        double[] b = solved;
        for (int i = 0; i < nodes; i++) {
            b[i] = rhs[order[i]];
        }
        for (int k = 0; k < nodes; k++) {
            double pivot = values[k];
            int[] row = later[k];
            for (int p = 0; p < row.length; p++) {
                int i = row[p];
                double factor = values[first[k] + p] / pivot;
                if (factor == 0) {
                    continue;
                }
                values[i] -= factor * values[first[k] + p];
                b[i] -= factor * b[k];
                for (int q = p + 1; q < row.length; q++) {
                    values[first[i] + Arrays.binarySearch(later[i], row[q])] -= factor * values[first[k] + q];
                }
            }
        }
        for (int k = nodes - 1; k >= 0; k--) {
            double value = b[k];
            for (int p = 0; p < later[k].length; p++) {
                value -= values[first[k] + p] * b[later[k][p]];
            }
            b[k] = value / values[k];
        }
        for (int i = 0; i < nodes; i++) {
            rhs[order[i]] = b[i];
        }
    }
}
