package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;

/** A part that conducts where it should not. */
final class ShortFault extends FaultKind {
    private static final double CAPACITOR = 1;
    private static final double SIGNAL_CAPACITOR = 0.25;
    private static final double CHIP_SUPPLY = 0.9;
    private static final double CHIP_OTHER_RAIL = 0.35;
    private static final double CHIP_SIGNAL = 0.05;
    /** The lower transistor of a converter, which takes its rail down over the coil. */
    private static final double CHIP_SWITCHING_NODE = 0.2;
    /** A line that leaves through a port, or a resistor before it, takes what comes in. */
    private static final double CHIP_PORT_LINE = 0.07;
    /** A chip that takes several of its nets down together. */
    private static final double CHIP_SEVERAL = 0.3;

    private static final double CLAMP = 0.8;
    private static final double SWITCH = 0.4;
    private static final double PERIPHERAL = 0.2;
    /** A capacitor rated for less than this many times its rail's voltage is near its end. */
    private static final double RATING_IN_HAND = 1.3;

    private static final double NEAR_ITS_RATING = 1.4;
    private static final double SAID_TO_BE_HOT = 1.3;

    ShortFault() {
        super(Code.SHORT);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return switch (part.kind()) {
            case CAPACITOR ->
                around.twoNets(part)
                        .map(n -> List.of(Surroundings.bridge(
                                code, part, n[0], n[1], capacitor(around, part, n[0]), Ladder.CAPACITOR)))
                        .orElse(List.of());
            case DIODE, TVS ->
                around.twoNets(part)
                        .map(n -> List.of(Surroundings.bridge(
                                code,
                                part,
                                n[0],
                                n[1],
                                around.behindPort(CLAMP, around.portNets().contains(n[0])),
                                Ladder.CAPACITOR)))
                        .orElse(List.of());
            case MOSFET, TRANSISTOR -> transistor(around, part);
            case IC -> chip(around, part);
            case CONNECTOR -> peripheral(around, part);
            default -> List.of();
        };
    }

    /** How often a capacitor on this net fails. */
    static double capacitor(Surroundings around, Part part, String live) {
        boolean power = around.kind(live) == NetKind.POWER;
        double prior = around.behindPort(
                power ? CAPACITOR : SIGNAL_CAPACITOR, around.portNets().contains(live));
        double nominal =
                around.board().net(live).map(Net::nominalVolts).orElseThrow().orElse(0);
        boolean near = part.voltsRated().isPresent() && part.voltsRated().getAsDouble() < RATING_IN_HAND * nominal;
        return near ? prior * NEAR_ITS_RATING : prior;
    }

    private List<Suspicion> transistor(Surroundings around, Part part) {
        List<Suspicion> all = new ArrayList<>();
        around.channel(part).ifPresent(channel -> {
            all.add(Surroundings.bridge(code, part, channel.a(), channel.b(), SWITCH, Ladder.CHIP));
            if (around.board().role(part) == Role.PASS) {
                channel.ends().stream()
                        .filter(n -> !around.board().isGround(n))
                        .limit(1)
                        .forEach(n -> around.ground()
                                .ifPresent(
                                        g -> all.add(Surroundings.bridge(code, part, n, g, SWITCH / 2, Ladder.CHIP))));
            }
        });
        return all;
    }

    private List<Suspicion> chip(Surroundings around, Part part) {
        List<Suspicion> all = new ArrayList<>();
        List<String> rails = around.board().powerNets(part);
        around.ground()
                .ifPresent(ground -> part.pins().stream()
                        .map(Pin::net)
                        .distinct()
                        .filter(net -> !around.board().isGround(net))
                        .forEach(net -> all.add(Surroundings.bridge(
                                code,
                                part,
                                net,
                                ground,
                                rails.contains(net)
                                        ? rail(part, net)
                                        : switches(around, part, net) ? CHIP_SWITCHING_NODE : line(around, net),
                                Ladder.CHIP))));
        for (Supply supply : part.supplies()) {
            all.add(Surroundings.bridge(code, part, supply.in(), supply.out(), SWITCH / 3, Ladder.CHIP));
        }
        return all;
    }

    /** Whether the chip switches a coil there. */
    private static boolean switches(Surroundings around, Part part, String net) {
        return part.supplies().stream()
                .anyMatch(s -> around.board()
                        .switching(part, s.out())
                        .filter(net::equals)
                        .isPresent());
    }

    private static double line(Surroundings around, String net) {
        boolean leaves = around.board()
                .partsOn(net)
                .flatMap(p -> p.kind() == PartKind.RESISTOR ? p.pins().stream().map(Pin::net) : Stream.of(net))
                .anyMatch(n -> around.kind(n) == NetKind.SIGNAL
                        && around.tree().inputs().stream().anyMatch(port -> port.touches(n)));
        return leaves ? CHIP_PORT_LINE : CHIP_SIGNAL;
    }

    /** How often a chip holds down a rail that it takes, or one that it makes. */
    static double rail(Part chip, String net) {
        boolean made = chip.supplies().stream().anyMatch(s -> s.out().equals(net));
        return made ? CHIP_OTHER_RAIL : CHIP_SUPPLY;
    }

    private List<Suspicion> peripheral(Surroundings around, Part part) {
        Optional<String> ground = around.ground();
        return ground.isPresent() && around.peripheral(part)
                ? around.board().powerNets(part).stream()
                        .map(rail -> Surroundings.bridge(code, part, rail, ground.get(), PERIPHERAL, Ladder.CHIP))
                        .toList()
                : List.of();
    }

    /**
     * A dead chip bridges several of its own lines at once: one suspicion for each chip on which at least two nets meet
     * that read low, with all of them.
     */
    static List<Suspicion> chipsWithLines(BoardIndex board, Set<String> low) {
        List<Suspicion> chips = new ArrayList<>();
        if (low.size() < 2 || !board.isGround(board.ground())) {
            return chips;
        }
        for (Part part : board.parts()) {
            if (part.kind() != PartKind.IC) {
                continue;
            }
            List<String> lines = part.pins().stream()
                    .map(Pin::net)
                    .distinct()
                    .filter(low::contains)
                    .filter(n -> !board.isGround(n))
                    .toList();
            if (lines.size() < 2) {
                continue;
            }
            List<Variant> variants = new ArrayList<>();
            for (int i = 0; i < Ladder.CHIP.size(); i++) {
                double ohms = Ladder.CHIP.ohms(i);
                List<Fault> all = lines.stream()
                        .map(n -> (Fault) new Bridge(part.ref(), n, board.ground(), ohms))
                        .toList();
                variants.add(new Variant(all, Ladder.CHIP.weight(i)));
            }
            chips.add(new Suspicion(Code.SHORT, part.ref(), CHIP_SEVERAL, variants));
        }
        return chips;
    }

    @Override
    double look(LookFinding finding) {
        return Harm.seen(finding);
    }

    @Override
    double said(Account account, Suspicion suspicion) {
        return account.hot() ? SAID_TO_BE_HOT : 1;
    }

    @Override
    boolean heats() {
        return true;
    }

    @Override
    boolean byHeat() {
        return true;
    }
}
