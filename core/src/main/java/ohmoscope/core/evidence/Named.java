package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Warm;

/** The nets, parts and points that entries name. */
public final class Named {
    private static final Set<String> NO_PART = Set.of(Change.BATTERY, "peripherals");

    private Named() {}

    /** In the order in which they are named; what is no net or part, as the battery, left out. */
    public static List<String> of(List<Observation> entries) {
        Set<String> names = new LinkedHashSet<>();
        entries.forEach(e -> of(e).forEach(names::add));
        names.removeIf(n -> NO_PART.contains(n) || n.startsWith(Change.STACK));
        return new ArrayList<>(names);
    }

    private static Stream<String> of(Observation entry) {
        if (entry instanceof Read read) {
            return Stream.of(read.net(), read.ref(), read.across(), read.to()).flatMap(Optional::stream);
        }
        if (entry instanceof Power power) {
            return Stream.of(power.port(), power.net()).flatMap(Optional::stream);
        }
        if (entry instanceof Inject inject) {
            return Stream.concat(Stream.of(inject.net()), inject.ref().stream());
        }
        if (entry instanceof Warm warm) {
            return warm.ref().stream();
        }
        if (entry instanceof Look look) {
            return Stream.of(look.target());
        }
        if (entry instanceof Change change) {
            return Stream.of(change.target());
        }
        return Stream.empty();
    }

    /** The same entry, where a part or point is called otherwise by now. */
    public static Observation renamed(Observation entry, UnaryOperator<String> called) {
        if (entry instanceof Read r) {
            return new Read(
                    r.seq(),
                    r.mode(),
                    r.net(),
                    r.ref().map(called),
                    r.pin(),
                    r.across().map(called),
                    r.to(),
                    r.value(),
                    r.lead(),
                    r.power());
        }
        if (entry instanceof Power p) {
            return new Power(
                    p.seq(),
                    p.from(),
                    p.port().map(called),
                    p.net(),
                    p.orientation(),
                    p.battery(),
                    p.volts(),
                    p.amps(),
                    p.state(),
                    p.shape(),
                    p.trace());
        }
        if (entry instanceof Inject i) {
            return new Inject(
                    i.seq(),
                    i.net(),
                    i.ref().map(called),
                    i.setVolts(),
                    i.limitAmps(),
                    i.volts(),
                    i.amps(),
                    i.leadOhms(),
                    i.shape(),
                    i.power());
        }
        if (entry instanceof Warm w && w.ref().isPresent()) {
            return new Warm(
                    w.seq(),
                    w.ref().map(called),
                    w.xMm(),
                    w.yMm(),
                    w.side(),
                    w.by(),
                    w.deltaK(),
                    w.spreadMm(),
                    w.nothing());
        }
        if (entry instanceof Look l) {
            return new Look(l.seq(), called.apply(l.target()), l.finding());
        }
        return entry instanceof Change c ? new Change(c.seq(), c.action(), called.apply(c.target()), c.heat()) : entry;
    }

    /** Those that a board does not have. */
    public static List<String> unknownOn(Board board, List<Observation> entries) {
        return of(entries).stream()
                .filter(n -> board.net(n).isEmpty()
                        && board.part(n).isEmpty()
                        && board.testPoint(n).isEmpty())
                .toList();
    }
}
