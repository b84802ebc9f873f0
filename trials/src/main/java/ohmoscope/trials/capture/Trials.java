package ohmoscope.trials.capture;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.stream.Stream;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSetup.Camera;
import ohmoscope.sim.BenchSetup.Oddities;
import ohmoscope.sim.BenchSetup.View;

/**
 * Draws hunts at random: board, rail, faulty part, watts, camera, disturbances. The same kind and seed give the same
 * hunt.
 */
public final class Trials {
    private static final Instant OPENED = Instant.parse("2026-01-01T09:00:00Z");
    private static final int FEW_PARTS = 6;
    private static final double CHIP_MM2 = 12;

    private Trials() {}

    /**
     * On a board of the usual layers.
     *
     * @param watts at the fault; empty for what is usual for the kind
     */
    public static BenchSetup draw(TrialKind kind, long seed, OptionalDouble watts) {
        return draw(kind, seed, watts, Oddities.USUAL_LAYERS);
    }

    /**
     * @param watts at the fault; empty for what is usual for the kind
     * @param layers by which the simulator cuts the board, 2 to 12; nothing else of the hunt depends on it
     */
    public static BenchSetup draw(TrialKind kind, long seed, OptionalDouble watts, int layers) {
        Random random = new Random(seed * 1_000_003 + kind.ordinal());
        for (int attempt = 0; attempt < 500; attempt++) {
            Optional<BenchSetup> setup = new Draw(kind, seed, layers, random).setup(watts);
            if (setup.isPresent()) {
                return setup.get();
            }
        }
        throw new IllegalStateException("no board has a place for a hunt of the kind " + kind.label());
    }

    private static final class Draw {
        private final TrialKind kind;
        private final long seed;
        private final int layers;
        private final Random random;
        private final Board board;

        Draw(TrialKind kind, long seed, int layers, Random random) {
            this.kind = kind;
            this.seed = seed;
            this.layers = layers;
            this.random = random;
            List<Board> boards = DemoBoards.all();
            board = boards.get(random.nextInt(boards.size()));
        }

        Optional<BenchSetup> setup(OptionalDouble asked) {
            Optional<String> rail = one(board.nets().stream()
                    .filter(n -> n.kind() == NetKind.POWER)
                    .map(Net::name)
                    .filter(n -> shorting(n).count() >= FEW_PARTS));
            return rail.flatMap(net -> one(shorting(net).filter(p -> fits(p, net)))
                    .flatMap(fault -> feed(net, fault).map(at -> setup(net, fault, at, asked))));
        }

        private BenchSetup setup(String net, Part fault, Feed feed, OptionalDouble asked) {
            boolean nothing = kind == TrialKind.NOTHING;
            boolean cable = nothing && random.nextBoolean();
            double ohms = logarithmic(0.006, kind == TrialKind.FAINT ? 0.06 : 0.15);
            double watts = asked.orElse(kind.watts(random.nextDouble()));
            double amps = Math.min(3.5, Math.sqrt(watts / ohms));
            double lead = kind == TrialKind.WIRE_HOT ? 0.15 + 0.2 * random.nextDouble() : logarithmic(0.015, 0.1);
            Feed at = nothing && !cable ? new Feed(fault, "GND") : feed;
            boolean pulsed = kind == TrialKind.PULSED;
            boolean kicked = kind == TrialKind.NUDGED;
            return new BenchSetup(
                    kind == TrialKind.SHIELDED ? canned(fault) : board,
                    "S-" + kind.label() + "-" + seed,
                    "Simulated hunt on " + board.name(),
                    OPENED,
                    nothing ? Map.of() : Map.of(fault.ref(), ohms),
                    net,
                    at.part().ref(),
                    at.net(),
                    new BenchSetup.Supply(
                            Math.max(0.02, amps * (lead + ohms + 0.06)),
                            amps,
                            lead,
                            pulsed ? 12 : 5 + 3 * random.nextDouble(),
                            pulsed ? 4 + random.nextInt(5) : 1),
                    views(fault),
                    camera(),
                    new Oddities(
                            0.3,
                            Math.exp(Math.max(-0.6, Math.min(1.2, 0.4 + 0.4 * random.nextGaussian()))),
                            random.nextInt(4),
                            random.nextInt(3) == 0 ? random.nextInt(6) : 0,
                            kicked ? 0.8 + 3 * random.nextDouble() : 0,
                            cable ? ohms : 0,
                            layers),
                    seed * 31 + kind.ordinal());
        }

        /** Parts that would pull the rail down. */
        private Stream<Part> shorting(String net) {
            return board.partsOn(net)
                    .filter(p -> p.pins().stream().map(Pin::net).anyMatch(board::isGround))
                    .filter(p -> switch (p.kind()) {
                        case CAPACITOR, IC, TVS, DIODE, MOSFET -> true;
                        default -> false;
                    });
        }

        private boolean fits(Part part, String net) {
            double area = part.wMm() * part.hMm();
            return switch (kind) {
                case CHIP -> part.kind() == PartKind.IC && area >= CHIP_MM2;
                case BANK -> part.kind() == PartKind.CAPACITOR && neighbours(part, net) >= 3;
                case SHIELDED -> part.kind() == PartKind.CAPACITOR && !covered(part);
                default -> area < CHIP_MM2 && !covered(part);
            };
        }

        private long neighbours(Part part, String net) {
            return shorting(net)
                    .filter(p -> p.side() == part.side() && p.kind() == part.kind())
                    .filter(p ->
                            !p.ref().equals(part.ref()) && Math.hypot(p.xMm() - part.xMm(), p.yMm() - part.yMm()) < 4)
                    .count();
        }

        private boolean covered(Part part) {
            return board.parts().stream()
                    .anyMatch(p -> p.kind() == PartKind.SHIELD
                            && p.side() == part.side()
                            && p.covers(part.xMm(), part.yMm(), 0));
        }

        private record Feed(Part part, String net) {}

        /** A pad of the rail, or of a net behind a series part of it. */
        private Optional<Feed> feed(String net, Part fault) {
            boolean upstream = kind == TrialKind.SERIES_WARM || random.nextInt(5) < 2;
            String fed = net;
            if (upstream) {
                fed = one(board.nets().stream()
                                .filter(n ->
                                        n.kind() == NetKind.POWER && !n.name().equals(net))
                                .map(Net::name)
                                .filter(n -> behindOneSeriesPart(n, net)))
                        .orElse(net);
            }
            if (kind == TrialKind.SERIES_WARM && fed.equals(net)) {
                return Optional.empty();
            }
            String from = fed;
            return one(board.partsOn(from)
                            .filter(p -> !p.ref().equals(fault.ref()))
                            .filter(p ->
                                    kind == TrialKind.FAR_SIDE || random.nextInt(3) == 0 || p.side() == fault.side())
                            .filter(p -> Math.hypot(p.xMm() - fault.xMm(), p.yMm() - fault.yMm()) > 6))
                    .map(p -> new Feed(p, from));
        }

        private boolean behindOneSeriesPart(String feed, String net) {
            List<Part> path = Rail.between(board, feed, net).path();
            return path.size() == 1
                    && board.role(path.get(0)) == Role.SERIES
                    && (kind != TrialKind.SERIES_WARM
                            || path.get(0).resistanceOhms().orElse(0) > 0.008);
        }

        private List<View> views(Part fault) {
            Optional<String> close = random.nextInt(10) < 3 ? Optional.of(fault.ref()) : Optional.empty();
            Side other = fault.side() == Side.TOP ? Side.BOTTOM : Side.TOP;
            return switch (kind) {
                case FAR_SIDE -> List.of(new View(other, Optional.empty()));
                case TWO_VIEWS -> List.of(new View(fault.side(), close), new View(other, Optional.empty()));
                case SHIELDED -> List.of(new View(fault.side(), Optional.empty()));
                default -> List.of(new View(fault.side(), close));
            };
        }

        private Camera camera() {
            int[][] sizes = {
                {160, 120}, {160, 120}, {160, 120}, {160, 120}, {160, 120}, {160, 120}, {80, 62}, {256, 192}
            };
            int[] size = sizes[random.nextInt(sizes.length)];
            boolean turning = kind == TrialKind.TURNING;
            boolean hand = turning || kind == TrialKind.HANDHELD;
            Camera camera = new Camera(
                    size[0],
                    size[1],
                    8 + random.nextDouble(),
                    1.8 + random.nextDouble(),
                    0.04 + 0.07 * random.nextDouble(),
                    0.2 + 0.4 * random.nextDouble(),
                    random.nextInt(3),
                    hand ? 0.6 + random.nextDouble() : 0.02 + 0.06 * random.nextDouble(),
                    0.1 + 0.4 * random.nextDouble());
            return turning ? camera.turned(0.15 + 0.45 * random.nextDouble()) : camera;
        }

        /** The board with a can over the fault. */
        private Board canned(Part fault) {
            double w = 9 + 9 * random.nextDouble();
            double h = 9 + 9 * random.nextDouble();
            double x = fault.xMm() + 0.6 * w * (random.nextDouble() - 0.5);
            double y = fault.yMm() + 0.6 * h * (random.nextDouble() - 0.5);
            Part can = Part.of(
                    "SH99",
                    PartKind.SHIELD,
                    fault.side(),
                    x,
                    y,
                    w,
                    h,
                    List.of(new Pin("1", "GND", x - w / 2, y), new Pin("2", "GND", x + w / 2, y)));
            List<Part> parts = new ArrayList<>(board.parts());
            parts.add(can);
            return board.withParts(parts);
        }

        private <T> Optional<T> one(Stream<T> choices) {
            List<T> list = choices.toList();
            return list.isEmpty() ? Optional.empty() : Optional.of(list.get(random.nextInt(list.size())));
        }

        private double logarithmic(double low, double high) {
            return low * Math.pow(high / low, random.nextDouble());
        }
    }
}
