package ohmoscope.core.diagnose;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.diagnose.Mending.Test;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.reading.Says;

/**
 * A device that is ill still after a short was found and taken away has a second fault. The first is closed: what only it
 * explains speaks no more, what was good before stays good.
 */
final class SecondFault {
    private SecondFault() {}

    /** @return the entries that a fault which is still there must explain */
    static Timeline of(Timeline timeline, RailBook book, Optional<Mending> mending) {
        Optional<Mending> closed = mending.filter(SecondFault::freed);
        if (closed.isEmpty() || !illSince(timeline, closed.get().repair())) {
            return timeline;
        }
        Set<Integer> good = new HashSet<>();
        book.everySign().filter(s -> s.says().concern() != Says.Concern.WRONG).forEach(s -> good.add(s.seq()));
        int repaired = closed.get().repair().seq();
        return timeline.without(m -> m.seq() < repaired && !stands(m, good));
    }

    /** Something read shorted or low before, and nothing that did does so now. */
    private static boolean freed(Mending mending) {
        return mending.wrongs().stream().anyMatch(w -> w.test() == Test.UNPOWERED)
                && mending.wrongs().stream()
                        .filter(w -> w.test() == Test.UNPOWERED)
                        .allMatch(Mending.Wrong::right);
    }

    private static boolean illSince(Timeline timeline, Change repair) {
        for (Moment moment : timeline.moments()) {
            if (moment.seq() < repair.seq()) {
                continue;
            }
            Observation entry = moment.observation();
            boolean ill = entry instanceof Run run && !run.finding().well()
                    || entry instanceof Power power
                            && Draw.of(timeline.board(), timeline.tree(), power)
                                    .map(d -> d != Draw.NORMAL && d != Draw.UNCLEAR)
                                    .orElse(false);
            if (ill) {
                return true;
            }
        }
        return false;
    }

    private static boolean stands(Moment moment, Set<Integer> good) {
        Observation entry = moment.observation();
        return entry instanceof Change
                || entry instanceof Look
                || entry instanceof Read read && read.across().isPresent()
                || entry instanceof Read && good.contains(entry.seq());
    }
}
