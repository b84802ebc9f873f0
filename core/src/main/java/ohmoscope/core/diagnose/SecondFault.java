package ohmoscope.core.diagnose;

import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
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
 * A device that is ill still after a short was found and taken away has a second fault, and so has one of which another rail
 * is down then, or the same again after power. The first is closed: what only it explains speaks no more, what was good
 * before stays good.
 */
final class SecondFault {
    private SecondFault() {}

    /** @return the entries that a fault which is still there must explain */
    static Timeline of(Timeline timeline, RailBook book, Optional<Mending> mending) {
        Optional<Sign> again = mending.flatMap(m -> cameAgain(timeline, book, m.repair()));
        if (again.isPresent()) {
            Set<String> down = book.joinedTo(again.get().net());
            Set<Integer> elsewhere = good(book, s -> !down.contains(s.net()));
            return timeline.without(m -> m.seq() < again.get().seq() && !stands(m, elsewhere));
        }
        Optional<Mending> closed = mending.filter(SecondFault::freed);
        if (closed.isEmpty() || !illSince(timeline, closed.get().repair()) && !anotherRail(book, closed.get())) {
            return timeline;
        }
        Set<Integer> good = good(book, s -> true);
        int repaired = closed.get().repair().seq();
        return timeline.without(m -> m.seq() < repaired && !stands(m, good));
    }

    private static Set<Integer> good(RailBook book, Predicate<Sign> counted) {
        return book.everySign()
                .filter(s -> s.says().concern() != Says.Concern.WRONG)
                .filter(counted)
                .map(Sign::seq)
                .collect(Collectors.toSet());
    }

    /** A rail that read free since the repair, was fed, and is down now: what was repaired is not what went under power. */
    private static Optional<Sign> cameAgain(Timeline timeline, RailBook book, Change repair) {
        return book.shorted().stream()
                .map(net -> book.unpowered(net).orElseThrow())
                .filter(down -> book.everySign()
                        .filter(s -> s.net().equals(down.net()) && s.says().unpowered())
                        .filter(s -> s.seq() > repair.seq() && s.seq() < down.seq())
                        .anyMatch(free -> free.says().notShorted()
                                && timeline.all(Power.class)
                                        .anyMatch(p -> p.seq() > free.seq() && p.seq() <= down.seq())))
                .findFirst();
    }

    /** Something read shorted or low before, and nothing that did does so now. */
    private static boolean freed(Mending mending) {
        return mending.wrongs().stream().anyMatch(w -> w.test() == Test.UNPOWERED)
                && mending.wrongs().stream()
                        .filter(w -> w.test() == Test.UNPOWERED)
                        .allMatch(Mending.Wrong::right);
    }

    /** A rail that does not conduct to what was freed was found down since. */
    private static boolean anotherRail(RailBook book, Mending closed) {
        return book.inForce().stream()
                .filter(s -> s.seq() > closed.repair().seq() && s.says() == Says.SHORTED)
                .anyMatch(s -> closed.wrongs().stream()
                        .filter(w -> w.test() == Test.UNPOWERED)
                        .noneMatch(w -> book.joinedTo(w.place()).contains(s.net())));
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
