package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;

/**
 * What taking things off has shown: the part after whose removal a short was gone, and the parts that were taken off for
 * nothing.
 *
 * @param net the rail that is free again
 * @param culprit the part that went just before it was
 * @param innocent parts still off the board that went while the short stayed
 */
record Repair(String net, Change culprit, List<String> innocent) {
    /** How near a part that must not be overheated makes leaving a capacitor off the better way, mm. */
    private static final double TOO_NEAR_MM = 4;

    private static final int MANY_SIBLINGS = 2;

    static Optional<Repair> of(Timeline timeline, RailBook book) {
        for (String net : book.netsBefore()) {
            if (!book.cleared(net)) {
                continue;
            }
            int lastShort = book.shortedBefore(net).orElseThrow().seq();
            int free = book.lastUnpowered(net).orElseThrow().seq();
            Optional<Change> culprit = timeline.all(Change.class)
                    .filter(c -> c.seq() > lastShort && c.seq() < free && takesAway(c.action()))
                    .reduce((a, b) -> b)
                    .filter(c -> !onlyParted(timeline, book, c));
            if (culprit.isPresent()) {
                return Optional.of(new Repair(net, culprit.get(), innocent(timeline, culprit.get(), lastShort)));
            }
        }
        return Optional.empty();
    }

    /** What carried the rail and came off has parted it: one side is free because the short is on the other. */
    private static boolean onlyParted(Timeline timeline, RailBook book, Change change) {
        BoardIndex board = timeline.board();
        return board
                .part(change.target())
                .filter(p -> board.role(p) == Role.SERIES || board.role(p) == Role.PASS)
                .filter(p -> timeline.now().absent().contains(p.ref()))
                .stream()
                .flatMap(p -> p.pins().stream())
                .map(Pin::net)
                .anyMatch(n -> book.remains(n) || book.shorted(n));
    }

    /** Parts off the board now that were taken off before a reading that still showed the short. */
    static List<String> innocent(Timeline timeline, Change culprit, int lastShort) {
        List<String> refs = new ArrayList<>();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Change c
                    && c.action() == ChangeAction.REMOVED
                    && c.seq() < lastShort
                    && !c.target().equals(culprit.target())
                    && timeline.now().absent().contains(c.target())) {
                refs.add(c.target());
            }
        }
        return refs.stream().distinct().toList();
    }

    static boolean takesAway(ChangeAction action) {
        return action == ChangeAction.REMOVED
                || action == ChangeAction.DISCONNECTED
                || action == ChangeAction.SEPARATED
                || action == ChangeAction.REPLACED;
    }

    boolean replaced(Timeline timeline) {
        return timeline.now().renewed().contains(culprit.target());
    }

    /** Whether the culprit may stay off: one bypass capacitor of several, beside a part that must not be reheated. */
    boolean leaveOff(BoardIndex board) {
        Optional<Part> part = board.part(culprit.target());
        if (part.isEmpty() || part.get().kind() != PartKind.CAPACITOR || board.role(part.get()) != Role.BYPASS) {
            return false;
        }
        long siblings = board.partsOn(net)
                .filter(p -> p.kind() == PartKind.CAPACITOR && board.role(p) == Role.BYPASS)
                .filter(p -> !p.ref().equals(culprit.target()))
                .count();
        return siblings >= MANY_SIBLINGS && (siblings >= 2 * MANY_SIBLINGS + 2 || sensitiveNear(board, part.get()));
    }

    private static boolean sensitiveNear(BoardIndex board, Part part) {
        return board.parts().stream()
                .filter(p -> p.sensitive() && p.side() == part.side())
                .anyMatch(p -> BodyGap.mm(p, part) < TOO_NEAR_MM);
    }
}
