package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
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
import ohmoscope.core.circuit.Wiring.Element;
import ohmoscope.core.circuit.Wiring.Type;

/**
 * What each switch and each converter of a board waits for: which nets are fed, enabled and driven by whom. Worked out
 * once a board in O(pins); immutable.
 */
final class Controls {
    private static final double LEAST_SUPPLY_VOLTS = 2.5;
    private static final double SUPPLY_SHARE = 0.7;
    private static final double INPUT_SHARE = 0.8;

    /** A net that must stand at {@code volts} at least. */
    record Feed(int node, double volts) {}

    /** A chip with the nets it is fed from; one of them is enough. */
    record Chip(Part part, List<Feed> feeds) {}

    /** What closes a switch. */
    sealed interface Closing {}

    /** It is always as it is. */
    record Fixed(boolean closed) implements Closing {}

    /**
     * A small transistor that drives another: by its own gate where that was measured.
     *
     * @param poweredFromOutside whether it should conduct while the board is fed through a port
     * @param drivers chips that would have to tell it
     */
    record ByMeasuredGate(
            Optional<String> gate, boolean poweredFromOutside, boolean poweredByBattery, List<Chip> drivers)
            implements Closing {}

    /**
     * A gate.
     *
     * @param low whether it closes with the gate low
     * @param resistive whether a resistor sets the gate's level
     * @param throughPower whether that resistor comes from a rail
     * @param battery whether the switch is in the battery's path
     * @param drivers chips on the gate
     */
    record ByGate(
            String gate,
            int node,
            boolean low,
            boolean resistive,
            boolean throughPower,
            boolean battery,
            List<Chip> drivers)
            implements Closing {}

    record Switch(Element element, Closing closing) {}

    /**
     * One conversion and the chip that does it.
     *
     * @param enabledBySomething whether the circuit tells what the enable's level is
     * @param chargesBattery whether its output is the battery's own net
     */
    record Converter(
            Chip chip,
            Supply supply,
            Feed in,
            int out,
            double nominalVolts,
            Optional<String> enable,
            boolean enabledBySomething,
            boolean chargesBattery) {}

    final List<Switch> switches = new ArrayList<>();
    final List<Converter> converters = new ArrayList<>();
    /** Signal nets that chips drive so that converters run, with the chips. */
    final Map<String, List<Part>> driven = new LinkedHashMap<>();

    /** Enables that nothing on the board sets the level of. */
    final Set<String> untold = new HashSet<>();

    final Set<String> batteryNets = new HashSet<>();
    /** References of chips whose death the powered board can notice. */
    final Set<String> heeded = new HashSet<>();

    private final Wiring wiring;
    private final Map<String, Chip> chips = new HashMap<>();
    /** The switches that each gate closes. */
    private final Map<String, List<Part>> gated = new HashMap<>();

    Controls(Wiring wiring, PowerTree tree) {
        this.wiring = wiring;
        tree.battery().ifPresent(b -> batteryNets.addAll(wiring.board.powerNets(b)));
        for (Part part : wiring.board.parts()) {
            part.gate()
                    .ifPresent(g -> gated.computeIfAbsent(g.net(), k -> new ArrayList<>())
                            .add(part));
            part.supplies().forEach(s -> s.enable().ifPresent(this::findDrivers));
        }
        for (Part part : wiring.board.parts()) {
            part.supplies().forEach(s -> converters.add(converter(part, s)));
        }
        converters.stream()
                .filter(c -> !c.enabledBySomething)
                .flatMap(c -> c.enable.stream())
                .forEach(untold::add);
        for (Element element : wiring.elements) {
            if (element.type() == Type.SWITCH) {
                switches.add(new Switch(element, closing(element.part())));
            }
        }
        driven.values().forEach(drivers -> drivers.forEach(p -> heeded.add(p.ref())));
        converters.forEach(c -> heeded.add(c.chip.part.ref()));
        for (Switch s : switches) {
            heeded.add(s.element.part().ref());
            if (s.closing instanceof ByGate gate) {
                gate.drivers.forEach(d -> heeded.add(d.part.ref()));
            } else if (s.closing instanceof ByMeasuredGate small) {
                small.drivers.forEach(d -> heeded.add(d.part.ref()));
            }
        }
    }

    private void findDrivers(String enable) {
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
    }

    /** A net and those joined to it by resistors alone. */
    Set<String> throughResistors(String net) {
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

    private Chip chip(Part part) {
        return chips.computeIfAbsent(
                part.ref(),
                k -> new Chip(
                        part,
                        wiring.supplyNets(part).stream()
                                .map(n -> new Feed(wiring.node(n), least(n, SUPPLY_SHARE)))
                                .toList()));
    }

    private double least(String net, double share) {
        double nominal = wiring.net(net).nominalVolts().orElse(LEAST_SUPPLY_VOLTS);
        return Math.min(LEAST_SUPPLY_VOLTS, share * nominal);
    }

    private Converter converter(Part part, Supply supply) {
        double nominal = supply.nominalVolts()
                .orElseGet(() -> wiring.net(supply.out()).nominalVolts().orElse(3.3));
        boolean told = supply.enable()
                .map(e -> throughResistors(e).stream().anyMatch(driven::containsKey)
                        || onResistor(e)
                        || wiring.net(e).kind() == NetKind.POWER)
                .orElse(false);
        return new Converter(
                chip(part),
                supply,
                new Feed(wiring.node(supply.in()), least(supply.in(), INPUT_SHARE)),
                wiring.node(wiring.board.switching(part, supply.out()).orElse(supply.out())),
                nominal,
                supply.enable(),
                told,
                batteryNets.contains(supply.out()));
    }

    private Closing closing(Part part) {
        Role role = wiring.board.role(part);
        if (role == Role.DRIVE) {
            return driving(part);
        }
        if (part.gate().isEmpty()) {
            return new Fixed(part.kind() == PartKind.IC && role == Role.PASS);
        }
        String gate = part.gate().get().net();
        return new ByGate(
                gate,
                wiring.node(gate),
                part.gate().get().onWhen() == OnWhen.LOW,
                onResistor(gate),
                throughPower(gate),
                battery(part),
                chipsOn(gate));
    }

    private List<Chip> chipsOn(String net) {
        return wiring.partsOn(net).stream()
                .filter(p -> p.kind() == PartKind.IC)
                .map(this::chip)
                .toList();
    }

    /** Unmeasured, a driving transistor does what the switch behind it should do. */
    private Closing driving(Part part) {
        Set<String> reached = new LinkedHashSet<>();
        part.pins().forEach(p -> {
            if (wiring.net(p.net()).kind() == NetKind.SIGNAL) {
                reached.addAll(throughResistors(p.net()));
            }
        });
        List<Part> behind = reached.stream()
                .flatMap(n -> gated.getOrDefault(n, List.of()).stream())
                .toList();
        boolean always = behind.stream()
                .anyMatch(p -> !battery(p) && p.gate().orElseThrow().onWhen() == OnWhen.LOW);
        return new ByMeasuredGate(
                Wiring.pin(part, "G", "B", "gate"),
                always,
                always || behind.stream().anyMatch(this::battery),
                Wiring.pin(part, "G", "B", "gate").map(this::chipsOn).orElse(List.of()));
    }

    private boolean onResistor(String net) {
        return wiring.partsOn(net).stream().anyMatch(p -> p.kind() == PartKind.RESISTOR);
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
}
