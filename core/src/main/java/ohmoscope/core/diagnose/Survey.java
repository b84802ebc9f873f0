package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.TestPoint;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Experiments.Worth;

/**
 * The points worth measuring on a board, unpowered, in walking order: what decides most first, then the nearest next, one
 * side before the other.
 */
public record Survey(List<Point> points) {
    /** Turning the board over costs as much as walking this far. */
    private static final double TURN_MM = 120;
    /** Readings that tell at least this share of the best one come before all that tell less. */
    private static final double TELLING_SHARE = 0.4;

    private static final int LEAST_LINES = 2;

    /** Where on the board a probe is set. */
    public record Place(String ref, Optional<String> pin, Side side, double xMm, double yMm) {
        double walkTo(Place other) {
            return Math.hypot(other.xMm - xMm, other.yMm - yMm) + (side == other.side ? 0 : TURN_MM);
        }
    }

    /** Why a point is on the list; in order of urgency. */
    public enum Why {
        MAIN_RAIL,
        TELLS_MUCH,
        RAIL,
        PORT_LINE
    }

    /**
     * @param net the net to read there, to ground
     * @param ohms what a good board reads, when known
     * @param diodeVolts likewise; the circuit twin's word where the board's data has none
     */
    public record Point(String net, Place place, Why why, Optional<Range> ohms, Optional<Range> diodeVolts) {}

    public Survey {
        points = List.copyOf(points);
    }

    static Survey of(
            Timeline timeline, RailBook book, Predictor predictor, List<Worth> worths, Optional<Place> standing) {
        BoardIndex board = timeline.board();
        Map<String, Double> worth = new HashMap<>();
        worths.forEach(w -> w.step().target().ifPresent(t -> worth.put(t, w.natsPerMinute())));
        double best = worth.values().stream().mapToDouble(v -> v).max().orElse(0);
        List<Point> open = new ArrayList<>();
        for (Net net : board.nets()) {
            Optional<Why> why = why(timeline, net, worth.getOrDefault(net.name(), 0.0), best);
            if (why.isPresent() && book.unpowered(net.name()).isEmpty()) {
                place(board, timeline, net.name())
                        .ifPresent(p -> open.add(new Point(
                                net.name(),
                                p,
                                why.get(),
                                net.expect().flatMap(Expectation::ohms),
                                diode(timeline, predictor, net))));
            }
        }
        return new Survey(walk(open, standing));
    }

    private static Optional<Why> why(Timeline timeline, Net net, double worth, double best) {
        PowerTree tree = timeline.tree();
        if (net.name().equals(tree.mainRail())) {
            return Optional.of(Why.MAIN_RAIL);
        }
        if (net.kind() == NetKind.POWER) {
            return Optional.of(worth > 0 && worth >= TELLING_SHARE * best ? Why.TELLS_MUCH : Why.RAIL);
        }
        boolean portLine = net.kind() == NetKind.SIGNAL
                && tree.inputs().stream()
                        .anyMatch(p -> p.touches(net.name()) && signals(timeline.board(), p) >= LEAST_LINES);
        return portLine ? Optional.of(Why.PORT_LINE) : Optional.empty();
    }

    private static long signals(BoardIndex board, Part port) {
        return port.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n ->
                        board.net(n).map(net -> net.kind() == NetKind.SIGNAL).orElse(false))
                .count();
    }

    private static Optional<Range> diode(Timeline timeline, Predictor predictor, Net net) {
        Optional<Range> stated = net.expect().flatMap(Expectation::diodeVolts);
        if (stated.isPresent()) {
            return stated;
        }
        Band band = predictor.read(
                new Meter(Meter.Mode.DIODE_VOLTS, net.name(), timeline.board().ground(), true),
                timeline.now(),
                List.of());
        return Double.isFinite(band.high()) && band.high() > 0
                ? Optional.of(new Range(band.low(), band.high()))
                : Optional.empty();
    }

    /** Nearest next within each degree of urgency. */
    private static List<Point> walk(List<Point> open, Optional<Place> standing) {
        List<Point> walked = new ArrayList<>();
        Optional<Place> at = standing;
        for (Why why : Why.values()) {
            List<Point> now = open.stream().filter(p -> p.why() == why).toList();
            walked.addAll(WalkOrder.of(now, Point::place, at, Place::walkTo, p -> 0));
            at = walked.isEmpty()
                    ? at
                    : Optional.of(walked.get(walked.size() - 1).place());
        }
        return walked;
    }

    /** The easiest place to touch a net: a test point, else the largest part whose pad carries it. */
    static Optional<Place> place(BoardIndex board, Timeline timeline, String net) {
        Optional<TestPoint> testPoint =
                board.testPoints().stream().filter(t -> t.net().equals(net)).findFirst();
        if (testPoint.isPresent()) {
            TestPoint t = testPoint.get();
            return Optional.of(new Place(t.ref(), Optional.empty(), t.side(), t.xMm(), t.yMm()));
        }
        return board.partsOn(net)
                .filter(p -> timeline.now().has(p) && p.kind() != PartKind.SHIELD)
                .max(Comparator.<Part>comparingInt(p -> ease(p.kind())).thenComparingDouble(p -> p.wMm() * p.hMm()))
                .flatMap(p -> pad(p, net));
    }

    static Optional<Place> pad(Part part, String net) {
        return part.pins().stream()
                .filter(pin -> pin.net().equals(net))
                .findFirst()
                .map(pin -> new Place(part.ref(), Optional.of(pin.name()), part.side(), pin.xMm(), pin.yMm()));
    }

    /** How easily a probe rests on such a part. */
    private static int ease(PartKind kind) {
        return switch (kind) {
            case INDUCTOR, FUSE -> 6;
            case CAPACITOR, FERRITE -> 5;
            case RESISTOR, DIODE, TVS -> 4;
            case CONNECTOR -> 3;
            case MOSFET, TRANSISTOR, SWITCH -> 2;
            case IC -> 1;
            default -> 0;
        };
    }
}
