package ohmoscope.core.evidence;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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

    /** Those that a board does not have. */
    public static List<String> unknownOn(Board board, List<Observation> entries) {
        return of(entries).stream()
                .filter(n -> board.net(n).isEmpty()
                        && board.part(n).isEmpty()
                        && board.testPoint(n).isEmpty())
                .toList();
    }
}
