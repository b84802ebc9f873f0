package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/**
 * What decides how often a part fails where it stands.
 *
 * @param portNets the nets of the ports: parts on them take what comes in
 */
record Surroundings(BoardIndex board, PowerTree tree, Set<String> portNets) {
    private static final double BEHIND_PORT = 1.4;

    Surroundings {
        portNets = Set.copyOf(portNets);
    }

    static Surroundings of(BoardIndex board, PowerTree tree) {
        Set<String> portNets = new LinkedHashSet<>();
        tree.inputs().forEach(p -> portNets.addAll(board.powerNets(p)));
        return new Surroundings(board, tree, portNets);
    }

    /** A prior, raised for what is first behind a port. */
    double behindPort(double prior, boolean behind) {
        return prior * (behind ? BEHIND_PORT : 1);
    }

    boolean behindPort(Part part) {
        return part.pins().stream().anyMatch(p -> portNets.contains(p.net()));
    }

    /** Whether something is plugged in there that is neither a source nor a cell. */
    boolean peripheral(Part part) {
        return part.kind() == PartKind.CONNECTOR && !tree.isBattery(part.ref()) && !tree.isInput(part.ref());
    }

    NetKind kind(String net) {
        return board.net(net).orElseThrow().kind();
    }

    Optional<String> ground() {
        return Optional.of(board.ground()).filter(board::isGround);
    }

    /** A two-net part's nets, the one that is not ground first. */
    Optional<String[]> twoNets(Part part) {
        List<String> nets = part.pins().stream().map(Pin::net).distinct().toList();
        if (nets.size() != 2 || board.isGround(nets.get(0)) && board.isGround(nets.get(1))) {
            return Optional.empty();
        }
        boolean firstIsGround = board.isGround(nets.get(0));
        return Optional.of(new String[] {nets.get(firstIsGround ? 1 : 0), nets.get(firstIsGround ? 0 : 1)});
    }

    /** The two ends of a transistor's channel, ground last, and its gate; empty for a part with fewer nets. */
    Optional<Channel> channel(Part part) {
        Optional<String> gate = part.gate()
                .map(g -> g.net())
                .or(() -> part.pins().stream()
                        .filter(p -> p.name().equalsIgnoreCase("G") || p.name().equalsIgnoreCase("B"))
                        .map(Pin::net)
                        .findFirst());
        List<String> ends = part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> gate.map(g -> !g.equals(n)).orElse(true))
                .toList();
        if (ends.size() < 2) {
            return Optional.empty();
        }
        boolean firstIsGround = board.isGround(ends.get(0));
        return Optional.of(new Channel(ends.get(firstIsGround ? 1 : 0), ends.get(firstIsGround ? 0 : 1), gate, ends));
    }

    /** @param ends in the order of the part's pins */
    record Channel(String a, String b, Optional<String> gate, List<String> ends) {}

    /** A path of some ohms between two nets of a part, one form for each rung of a ladder. */
    static Suspicion bridge(Code code, Part part, String a, String b, double prior, Ladder ladder) {
        List<Variant> variants = new ArrayList<>();
        for (int i = 0; i < ladder.size(); i++) {
            List<Fault> faults = List.of(new Bridge(part.ref(), a, b, ladder.ohms(i)));
            variants.add(new Variant(faults, ladder.weight(i)));
        }
        return new Suspicion(code, part.ref(), prior, variants);
    }
}
