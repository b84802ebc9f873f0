package ohmoscope.core.diagnose;

import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.Warm;

/**
 * What a series part says when its rail is fed from one end: warm, the current goes through it, and the fault lies behind
 * it; cold, the fault lies on the side that is fed.
 *
 * @param near the nets on the side that was fed, without those behind the part
 */
record SeriesSide(Set<String> near, Set<String> all, boolean warm) {
    private static final double WARM_K = 0.4;
    private static final double TELLS = 12;

    /** Empty unless the entry is about a series part that the fed net reaches. */
    static Optional<SeriesSide> of(BoardIndex board, RailBook book, Warm warm, String fed, BoardState state) {
        Optional<Part> part = warm.ref().flatMap(board::part).filter(p -> board.role(p) == Role.SERIES);
        if (part.isEmpty() || warm.deltaK().isEmpty() && !warm.nothing()) {
            return Optional.empty();
        }
        Set<String> all = book.joined(fed, state);
        if (part.get().pins().stream().noneMatch(p -> all.contains(p.net()))) {
            return Optional.empty();
        }
        boolean hot = !warm.nothing() && warm.deltaK().orElse(0) > WARM_K;
        return Optional.of(
                new SeriesSide(book.joined(fed, state.without(part.get().ref())), all, hot));
    }

    /** Likelihood ratio of a fault. */
    double of(Variant variant) {
        boolean reached = false;
        boolean here = false;
        for (var fault : variant.faults()) {
            if (fault instanceof Bridge b) {
                reached |= all.contains(b.netA()) || all.contains(b.netB());
                here |= near.contains(b.netA()) || near.contains(b.netB());
            }
        }
        return !reached ? 1 : here == warm ? 1 / TELLS : TELLS;
    }
}
