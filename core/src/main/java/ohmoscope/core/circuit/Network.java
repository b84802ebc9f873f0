package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A DC network of two-terminal elements: conductances, junctions, and sources with an inner resistance and a current
 * limit. Nodes are numbered from 0; {@link #GROUND} is the reference.
 *
 * <p>Solved by nodal analysis with Newton's method, each step a sparse LDLᵀ factorisation in minimum-degree order. The
 * matrix is symmetric and positive definite, as every element is passive around its working point and each node has a
 * weak path to ground. Boards are nearly trees, so there is next to no fill: time and memory are about linear in nodes
 * plus elements, a handful of Newton steps each. One solver serves one thread.
 */
public final class Network {
    public static final int GROUND = -1;

    /** A path to ground that every node has: far above what a meter can tell from open. */
    private static final double LEAK_SIEMENS = 1e-9;

    private static final int MAX_STEPS = 500;
    /** A source that takes less than this is as good as idle. */
    private static final double IDLE_AMPS = 1e-4;

    private static final double SETTLED_VOLTS = 1e-6;
    /** Of the highest voltage: what rounding leaves. */
    private static final double SETTLED_SHARE = 1e-8;

    /** Above this exponent a junction is continued by its tangent, so that nothing overflows. */
    private static final double MAX_EXPONENT = 40;

    private record Conductance(int a, int b, double siemens) {}

    private record Junction(int anode, int cathode, double saturationAmps, double thermalVolts, double kneeVolts) {}

    private record Source(int node, double volts, double siemens, double limitAmps) {}

    private final int nodes;
    private final List<Conductance> conductances = new ArrayList<>();
    private final List<Junction> junctions = new ArrayList<>();
    private final List<Source> sources = new ArrayList<>();
    private final double[] injectedAmps;

    public Network(int nodes) {
        this.nodes = nodes;
        this.injectedAmps = new double[nodes];
    }

    /** The same, to be added to. */
    Network(Network other) {
        this(other.nodes);
        conductances.addAll(other.conductances);
        junctions.addAll(other.junctions);
        sources.addAll(other.sources);
        System.arraycopy(other.injectedAmps, 0, injectedAmps, 0, nodes);
    }

    /** @param ohms above 0; {@code a} and {@code b} nodes or ground */
    public void resistor(int a, int b, double ohms) {
        conductance(a, b, 1 / ohms);
    }

    /** @param siemens below 0 to take some away of what is there */
    void conductance(int a, int b, double siemens) {
        if (a != b) {
            conductances.add(new Conductance(a, b, siemens));
        }
    }

    /**
     * A junction that carries 1 mA at {@code dropVolts}.
     *
     * @param thermalVolts its emission coefficient times kT/q, volts
     */
    public void junction(int anode, int cathode, double dropVolts, double thermalVolts) {
        junctions(anode, cathode, dropVolts, thermalVolts, 1);
    }

    /** As many equal ones, side by side. */
    void junctions(int anode, int cathode, double dropVolts, double thermalVolts, int count) {
        if (anode != cathode) {
            double saturation = count * 1e-3 / Math.expm1(dropVolts / thermalVolts);
            double knee = thermalVolts * Math.log(thermalVolts / (Math.sqrt(2) * saturation));
            junctions.add(new Junction(anode, cathode, saturation, thermalVolts, knee));
        }
    }

    /** A current into a node, out of ground. */
    public void current(int node, double amps) {
        if (node != GROUND) {
            injectedAmps[node] += amps;
        }
    }

    /**
     * A source to ground: {@code volts} behind {@code ohms}, giving {@code limitAmps} at most and taking none.
     *
     * @return its number, for {@link Solution#sourceAmps}
     */
    public int source(int node, double volts, double ohms, double limitAmps) {
        sources.add(new Source(node, volts, 1 / ohms, limitAmps));
        return sources.size() - 1;
    }

    /** Volts of every node and amperes of every source. */
    public record Solution(double[] volts, double[] sourceAmps) {
        public double volts(int node) {
            return node == GROUND ? 0 : volts[node];
        }

        public double sourceAmps(int source) {
            return sourceAmps[source];
        }
    }

    /** What a source does at the working point. */
    private enum Mode {
        VOLTAGE,
        LIMITED,
        IDLE
    }

    /** @throws ArithmeticException when Newton's method does not settle */
    public Solution solve() {
        return solve(Factor.Pattern.of(nodes, edges()), new double[nodes]);
    }

    /**
     * The same for a network that is one of many alike.
     *
     * @param pattern couplings, among them all of this network's
     * @param start volts to begin at, such as those of a network that differs little; one solution exists, so that only
     *     the time depends on it
     */
    Solution solve(Factor.Pattern pattern, double[] start) {
        Factor factor = new Factor(pattern);
        stampFixed(factor);
        int[][] slots = new int[junctions.size()][];
        for (int j = 0; j < slots.length; j++) {
            slots[j] = factor.slots(junctions.get(j).anode, junctions.get(j).cathode);
        }
        double[] volts = start.clone();
        double[] next = new double[nodes];
        double[] across = new double[junctions.size()];
        for (int j = 0; j < across.length; j++) {
            Junction junction = junctions.get(j);
            across[j] = at(volts, junction.anode) - at(volts, junction.cathode);
        }
        Mode[] modes = new Mode[sources.size()];
        Arrays.fill(modes, Mode.VOLTAGE);
        for (int step = 0; step < MAX_STEPS; step++) {
            factor.restore();
            System.arraycopy(injectedAmps, 0, next, 0, nodes);
            stampJunctions(factor, slots, next, across);
            stampSources(factor, next, modes);
            factor.solve(next);
            double moved = advance(volts, next, across);
            // A limited source that nothing loads stands at thousands of volts until it is set right: rounding scales.
            if (moved < SETTLED_VOLTS + SETTLED_SHARE * highest(volts) && !changed(modes, volts)) {
                return new Solution(volts, sourceAmps(volts, modes));
            }
        }
        throw new ArithmeticException("the network of " + nodes + " nodes did not settle");
    }

    private static double highest(double[] volts) {
        double highest = 0;
        for (double v : volts) {
            highest = Math.max(highest, Math.abs(v));
        }
        return highest;
    }

    /**
     * Takes the next point, and for each junction a working point that follows it no faster than its exponential allows
     * (the limiting of Nagel 1975).
     *
     * @return the largest move of a node, or lag of a junction behind its nodes, volts
     */
    private double advance(double[] volts, double[] next, double[] across) {
        double moved = 0;
        for (int i = 0; i < nodes; i++) {
            moved = Math.max(moved, Math.abs(next[i] - volts[i]));
            volts[i] = next[i];
        }
        for (int j = 0; j < across.length; j++) {
            Junction junction = junctions.get(j);
            double wanted = at(volts, junction.anode) - at(volts, junction.cathode);
            across[j] = limited(junction, wanted, across[j]);
            moved = Math.max(moved, Math.abs(across[j] - wanted));
        }
        return moved;
    }

    private static double limited(Junction junction, double wanted, double last) {
        double thermal = junction.thermalVolts;
        if (wanted <= junction.kneeVolts || Math.abs(wanted - last) <= 2 * thermal) {
            return wanted;
        }
        if (last <= 0) {
            return thermal * Math.log(Math.max(wanted / thermal, 1e-9));
        }
        double grown = 1 + (wanted - last) / thermal;
        return grown > 0 ? last + thermal * Math.log(grown) : junction.kneeVolts;
    }

    private int[][] edges() {
        List<int[]> edges = new ArrayList<>();
        conductances.forEach(c -> edges.add(new int[] {c.a, c.b}));
        junctions.forEach(j -> edges.add(new int[] {j.anode, j.cathode}));
        return edges.toArray(int[][]::new);
    }

    /** What no step changes. */
    private void stampFixed(Factor factor) {
        for (int i = 0; i < nodes; i++) {
            factor.branch(i, GROUND, LEAK_SIEMENS);
        }
        for (Conductance c : conductances) {
            factor.branch(c.a, c.b, c.siemens);
        }
        factor.keep();
    }

    private void stampJunctions(Factor factor, int[][] slots, double[] rhs, double[] across) {
        for (int k = 0; k < across.length; k++) {
            Junction j = junctions.get(k);
            double v = across[k];
            double exponent = v / j.thermalVolts;
            double grown = Math.exp(Math.min(exponent, MAX_EXPONENT));
            double slope = j.saturationAmps * grown / j.thermalVolts;
            double amps = exponent > MAX_EXPONENT
                    ? j.saturationAmps * (grown * (1 + exponent - MAX_EXPONENT) - 1)
                    : j.saturationAmps * (grown - 1);
            factor.add(slots[k], slope + 1e-12);
            double offset = amps - slope * v;
            add(rhs, j.anode, -offset);
            add(rhs, j.cathode, offset);
        }
    }

    private void stampSources(Factor factor, double[] rhs, Mode[] modes) {
        for (int s = 0; s < modes.length; s++) {
            Source source = sources.get(s);
            if (source.node != GROUND && modes[s] == Mode.VOLTAGE) {
                factor.branch(source.node, GROUND, source.siemens);
                rhs[source.node] += source.volts * source.siemens;
            } else if (source.node != GROUND && modes[s] == Mode.LIMITED) {
                rhs[source.node] += source.limitAmps;
            }
        }
    }

    /**
     * Sets the first source that cannot do what it is set to, and no other: the least-index rule of Murty 1974, with
     * which the exchange ends.
     *
     * @return whether one had to change
     */
    private boolean changed(Mode[] modes, double[] volts) {
        for (int s = 0; s < modes.length; s++) {
            Source source = sources.get(s);
            double wanted = (source.volts - at(volts, source.node)) * source.siemens;
            Mode mode = next(modes[s], wanted, source.limitAmps);
            if (mode != modes[s]) {
                modes[s] = mode;
                return true;
            }
        }
        return false;
    }

    /** A source never goes from its limit to idle without trying its voltage. */
    private static Mode next(Mode mode, double wanted, double limitAmps) {
        return switch (mode) {
            case LIMITED -> wanted < limitAmps ? Mode.VOLTAGE : mode;
            case IDLE -> wanted > 0 ? Mode.VOLTAGE : mode;
            case VOLTAGE -> wanted > limitAmps ? Mode.LIMITED : wanted < -IDLE_AMPS ? Mode.IDLE : mode;
        };
    }

    private double[] sourceAmps(double[] volts, Mode[] modes) {
        double[] amps = new double[modes.length];
        for (int s = 0; s < amps.length; s++) {
            Source source = sources.get(s);
            double wanted = (source.volts - at(volts, source.node)) * source.siemens;
            amps[s] = switch (modes[s]) {
                case LIMITED -> source.limitAmps;
                case IDLE -> 0;
                case VOLTAGE -> Math.max(0, Math.min(source.limitAmps, wanted));
            };
        }
        return amps;
    }

    private static double at(double[] volts, int node) {
        return node == GROUND ? 0 : volts[node];
    }

    private static void add(double[] rhs, int node, double amps) {
        if (node != GROUND) {
            rhs[node] += amps;
        }
    }
}
