package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;
import ohmoscope.core.circuit.PowerTree.Kind;
import ohmoscope.core.diagnose.Finding.Code;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Thresholds;
import ohmoscope.core.reading.Unit;

/** States what is true of the board as it is now, rail by rail, then of its draw, then of single parts. */
final class Findings {
    /** A part is called open or leaky when its readings leave this much for it. */
    private static final double CONVICTED = 0.6;

    private static final double CONVICTED_SHORT = 0.9;
    private static final double DIODE_TEST_AMPS = 1e-3;

    private final Timeline timeline;
    private final BoardIndex board;
    private final PowerTree tree;
    private final RailBook book;
    private final Diagnosis diagnosis;
    private final List<Finding> found = new ArrayList<>();

    private Findings(Timeline timeline, RailBook book, Diagnosis diagnosis) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.book = book;
        this.diagnosis = diagnosis;
    }

    static List<Finding> of(Timeline timeline, RailBook book, Diagnosis diagnosis) {
        Findings findings = new Findings(timeline, book, diagnosis);
        Stream.concat(book.nets().stream(), book.netsBefore().stream())
                .distinct()
                .forEach(findings::rail);
        findings.draw();
        findings.across();
        findings.gaps();
        findings.betweenEnds();
        findings.convicted();
        return findings.found;
    }

    private void rail(String net) {
        Optional<Sign> unpowered = book.unpowered(net);
        unpowered.ifPresent(s -> {
            switch (s.says()) {
                case SHORTED -> add(Code.RAIL_SHORTED, s);
                case LOW -> {
                    if (!explained(s)) {
                        add(Code.RAIL_LOW, s);
                    }
                }
                case GOOD -> {
                    if (power(net)) {
                        add(Code.RAIL_GOOD, s);
                    }
                }
                case BY_DESIGN -> add(Code.READING_BY_DESIGN, s);
                default -> {}
            }
        });
        book.powered(net).ifPresent(s -> {
            switch (s.says()) {
                case PRESENT -> {
                    boolean said = unpowered
                            .map(u -> u.says() != Says.CLEAR && u.says() != Says.HIGH)
                            .orElse(false);
                    if (!said) {
                        add(Code.RAIL_GOOD, s);
                    }
                }
                case ABSENT -> {
                    if (!mayBeOff(net)) {
                        add(Code.RAIL_ABSENT, s);
                    }
                }
                case HALF -> add(Code.RAIL_LOW, s);
                case BACKFED -> add(Code.RAIL_BACKFED, s);
                default -> {}
            }
        });
        stillOpen(net, Says.INTO_GROUND).ifPresent(s -> add(Code.INJECTED_INTO_GROUND, s));
        stillOpen(net, Says.NO_CONTACT).ifPresent(s -> add(Code.NO_CONTACT, s));
        if (book.cleared(net) || book.burntOpen().containsKey(net)) {
            add(Code.SHORT_CLEARED, book.lastUnpowered(net).orElseThrow());
        } else if (book.remains(net)) {
            add(Code.SHORT_REMAINS, book.unpowered(net).orElseThrow());
        }
    }

    /** A failed injection that no later one has made good. */
    private Optional<Sign> stillOpen(String net, Says says) {
        Optional<Sign> sign = book.last(net, says);
        boolean mended = sign.isPresent()
                && book.now(net).stream()
                        .anyMatch(s -> s.seq() > sign.get().seq() && s.unit() == Unit.OHMS && injected(s.seq()));
        return mended ? Optional.empty() : sign;
    }

    private boolean injected(int seq) {
        return timeline.moments().stream().anyMatch(m -> m.seq() == seq && m.observation() instanceof Inject);
    }

    private boolean power(String net) {
        return board.net(net).map(n -> n.kind() == NetKind.POWER).orElse(false);
    }

    /** Low only because a small resistor leads from here to a net that is shorted. */
    private boolean explained(Sign sign) {
        return board.partsOn(sign.net())
                .filter(p -> p.kind() == PartKind.RESISTOR)
                .anyMatch(p -> p.pins().stream().map(Pin::net).anyMatch(other -> {
                    if (other.equals(sign.net()) || !book.shorted(other)) {
                        return false;
                    }
                    double ohms = PartValue.ohms(p).orElse(0);
                    double expected = sign.unit() == Unit.DIODE_VOLTS ? ohms * DIODE_TEST_AMPS : ohms;
                    return sign.value() > 0.6 * expected && sign.value() < 1.6 * expected + 0.02;
                }));
    }

    /** A core that nobody has asked for. */
    private boolean mayBeOff(String net) {
        double nominal = board.net(net).orElseThrow().nominalVolts().orElse(99);
        boolean started =
                timeline.last(Power.class).map(p -> p.state() == DeviceState.ON).orElse(false);
        boolean asked = tree.pathTo(net).stream()
                .anyMatch(f -> f.kind() == Kind.CONVERTS && f.enable().isPresent());
        return nominal <= Thresholds.CORE_VOLTS && asked && !started;
    }

    private void draw() {
        Optional<Power> last =
                timeline.current(Power.class).filter(p -> p.net().isEmpty()).reduce((a, b) -> b);
        last.ifPresent(power -> Draw.of(board, tree, power).ifPresent(draw -> {
            List<Integer> because = List.of(power.seq());
            Optional<String> port = power.port();
            switch (draw) {
                case NORMAL -> device(Code.DRAW_NORMAL, port, power.amps(), because);
                case NONE -> {
                    device(Code.DRAW_NONE, port, power.amps(), because);
                    if (power.amps().orElse(0) > Thresholds.NO_DRAW_AMPS) {
                        device(Code.DRAW_STUCK, port, power.amps(), because);
                    }
                    if (Draw.firstVoltsOnly(board, tree, power)) {
                        device(Code.NO_NEGOTIATION, port, power.volts(), because);
                    }
                }
                case STUCK -> device(Code.DRAW_STUCK, port, power.amps(), because);
                case NO_NEGOTIATION -> {
                    device(Code.NO_NEGOTIATION, port, power.volts(), because);
                    if (power.amps().orElse(0) < 0.2) {
                        device(Code.DRAW_STUCK, port, power.amps(), because);
                    }
                }
                case EXCESSIVE -> device(Code.DRAW_EXCESSIVE, port, power.amps(), because);
                case PULSING -> device(Code.DRAW_PULSING, port, power.amps(), because);
                case UNCLEAR -> {}
            }
        }));
        DrawsBySide sides = DrawsBySide.of(timeline);
        sides.ports().forEach((port, oneSide) -> {
            if (oneSide) {
                found.add(Finding.part(Code.ONE_SIDE_ONLY, port, OptionalDouble.empty(), sides.because()));
            }
        });
    }

    private void device(Code code, Optional<String> port, OptionalDouble value, List<Integer> because) {
        found.add(new Finding(code, port, false, value, because));
    }

    /** Readings across one part, or between its two nets. */
    private void across() {
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Read read
                    && moment.epoch() == timeline.epoch()
                    && read.power().isEmpty()
                    && read.mode() != ReadMode.VOLTS
                    && read.mode() != ReadMode.VOLTS_AC) {
                spanned(read).filter(p -> timeline.now().has(p)).ifPresent(p -> across(read, p));
            }
        }
    }

    private Optional<Part> spanned(Read read) {
        if (read.across().isPresent()) {
            return board.part(read.across().get());
        }
        Optional<Part> part = read.ref().flatMap(board::part);
        Optional<String> net = timeline.netOf(read);
        boolean between = part.isPresent()
                && read.to().filter(t -> !board.isGround(t)).isPresent()
                && part.get().touches(read.to().get())
                && net.map(n -> part.get().touches(n)).orElse(false);
        return between ? part : Optional.empty();
    }

    private void across(Read read, Part part) {
        timeline.interpreter().across(part, read).ifPresent(state -> {
            Code code = switch (state) {
                case OPEN -> Code.PART_OPEN;
                case OFF_VALUE -> Code.PART_OFF_VALUE;
                case SHORTED -> Code.PART_SHORTED;
            };
            found.add(Finding.part(code, part.ref(), read.value(), List.of(read.seq())));
        });
    }

    private void gaps() {
        book.gaps()
                .forEach(g ->
                        once(Finding.part(Code.PART_OPEN, g.part().ref(), OptionalDouble.of(g.volts()), g.because())));
    }

    /** Voltage on one side of a series part and none on the other, while the other side is not shorted. */
    private void betweenEnds() {
        for (List<Feed> feeds : tree.feeds().values()) {
            for (Feed feed : feeds) {
                if (feed.kind() != Kind.SERIES || !timeline.now().has(feed.part())) {
                    continue;
                }
                Optional<Sign> from = book.powered(feed.from());
                Optional<Sign> to = book.powered(feed.to());
                boolean stops = from.map(s -> s.says() == Says.PRESENT).orElse(false)
                        && to.map(s -> s.says() == Says.ABSENT || s.says() == Says.HALF)
                                .orElse(false);
                boolean pulled = book.down(feed.to());
                if (stops && !pulled && guilty(feed)) {
                    once(Finding.part(
                            Code.PART_OPEN,
                            feed.part().ref(),
                            OptionalDouble.of(to.get().value()),
                            List.of(from.get().seq(), to.get().seq())));
                }
            }
        }
    }

    private boolean guilty(Feed feed) {
        return diagnosis.probability(Hypothesis.Code.OPEN, feed.part().ref()) > 0.4;
    }

    private void convicted() {
        for (Hypothesis h : diagnosis.hypotheses()) {
            if (h.probability() < CONVICTED) {
                break;
            }
            boolean here = board.part(h.target())
                    .map(p -> timeline.now().has(p) && !timeline.now().renewed().contains(p.ref()))
                    .orElse(false);
            if (!here) {
                continue;
            }
            Optional<Code> code = switch (h.code()) {
                case OPEN -> Optional.of(Code.PART_OPEN);
                case LEAKY -> Optional.of(Code.PART_LEAKY);
                case SHORT -> h.probability() > CONVICTED_SHORT ? Optional.of(Code.PART_SHORTED) : Optional.empty();
                default -> Optional.empty();
            };
            code.ifPresent(c -> once(Finding.part(c, h.target(), OptionalDouble.empty(), everything())));
        }
    }

    private List<Integer> everything() {
        return timeline.moments().stream()
                .filter(m -> m.epoch() == timeline.epoch() && m.observation() instanceof Read)
                .map(Moment::seq)
                .toList();
    }

    private void once(Finding finding) {
        if (found.stream()
                .noneMatch(f -> f.code() == finding.code() && f.place().equals(finding.place()))) {
            found.add(finding);
        }
    }

    private void add(Code code, Sign sign) {
        OptionalDouble value = Double.isFinite(sign.value()) ? OptionalDouble.of(sign.value()) : OptionalDouble.empty();
        found.add(Finding.net(code, sign.net(), value, List.of(sign.seq())));
    }
}
