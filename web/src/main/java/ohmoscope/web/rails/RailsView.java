package ohmoscope.web.rails;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.GateDrive;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/**
 * The power tree as a drawing: a column for each step away from the inputs, a box for each rail, a line for what feeds
 * it. Sizes are in pixels.
 */
public record RailsView(
        JobHead head,
        int width,
        int height,
        List<Box> boxes,
        List<Wire> wires,
        List<String> stops,
        List<String> arithmetic,
        Optional<Chosen> chosen) {
    private static final int BOX_W = 128;
    private static final int BOX_H = 58;
    private static final int MOST_DEPTH = 30;
    private static final int GAP_X = 58;
    private static final int GAP_Y = 18;
    private static final int MARGIN = 12;

    /**
     * A rail.
     *
     * @param state ok, look, bad or plain
     * @param stateWord what the shape means
     */
    public record Box(
            String net, int x, int y, String nominal, String volts, String unpowered, String state, String stateWord) {}

    /** What feeds a rail. @param broken whether voltage is on one side only */
    public record Wire(String path, String part, String kind, String words, int labelX, int labelY, boolean broken) {}

    /** A rail or part traced up and down. */
    public record Chosen(String name, List<String> up, List<String> down, List<Row> parts) {}

    /** A part on the rail. */
    public record Row(String ref, String what, String role, String side, String at) {}

    static RailsView of(OpenJobs.Open open, PowerTree tree, String wanted) {
        return new Maker(open, tree).make(wanted);
    }

    private static final class Maker {
        private final OpenJobs.Open open;
        private final Board board;
        private final BoardIndex index;
        private final PowerTree tree;
        private final Advice advice;
        private final Map<String, int[]> places = new LinkedHashMap<>();
        private final Map<Integer, Integer> free = new HashMap<>();
        private int rows;

        Maker(OpenJobs.Open open, PowerTree tree) {
            this.open = open;
            this.board = open.job().board();
            this.index = new BoardIndex(board);
            this.tree = tree;
            this.advice = open.advice();
        }

        RailsView make(String wanted) {
            roots().forEach(net -> place(net, 0, 0));
            int columns = places.values().stream().mapToInt(p -> p[0]).max().orElse(0) + 1;
            List<Box> boxes = places.keySet().stream().map(this::box).toList();
            return new RailsView(
                    open.head(),
                    2 * MARGIN + columns * BOX_W + (columns - 1) * GAP_X,
                    2 * MARGIN + Math.max(1, rows) * (BOX_H + GAP_Y),
                    boxes,
                    wires(),
                    stops(),
                    arithmetic(),
                    chosen(wanted));
        }

        private List<String> roots() {
            Set<String> roots = new LinkedHashSet<>();
            tree.inputs().stream().flatMap(p -> index.powerNets(p).stream()).forEach(roots::add);
            tree.battery().stream()
                    .flatMap(p -> index.powerNets(p).stream())
                    .filter(n -> !tree.feeds().containsKey(n))
                    .forEach(roots::add);
            board.nets().stream()
                    .filter(n -> n.kind() == NetKind.POWER && !tree.feeds().containsKey(n.name()))
                    .map(Net::name)
                    .forEach(roots::add);
            return List.copyOf(roots);
        }

        /** Each rail as high as its column and its feed allow, the longest chain first. */
        private void place(String net, int column, int atLeast) {
            if (places.containsKey(net)) {
                return;
            }
            int row = Math.max(atLeast, free.getOrDefault(column, 0));
            places.put(net, new int[] {column, row});
            free.put(column, row + 1);
            rows = Math.max(rows, row + 1);
            tree.fedBy(net).stream()
                    .filter(f -> tree.feeds().get(f.to()).get(0).from().equals(net))
                    .map(Feed::to)
                    .distinct()
                    .sorted(Comparator.comparingInt(n -> -depth(n, 0)))
                    .forEach(to -> place(to, column + 1, row));
        }

        private int depth(String net, int from) {
            return from > places.size() + MOST_DEPTH
                    ? from
                    : tree.fedBy(net).stream()
                            .filter(f -> tree.feeds().get(f.to()).get(0).from().equals(net))
                            .mapToInt(f -> depth(f.to(), from + 1))
                            .max()
                            .orElse(from);
        }

        private int x(String net) {
            return MARGIN + places.get(net)[0] * (BOX_W + GAP_X);
        }

        private int y(String net) {
            return MARGIN + places.get(net)[1] * (BOX_H + GAP_Y);
        }

        private Optional<Sign> last(String net, boolean unpowered) {
            return advice.signs().stream()
                    .filter(s -> s.net().equals(net) && s.says().unpowered() == unpowered)
                    .reduce((a, b) -> b);
        }

        private Box box(String name) {
            Net net = board.net(name).orElseThrow();
            Optional<Sign> powered = last(name, false);
            Optional<Sign> unpowered = last(name, true);
            boolean shorted = unpowered.map(s -> !s.says().notShorted()).orElse(false);
            boolean absent = powered.map(s -> s.says() != Says.PRESENT).orElse(false);
            boolean known = powered.isPresent() || unpowered.isPresent();
            boolean high = unpowered.map(s -> s.says() == Says.HIGH).orElse(false) && powered.isEmpty();
            String word = shorted
                    ? unpowered.get().says() == Says.SHORTED ? "shorted" : "low"
                    : absent ? says(powered.get()) : high ? "high" : known ? "good" : "not read";
            return new Box(
                    name,
                    x(name),
                    y(name),
                    net.nominalVolts().isPresent()
                            ? Eng.significant(net.nominalVolts().getAsDouble(), 2) + " V"
                            : "",
                    advice.volts().containsKey(name)
                            ? "read " + Eng.significant(advice.volts().get(name), 3) + " V"
                            : "",
                    unpowered.map(Maker::value).orElse(""),
                    shorted || absent ? "bad" : high ? "look" : known ? "ok" : "plain",
                    word);
        }

        private static String says(Sign sign) {
            return switch (sign.says()) {
                case ABSENT -> "no voltage";
                case HALF -> "part of it";
                case BACKFED -> "fed backwards";
                default -> "";
            };
        }

        private static String value(Sign sign) {
            return Double.isInfinite(sign.value())
                    ? "over range"
                    : sign.unit() == Unit.OHMS
                            ? Eng.prefixed(sign.value(), "Ω", 2).toString()
                            : Eng.fixed(sign.value(), 3) + " V d";
        }

        private boolean present(String net) {
            return last(net, false).map(s -> s.says() == Says.PRESENT).orElse(false);
        }

        private boolean missing(String net) {
            return last(net, false)
                    .map(s -> s.says() == Says.ABSENT || s.says() == Says.HALF)
                    .orElse(false);
        }

        private List<Wire> wires() {
            List<Wire> wires = new ArrayList<>();
            Map<String, Integer> labels = new HashMap<>();
            for (List<Feed> feeds : tree.feeds().values()) {
                for (Feed feed : feeds) {
                    if (!places.containsKey(feed.from()) || !places.containsKey(feed.to())) {
                        continue;
                    }
                    int x1 = x(feed.from()) + BOX_W;
                    int y1 = y(feed.from()) + BOX_H / 2;
                    int x2 = x(feed.to());
                    int y2 = y(feed.to()) + BOX_H / 2;
                    int bend = Math.max(x1 + 14, x2 - GAP_X + 14);
                    // Several parts may join the same two rails: their names stand under each other.
                    int nth = labels.merge(feed.from() + ">" + feed.to(), 1, Integer::sum) - 1;
                    String path = x2 > x1
                            ? String.format(Locale.ROOT, "M%d %dH%dV%dH%d", x1, y1, bend, y2, x2)
                            : String.format(
                                    Locale.ROOT, "M%d %dv%dH%dv%d", x1 - 20, y1 + BOX_H / 2, GAP_Y / 2, x2 + 20, -4);
                    wires.add(new Wire(
                            path,
                            feed.part().ref(),
                            feed.kind().name().toLowerCase(Locale.ROOT),
                            words(feed),
                            x2 > x1 ? bend + 6 : (x1 + x2) / 2,
                            (x2 > x1 ? y2 - 6 : y1 + BOX_H / 2 + 4) + 26 * nth,
                            present(feed.from()) && missing(feed.to())));
                }
            }
            return wires;
        }

        private static String words(Feed feed) {
            String how = switch (feed.kind()) {
                case SERIES -> "through";
                case PASS -> "switched by";
                case CONVERTS -> "made by";
            };
            return feed.to() + " " + how + " " + feed.part().ref() + " from " + feed.from()
                    + feed.enable().map(e -> ", enabled by " + e).orElse("");
        }

        /** The last good and the first bad point. */
        private List<String> stops() {
            List<String> stops = new ArrayList<>();
            for (String net : places.keySet()) {
                for (Feed feed : tree.feeds().getOrDefault(net, List.of())) {
                    if (present(feed.from()) && missing(net)) {
                        stops.add("Voltage absent from " + net + " on: " + feed.from() + " stands, and "
                                + feed.part().ref()
                                + " lies between. In this order: is " + net + " shorted, is "
                                + feed.part().ref() + " fed"
                                + feed.enable()
                                        .map(e -> ", is " + e + " active")
                                        .orElse("")
                                + ", is " + feed.part().ref() + " dead.");
                    }
                }
            }
            return stops.stream().distinct().toList();
        }

        private List<String> arithmetic() {
            return GateDrive.of(index, advice.volts()).stream()
                    .map(d -> {
                        String at = d.net() + " at " + Eng.significant(d.measuredVolts(), 3) + " V";
                        String gates = d.gates().isEmpty()
                                ? ""
                                : " (gate of "
                                        + d.gates().stream().map(Part::ref).collect(Collectors.joining(", ")) + ")";
                        return switch (d.state()) {
                            case IDLE -> at + gates + ": as its resistors alone hold it.";
                            case DRIVEN_LOW ->
                                at + gates + " instead of " + Eng.significant(d.idleVolts(), 3) + " V: "
                                        + d.suspect().map(Part::ref).orElse("something")
                                        + " pulls it, as when it is on.";
                            case PULLED ->
                                at + gates + " instead of " + Eng.significant(d.idleVolts(), 3) + " V: "
                                        + d.suspect().map(Part::ref).orElse("something") + " leaks about "
                                        + Eng.prefixed(d.leakOhms().orElse(0), "Ω", 2) + ".";
                        };
                    })
                    .toList();
        }

        private Optional<Chosen> chosen(String wanted) {
            Optional<String> net = board.net(wanted).map(Net::name);
            Optional<Part> part = board.part(wanted);
            if (net.isEmpty() && part.isEmpty()) {
                return Optional.empty();
            }
            List<String> nets = net.map(List::of).orElseGet(() -> index.powerNets(part.get()));
            List<String> up = nets.stream()
                    .flatMap(n -> tree.pathTo(n).stream())
                    .map(Maker::words)
                    .distinct()
                    .toList();
            List<String> down = nets.stream()
                    .flatMap(n -> tree.fedBy(n).stream())
                    .map(Maker::words)
                    .distinct()
                    .toList();
            List<Row> rows = nets.stream()
                    .flatMap(index::partsOn)
                    .distinct()
                    .sorted(Comparator.comparing((Part p) -> p.side()).thenComparing(p -> Math.hypot(p.xMm(), p.yMm())))
                    .map(p -> new Row(
                            p.ref(),
                            Words.of(p.kind()) + (p.value().isEmpty() ? "" : " " + p.value()),
                            Words.plain(index.role(p)),
                            p.side().name().toLowerCase(Locale.ROOT),
                            Eng.fixed(p.xMm(), 1) + ", " + Eng.fixed(p.yMm(), 1)))
                    .toList();
            return Optional.of(new Chosen(wanted, up, down, rows));
        }
    }
}
