package ohmoscope.core.circuit;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Network.Solution;
import ohmoscope.core.circuit.Region.Tie;
import ohmoscope.core.circuit.Twin.Injected;
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Load;
import ohmoscope.core.circuit.Wiring.Type;

/**
 * The part of the unpowered board that two probes reach in one state, to be asked with one fault after another: what a
 * good board has there is laid out once. A prediction is a {@link Band}, as good boards differ. Time and memory are linear
 * in that part. One thread at a time.
 */
public final class Probed {
    /** A meter's current in diode mode, amperes, and the most volts it shows. */
    private static final double DIODE_TEST_AMPS = 1e-3;

    private static final double DIODE_OVER_RANGE_VOLTS = 2.0;
    /** Through more a junction's half volt drives less than an eighth of the meter's current: 4 mV at the most. */
    private static final double DIODE_MOST_OHMS = 4_000;
    /** In ohms a meter stays below a junction's knee. */
    private static final double OHMS_TEST_AMPS = 1e-6;

    private static final double OHMS_OVER_RANGE = 20e6;
    private static final double BODY_DIODE_VOLTS = 0.5;
    /** A chip's junction the other way round is higher, when it conducts at all. */
    private static final double REVERSE_LEAD_FACTOR = 1.35;
    /** Below it a junction does not conduct: it is drawn as the load's resistance alone. */
    private static final double LEAST_JUNCTION_VOLTS = 0.15;

    private final Wiring wiring;
    private final BoardState state;
    private final Meter.Mode mode;
    private final int probe;
    private final int reference;
    private final Region goodRegion;
    /** The loads alone, at the lower and at the upper end. */
    private final List<Network> goodLoads;

    private final Circuit good;
    /** What the good board settles at, by the meter's amperes: from there a fault settles in fewer steps. */
    private final Map<Double, double[][]> goodVolts = new HashMap<>();

    private Optional<Set<String>> nets = Optional.empty();

    /** @param reference a node of the board, or ground, as {@code probe} */
    Probed(Wiring wiring, BoardState state, Meter.Mode mode, int probe, int reference) {
        this.wiring = wiring;
        this.mode = mode;
        this.state = state;
        this.probe = probe;
        this.reference = reference;
        this.goodRegion = Region.around(wiring, state, mostOhms(), List.of(), Set.of(), probe, reference);
        this.goodLoads = List.of(loads(goodRegion, false), loads(goodRegion, true));
        this.good = circuit(goodRegion, goodRegion.pattern(List.of()), Set.of());
    }

    /** The nets where a bridge can change a reading. */
    public Set<String> nets() {
        if (nets.isEmpty()) {
            nets = Optional.of(goodRegion.names());
        }
        return nets.get();
    }

    /**
     * What a meter shows.
     *
     * @param redOnReference as in {@link Meter}
     * @return in the unit of the mode
     */
    public Band read(boolean redOnReference, List<Fault> faults) {
        if (probe == reference) {
            return Band.of(0, 0);
        }
        boolean diode = mode == Meter.Mode.DIODE_VOLTS;
        double amps = (diode ? DIODE_TEST_AMPS : OHMS_TEST_AMPS) * (diode && redOnReference ? -1 : 1);
        Circuit circuit = circuit(faults);
        double[][] settled = goodVolts.computeIfAbsent(amps, a -> solved(good, a, new double[2][goodRegion.size()]));
        double[][] starts = {started(circuit, settled[0]), started(circuit, settled[1])};
        double[][] volts = solved(circuit, amps, starts);
        double low = Math.abs(circuit.volts(volts[0], probe) - circuit.volts(volts[0], reference));
        double high = Math.abs(circuit.volts(volts[1], probe) - circuit.volts(volts[1], reference));
        return diode ? Band.of(diode(low), diode(high)) : Band.of(ohms(low), ohms(high));
    }

    private double mostOhms() {
        return mode == Meter.Mode.DIODE_VOLTS ? DIODE_MOST_OHMS : Double.POSITIVE_INFINITY;
    }

    /** A circuit's volts where the good board's are known; nothing elsewhere. */
    private double[] started(Circuit circuit, double[] goodVolts) {
        if (circuit.region == goodRegion) {
            return goodVolts;
        }
        double[] start = new double[circuit.region.size()];
        for (int node : circuit.region.nodes()) {
            start[circuit.local(node)] = goodRegion.has(node) ? goodVolts[good.local(node)] : 0;
        }
        return start;
    }

    /** The volts of every node with the loads at either end. */
    private double[][] solved(Circuit circuit, double amps, double[][] starts) {
        double[][] volts = new double[2][];
        for (int end = 0; end < volts.length; end++) {
            Network network = circuit.network(end == 1);
            network.current(circuit.local(probe), amps);
            network.current(circuit.local(reference), -amps);
            volts[end] = network.solve(circuit.pattern, starts[end]).volts();
        }
        return volts;
    }

    private static double diode(double volts) {
        return volts > DIODE_OVER_RANGE_VOLTS ? Double.POSITIVE_INFINITY : volts;
    }

    private static double ohms(double volts) {
        double ohms = volts / OHMS_TEST_AMPS;
        return ohms > OHMS_OVER_RANGE ? Double.POSITIVE_INFINITY : ohms;
    }

    /** What a supply shows between the probes, the reference being ground; as {@link Twin#inject}. */
    public Injected inject(double setVolts, double limitAmps, double leadOhms, List<Fault> faults) {
        if (probe == Network.GROUND) {
            double amps = Math.min(limitAmps, setVolts / leadOhms);
            return new Injected(amps * leadOhms, amps);
        }
        Circuit circuit = circuit(faults);
        Network network = circuit.network(false);
        int source = network.source(circuit.local(probe), setVolts, leadOhms, limitAmps);
        Solution solution = network.solve(circuit.pattern, new double[circuit.region.size()]);
        double amps = solution.sourceAmps(source);
        return new Injected(solution.volts(circuit.local(probe)) + amps * leadOhms, amps);
    }

    /** The good circuit with the faults that are on the board. */
    private Circuit circuit(List<Fault> faults) {
        // A part that is open twice over, as measured and as suspected, is open once.
        Map<String, Open> risenParts = new HashMap<>();
        Set<String> opens = new HashSet<>();
        Map<Tie, Double> ties = new HashMap<>();
        for (Fault fault : faults) {
            if (fault instanceof Open open && onBoard(fault)) {
                if (isResistance(open.target())) {
                    risenParts.merge(open.target(), open, (a, b) -> a.ohms() < b.ohms() ? b : a);
                } else {
                    opens.add(open.target());
                }
            } else if (fault instanceof Bridge bridge && onBoard(fault)) {
                Tie tie = new Tie(wiring.node(bridge.netA()), wiring.node(bridge.netB()));
                ties.merge(tie, 1 / bridge.ohms(), Double::sum);
            }
        }
        Map<Tie, Double> risen = new HashMap<>();
        risenParts
                .values()
                .forEach(open -> wiring.elementsOf(open.target())
                        .forEach(e -> risen.merge(tie(e), siemens(e, open), Double::sum)));
        Set<Integer> apart = new HashSet<>();
        risen.keySet().forEach(t -> apart.addAll(List.of(t.a(), t.b())));
        // The probes' own lines are apart already.
        boolean alike = ties.keySet().stream().noneMatch(t -> folds(t.a()) || folds(t.b()))
                && apart.stream().noneMatch(this::folds);
        Circuit edited = good;
        if (!alike || !goodRegion.closed(ties.keySet())) {
            Region own = Region.around(wiring, state, mostOhms(), ties.keySet(), apart, probe, reference);
            edited = circuit(own, own.pattern(ties.keySet()), opens);
        } else if (!goodRegion.uncoupled(ties.keySet())) {
            edited = circuit(goodRegion, goodRegion.pattern(ties.keySet()), opens);
        } else if (!opens.isEmpty()) {
            edited = circuit(goodRegion, good.pattern, opens);
        }
        risen.forEach((tie, siemens) -> ties.merge(tie, siemens, Double::sum));
        return edited.with(ties);
    }

    private boolean isResistance(String ref) {
        return wiring.elementsOf(ref).stream().allMatch(e -> e.type() == Type.RESISTANCE);
    }

    private static Tie tie(Element element) {
        return new Tie(element.a(), element.b());
    }

    /** What a part that has risen conducts over what it should: less than nothing. */
    private static double siemens(Element element, Open open) {
        return 1 / Math.max(element.ohms(), open.ohms()) - 1 / element.ohms();
    }

    private boolean folds(int node) {
        return node != probe && node != reference && wiring.foldOf(node).isPresent();
    }

    /** A fault goes with its part: off the board, or new, it is gone. */
    private boolean onBoard(Fault fault) {
        Optional<Part> part = wiring.part(fault.target());
        return part.map(p -> fault.in(p, state)).orElse(true);
    }

    /**
     * What is between the probes.
     *
     * @param low with every load at the lower end of what good boards show
     * @param high at the upper end
     * @param ties siemens of bridges, and what parts conduct too little
     */
    private record Circuit(Region region, Factor.Pattern pattern, Network low, Network high, Map<Tie, Double> ties) {
        Circuit with(Map<Tie, Double> otherTies) {
            return new Circuit(region, pattern, low, high, otherTies);
        }

        /** One to add sources to. */
        Network network(boolean atUpperEnd) {
            Network network = new Network(atUpperEnd ? high : low);
            ties.forEach((tie, siemens) -> {
                if (region.has(tie)) {
                    network.conductance(local(tie.a()), local(tie.b()), siemens);
                }
            });
            return network;
        }

        int local(int node) {
            return region.local(node);
        }

        double volts(double[] volts, int node) {
            return node < 0 ? 0 : volts[local(node)];
        }
    }

    private Circuit circuit(Region region, Factor.Pattern pattern, Set<String> opens) {
        return new Circuit(region, pattern, network(region, opens, false), network(region, opens, true), Map.of());
    }

    private Network network(Region region, Set<String> opens, boolean high) {
        Network network = new Network(region == goodRegion ? goodLoads.get(high ? 1 : 0) : loads(region, high));
        for (Element element : region.elements()) {
            element(network, region, element, opens.contains(element.part().ref()));
        }
        return network;
    }

    private Network loads(Region region, boolean high) {
        Network network = new Network(region.size());
        for (int node : region.nodes()) {
            wiring.loads.get(node).ifPresent(load -> load(network, region.local(node), load, high, region.alike(node)));
        }
        return network;
    }

    private static void load(Network network, int local, Load load, boolean high, int alike) {
        double drop = high ? load.highDropVolts() : load.lowDropVolts();
        network.resistor(local, Network.GROUND, (high ? load.highOhms() : load.lowOhms()) / alike);
        if (drop > LEAST_JUNCTION_VOLTS) {
            network.junctions(Network.GROUND, local, drop, Twin.THERMAL_VOLTS, alike);
            network.junctions(local, Network.GROUND, drop * REVERSE_LEAD_FACTOR, Twin.THERMAL_VOLTS, alike);
        }
    }

    private void element(Network network, Region region, Element element, boolean open) {
        int a = region.local(element.a());
        int b = region.local(element.b());
        if (element.type() == Type.RESISTANCE) {
            int alike = region.alike(wiring.endsAt(element));
            network.resistor(a, b, element.ohms() / alike);
        } else if (!open) {
            network.junction(a, b, BODY_DIODE_VOLTS, Twin.THERMAL_VOLTS);
        }
    }
}
