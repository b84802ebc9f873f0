package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.reading.Interpreter;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;

/**
 * What a repair of this kind is tried by before the device goes back, each test with what came of it: more than that what
 * was wrong is right, as a part that was put in can be wrong in other ways than the one it replaces.
 */
public record Acceptance(Kind kind, List<Tick> ticks) {
    /** The kind of fault that was mended. */
    public enum Kind {
        SHORT,
        OPEN,
        LEAK,
        PORT,
        SUPPLY,
        DRAW
    }

    /** A test. */
    public enum What {
        /** The reading that was wrong, at the same point in the same mode, without power. */
        SAME_POINT,
        /** A bench supply on the rail itself, at its own voltage or lower, at a low limit. */
        LOW_LIMIT,
        /** Volts behind what conducts again. */
        FAR_END,
        /** Volts at the node that leaked. */
        NODE,
        /** Volts that a regulator or switch makes. */
        OUTPUT,
        /** The port's draw, the plug turned over between. */
        EACH_WAY_ROUND,
        /** More than the port's first volts. */
        ASKS_FOR_MORE,
        /** The draw that was wrong. */
        DRAW,
        STARTS,
        CHARGES
    }

    /** What came of it. */
    public enum State {
        RIGHT,
        WRONG,
        WANTED
    }

    /**
     * One test.
     *
     * @param place the net, part or port; empty for the whole device
     * @param expected what a good device shows: volts, but for {@link What#SAME_POINT}, where it is as the mode
     * @param like the reading to repeat, for {@link What#SAME_POINT}
     * @param by the entry that tells; empty while it is wanted
     */
    public record Tick(
            What what,
            String place,
            Optional<Range> expected,
            Optional<Read> like,
            Optional<Observation> by,
            State state) {}

    public Acceptance {
        ticks = List.copyOf(ticks);
    }

    /** What nobody has tried. */
    public List<Tick> wanted() {
        return ticks.stream().filter(t -> t.state() == State.WANTED).toList();
    }

    /** Empty while nothing has been repaired. */
    static Optional<Acceptance> of(Timeline timeline, RailBook book, Optional<Mending> mending) {
        return mending.map(m -> new Collector(timeline, book, m).collect());
    }

    /** Gathers the tests of one repair. */
    private static final class Collector {
        private final Timeline timeline;
        private final BoardIndex board;
        private final PowerTree tree;
        private final Mending mending;
        private final Map<Integer, Sign> signs;
        private final List<Moment> since;
        private final List<Tick> ticks = new ArrayList<>();

        Collector(Timeline timeline, RailBook book, Mending mending) {
            this.timeline = timeline;
            this.board = timeline.board();
            this.tree = timeline.tree();
            this.mending = mending;
            this.signs = book.bySeq();
            this.since = timeline.moments().stream()
                    .filter(m -> m.seq() > mending.repair().seq())
                    .toList();
        }

        Acceptance collect() {
            Optional<Part> part = board.part(mending.repair().target());
            Kind kind = kind(part);
            mending.wrongs().stream()
                    .filter(w -> w.test() == Mending.Test.UNPOWERED || w.test() == Mending.Test.ACROSS)
                    .forEach(this::samePoint);
            switch (kind) {
                case SHORT -> wrongNets().forEach(this::lowLimit);
                case OPEN -> part.ifPresent(p -> behind(p).forEach(net -> volts(What.FAR_END, net)));
                case LEAK ->
                    mending.wrongs().stream()
                            .filter(w -> w.test() == Mending.Test.POWERED)
                            .forEach(this::node);
                case PORT -> part.ifPresent(this::port);
                case SUPPLY -> part.ifPresent(p -> tree.through(p).forEach(net -> volts(What.OUTPUT, net)));
                case DRAW -> {}
            }
            if (has(Mending.Test.DRAW)) {
                draw();
            }
            starts();
            if (tree.battery().isPresent() && !tree.inputs().isEmpty()) {
                charges();
            }
            return new Acceptance(kind, ticks);
        }

        private Kind kind(Optional<Part> part) {
            if (part.map(p -> tree.isInput(p.ref())).orElse(false)) {
                return Kind.PORT;
            }
            boolean shorted = mending.wrongs().stream()
                    .filter(w -> w.test() == Mending.Test.UNPOWERED)
                    .map(w -> signs.get(w.before().seq()))
                    .anyMatch(s -> s != null && (s.says() == Says.SHORTED || s.says() == Says.LOW));
            if (shorted) {
                return Kind.SHORT;
            }
            if (part.isEmpty()) {
                return Kind.DRAW;
            }
            PartKind kind = part.get().kind();
            if (has(Mending.Test.ACROSS) || board.role(part.get()) == Role.SERIES) {
                return Kind.OPEN;
            }
            if (kind == PartKind.IC) {
                return Kind.SUPPLY;
            }
            return kind == PartKind.MOSFET || kind == PartKind.TRANSISTOR ? Kind.LEAK : Kind.DRAW;
        }

        private boolean has(Mending.Test test) {
            return mending.wrongs().stream().anyMatch(w -> w.test() == test);
        }

        private Set<String> wrongNets() {
            return mending.wrongs().stream()
                    .filter(w -> w.test() == Mending.Test.UNPOWERED)
                    .map(Mending.Wrong::place)
                    .collect(Collectors.toCollection(LinkedHashSet::new));
        }

        private void samePoint(Mending.Wrong wrong) {
            Optional<Read> like = wrong.before() instanceof Read r ? Optional.of(r) : Optional.empty();
            Optional<Range> expected = like.flatMap(timeline.interpreter()::expected);
            Optional<Observation> by = wrong.after().filter(o -> like.isEmpty() || answers(o, like.get()));
            ticks.add(new Tick(What.SAME_POINT, wrong.place(), expected, like, by, state(by, wrong.right())));
        }

        /** A short that is gone at one point may still be there at another. */
        private static boolean answers(Observation after, Read before) {
            if (!(after instanceof Read read) || read.mode() == ReadMode.VOLTS) {
                return true;
            }
            boolean place =
                    read.ref().isEmpty() || before.ref().isEmpty() || read.ref().equals(before.ref());
            return place && read.mode() == before.mode();
        }

        private static State state(Optional<Observation> by, boolean right) {
            return by.isEmpty() ? State.WANTED : right ? State.RIGHT : State.WRONG;
        }

        private void add(What what, String place, Optional<Range> expected, Optional<Observation> by, boolean right) {
            ticks.add(new Tick(what, place, expected, Optional.empty(), by, state(by, right)));
        }

        /** The last entry since the repair that is such. */
        private Optional<Observation> last(Predicate<Observation> such) {
            return since.stream().map(Moment::observation).filter(such).reduce((a, b) -> b);
        }

        private void lowLimit(String net) {
            Optional<Range> nominal = nominal(net);
            if (nominal.isEmpty()) {
                return;
            }
            Optional<Observation> by = last(o -> o instanceof Inject i
                            && i.net().equals(net)
                    || o instanceof Power p && p.net().filter(net::equals).isPresent());
            boolean right = by.map(o -> signs.get(o.seq()))
                    .map(s -> s.says().concern() != Says.Concern.WRONG && s.says() != Says.NO_CONTACT)
                    .orElse(true);
            add(What.LOW_LIMIT, net, nominal, by, right);
        }

        /** A node that leaked is right when it no longer shows what it showed: that may be no volts at all. */
        private void node(Mending.Wrong wrong) {
            add(What.NODE, wrong.place(), Optional.empty(), wrong.after(), wrong.right());
        }

        private void volts(What what, String net) {
            Optional<Range> nominal = nominal(net);
            Optional<Observation> by = last(o -> o instanceof Read r
                    && r.mode() == ReadMode.VOLTS
                    && r.value().isPresent()
                    && timeline.netOf(r).filter(net::equals).isPresent());
            boolean right = nominal.isEmpty()
                    || by.map(o -> ((Read) o).value().getAsDouble())
                            .map(v ->
                                    Interpreter.powered(v, nominal.get().high()).says() == Says.PRESENT)
                            .orElse(false);
            add(what, net, nominal, by, right);
        }

        private Optional<Range> nominal(String net) {
            return board.net(net)
                    .map(Net::nominalVolts)
                    .filter(v -> v.isPresent())
                    .map(v -> new Range(0.95 * v.getAsDouble(), v.getAsDouble()));
        }

        private List<String> behind(Part part) {
            List<String> fed = tree.through(part);
            return fed.isEmpty()
                    ? part.pins().stream()
                            .map(Pin::net)
                            .filter(n -> board.net(n)
                                    .map(x -> x.nominalVolts().isPresent())
                                    .orElse(false))
                            .distinct()
                            .toList()
                    : fed;
        }

        private void port(Part port) {
            List<Power> tried = since.stream()
                    .map(Moment::observation)
                    .filter(o -> o instanceof Power p
                            && p.net().isEmpty()
                            && p.port().map(port.ref()::equals).orElse(true))
                    .map(Power.class::cast)
                    .toList();
            Optional<PortExpectation> expects = port.expects();
            if (expects.map(PortExpectation::reversible).orElse(false)) {
                Map<String, Draw> ways = tried.stream()
                        .filter(p -> p.orientation().isPresent())
                        .flatMap(p -> Draw.of(board, tree, p).stream()
                                .map(d -> Map.entry(p.orientation().get(), d)))
                        .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue, (a, b) -> b));
                Optional<Observation> by = ways.size() < 2
                        ? Optional.empty()
                        : tried.stream().map(Observation.class::cast).reduce((a, b) -> b);
                boolean right = ways.values().stream().allMatch(d -> d == Draw.NORMAL);
                add(What.EACH_WAY_ROUND, port.ref(), Optional.empty(), by, right);
            }
            if (Draw.nominal(board, Optional.of(port), expects) >= Thresholds.NEGOTIATED_VOLTS) {
                Optional<Power> last =
                        tried.stream().filter(p -> p.volts().isPresent()).reduce((a, b) -> b);
                boolean right = last.map(p -> p.volts().getAsDouble() >= Thresholds.NEGOTIATED_VOLTS)
                        .orElse(false);
                Optional<Observation> by = last.map(Observation.class::cast);
                add(What.ASKS_FOR_MORE, port.ref(), expects.flatMap(PortExpectation::volts), by, right);
            }
        }

        private void draw() {
            Optional<Observation> by =
                    last(o -> o instanceof Power p && Draw.of(board, tree, p).isPresent());
            add(What.DRAW, "", Optional.empty(), by, by.map(this::drawsWell).orElse(false));
        }

        private boolean drawsWell(Observation power) {
            return Draw.of(board, tree, (Power) power)
                    .filter(d -> d == Draw.NORMAL)
                    .isPresent();
        }

        private void starts() {
            Optional<Observation> by = last(Run.class::isInstance);
            boolean right = by.map(o -> ((Run) o).finding().well()).orElse(false);
            add(What.STARTS, "", Optional.empty(), by, right);
        }

        private void charges() {
            Optional<Observation> by = since.stream()
                    .filter(m -> m.observation() instanceof Run run
                                    && (run.finding() == RunFinding.CHARGES
                                            || run.finding() == RunFinding.DOES_NOT_CHARGE)
                            || m.observation() instanceof Power p
                                    && p.battery()
                                            .map(b -> b == BatteryState.IN)
                                            .orElse(m.state().battery())
                                    && Draw.of(board, tree, p).isPresent())
                    .map(Moment::observation)
                    .reduce((a, b) -> b);
            boolean right = by.map(o -> o instanceof Run run ? run.finding().well() : drawsWell(o))
                    .orElse(false);
            add(What.CHARGES, "", Optional.empty(), by, right);
        }
    }
}
