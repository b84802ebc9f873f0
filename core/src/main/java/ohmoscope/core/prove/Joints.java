package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Thresholds;
import ohmoscope.core.rework.ReworkPlan.Bridge;

/**
 * The joints of a part that goes back on, each with what a beeper said of it since: a leg that holds, two legs that solder
 * must not join.
 *
 * @param in whether the part has been put in
 * @param more how many joints of the kinds asked for are not listed, as nobody would go round all of a large part
 */
public record Joints(String ref, boolean in, List<Joint> joints, int more) {
    /** What a joint is asked for. */
    public enum Kind {
        /** A leg and its own net at another place: they must beep. */
        HOLDS,
        /** Two legs side by side: they must not. */
        APART
    }

    /** What came of it. */
    public enum State {
        RIGHT,
        WRONG,
        WANTED
    }

    /**
     * One question to the beeper.
     *
     * @param pin the leg under one probe
     * @param net that leg's net
     * @param to the net under the other
     * @param by the entry that tells; empty while it is wanted
     */
    public record Joint(Kind kind, String pin, String net, String to, Optional<Read> by, State state) {}

    private static final int MOST_HOLDING = 8;
    private static final int MOST_APART = 10;
    /** A leg this far within the body's edge is under it, and no probe gets there. */
    private static final double UNDER_MM = 0.3;
    /** A joint that holds has no more between leg and copper, with the meter's leads. */
    private static final double HOLDS_OHMS = 5;

    public Joints {
        joints = List.copyOf(joints);
    }

    /** Those whose answer is not what it should be. */
    public List<Joint> wrong() {
        return joints.stream().filter(j -> j.state() == State.WRONG).toList();
    }

    /** The joints that can be probed, supplies first. O(pins squared). */
    public static Joints of(Board plain, Part part, List<Observation> observations) {
        BoardIndex board = new BoardIndex(plain);
        Optional<List<Observation>> in = since(part, observations);
        List<Observation> since = in.orElse(List.of());
        List<Joint> holding = part.pins().stream()
                .filter(pin -> reached(part, pin))
                .filter(pin -> board.listOn(pin.net()).size() > 1)
                .sorted(Comparator.comparingInt(pin -> rank(board, pin.net())))
                .map(pin -> judged(plain, part, Kind.HOLDS, pin.name(), pin.net(), pin.net(), since))
                .toList();
        Twin twin = new Twin(board);
        List<Joint> apart = Bridge.of(part).stream()
                .map(b -> board.isGround(b.netA()) ? new Bridge(b.pinB(), b.netB(), b.pinA(), b.netA()) : b)
                .filter(b -> reached(part, pin(part, b.pinA())) && reached(part, pin(part, b.pinB())))
                .filter(b -> !beepAnyway(board, twin, b))
                .sorted(Comparator.comparingInt(b -> rank(board, b.netA()) + rank(board, b.netB())))
                .map(b -> judged(plain, part, Kind.APART, b.pinA(), b.netA(), b.netB(), since))
                .toList();
        List<Joint> all = new ArrayList<>(holding.subList(0, Math.min(MOST_HOLDING, holding.size())));
        all.addAll(apart.subList(0, Math.min(MOST_APART, apart.size())));
        return new Joints(part.ref(), in.isPresent(), all, holding.size() + apart.size() - all.size());
    }

    /** What a bridge harms most comes first: ground and supplies. */
    private static int rank(BoardIndex board, String net) {
        return board.net(net).map(n -> n.kind() == NetKind.SIGNAL ? 1 : 0).orElse(1);
    }

    private static Pin pin(Part part, String name) {
        return part.pins().stream()
                .filter(p -> p.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    /** Whether a probe gets to the leg: the ends of small parts, and what stands out of a body. */
    private static boolean reached(Part part, Pin pin) {
        if (part.pins().size() <= 2) {
            return true;
        }
        return !part.covers(pin.xMm(), pin.yMm(), -UNDER_MM);
    }

    /** Nets that something small joins, and rails that a beeper takes for shorted as they are. */
    private static boolean beepAnyway(BoardIndex board, Twin twin, Bridge bridge) {
        if (board.isGround(bridge.netB())) {
            return board.net(bridge.netA())
                    .flatMap(n -> n.expect())
                    .flatMap(Expectation::ohms)
                    .map(r -> r.low() < Thresholds.BEEP_OHMS)
                    .orElse(false);
        }
        return twin.cluster(bridge.netA()).contains(bridge.netB());
    }

    /** What was entered since it was put in; empty while it is not in. */
    private static Optional<List<Observation>> since(Part part, List<Observation> observations) {
        Optional<List<Observation>> since = Optional.empty();
        for (int i = 0; i < observations.size(); i++) {
            if (observations.get(i) instanceof Change c && c.target().equals(part.ref())) {
                since = isIn(c) ? Optional.of(observations.subList(i + 1, observations.size())) : Optional.empty();
            }
        }
        return since;
    }

    private static boolean isIn(Change change) {
        return change.action() == ChangeAction.FITTED || change.action() == ChangeAction.REPLACED;
    }

    private static Joint judged(
            Board board, Part part, Kind kind, String pin, String net, String to, List<Observation> since) {
        Optional<Read> by = since.stream()
                .filter(o -> o instanceof Read)
                .map(Read.class::cast)
                .filter(r -> r.power().isEmpty() && asks(board, part, r, pin, net, to))
                .reduce((a, b) -> b);
        State state = by.map(r -> joined(r) == (kind == Kind.HOLDS))
                .map(right -> right ? State.RIGHT : State.WRONG)
                .orElse(State.WANTED);
        return new Joint(kind, pin, net, to, by, state);
    }

    /** Whether a reading was from this leg to that net; without a second place it was to ground. */
    private static boolean asks(Board board, Part part, Read read, String pin, String net, String to) {
        boolean leg = read.ref().filter(part.ref()::equals).isPresent()
                && (read.pin().filter(pin::equals).isPresent()
                        || read.pin().isEmpty()
                                && !net.equals(to)
                                && read.net().filter(net::equals).isPresent());
        return leg && read.to().map(to::equals).orElseGet(() -> board.isGround(to));
    }

    private static boolean joined(Read read) {
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        return switch (read.mode()) {
            case DIODE -> value < Thresholds.JOINED_DIODE_VOLTS;
            case CONTINUITY -> Interpreter.beep(value) < HOLDS_OHMS;
            default -> value < HOLDS_OHMS;
        };
    }

    /** The reading that says whether a leg and a net beep. */
    public static Read beeped(int seq, String ref, String pin, String to, boolean beeps) {
        return new Read(
                seq,
                ReadMode.CONTINUITY,
                Optional.empty(),
                Optional.of(ref),
                Optional.of(pin),
                Optional.empty(),
                Optional.of(to),
                OptionalDouble.of(beeps ? 1 : 0),
                Optional.empty(),
                Optional.empty());
    }
}
