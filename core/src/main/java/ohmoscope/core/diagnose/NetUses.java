package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;

/** What nets are for, read off a board once: asked thousands of times. Immutable. */
final class NetUses {
    private final BoardIndex board;
    private final Map<String, List<Part>> switches = new HashMap<>();
    private final Set<String> resistive = new HashSet<>();
    private final Set<String> driven = new HashSet<>();
    private final Set<String> negotiators = new HashSet<>();
    /** Where converters switch: before the coil of their rail. */
    private final Set<String> switching = new HashSet<>();

    /** What small transistors pull down, with what turns them on. */
    private final Map<String, Set<String>> pulled = new HashMap<>();

    /** Lines between a port and the chip that asks for power there. */
    private final Set<String> askedOver = new HashSet<>();

    NetUses(BoardIndex board, PowerTree tree) {
        this.board = board;
        for (Part part : board.parts()) {
            part.gate()
                    .ifPresent(g -> switches.computeIfAbsent(g.net(), k -> new ArrayList<>())
                            .add(part));
            if (part.kind() == PartKind.RESISTOR) {
                part.pins().forEach(p -> resistive.add(p.net()));
            }
            part.supplies().forEach(s -> board.switching(part, s.out()).ifPresent(switching::add));
            part.supplies().stream().flatMap(s -> s.enable().stream()).forEach(enable -> {
                driven.add(enable);
                board.partsOn(enable)
                        .filter(p -> p.kind() == PartKind.RESISTOR)
                        .forEach(p -> p.pins().forEach(pin -> driven.add(pin.net())));
            });
            if (board.role(part) == Role.DRIVE) {
                pulls(part);
            }
            if (board.role(part) == Role.PORT_CONTROLLER) {
                negotiators.add(part.ref());
            }
        }
        board.nets().stream()
                .map(Net::name)
                .filter(n -> asksOver(board, tree, n))
                .forEach(askedOver::add);
    }

    private void pulls(Part small) {
        Set<String> gates = small.pins().stream()
                .filter(p -> p.name().equalsIgnoreCase("G"))
                .map(Pin::net)
                .collect(Collectors.toSet());
        small.pins().stream()
                .map(Pin::net)
                .filter(n -> !gates.contains(n) && !board.isGround(n))
                .forEach(n -> pulled.computeIfAbsent(n, k -> new HashSet<>()).addAll(gates));
    }

    /** Whether a small transistor pulls this net down by a level that is among those known. */
    boolean pulledBy(String net, Set<String> known) {
        return pulled.getOrDefault(net, Set.of()).stream().anyMatch(known::contains);
    }

    /** The switches that this net closes. */
    List<Part> switches(String gate) {
        return switches.getOrDefault(gate, List.of());
    }

    /** Whether a resistor sets the net's level. */
    boolean resistive(String net) {
        return resistive.contains(net);
    }

    /** Whether the net asks for a rail, itself or through a resistor. */
    boolean driven(String net) {
        return driven.contains(net);
    }

    /** Whether a converter switches here: its mean is what its rail should stand at. */
    boolean switching(String net) {
        return switching.contains(net);
    }

    /** Whether more volts are asked for over this line. */
    boolean asksOver(String net) {
        return askedOver.contains(net);
    }

    /** Lines for data are on both rows of a port; those that it is asked over have one contact each. */
    static boolean asksOver(BoardIndex board, PowerTree tree, String net) {
        return board.net(net).orElseThrow().kind() == NetKind.SIGNAL
                && board.partsOn(net).anyMatch(p -> board.role(p) == Role.PORT_CONTROLLER)
                && tree.inputs().stream()
                        .anyMatch(port -> port.pins().stream()
                                        .filter(pin -> pin.net().equals(net))
                                        .count()
                                == 1);
    }

    Set<String> askedOver() {
        return askedOver;
    }

    boolean negotiates(String ref) {
        return negotiators.contains(ref);
    }

    /** Whether a resistor joins the net to a rail or to ground. */
    boolean throughToKnown(String net) {
        return board.partsOn(net)
                .filter(p -> p.kind() == PartKind.RESISTOR)
                .flatMap(p -> p.pins().stream())
                .anyMatch(pin -> board.net(pin.net()).orElseThrow().kind() != NetKind.SIGNAL);
    }
}
