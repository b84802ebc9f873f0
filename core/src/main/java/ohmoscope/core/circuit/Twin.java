package ohmoscope.core.circuit;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Network.Solution;
import ohmoscope.core.circuit.Region.Tie;
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Load;
import ohmoscope.core.circuit.Wiring.Type;

/**
 * A board that can be measured without a board: any reading, with any fault, in any state of taking apart.
 *
 * <p>Unpowered, every net shows its load (what a good board reads there, from the board's {@code expect}) through
 * whatever conducts to it; powered readings come from {@link PoweredTwin}. A prediction is a {@link Band}, as good
 * boards differ. Only the part of the circuit that the probe reaches is solved: time and memory linear in that.
 */
public final class Twin {
    /** A meter's current in diode mode, amperes, and the most volts it shows. */
    private static final double DIODE_TEST_AMPS = 1e-3;

    private static final double DIODE_OVER_RANGE_VOLTS = 2.0;
    /** In ohms a meter stays below a junction's knee. */
    private static final double OHMS_TEST_AMPS = 1e-6;

    private static final double OHMS_OVER_RANGE = 20e6;
    /** Emission coefficient times kT/q of the junctions in chips and switches. */
    static final double THERMAL_VOLTS = 0.035;

    private static final double BODY_DIODE_VOLTS = 0.5;
    /** A chip's junction the other way round is higher, when it conducts at all. */
    private static final double REVERSE_LEAD_FACTOR = 1.35;

    private final Wiring wiring;
    private final Controls controls;

    public Twin(Board board) {
        this(new BoardIndex(board));
    }

    public Twin(BoardIndex board) {
        this.wiring = new Wiring(board);
        this.controls = new Controls(wiring, PowerTree.of(board));
    }

    Wiring wiring() {
        return wiring;
    }

    Controls controls() {
        return controls;
    }

    /** What a meter shows, unpowered; in the unit of its mode. */
    public Band read(Meter meter, BoardState state, List<Fault> faults) {
        int probe = wiring.node(meter.net());
        int reference = wiring.node(meter.to());
        if (probe == reference) {
            return Band.of(0, 0);
        }
        boolean diode = meter.mode() == Meter.Mode.DIODE_VOLTS;
        double amps = (diode ? DIODE_TEST_AMPS : OHMS_TEST_AMPS) * (diode && meter.redOnReference() ? -1 : 1);
        Island island = new Island(state, faults, probe, reference);
        double[] shown = new double[2];
        double[] start = new double[island.region.size()];
        for (int end = 0; end < shown.length; end++) {
            Network network = island.network(end == 1);
            network.current(island.local(probe), amps);
            network.current(island.local(reference), -amps);
            Solution solution = network.solve(island.pattern, start);
            start = solution.volts();
            double volts = Math.abs(solution.volts(island.local(probe)) - solution.volts(island.local(reference)));
            shown[end] = diode ? diode(volts) : ohms(volts);
        }
        return Band.of(shown[0], shown[1]);
    }

    private static double diode(double volts) {
        return volts > DIODE_OVER_RANGE_VOLTS ? Double.POSITIVE_INFINITY : volts;
    }

    private static double ohms(double volts) {
        double ohms = volts / OHMS_TEST_AMPS;
        return ohms > OHMS_OVER_RANGE ? Double.POSITIVE_INFINITY : ohms;
    }

    /**
     * What the supply shows when it feeds a net of the unpowered board.
     *
     * @param volts at the supply's terminals
     * @param amps through it
     */
    public record Injected(double volts, double amps) {}

    /**
     * @param setVolts what the supply is set to
     * @param limitAmps its current limit, above 0
     * @param leadOhms both leads, above 0
     */
    public Injected inject(
            String net, double setVolts, double limitAmps, double leadOhms, BoardState state, List<Fault> faults) {
        int probe = wiring.node(net);
        if (probe == Network.GROUND) {
            double amps = Math.min(limitAmps, setVolts / leadOhms);
            return new Injected(amps * leadOhms, amps);
        }
        Island island = new Island(state, faults, probe, Network.GROUND);
        Network network = island.network(false);
        int source = network.source(island.local(probe), setVolts, leadOhms, limitAmps);
        Solution solution = network.solve(island.pattern, new double[island.region.size()]);
        double amps = solution.sourceAmps(source);
        return new Injected(solution.volts(island.local(probe)) + amps * leadOhms, amps);
    }

    /** The nets that anything conducts to from this one, itself among them; empty for ground. */
    public Set<String> island(String net, BoardState state) {
        Set<String> nets = new LinkedHashSet<>();
        new Region(wiring, state, List.of(), wiring.node(net)).nodes().forEach(n -> nets.add(wiring.names.get(n)));
        return nets;
    }

    /** A fault goes with its part: off the board, or new, it is gone. */
    private boolean onBoard(Fault fault, BoardState state) {
        Optional<Part> part = wiring.part(fault.target());
        return part.map(p -> fault.in(p, state)).orElse(true);
    }

    /** The part of the circuit that a probe reaches, with its faults. */
    private final class Island {
        private final Region region;
        private final Factor.Pattern pattern;
        private final Map<String, Open> opens = new HashMap<>();
        private final Map<Tie, Double> ties = new HashMap<>();

        Island(BoardState state, List<Fault> faults, int... seeds) {
            for (Fault fault : faults) {
                if (!onBoard(fault, state)) {
                    continue;
                }
                if (fault instanceof Open open) {
                    opens.put(open.target(), open);
                } else if (fault instanceof Bridge bridge) {
                    ties.merge(
                            new Tie(wiring.node(bridge.netA()), wiring.node(bridge.netB())),
                            1 / bridge.ohms(),
                            Double::sum);
                }
            }
            region = new Region(wiring, state, ties.keySet(), seeds);
            pattern = region.pattern(ties.keySet());
        }

        /** @param high whether every load is at the upper end of what good boards show */
        Network network(boolean high) {
            Network network = new Network(region.size());
            for (int node : region.nodes()) {
                load(network, node, high);
            }
            region.elements().forEach(e -> stamp(network, e));
            ties.forEach((tie, siemens) -> {
                if (region.has(tie)) {
                    network.resistor(local(tie.a()), local(tie.b()), 1 / siemens);
                }
            });
            return network;
        }

        int local(int node) {
            return region.local(node);
        }

        private void load(Network network, int node, boolean high) {
            Optional<Load> stated = wiring.loads.get(node);
            if (stated.isEmpty()) {
                return;
            }
            Load load = stated.get();
            double drop = high ? load.highDropVolts() : load.lowDropVolts();
            network.resistor(local(node), Network.GROUND, high ? load.highOhms() : load.lowOhms());
            if (drop > 0.15) {
                network.junction(Network.GROUND, local(node), drop, THERMAL_VOLTS);
                network.junction(local(node), Network.GROUND, drop * REVERSE_LEAD_FACTOR, THERMAL_VOLTS);
            }
        }

        private void stamp(Network network, Element element) {
            int a = local(element.a());
            int b = local(element.b());
            Open open = opens.get(element.part().ref());
            if (element.type() == Type.RESISTANCE) {
                network.resistor(a, b, open == null ? element.ohms() : Math.max(element.ohms(), open.ohms()));
            } else if (open == null) {
                network.junction(a, b, BODY_DIODE_VOLTS, THERMAL_VOLTS);
            }
        }
    }
}
