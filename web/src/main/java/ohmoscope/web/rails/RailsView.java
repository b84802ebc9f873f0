package ohmoscope.web.rails;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
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
import ohmoscope.web.kit.RailBox;
import ohmoscope.web.kit.RailWire;
import ohmoscope.web.kit.TreeDrawing;
import ohmoscope.web.kit.Words;

/**
 * The power tree as a drawing: a column for each step away from the inputs, a box for each rail, a line for what feeds
 * it. Sizes are in pixels.
 */
public record RailsView(
        JobHead head,
        int width,
        int height,
        List<RailBox> boxes,
        List<RailWire> wires,
        List<String> stops,
        List<String> arithmetic,
        Optional<Chosen> chosen) {

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
        private final TreeDrawing drawing;

        Maker(OpenJobs.Open open, PowerTree tree) {
            this.open = open;
            this.board = open.job().board();
            this.index = new BoardIndex(board);
            this.tree = tree;
            this.advice = open.advice();
            this.drawing = TreeDrawing.of(board, tree);
        }

        RailsView make(String wanted) {
            List<RailBox> boxes = drawing.boxes().stream().map(this::box).toList();
            return new RailsView(
                    open.head(),
                    drawing.width(),
                    drawing.height(),
                    boxes,
                    drawing.wires().stream().map(this::wire).toList(),
                    stops(),
                    arithmetic(),
                    chosen(wanted));
        }

        private Optional<Sign> last(String net, boolean unpowered) {
            return advice.signs().stream()
                    .filter(s -> s.net().equals(net) && s.says().unpowered() == unpowered)
                    .reduce((a, b) -> b);
        }

        private RailBox box(TreeDrawing.Box at) {
            String name = at.net();
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
            return new RailBox(
                    name,
                    at.x(),
                    at.y(),
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

        private RailWire wire(TreeDrawing.Wire at) {
            return RailWire.of(
                    at, present(at.feed().from()) && missing(at.feed().to()));
        }

        /** The last good and the first bad point. */
        private List<String> stops() {
            List<String> stops = new ArrayList<>();
            for (TreeDrawing.Box box : drawing.boxes()) {
                String net = box.net();
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
                    .map(TreeDrawing::words)
                    .distinct()
                    .toList();
            List<String> down = nets.stream()
                    .flatMap(n -> tree.fedBy(n).stream())
                    .map(TreeDrawing::words)
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
