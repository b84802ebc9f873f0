package ohmoscope.bench.truth;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Predicate;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.PowerTree;

/**
 * What is wrong with a board: one fault or two, each on a part.
 *
 * @param kind what a hunt is counted under
 * @param botched what will be wrong with a part once it was renewed for the first time: joints, a bridge, a dud
 */
public record Hidden(Kind kind, List<Defect> defects, List<Defect> botched) {
    /** Kinds of hunts. */
    public enum Kind {
        SHORTED_CAPACITOR,
        SHORTED_CHIP,
        CHIP_LINES,
        DAMAGED_PORT,
        OPEN_SERIES,
        LEAKY_FET,
        LEAKY_PASS,
        DEAD_REGULATOR,
        MISSING_ENABLE,
        PORT_AND_CHIP,
        AFTER_REPAIR
    }

    /** One thing that is wrong with one part. */
    public sealed interface Defect {
        String ref();
    }

    /** A path between two nets. */
    public record Path(String ref, String netA, String netB, double ohms) implements Defect {}

    /** A part that does not conduct, or a port that makes no contact. */
    public record Broken(String ref) implements Defect {}

    /** A chip that does nothing. */
    public record Silent(String ref) implements Defect {}

    /** A chip that does all but drive one line, or make one output. */
    public record Mute(String ref, String net) implements Defect {}

    public Hidden {
        defects = List.copyOf(defects);
        botched = List.copyOf(botched);
    }

    public Hidden(Kind kind, List<Defect> defects) {
        this(kind, defects, List.of());
    }

    /** @return empty where the board has nothing that could have this kind of fault */
    public static Optional<Hidden> draw(Kind kind, BoardIndex board, Random random) {
        PowerTree tree = PowerTree.of(board);
        Optional<? extends List<? extends Defect>> defects = switch (kind) {
            case SHORTED_CAPACITOR ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.CAPACITOR
                                        && railOf(board, p).isPresent())
                        .map(p -> List.of(toGround(board, p, railOf(board, p).orElseThrow(), 0.006, 12, random)));
            case SHORTED_CHIP ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.IC && railOf(board, p).isPresent())
                        .map(p -> List.of(toGround(board, p, railOf(board, p).orElseThrow(), 0.03, 25, random)));
            case CHIP_LINES ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.IC && lines(board, p).size() >= 3)
                        .map(p -> lines(board, p).stream()
                                .limit(2 + random.nextInt(3))
                                .map(n -> toGround(board, p, n, 0.5, 30, random))
                                .toList());
            case DAMAGED_PORT -> pick(board, random, p -> tree.isInput(p.ref())).map(p -> port(board, p, random));
            case OPEN_SERIES ->
                pick(board, random, p -> feeds(tree, p) && board.role(p) == Role.SERIES)
                        .map(p -> List.of(new Broken(p.ref())));
            case LEAKY_FET ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.MOSFET && board.role(p) == Role.DRIVE && channel(p) != null)
                        .map(p -> List.of(new Path(p.ref(), channel(p), board.ground(), within(300, 4_000, random))));
            case LEAKY_PASS ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.MOSFET
                                        && p.gate().isPresent()
                                        && feeds(tree, p)
                                        && !inBatteryPath(board, tree, p))
                        .map(p -> List.of(new Path(
                                p.ref(),
                                p.gate().orElseThrow().net(),
                                board.powerNets(p).get(0),
                                within(40, 3_000, random))));
            case DEAD_REGULATOR ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.IC && !p.supplies().isEmpty())
                        .map(p -> List.of(dead(p, random)));
            case MISSING_ENABLE -> enable(board, random).map(List::of);
            case PORT_AND_CHIP ->
                pick(board, random, p -> tree.isInput(p.ref()))
                        .flatMap(port -> behind(board, port).map(chip -> {
                            List<Defect> both = new ArrayList<>(port(board, port, random));
                            both.add(toGround(board, chip, railOf(board, chip).orElseThrow(), 0.05, 10, random));
                            return both;
                        }));
            case AFTER_REPAIR ->
                pick(
                                board,
                                random,
                                p -> p.kind() == PartKind.IC
                                        && !p.supplies().isEmpty()
                                        && railOf(board, p).isPresent())
                        .map(p -> List.of(toGround(board, p, railOf(board, p).orElseThrow(), 0.03, 25, random)));
        };
        return defects.map(d -> new Hidden(
                kind,
                List.copyOf(d),
                kind == Kind.AFTER_REPAIR ? botched(board, d.get(0).ref(), random) : List.of()));
    }

    private static Optional<Part> pick(BoardIndex board, Random random, Predicate<Part> able) {
        List<Part> all = board.parts().stream().filter(able).toList();
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(random.nextInt(all.size())));
    }

    private static double within(double low, double high, Random random) {
        return low * Math.pow(high / low, random.nextDouble());
    }

    private static Path toGround(BoardIndex board, Part part, String net, double low, double high, Random random) {
        return new Path(part.ref(), net, board.ground(), within(low, high, random));
    }

    /** The rail a part would short: the first that it does not make itself. */
    private static Optional<String> railOf(BoardIndex board, Part part) {
        return board.powerNets(part).stream()
                .filter(n -> part.supplies().stream().noneMatch(s -> s.out().equals(n)))
                .findFirst();
    }

    private static List<String> lines(BoardIndex board, Part chip) {
        return chip.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> board.net(n).orElseThrow().kind() == NetKind.SIGNAL)
                .filter(n -> board.partsOn(n).count() > 1)
                .toList();
    }

    private static boolean feeds(PowerTree tree, Part part) {
        return tree.feeds().values().stream()
                .flatMap(List::stream)
                .anyMatch(f -> f.part().ref().equals(part.ref()));
    }

    private static boolean inBatteryPath(BoardIndex board, PowerTree tree, Part part) {
        return tree.battery()
                .map(b -> board.powerNets(part).stream().anyMatch(b::touches))
                .orElse(false);
    }

    /** Of chips that make several rails, half lose one of them. */
    private static Defect dead(Part regulator, Random random) {
        List<String> outs =
                regulator.supplies().stream().map(Supply::out).distinct().toList();
        return outs.size() > 1 && random.nextBoolean()
                ? new Mute(regulator.ref(), outs.get(random.nextInt(outs.size())))
                : new Silent(regulator.ref());
    }

    /** Joints that do not hold, or solder between a pin and ground. */
    private static List<Defect> botched(BoardIndex board, String ref, Random random) {
        Part part = board.part(ref).orElseThrow();
        return random.nextBoolean()
                ? List.of(new Silent(ref))
                : List.of(toGround(board, part, railOf(board, part).orElseThrow(), 0.05, 1, random));
    }

    private static String channel(Part fet) {
        return fet.pins().stream()
                .filter(p -> p.name().equalsIgnoreCase("D"))
                .map(Pin::net)
                .findFirst()
                .orElse(null);
    }

    /** Pins that touch, or pins that no longer reach. */
    private static List<Defect> port(BoardIndex board, Part port, Random random) {
        List<String> nets = port.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> !board.isGround(n))
                .toList();
        if (random.nextDouble() < 0.35) {
            return List.of(new Broken(port.ref()));
        }
        String net = nets.get(random.nextInt(nets.size()));
        return List.of(new Path(port.ref(), net, board.ground(), within(0.02, 3, random)));
    }

    private static Optional<Part> behind(BoardIndex board, Part port) {
        return port.pins().stream()
                .map(Pin::net)
                .flatMap(board::partsOn)
                .filter(p -> p.kind() == PartKind.IC && railOf(board, p).isPresent())
                .findFirst();
    }

    private static Optional<Defect> enable(BoardIndex board, Random random) {
        List<Defect> all = new ArrayList<>();
        for (Part part : board.parts()) {
            part.supplies().stream()
                    .flatMap(s -> s.enable().stream())
                    .forEach(net -> board.partsOn(net)
                            .filter(p -> !p.ref().equals(part.ref()))
                            .forEach(p -> {
                                if (p.kind() == PartKind.RESISTOR) {
                                    all.add(new Broken(p.ref()));
                                } else if (p.kind() == PartKind.IC) {
                                    all.add(new Mute(p.ref(), net));
                                }
                            }));
        }
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(random.nextInt(all.size())));
    }

    /** Whether a part is one of those that must go. */
    public boolean guilty(String ref) {
        return defects.stream().anyMatch(d -> d.ref().equals(ref));
    }
}
