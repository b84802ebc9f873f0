package ohmoscope.bench.truth;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import ohmoscope.bench.truth.Hidden.Broken;
import ohmoscope.bench.truth.Hidden.Defect;
import ohmoscope.bench.truth.Hidden.Mute;
import ohmoscope.bench.truth.Hidden.Path;
import ohmoscope.bench.truth.Hidden.Silent;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Storey;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Network;
import ohmoscope.core.circuit.Network.Solution;
import ohmoscope.core.circuit.PowerTree;

/**
 * One board as it truly is: every load drawn once within what good boards show, converters that start in order, loads that
 * draw real current, a charger that is asked for its voltage. Made by other rules than the twin that judges it.
 */
public final class TrueBoard {
    private static final double DIODE_TEST_AMPS = 0.9e-3;
    private static final double OHMS_TEST_AMPS = 4e-6;
    private static final double SERIES_OHMS = 0.03;
    private static final double CHARGER_AMPS = 3;
    private static final double FIRST_VOLTS = 5.1;
    private static final int ROUNDS = 24;
    private static final double EFFICIENCY = 0.88;
    /** Pins of regulators inside of chips. */
    private static final Pattern INNER_OUTPUT = Pattern.compile("(?i)(LDO|V?REG).*");

    private final BoardIndex board;
    private final PowerTree tree;
    private final Hidden hidden;
    private final Map<String, Integer> nodes = new HashMap<>();
    private final Map<String, Double> loadOhms = new HashMap<>();
    private final Map<String, Double> dropVolts = new HashMap<>();
    private final double standbyAmps;
    private final double runAmps;

    private final Set<String> absent = new HashSet<>();
    private Optional<Storey> away = Optional.empty();
    private final Set<String> renewed = new HashSet<>();
    /** Renewed once, and badly. */
    private final Set<String> botched = new HashSet<>();

    private final Set<String> unplugged = new HashSet<>();
    private boolean battery = true;

    public TrueBoard(BoardIndex board, Hidden hidden, Random random) {
        this.board = board;
        this.tree = PowerTree.of(board);
        this.hidden = hidden;
        board.nets().stream().filter(n -> n.kind() != NetKind.GROUND).forEach(n -> nodes.put(n.name(), nodes.size()));
        Map<String, String> groups = groups();
        for (Net net : board.nets()) {
            if (net.kind() != NetKind.GROUND && groups.get(net.name()).equals(net.name())) {
                load(net, random);
            }
        }
        Optional<PortExpectation> port =
                tree.inputs().stream().flatMap(p -> p.expects().stream()).findFirst();
        standbyAmps = port.flatMap(PortExpectation::standbyAmps)
                .map(r -> drawn(r, random))
                .orElse(0.008 + 0.02 * random.nextDouble());
        runAmps = port.flatMap(PortExpectation::runAmps)
                .map(r -> drawn(r, random))
                .orElse(0.4 + random.nextDouble());
    }

    private static double drawn(Range range, Random random) {
        double low = Math.max(range.low(), 1e-4);
        double middle = 0.15 + 0.7 * random.nextDouble();
        return low * Math.pow(Math.max(low, range.high()) / low, middle);
    }

    /** Nets that a meter cannot tell apart, each by its first. */
    private Map<String, String> groups() {
        Map<String, String> first = new LinkedHashMap<>();
        board.nets().forEach(n -> first.put(n.name(), n.name()));
        for (Part part : board.parts()) {
            List<String> nets = nets(part);
            if (board.role(part) == Role.SERIES
                    && nets.size() == 2
                    && ohms(part) < 5
                    && nets.stream().noneMatch(board::isGround)) {
                String from = first.get(nets.get(1));
                String to = first.get(nets.get(0));
                first.replaceAll((k, v) -> v.equals(from) ? to : v);
            }
        }
        return first;
    }

    private void load(Net net, Random random) {
        boolean chip = board.partsOn(net.name()).anyMatch(p -> p.kind() == PartKind.IC);
        Optional<Range> ohms = net.expect().flatMap(Expectation::ohms);
        Optional<Range> drop = net.expect().flatMap(Expectation::diodeVolts);
        boolean power = net.kind() == NetKind.POWER;
        if (chip || power || ohms.isPresent()) {
            loadOhms.put(
                    net.name(),
                    ohms.map(r -> drawn(r, random))
                            .orElseGet(() -> power
                                    ? drawn(new Range(400, 120_000), random)
                                    : drawn(new Range(40_000, 6e6), random)));
            dropVolts.put(
                    net.name(), drop.map(r -> drawn(r, random)).orElseGet(() -> 0.42 + 0.25 * random.nextDouble()));
        }
    }

    private static List<String> nets(Part part) {
        return part.pins().stream().map(Pin::net).distinct().toList();
    }

    private static double ohms(Part part) {
        return Math.max(1e-3, PartValue.ohms(part).orElse(SERIES_OHMS));
    }

    private int node(String net) {
        return nodes.getOrDefault(net, Network.GROUND);
    }

    // ---- its state

    /** Whether it is on the board, or on the half that has been lifted off. */
    public boolean onBench(String ref) {
        return !absent.contains(ref);
    }

    /** Whether it is part of the circuit. */
    public boolean has(String ref) {
        return onBench(ref)
                && (away.isEmpty() || !board.part(ref).orElseThrow().storey().equals(away));
    }

    /** Lifts one half off; puts the board together where empty. */
    public void part(Optional<Storey> half) {
        away = half;
    }

    public Optional<Storey> away() {
        return away;
    }

    public boolean battery() {
        return battery;
    }

    public void battery(boolean connected) {
        battery = connected;
    }

    public void remove(String ref) {
        absent.add(ref);
    }

    public void renew(String ref) {
        absent.remove(ref);
        boolean first = renewed.add(ref);
        if (first && hidden.botched().stream().anyMatch(d -> d.ref().equals(ref))) {
            botched.add(ref);
        } else {
            botched.remove(ref);
        }
    }

    public void fitBack(String ref) {
        absent.remove(ref);
    }

    public void unplug(String ref) {
        unplugged.add(ref);
    }

    public void plug(String ref) {
        unplugged.remove(ref);
    }

    public Set<String> unplugged() {
        return Set.copyOf(unplugged);
    }

    private List<Defect> present() {
        return Stream.concat(
                        hidden.defects().stream().filter(d -> !renewed.contains(d.ref())),
                        hidden.botched().stream().filter(d -> botched.contains(d.ref())))
                .filter(d -> onBench(d.ref()))
                .toList();
    }

    /** Whether the part that is there now has a fault. */
    public boolean wrong(String ref) {
        return present().stream().anyMatch(d -> d.ref().equals(ref));
    }

    /** Whether nothing is wrong with it any more, and nothing that it needs is missing. */
    public boolean well() {
        return present().isEmpty()
                && unplugged.isEmpty()
                && away.isEmpty()
                && absent.stream().allMatch(this::canBeLeftOff);
    }

    private boolean canBeLeftOff(String ref) {
        Part part = board.part(ref).orElseThrow();
        if (part.kind() != PartKind.CAPACITOR || board.role(part) != Role.BYPASS) {
            return part.kind() == PartKind.TVS;
        }
        return board.powerNets(part).stream()
                .anyMatch(n -> board.partsOn(n)
                                .filter(p -> p.kind() == PartKind.CAPACITOR && has(p.ref()))
                                .count()
                        > 1);
    }

    private boolean broken(String ref) {
        return present().stream().anyMatch(d -> d instanceof Broken b && b.ref().equals(ref));
    }

    // ---- unpowered

    private Network unpowered() {
        Network network = new Network(nodes.size());
        loadOhms.forEach((net, ohms) -> network.resistor(node(net), Network.GROUND, ohms));
        dropVolts.forEach((net, drop) -> {
            if (drop > 0.12) {
                network.junction(Network.GROUND, node(net), drop, 0.045);
            }
        });
        for (Part part : board.parts()) {
            if (has(part.ref()) && !broken(part.ref())) {
                passive(network, part);
                bodyDiode(network, part);
            }
        }
        paths(network);
        return network;
    }

    private void passive(Network network, Part part) {
        List<String> nets = nets(part);
        boolean conducts = part.kind() == PartKind.RESISTOR
                || part.kind() == PartKind.INDUCTOR
                || board.role(part) == Role.SERIES && part.kind() != PartKind.DIODE;
        if (conducts && nets.size() == 2) {
            network.resistor(node(nets.get(0)), node(nets.get(1)), ohms(part));
        }
    }

    private void bodyDiode(Network network, Part part) {
        Optional<String> source = pin(part, "S");
        Optional<String> drain = pin(part, "D");
        if (source.isPresent() && drain.isPresent()) {
            boolean pChannel = part.gate().map(g -> g.onWhen() == OnWhen.LOW).orElse(false);
            network.junction(
                    node(pChannel ? drain.get() : source.get()),
                    node(pChannel ? source.get() : drain.get()),
                    0.47,
                    0.045);
        } else if (part.kind() == PartKind.DIODE) {
            List<String> nets = nets(part);
            String anode = pin(part, "A").orElse(nets.get(0));
            String cathode = pin(part, "K").orElse(nets.get(nets.size() - 1));
            network.junction(node(anode), node(cathode), 0.35, 0.045);
        }
    }

    private static Optional<String> pin(Part part, String name) {
        return part.pins().stream()
                .filter(p -> p.name().equalsIgnoreCase(name))
                .map(Pin::net)
                .findFirst();
    }

    private void paths(Network network) {
        for (Defect defect : present()) {
            if (defect instanceof Path path) {
                network.resistor(node(path.netA()), node(path.netB()), path.ohms());
            }
        }
    }

    /** Volts at 0.9 mA with red on {@code to}. */
    public double diode(String net, String to) {
        return between(net, to, DIODE_TEST_AMPS);
    }

    public double ohms(String net, String to) {
        return between(net, to, OHMS_TEST_AMPS) / OHMS_TEST_AMPS;
    }

    private double between(String net, String to, double amps) {
        Network network = unpowered();
        // Red on the reference: current leaves the net.
        network.current(node(net), -amps);
        network.current(node(to), amps);
        Solution solution = network.solve();
        return Math.abs(solution.volts(node(net)) - solution.volts(node(to)));
    }

    /** @param faultWatts by defect, in the order of {@link #present} */
    public record Fed(double volts, double amps, Map<String, Double> faultWatts) {}

    public Fed inject(String net, double setVolts, double limitAmps, double leadOhms) {
        Network network = unpowered();
        int source = network.source(node(net), setVolts, leadOhms, limitAmps);
        Solution solution = network.solve();
        double amps = solution.sourceAmps(source);
        Map<String, Double> watts = new HashMap<>();
        for (Defect defect : present()) {
            if (defect instanceof Path path) {
                double across = solution.volts(node(path.netA())) - solution.volts(node(path.netB()));
                watts.merge(path.ref(), across * across / path.ohms(), Double::sum);
            }
        }
        return new Fed(solution.volts(node(net)) + amps * leadOhms, amps, watts);
    }

    // ---- powered

    /**
     * @param volts of every net
     * @param portVolts at the port
     * @param hiccup whether a converter starts again and again
     * @param collapsed whether the source is at its limit
     * @param boots whether the device would start
     */
    public record Running(
            Map<String, Double> volts,
            double portVolts,
            double amps,
            boolean hiccup,
            boolean collapsed,
            boolean boots) {}

    /** @param on whether the device was told to start */
    public Running power(String port, boolean on) {
        double wanted = board.part(port)
                .flatMap(Part::expects)
                .flatMap(PortExpectation::volts)
                .map(Range::low)
                .orElseGet(() -> board.part(port).stream()
                        .flatMap(p -> board.powerNets(p).stream())
                        .mapToDouble(
                                n -> board.net(n).orElseThrow().nominalVolts().orElse(5))
                        .max()
                        .orElse(5));
        List<Part> controllers = board.parts().stream()
                .filter(p -> board.role(p) == Role.PORT_CONTROLLER)
                .toList();
        if (wanted < 8 || controllers.isEmpty()) {
            return settle(port, wanted, on);
        }
        Running first = settle(port, FIRST_VOLTS, on);
        boolean asks = controllers.stream().anyMatch(c -> works(c) && fed(first.volts, c) && linesFree(port));
        return asks ? settle(port, wanted, on) : first;
    }

    private boolean linesFree(String port) {
        Part part = board.part(port).orElseThrow();
        return present().stream()
                .noneMatch(d -> d instanceof Path p
                        && part.touches(p.netA())
                        && board.net(p.netA()).orElseThrow().kind() == NetKind.SIGNAL);
    }

    private boolean works(Part chip) {
        return has(chip.ref())
                && present().stream()
                        .noneMatch(d -> d instanceof Silent s && s.ref().equals(chip.ref()));
    }

    private boolean mute(Part chip, String net) {
        return present().stream()
                .anyMatch(d -> d instanceof Mute m
                        && m.ref().equals(chip.ref())
                        && m.net().equals(net));
    }

    private boolean fed(Map<String, Double> volts, Part chip) {
        List<String> supplies = board.powerNets(chip).stream()
                .filter(n -> chip.supplies().stream().noneMatch(s -> s.out().equals(n)))
                .toList();
        return supplies.isEmpty()
                || supplies.stream().anyMatch(n -> volts.getOrDefault(n, 0.0) > 0.75 * Math.min(nominal(n), 3.3));
    }

    private double nominal(String net) {
        return board.net(net).orElseThrow().nominalVolts().orElse(3.3);
    }

    private record Converter(Part part, Supply supply) {}

    private Running settle(String port, double inVolts, boolean on) {
        Map<String, Double> volts = new HashMap<>();
        Set<Integer> running = new HashSet<>();
        Set<Integer> tripped = new HashSet<>();
        Map<Integer, Double> outAmps = new HashMap<>();
        List<Converter> converters = new ArrayList<>();
        board.parts().forEach(p -> p.supplies().forEach(s -> converters.add(new Converter(p, s))));
        double amps = 0;
        boolean collapsed = false;
        boolean boots = false;
        for (int round = 0; round < ROUNDS; round++) {
            Network network = new Network(nodes.size());
            List<String> inputs = board.powerNets(board.part(port).orElseThrow());
            int sources = 0;
            boolean contact = has(port) && !broken(port);
            for (String net : inputs) {
                if (contact) {
                    network.source(node(net), inVolts, 0.06, CHARGER_AMPS);
                    sources++;
                }
            }
            boolean cell = battery && tree.battery().isPresent();
            if (cell) {
                for (String net : board.powerNets(tree.battery().get())) {
                    network.source(node(net), 0.97 * nominal(net), 0.05, 6);
                }
            }
            int firstConverter =
                    sources + (cell ? board.powerNets(tree.battery().get()).size() : 0);
            List<Integer> order = new ArrayList<>(running);
            for (int i : order) {
                Supply s = converters.get(i).supply;
                network.source(node(s.out()), s.nominalVolts().orElseGet(() -> nominal(s.out())), 0.02, 3.5);
            }
            for (Part part : board.parts()) {
                if (has(part.ref()) && !broken(part.ref())) {
                    passive(network, part);
                    bodyDiode(network, part);
                    if (closed(part, volts, cell)) {
                        List<String> power = board.powerNets(part);
                        network.resistor(
                                node(power.get(0)),
                                node(power.get(1)),
                                part.resistanceOhms().orElse(0.02));
                    }
                }
            }
            paths(network);
            smallTransistors(network, volts);
            loads(network, on && boots);
            drive(network, volts);
            inner(network, volts);
            pump(network, volts);
            for (int i : running) {
                draws(network, converters.get(i), outAmps.getOrDefault(i, 0.0), volts);
            }
            Solution solution = network.solve();
            Map<String, Double> before = Map.copyOf(volts);
            nodes.forEach((net, node) -> volts.put(net, Math.max(0, solution.volts(node))));
            amps = 0;
            for (int s = 0; s < sources; s++) {
                amps += solution.sourceAmps(s);
            }
            collapsed = amps > 0.95 * CHARGER_AMPS;
            for (int k = 0; k < order.size(); k++) {
                int i = order.get(k);
                outAmps.put(i, solution.sourceAmps(firstConverter + k));
                Supply s = converters.get(i).supply;
                if (volts.get(s.out()) < 0.6 * s.nominalVolts().orElseGet(() -> nominal(s.out()))) {
                    tripped.add(i);
                }
            }
            Set<Integer> next = new HashSet<>();
            for (int i = 0; i < converters.size(); i++) {
                if (!tripped.contains(i) && starts(converters.get(i), volts)) {
                    next.add(i);
                }
            }
            boolean booted = boots;
            boots = boots(converters, next, volts);
            boolean same = next.equals(running) && booted == boots && near(before, volts);
            running.clear();
            running.addAll(next);
            if (same && round > 2) {
                break;
            }
        }
        boolean hiccup = !tripped.isEmpty();
        double device = boots
                ? on ? runAmps : standbyAmps
                : hiccup ? 0.02 : volts.values().stream().anyMatch(v -> v > 2) ? 0.3 * standbyAmps : 0;
        double total = amps + (collapsed || contactless(port) ? 0 : device);
        double portVolts = collapsed ? Math.min(inVolts, volts.getOrDefault(inputOf(port), inVolts)) : inVolts;
        return new Running(volts, portVolts, total, hiccup, collapsed, boots);
    }

    /** What a converter takes at its input for what it gives, as the resistance that would take it. */
    private void draws(Network network, Converter converter, double outAmps, Map<String, Double> volts) {
        double in = Math.max(3, volts.getOrDefault(converter.supply.in(), 5.0));
        double amps = Math.min(2.5, outAmps * nominal(converter.supply.out()) / EFFICIENCY / in);
        if (amps > 1e-6) {
            network.resistor(node(converter.supply.in()), Network.GROUND, in / amps);
        }
    }

    private boolean contactless(String port) {
        return !has(port) || broken(port);
    }

    private String inputOf(String port) {
        return board.powerNets(board.part(port).orElseThrow()).stream()
                .findFirst()
                .orElse("");
    }

    private static boolean near(Map<String, Double> a, Map<String, Double> b) {
        return b.entrySet().stream().allMatch(e -> Math.abs(a.getOrDefault(e.getKey(), 0.0) - e.getValue()) < 0.02);
    }

    private void loads(Network network, boolean on) {
        for (Net net : board.nets()) {
            if (net.kind() == NetKind.POWER) {
                double volts = net.nominalVolts().orElse(3.3);
                network.resistor(node(net.name()), Network.GROUND, volts / (on ? 0.02 : 0.0003));
            } else if (net.kind() == NetKind.SIGNAL
                    && board.partsOn(net.name()).anyMatch(p -> p.kind() == PartKind.IC)) {
                network.resistor(node(net.name()), Network.GROUND, 4e6);
            }
        }
    }

    private void smallTransistors(Network network, Map<String, Double> volts) {
        for (Part part : board.parts()) {
            Optional<String> gate = pin(part, "G");
            if (board.role(part) == Role.DRIVE
                    && gate.isPresent()
                    && has(part.ref())
                    && !broken(part.ref())
                    && volts.getOrDefault(gate.get(), 0.0) > 1) {
                pin(part, "D")
                        .ifPresent(d -> network.resistor(
                                node(d), pin(part, "S").map(this::node).orElse(Network.GROUND), 2));
            }
        }
    }

    /** Chips that live and are fed drive the enables and the small transistors that hang on them. */
    private void drive(Network network, Map<String, Double> volts) {
        Set<String> enables = new HashSet<>();
        board.parts().forEach(p -> p.supplies().forEach(s -> s.enable().ifPresent(enables::add)));
        board.parts().stream()
                .filter(p -> board.role(p) == Role.DRIVE)
                .forEach(p -> pin(p, "G").ifPresent(enables::add));
        Set<String> done = new HashSet<>();
        for (String enable : enables) {
            Set<String> line = new HashSet<>(Set.of(enable));
            board.partsOn(enable).filter(p -> p.kind() == PartKind.RESISTOR).forEach(p -> line.addAll(nets(p)));
            for (String net : line) {
                boolean signal = board.net(net).orElseThrow().kind() == NetKind.SIGNAL;
                boolean driven = board.partsOn(net)
                        .filter(p -> p.kind() == PartKind.IC)
                        .filter(p -> p.supplies().stream()
                                .noneMatch(s -> s.enable().map(net::equals).orElse(false)))
                        .anyMatch(p -> works(p) && fed(volts, p) && !mute(p, net));
                if (signal && driven && done.add(net)) {
                    network.source(node(net), 3.1, 180, 0.015);
                }
            }
        }
    }

    /** Chips that live and are fed make for themselves what nothing else makes. */
    private void inner(Network network, Map<String, Double> volts) {
        for (Part chip : board.parts()) {
            if (chip.kind() != PartKind.IC || !works(chip) || !fed(volts, chip)) {
                continue;
            }
            for (Pin pin : chip.pins()) {
                if (INNER_OUTPUT.matcher(pin.name()).matches() && onlyFrom(chip, pin.net()) && !mute(chip, pin.net())) {
                    network.source(node(pin.net()), nominal(pin.net()), 1, 0.05);
                }
            }
        }
    }

    private boolean onlyFrom(Part chip, String net) {
        return board.net(net).orElseThrow().kind() == NetKind.POWER
                && tree.pathTo(net).isEmpty()
                && board.partsOn(net)
                        .noneMatch(p -> p.kind() == PartKind.IC && !p.ref().equals(chip.ref()));
    }

    /** Chips that live and are fed hold the gates of the switches they look after, with next to no current. */
    private void pump(Network network, Map<String, Double> volts) {
        for (Part part : board.parts()) {
            if (board.role(part) != Role.PASS || part.gate().isEmpty() || !has(part.ref())) {
                continue;
            }
            String gate = part.gate().get().net();
            boolean held = board.partsOn(gate)
                    .anyMatch(c -> c.kind() == PartKind.IC && works(c) && fed(volts, c) && !mute(c, gate));
            if (held) {
                double source = board.powerNets(part).stream()
                        .mapToDouble(n -> volts.getOrDefault(n, 0.0))
                        .max()
                        .orElse(0);
                boolean low = part.gate().get().onWhen() == OnWhen.LOW;
                network.source(node(gate), low ? Math.max(0, source - 5) : source + 5, 50_000, 0.0005);
            }
        }
    }

    private boolean closed(Part part, Map<String, Double> volts, boolean cell) {
        if (board.role(part) != Role.PASS || board.powerNets(part).size() < 2) {
            return false;
        }
        boolean inBatteryPath = tree.battery()
                .map(b -> board.powerNets(part).stream().anyMatch(b::touches))
                .orElse(false);
        if (inBatteryPath) {
            return cell;
        }
        if (part.gate().isEmpty()) {
            return part.kind() == PartKind.IC && works(part);
        }
        String gate = part.gate().get().net();
        List<Part> chips =
                board.partsOn(gate).filter(p -> p.kind() == PartKind.IC).toList();
        if (!chips.isEmpty() && leaksAt(gate)) {
            // What a chip pumps into a gate is microamperes.
            return false;
        }
        if (!chips.isEmpty()) {
            return chips.stream().anyMatch(c -> works(c) && fed(volts, c) && !mute(c, gate));
        }
        double source = board.powerNets(part).stream()
                .mapToDouble(n -> volts.getOrDefault(n, 0.0))
                .max()
                .orElse(0);
        double level = volts.getOrDefault(gate, 0.0);
        return part.gate().get().onWhen() == OnWhen.LOW ? source > 1.2 && level < source - 1.2 : level > source + 1.2;
    }

    private boolean leaksAt(String gate) {
        return present().stream()
                .anyMatch(d -> d instanceof Path p
                        && (p.netA().equals(gate) || p.netB().equals(gate))
                        && p.ohms() < 100_000);
    }

    private boolean starts(Converter converter, Map<String, Double> volts) {
        Supply s = converter.supply;
        boolean charges = tree.battery().map(b -> b.touches(s.out())).orElse(false);
        if (!works(converter.part) || mute(converter.part, s.out()) || charges && !battery) {
            return false;
        }
        boolean enabled = s.enable()
                .map(e -> volts.getOrDefault(e, 0.0) > 1.1 || undriven(e))
                .orElse(true);
        return enabled
                && volts.getOrDefault(s.in(), 0.0) > Math.min(2.6, 0.8 * nominal(s.in()))
                && fed(volts, converter.part);
    }

    /** An enable that nothing on the board sets is set by something the board's data does not have. */
    private boolean undriven(String enable) {
        boolean power = board.net(enable).orElseThrow().kind() == NetKind.POWER;
        boolean muted =
                present().stream().anyMatch(d -> d instanceof Mute m && m.net().equals(enable));
        boolean others = board.partsOn(enable)
                .anyMatch(p -> p.kind() == PartKind.RESISTOR
                        || p.kind() == PartKind.IC
                                && p.supplies().stream()
                                        .noneMatch(s ->
                                                s.enable().map(enable::equals).orElse(false)));
        return !power && !others && !muted;
    }

    private boolean boots(List<Converter> converters, Set<Integer> running, Map<String, Double> volts) {
        for (int i = 0; i < converters.size(); i++) {
            String out = converters.get(i).supply.out();
            boolean charges = tree.battery().map(b -> b.touches(out)).orElse(false);
            double want = converters.get(i).supply.nominalVolts().orElseGet(() -> nominal(out));
            if (!charges && volts.getOrDefault(out, 0.0) < 0.85 * want) {
                return false;
            }
        }
        double main = volts.getOrDefault(tree.mainRail(), 0.0);
        // A line that is held down says nothing, and a chip that burnt through inside does no work.
        boolean works = present().stream()
                .noneMatch(d -> d instanceof Path p
                        && p.ohms() < 100
                        && (board.net(p.netA()).orElseThrow().kind() == NetKind.SIGNAL
                                || board.part(p.ref()).orElseThrow().kind() == PartKind.IC));
        return main > 2.4 && works && unplugged.isEmpty();
    }
}
