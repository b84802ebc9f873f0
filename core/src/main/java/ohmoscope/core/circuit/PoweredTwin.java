package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.circuit.Controls.ByGate;
import ohmoscope.core.circuit.Controls.ByMeasuredGate;
import ohmoscope.core.circuit.Controls.Chip;
import ohmoscope.core.circuit.Controls.Closing;
import ohmoscope.core.circuit.Controls.Converter;
import ohmoscope.core.circuit.Controls.Feed;
import ohmoscope.core.circuit.Controls.Fixed;
import ohmoscope.core.circuit.Controls.Switch;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.NoOutput;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Network.Solution;
import ohmoscope.core.circuit.Region.Tie;
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Type;

/**
 * The powered board: which rails stand, through which switches and converters, with any fault.
 *
 * <p>The network is solved, switches and converters are set from its voltages, and it is solved again until nothing
 * changes. A chip drives its gates and enables while it is alive and fed; an enable that only a chip drives is taken as
 * commanded. Only what power can reach is solved, and a fault through which nothing would flow, nor ever did on the way
 * to the good board's state, is answered with the good board's: time and memory are linear in what power reaches. One
 * thread at a time.
 */
public final class PoweredTwin {
    private static final int MAX_ROUNDS = 14;
    private static final double LOAD_OHMS = 2_000;
    /** What an input pin draws: it pulls a line down that nobody drives. */
    private static final double INPUT_OHMS = 3e6;

    private static final double INPUT_SOURCE_OHMS = 0.02;
    private static final double CONVERTER_OHMS = 0.01;
    private static final double CONVERTER_LIMIT_AMPS = 4;
    /** A converter whose output cannot rise above this share has shut down. */
    private static final double OVERLOADED_SHARE = 0.7;

    private static final double DRIVE_VOLTS = 3.3;
    private static final double DRIVE_OHMS = 100;
    private static final double DRIVE_LIMIT_AMPS = 0.02;
    private static final double ACTIVE_VOLTS = 0.9;
    private static final double BODY_DIODE_VOLTS = 0.5;
    /** How far a gate must stand from its source, at most. */
    private static final double GATE_VOLTS = 1.5;

    private static final double GATE_SHARE = 0.35;
    /** Between two points closer than this nothing flows that anything could notice. */
    private static final double ALIKE_VOLTS = 1e-6;

    private final Wiring wiring;
    private final Controls controls;
    private final Map<Shape, Reach> reaches = new HashMap<>();
    private final Map<Asked, Told> good = new HashMap<>();

    /** Power coming in: {@code volts} at a net, {@code limitAmps} at most. */
    public record Input(String net, double volts, double limitAmps) {}

    /** What decides how far power can get. */
    private record Shape(BoardState state, List<String> fed, Set<Tie> ties) {}

    private record Asked(List<Input> inputs, BoardState state, Map<String, Double> known) {}

    /** What power can reach, with the order in which it is solved. */
    private record Reach(Region region, Factor.Pattern pattern) {}

    /** An answer with the voltages of every round on the way to it, numbered as the region. */
    private record Told(Powered powered, List<double[]> rounds) {}

    /** The board under power. */
    public static final class Powered {
        private final Wiring wiring;
        private final Region region;
        private final double[] volts;
        private final List<Double> inputAmps;
        private final Set<String> running;
        private final Set<String> overloaded;

        private Powered(
                Wiring wiring,
                Region region,
                double[] volts,
                List<Double> inputAmps,
                Set<String> running,
                Set<String> overloaded) {
            this.wiring = wiring;
            this.region = region;
            this.volts = volts;
            this.inputAmps = List.copyOf(inputAmps);
            this.running = running;
            this.overloaded = overloaded;
        }

        /** A net's volts; 0 where power does not reach. */
        public double volts(String net) {
            int local = region.local(wiring.node(net));
            return local < 0 ? 0 : volts[local];
        }

        /** What each input gives, amperes, in the order asked. */
        public List<Double> inputAmps() {
            return inputAmps;
        }

        /** Outputs of converters that run. */
        public Set<String> running() {
            return running;
        }

        /** Outputs of converters that have shut down into a load too heavy. */
        public Set<String> overloaded() {
            return overloaded;
        }
    }

    public PoweredTwin(Twin twin) {
        this.wiring = twin.wiring();
        this.controls = twin.controls();
    }

    /**
     * @param known voltages that were measured, by net; they decide what small driving transistors do
     * @throws ArithmeticException when the network does not settle
     */
    public Powered solve(List<Input> inputs, BoardState state, List<Fault> faults, Map<String, Double> known) {
        Asked asked = new Asked(inputs, state, known);
        Told told = good.get(asked);
        if (told == null) {
            told = new Situation(inputs, state, List.of(), known).settle(List.of());
            good.put(asked, told);
        }
        for (Fault fault : faults) {
            if (!unnoticed(fault, told)) {
                return new Situation(inputs, state, faults, known).settle(told.rounds).powered;
            }
        }
        return told.powered;
    }

    /** The nets that power can get to from its inputs, from converters and from chips that drive. */
    public Set<String> reach(List<Input> inputs, BoardState state) {
        Set<String> nets = new LinkedHashSet<>();
        reach(inputs, state, Set.of()).region.nodes().forEach(n -> nets.add(wiring.names.get(n)));
        return nets;
    }

    /** How many those are. */
    public int reachedNets(List<Input> inputs, BoardState state) {
        return reach(inputs, state, Set.of()).region.size();
    }

    /** Whether the good board would not notice: no current would flow through a bridge, none flows through what is open. */
    private boolean unnoticed(Fault fault, Told told) {
        if (fault instanceof Bridge bridge) {
            return alike(told, wiring.node(bridge.netA()), wiring.node(bridge.netB()));
        }
        if (fault instanceof Open open) {
            return wiring.elementsOf(open.target()).stream().allMatch(e -> alike(told, e.a(), e.b()));
        }
        if (fault instanceof NoOutput lost) {
            return !told.powered.running().contains(lost.net());
        }
        return fault instanceof Dead dead && !controls.heeded.contains(dead.target());
    }

    private static boolean alike(Told told, int a, int b) {
        Region region = told.powered.region;
        int localA = region.local(a);
        int localB = region.local(b);
        return told.rounds.stream()
                .allMatch(volts ->
                        Math.abs((localA < 0 ? 0 : volts[localA]) - (localB < 0 ? 0 : volts[localB])) < ALIKE_VOLTS);
    }

    private Reach reach(List<Input> inputs, BoardState state, Set<Tie> ties) {
        List<String> fed = inputs.stream().map(Input::net).toList();
        return reaches.computeIfAbsent(new Shape(state, fed, ties), shape -> {
            IntStream seeds = IntStream.concat(
                    fed.stream().mapToInt(wiring::node),
                    IntStream.concat(
                            controls.converters.stream().mapToInt(Converter::out),
                            controls.driven.keySet().stream().mapToInt(wiring::node)));
            Region region = new Region(wiring, state, ties, seeds.toArray());
            return new Reach(region, region.pattern(ties));
        });
    }

    /** One question: inputs, state, faults. */
    private final class Situation {
        private final List<Input> inputs;
        private final BoardState state;
        private final Map<String, Double> known;
        private final Map<String, Open> opens = new HashMap<>();
        private final Set<String> dead = new HashSet<>();
        private final Set<NoOutput> lost = new HashSet<>();
        private final Set<String> inactive = new HashSet<>();
        private final Map<Tie, Double> bridges = new LinkedHashMap<>();
        private final boolean fromOutside;
        private final Region region;
        private final Factor.Pattern pattern;
        private final List<double[]> rounds = new ArrayList<>();

        Situation(List<Input> inputs, BoardState state, List<Fault> faults, Map<String, Double> known) {
            this.inputs = inputs;
            this.state = state;
            this.known = known;
            this.fromOutside = inputs.stream().anyMatch(i -> !controls.batteryNets.contains(i.net()));
            for (Fault fault : faults) {
                boolean there =
                        wiring.part(fault.target()).map(p -> fault.in(p, state)).orElse(true);
                if (!there) {
                    continue;
                }
                if (fault instanceof Open open) {
                    opens.put(open.target(), open);
                } else if (fault instanceof Dead d) {
                    dead.add(d.target());
                } else if (fault instanceof NoOutput n) {
                    lost.add(n);
                } else if (fault instanceof Inactive i) {
                    // Nobody tells it: neither at its own pin nor through a resistor.
                    inactive.addAll(controls.throughResistors(i.target()));
                } else if (fault instanceof Bridge b) {
                    bridges.merge(new Tie(wiring.node(b.netA()), wiring.node(b.netB())), 1 / b.ohms(), Double::sum);
                }
            }
            Set<Tie> across = new HashSet<>(bridges.keySet());
            across.removeIf(t -> t.a() < 0 || t.b() < 0);
            Reach reach = reach(inputs, state, across);
            region = reach.region;
            pattern = reach.pattern;
        }

        /** @param near the rounds of a board that differs little, where Newton's method may begin */
        Told settle(List<double[]> near) {
            Set<String> on = Set.of();
            BitSet running = new BitSet();
            BitSet overloaded = new BitSet();
            Solution solution = solve(on, running, near);
            for (int round = 0; round < MAX_ROUNDS; round++) {
                Set<String> nextOn = switches(solution);
                for (int c = running.nextSetBit(0); c >= 0; c = running.nextSetBit(c + 1)) {
                    Converter converter = controls.converters.get(c);
                    if (volts(solution, converter.out()) < OVERLOADED_SHARE * converter.nominalVolts()) {
                        overloaded.set(c);
                    }
                }
                BitSet next = converters(solution);
                next.andNot(overloaded);
                if (nextOn.equals(on) && next.equals(running)) {
                    break;
                }
                on = nextOn;
                running = next;
                solution = solve(on, running, near);
            }
            return new Told(
                    new Powered(wiring, region, solution.volts(), amps(solution), outs(running), outs(overloaded)),
                    rounds);
        }

        private double volts(Solution solution, int node) {
            return solution.volts(region.local(node));
        }

        private double[] start(List<double[]> near) {
            double[] start = rounds.size() < near.size() && near.get(0).length == region.size()
                    ? near.get(rounds.size())
                    : rounds.isEmpty() ? new double[region.size()] : rounds.get(rounds.size() - 1);
            return start;
        }

        private Solution solve(Set<String> on, BitSet running, List<double[]> near) {
            Network network = new Network(region.size());
            for (int node : region.nodes()) {
                String name = wiring.names.get(node);
                boolean power = wiring.net(name).kind() == NetKind.POWER;
                if (power || wiring.partsOn(name).stream().anyMatch(p -> p.kind() == PartKind.IC)) {
                    network.resistor(region.local(node), Network.GROUND, power ? LOAD_OHMS : INPUT_OHMS);
                }
            }
            region.elements().forEach(e -> stamp(network, e, on));
            bridges.forEach((tie, siemens) -> {
                if (region.has(tie)) {
                    network.resistor(region.local(tie.a()), region.local(tie.b()), 1 / siemens);
                }
            });
            for (Input input : inputs) {
                if (wiring.node(input.net()) >= 0) {
                    network.source(
                            region.local(wiring.node(input.net())),
                            input.volts(),
                            INPUT_SOURCE_OHMS,
                            input.limitAmps());
                }
            }
            running.stream()
                    .mapToObj(controls.converters::get)
                    .forEach(c -> network.source(
                            region.local(c.out()), c.nominalVolts(), CONVERTER_OHMS, CONVERTER_LIMIT_AMPS));
            controls.driven.forEach((net, drivers) -> {
                if (!inactive.contains(net) && drivers.stream().anyMatch(this::works)) {
                    network.source(region.local(wiring.node(net)), DRIVE_VOLTS, DRIVE_OHMS, DRIVE_LIMIT_AMPS);
                }
            });
            Solution solution = network.solve(pattern, start(near));
            rounds.add(solution.volts());
            return solution;
        }

        private void stamp(Network network, Element element, Set<String> on) {
            int a = region.local(element.a());
            int b = region.local(element.b());
            Open open = opens.get(element.part().ref());
            if (element.type() == Type.RESISTANCE) {
                network.resistor(a, b, open == null ? element.ohms() : Math.max(element.ohms(), open.ohms()));
            } else if (open == null) {
                network.junction(a, b, BODY_DIODE_VOLTS, Twin.THERMAL_VOLTS);
                if (on.contains(element.part().ref())) {
                    network.resistor(a, b, element.ohms());
                }
            }
        }

        private boolean works(Part chip) {
            return state.has(chip) && !dead.contains(chip.ref());
        }

        private boolean lost(Converter converter) {
            return lost.contains(new NoOutput(
                    converter.chip().part().ref(), converter.supply().out()));
        }

        private boolean works(Chip chip) {
            return works(chip.part());
        }

        private boolean stands(Solution solution, Feed feed) {
            return volts(solution, feed.node()) >= feed.volts();
        }

        private boolean fed(Solution solution, Chip chip) {
            return chip.feeds().stream().anyMatch(f -> stands(solution, f));
        }

        private Set<String> switches(Solution solution) {
            Set<String> on = new HashSet<>();
            for (Switch s : controls.switches) {
                String ref = s.element().part().ref();
                if (!opens.containsKey(ref) && !dead.contains(ref) && closed(solution, s.element(), s.closing())) {
                    on.add(ref);
                }
            }
            return on;
        }

        private boolean closed(Solution solution, Element element, Closing closing) {
            if (closing instanceof Fixed fixed) {
                return fixed.closed();
            }
            if (closing instanceof ByMeasuredGate small) {
                return small.gate()
                        .map(known::get)
                        .map(level -> level > ACTIVE_VOLTS)
                        .orElseGet(() -> (fromOutside ? small.poweredFromOutside() : small.poweredByBattery())
                                && told(solution, small.drivers()));
            }
            ByGate gate = (ByGate) closing;
            if (inactive.contains(gate.gate())) {
                return false;
            }
            if (gate.resistive() && (gate.throughPower() || known.containsKey(gate.gate()))) {
                double source = Math.max(volts(solution, element.a()), volts(solution, element.b()));
                double level = volts(solution, gate.node());
                double needed = Math.min(GATE_VOLTS, GATE_SHARE * source);
                return gate.low() ? level < source - needed && source > 1 : level > source + needed;
            }
            if (gate.battery()) {
                return !fromOutside || state.battery();
            }
            return told(solution, gate.drivers());
        }

        /** Whether nobody is known to tell, or somebody can. */
        private boolean told(Solution solution, List<Chip> drivers) {
            return drivers.isEmpty() || drivers.stream().anyMatch(d -> works(d) && fed(solution, d));
        }

        private BitSet converters(Solution solution) {
            BitSet running = new BitSet();
            for (int i = 0; i < controls.converters.size(); i++) {
                Converter c = controls.converters.get(i);
                boolean wanted = works(c.chip()) && !lost(c) && (!c.chargesBattery() || state.battery());
                running.set(i, wanted && stands(solution, c.in()) && fed(solution, c.chip()) && enabled(solution, c));
            }
            return running;
        }

        private boolean enabled(Solution solution, Converter converter) {
            return converter
                    .enable()
                    .map(e -> !inactive.contains(e)
                            && (!converter.enabledBySomething() || volts(solution, wiring.node(e)) > ACTIVE_VOLTS))
                    .orElse(true);
        }

        private List<Double> amps(Solution solution) {
            List<Double> amps = new ArrayList<>();
            int source = 0;
            for (Input input : inputs) {
                amps.add(wiring.node(input.net()) >= 0 ? solution.sourceAmps(source++) : 0.0);
            }
            return amps;
        }

        private Set<String> outs(BitSet converters) {
            Set<String> outs = new LinkedHashSet<>();
            converters.stream()
                    .forEach(c -> outs.add(controls.converters.get(c).supply().out()));
            return outs;
        }
    }
}
