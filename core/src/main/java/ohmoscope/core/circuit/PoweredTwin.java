package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Network.Solution;
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Type;

/**
 * The powered board: which rails stand, through which switches and converters, with any fault.
 *
 * <p>The network is solved, switches and converters are set from its voltages, and it is solved again until nothing
 * changes. A chip drives its gates and enables while it is alive and fed; an enable that only a chip drives is taken as
 * commanded. Cost: a few solves of the whole board; 300 nets take about a millisecond.
 */
public final class PoweredTwin {
    private static final int MAX_ROUNDS = 14;
    private static final double LOAD_OHMS = 2_000;
    /** What an input pin draws: it pulls a line down that nobody drives. */
    private static final double INPUT_OHMS = 3e6;

    private static final double CONVERTER_OHMS = 0.01;
    private static final double CONVERTER_LIMIT_AMPS = 4;
    /** A converter whose output cannot rise above this share has shut down. */
    private static final double OVERLOADED_SHARE = 0.7;

    private static final double LEAST_SUPPLY_VOLTS = 2.5;
    private static final double DRIVE_VOLTS = 3.3;
    private static final double DRIVE_OHMS = 100;
    private static final double DRIVE_LIMIT_AMPS = 0.02;
    private static final double ACTIVE_VOLTS = 0.9;
    private static final double BODY_DIODE_VOLTS = 0.5;
    /** How far a gate must stand from its source, at most. */
    private static final double GATE_VOLTS = 1.5;

    private static final double GATE_SHARE = 0.35;

    private final Wiring wiring;
    private final PowerTree tree;
    private final List<Conversion> conversions = new ArrayList<>();
    /** Signal nets that chips drive so that converters run, with the chips. */
    private final Map<String, List<Part>> driven = new HashMap<>();

    private final Set<String> batteryNets = new HashSet<>();

    /** One conversion with the part that does it. */
    private record Conversion(Part part, Supply supply) {}

    /** Power coming in: {@code volts} at a net, {@code limitAmps} at most. */
    public record Input(String net, double volts, double limitAmps) {}

    /**
     * The board under power.
     *
     * @param inputAmps what each input gives, in the order asked
     * @param running outputs of converters that run
     * @param overloaded outputs of converters that have shut down into a load too heavy
     */
    public record Powered(
            Map<String, Double> volts, List<Double> inputAmps, Set<String> running, Set<String> overloaded) {
        public double volts(String net) {
            return volts.getOrDefault(net, 0.0);
        }
    }

    public PoweredTwin(Twin twin) {
        this.wiring = twin.wiring();
        this.tree = PowerTree.of(wiring.board);
        for (Part part : wiring.board.parts()) {
            part.supplies().forEach(s -> conversions.add(new Conversion(part, s)));
        }
        tree.battery().ifPresent(b -> batteryNets.addAll(wiring.board.powerNets(b)));
        findDrives();
    }

    private void findDrives() {
        for (Conversion conversion : conversions) {
            conversion.supply.enable().ifPresent(enable -> {
                for (String net : throughResistors(enable)) {
                    List<Part> drivers = wiring.partsOn(net).stream()
                            .filter(p -> p.kind() == PartKind.IC)
                            .filter(p -> p.supplies().stream()
                                    .noneMatch(s -> s.enable().map(net::equals).orElse(false)))
                            .toList();
                    if (!drivers.isEmpty() && wiring.net(net).kind() == NetKind.SIGNAL) {
                        driven.put(net, drivers);
                    }
                }
            });
        }
    }

    /** A net and those joined to it by resistors alone. */
    private Set<String> throughResistors(String net) {
        Set<String> nets = new LinkedHashSet<>(Set.of(net));
        for (Part part : wiring.partsOn(net)) {
            if (part.kind() == PartKind.RESISTOR) {
                part.pins().stream()
                        .map(Pin::net)
                        .filter(n -> wiring.net(n).kind() == NetKind.SIGNAL)
                        .forEach(nets::add);
            }
        }
        return nets;
    }

    /**
     * @param known voltages that were measured, by net; they decide what small driving transistors do
     */
    public Powered solve(List<Input> inputs, BoardState state, List<Fault> faults, Map<String, Double> known) {
        Situation situation = new Situation(inputs, state, faults, known);
        Set<String> on = new HashSet<>();
        Set<Conversion> running = new LinkedHashSet<>();
        Set<Conversion> overloaded = new LinkedHashSet<>();
        Solution solution = situation.solve(on, running);
        for (int round = 0; round < MAX_ROUNDS; round++) {
            Set<String> nextOn = situation.switches(solution);
            for (Conversion c : running) {
                double nominal = nominal(c.supply);
                if (volts(solution, c.supply.out()) < OVERLOADED_SHARE * nominal) {
                    overloaded.add(c);
                }
            }
            Set<Conversion> next = situation.converters(solution);
            next.removeAll(overloaded);
            if (nextOn.equals(on) && next.equals(running)) {
                break;
            }
            on = nextOn;
            running = next;
            solution = situation.solve(on, running);
        }
        return situation.powered(solution, running, overloaded);
    }

    private double nominal(Supply supply) {
        return supply.nominalVolts()
                .orElseGet(() -> wiring.net(supply.out()).nominalVolts().orElse(3.3));
    }

    private double volts(Solution solution, String net) {
        return solution.volts(wiring.node(net));
    }

    /** One question: inputs, state, faults. */
    private final class Situation {
        private final List<Input> inputs;
        private final BoardState state;
        private final Map<String, Double> known;
        private final Map<String, Open> opens = new HashMap<>();
        private final Set<String> dead = new HashSet<>();
        private final Set<String> inactive = new HashSet<>();
        private final List<Bridge> bridges = new ArrayList<>();
        private final boolean fromOutside;

        Situation(List<Input> inputs, BoardState state, List<Fault> faults, Map<String, Double> known) {
            this.inputs = inputs;
            this.state = state;
            this.known = known;
            this.fromOutside = inputs.stream().anyMatch(i -> !batteryNets.contains(i.net()));
            for (Fault fault : faults) {
                boolean gone = wiring.part(fault.target())
                        .map(p -> !state.has(p) || state.renewed().contains(p.ref()))
                        .orElse(false);
                if (gone || state.unplugged().contains(fault.target())) {
                    continue;
                }
                if (fault instanceof Open open) {
                    opens.put(open.target(), open);
                } else if (fault instanceof Dead d) {
                    dead.add(d.target());
                } else if (fault instanceof Inactive i) {
                    inactive.add(i.target());
                } else if (fault instanceof Bridge b) {
                    bridges.add(b);
                }
            }
        }

        Solution solve(Set<String> on, Set<Conversion> running) {
            Network network = new Network(wiring.names.size());
            for (String name : wiring.names) {
                boolean power = wiring.net(name).kind() == NetKind.POWER;
                if (power || wiring.partsOn(name).stream().anyMatch(p -> p.kind() == PartKind.IC)) {
                    network.resistor(wiring.node(name), Network.GROUND, power ? LOAD_OHMS : INPUT_OHMS);
                }
            }
            for (Element element : wiring.elements) {
                if (state.has(element.part())) {
                    stamp(network, element, on);
                }
            }
            bridges.forEach(b -> network.resistor(wiring.node(b.netA()), wiring.node(b.netB()), b.ohms()));
            for (Input input : inputs) {
                if (wiring.node(input.net()) >= 0) {
                    network.source(wiring.node(input.net()), input.volts(), 0.02, input.limitAmps());
                }
            }
            for (Conversion c : running) {
                network.source(wiring.node(c.supply.out()), nominal(c.supply), CONVERTER_OHMS, CONVERTER_LIMIT_AMPS);
            }
            driven.forEach((net, drivers) -> {
                if (!inactive.contains(net) && drivers.stream().anyMatch(this::works)) {
                    network.source(wiring.node(net), DRIVE_VOLTS, DRIVE_OHMS, DRIVE_LIMIT_AMPS);
                }
            });
            return network.solve();
        }

        private void stamp(Network network, Element element, Set<String> on) {
            Open open = opens.get(element.part().ref());
            if (element.type() == Type.RESISTANCE) {
                double ohms = open == null ? element.ohms() : Math.max(element.ohms(), open.ohms());
                network.resistor(element.a(), element.b(), ohms);
            } else if (open == null) {
                network.junction(element.a(), element.b(), BODY_DIODE_VOLTS, Twin.THERMAL_VOLTS);
                if (on.contains(element.part().ref())) {
                    network.resistor(element.a(), element.b(), element.ohms());
                }
            }
        }

        private boolean works(Part chip) {
            return state.has(chip) && !dead.contains(chip.ref());
        }

        private boolean fed(Solution solution, Part chip) {
            return wiring.supplyNets(chip).stream().anyMatch(n -> {
                double nominal = wiring.net(n).nominalVolts().orElse(LEAST_SUPPLY_VOLTS);
                return volts(solution, n) >= Math.min(LEAST_SUPPLY_VOLTS, 0.7 * nominal);
            });
        }

        Set<String> switches(Solution solution) {
            Set<String> on = new HashSet<>();
            for (Element element : wiring.elements) {
                if (element.type() == Type.SWITCH && closed(solution, element)) {
                    on.add(element.part().ref());
                }
            }
            return on;
        }

        private boolean closed(Solution solution, Element element) {
            Part part = element.part();
            if (opens.containsKey(part.ref()) || dead.contains(part.ref())) {
                return false;
            }
            Role role = wiring.board.role(part);
            if (role == Role.DRIVE) {
                return drives(part);
            }
            if (part.gate().isEmpty()) {
                return part.kind() == PartKind.IC && role == Role.PASS;
            }
            String gate = part.gate().get().net();
            if (inactive.contains(gate)) {
                return false;
            }
            boolean low = part.gate().get().onWhen() == OnWhen.LOW;
            double source = Math.max(solution.volts(element.a()), solution.volts(element.b()));
            boolean resistive = wiring.partsOn(gate).stream().anyMatch(p -> p.kind() == PartKind.RESISTOR);
            if (known.containsKey(gate) && resistive || resistive && throughPower(gate)) {
                double level = volts(solution, gate);
                double needed = Math.min(GATE_VOLTS, GATE_SHARE * source);
                return low ? level < source - needed && source > 1 : level > source + needed;
            }
            if (battery(part)) {
                return !fromOutside || state.battery();
            }
            List<Part> drivers = wiring.partsOn(gate).stream()
                    .filter(p -> p.kind() == PartKind.IC)
                    .toList();
            return drivers.isEmpty() || drivers.stream().anyMatch(d -> works(d) && fed(solution, d));
        }

        private boolean throughPower(String gate) {
            return wiring.partsOn(gate).stream()
                    .filter(p -> p.kind() == PartKind.RESISTOR)
                    .flatMap(p -> p.pins().stream())
                    .anyMatch(pin -> wiring.net(pin.net()).kind() == NetKind.POWER);
        }

        private boolean battery(Part part) {
            return part.pins().stream().anyMatch(p -> batteryNets.contains(p.net()));
        }

        /** A small driving transistor does what its gate tells; unknown, what the switch behind it should do. */
        private boolean drives(Part part) {
            Optional<String> gate = Wiring.pin(part, "G", "B", "gate");
            Optional<Double> level = gate.map(known::get);
            if (level.isPresent()) {
                return level.get() > ACTIVE_VOLTS;
            }
            Set<String> reached = new HashSet<>();
            part.pins().forEach(p -> {
                if (wiring.net(p.net()).kind() == NetKind.SIGNAL) {
                    reached.addAll(throughResistors(p.net()));
                }
            });
            return wiring.board.parts().stream()
                    .filter(p -> p.gate().map(g -> reached.contains(g.net())).orElse(false))
                    .anyMatch(p ->
                            battery(p) ? !fromOutside : p.gate().orElseThrow().onWhen() == OnWhen.LOW);
        }

        Set<Conversion> converters(Solution solution) {
            Set<Conversion> running = new LinkedHashSet<>();
            for (Conversion c : conversions) {
                if (!works(c.part) || batteryNets.contains(c.supply.out()) && !state.battery()) {
                    continue;
                }
                double nominalIn = wiring.net(c.supply.in()).nominalVolts().orElse(LEAST_SUPPLY_VOLTS);
                boolean input = volts(solution, c.supply.in()) >= Math.min(LEAST_SUPPLY_VOLTS, 0.8 * nominalIn);
                if (input
                        && fed(solution, c.part)
                        && c.supply.enable().map(e -> active(solution, e)).orElse(true)) {
                    running.add(c);
                }
            }
            return running;
        }

        private boolean active(Solution solution, String enable) {
            if (inactive.contains(enable)) {
                return false;
            }
            boolean somebodySays = throughResistors(enable).stream().anyMatch(driven::containsKey)
                    || wiring.partsOn(enable).stream().anyMatch(p -> p.kind() == PartKind.RESISTOR)
                    || wiring.net(enable).kind() == NetKind.POWER;
            return !somebodySays || volts(solution, enable) > ACTIVE_VOLTS;
        }

        Powered powered(Solution solution, Set<Conversion> running, Set<Conversion> overloaded) {
            Map<String, Double> volts = new HashMap<>();
            wiring.names.forEach(n -> volts.put(n, volts(solution, n)));
            List<Double> amps = new ArrayList<>();
            int source = 0;
            for (Input input : inputs) {
                amps.add(wiring.node(input.net()) >= 0 ? solution.sourceAmps(source++) : 0.0);
            }
            return new Powered(volts, amps, outs(running), outs(overloaded));
        }

        private Set<String> outs(Set<Conversion> conversions) {
            Set<String> outs = new LinkedHashSet<>();
            conversions.forEach(c -> outs.add(c.supply.out()));
            return outs;
        }
    }
}
