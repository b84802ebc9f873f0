package ohmoscope.core.circuit;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;

/**
 * The arithmetic of a measured line that hangs on resistors, as a gate does: what it would stand at when nobody pulls on
 * it, and the resistance of whatever pulls it down instead.
 *
 * @param net the line
 * @param measuredVolts what was read
 * @param idleVolts what it stands at when only its resistors to fed rails act on it
 * @param state what the difference comes to
 * @param leakOhms from the line's pulling part to ground; empty unless something pulls
 * @param suspect the part that pulls
 * @param gates the switches whose gate this is
 */
public record GateDrive(
        String net,
        double measuredVolts,
        double idleVolts,
        State state,
        OptionalDouble leakOhms,
        Optional<Part> suspect,
        List<Part> gates) {
    /** A difference smaller than this share is within parts and meter. */
    private static final double SAME_SHARE = 0.08;

    private static final double LEAST_VOLTS = 0.15;
    /** Below this the part that pulls is simply on. */
    private static final double ON_OHMS = 60;

    /** What the line does. */
    public enum State {
        IDLE,
        DRIVEN_LOW,
        PULLED
    }

    public GateDrive {
        gates = List.copyOf(gates);
    }

    /**
     * Every measured line that at least one resistor holds to a fed rail.
     *
     * @param volts measured voltages by net, to ground
     */
    public static List<GateDrive> of(BoardIndex board, Map<String, Double> volts) {
        List<GateDrive> drives = new ArrayList<>();
        volts.forEach((net, measured) -> {
            boolean signal = board.net(net).map(n -> n.kind() == NetKind.SIGNAL).orElse(false);
            if (signal) {
                drive(board, net, measured, volts).ifPresent(drives::add);
            }
        });
        return drives;
    }

    private static Optional<GateDrive> drive(BoardIndex board, String net, double measured, Map<String, Double> volts) {
        double conductance = 0;
        double current = 0;
        double loose = 0;
        boolean held = false;
        Optional<String> beyond = Optional.empty();
        for (Part part : board.partsOn(net).toList()) {
            OptionalDouble ohms = ohms(part);
            if (ohms.isEmpty() || part.pins().size() != 2) {
                continue;
            }
            String other = part.pins().stream()
                    .map(Pin::net)
                    .filter(n -> !n.equals(net))
                    .findFirst()
                    .orElse(net);
            OptionalDouble end = stiff(board, other, volts);
            if (end.isPresent()) {
                conductance += 1 / ohms.getAsDouble();
                current += end.getAsDouble() / ohms.getAsDouble();
                held |= end.getAsDouble() > LEAST_VOLTS;
            } else {
                beyond = Optional.of(other);
                loose = ohms.getAsDouble();
            }
        }
        if (!held || conductance == 0) {
            return Optional.empty();
        }
        double idle = current / conductance;
        List<Part> gates = board.partsOn(net)
                .filter(p -> p.gate().map(g -> g.net().equals(net)).orElse(false))
                .toList();
        double drawn = (idle - measured) * conductance;
        if (idle - measured < Math.max(LEAST_VOLTS, SAME_SHARE * idle)) {
            return Optional.of(
                    new GateDrive(net, measured, idle, State.IDLE, OptionalDouble.empty(), Optional.empty(), gates));
        }
        double total = Math.max(0, measured / drawn);
        Optional<Part> through = beyond.flatMap(n -> puller(board, n));
        Optional<Part> suspect =
                through.or(() -> puller(board, net)).or(() -> gates.stream().findFirst());
        double leak = Math.max(0, through.isPresent() ? total - loose : total);
        State state =
                leak < ON_OHMS || through.isPresent() && leak < SAME_SHARE * loose ? State.DRIVEN_LOW : State.PULLED;
        return Optional.of(new GateDrive(net, measured, idle, state, OptionalDouble.of(leak), suspect, gates));
    }

    /** A transistor between the line and ground. */
    private static Optional<Part> puller(BoardIndex board, String net) {
        return board.partsOn(net)
                .filter(p ->
                        p.kind() == PartKind.MOSFET || p.kind() == PartKind.TRANSISTOR || board.role(p) == Role.DRIVE)
                .filter(p -> p.gate().map(g -> !g.net().equals(net)).orElse(true))
                .filter(p -> p.pins().stream().map(Pin::net).anyMatch(board::isGround))
                .findFirst();
    }

    private static OptionalDouble ohms(Part part) {
        return part.kind() == PartKind.RESISTOR ? PartValue.ohms(part.value()) : OptionalDouble.empty();
    }

    private static OptionalDouble stiff(BoardIndex board, String net, Map<String, Double> volts) {
        if (board.isGround(net)) {
            return OptionalDouble.of(0);
        }
        boolean power = board.net(net).map(n -> n.kind() == NetKind.POWER).orElse(false);
        if (power && volts.containsKey(net)) {
            return OptionalDouble.of(volts.get(net));
        }
        return power ? board.net(net).orElseThrow().nominalVolts() : OptionalDouble.empty();
    }
}
