package ohmoscope.core.diagnose;

import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Warm;

/**
 * What a series part says when its rail is fed from one end: warm, or with volts across it, the current goes through it, and
 * the fault lies behind it; cold, or with none, the fault lies on the side that is fed.
 *
 * @param near the nets on the side that was fed, without those behind the part
 */
record SeriesSide(Set<String> near, Set<String> all, boolean carries) {
    private static final double WARM_K = 0.4;
    private static final double TELLS = 12;
    /** Across a part that carries what flows there is more than this, as ohms; across one that does not, less than half. */
    private static final double CARRIES_OHMS = 2e-3;
    /** A meter's last digit, volts. */
    private static final double DIGIT_VOLTS = 2e-4;

    /** Empty unless the entry is about a series part that the fed net reaches. */
    static Optional<SeriesSide> of(BoardIndex board, RailBook book, Warm warm, String fed, BoardState state) {
        if (warm.deltaK().isEmpty() && !warm.nothing()) {
            return Optional.empty();
        }
        boolean hot = !warm.nothing() && warm.deltaK().orElse(0) > WARM_K;
        return of(board, book, warm.ref(), fed, state, hot);
    }

    /** Likewise by the volts across it. @param amps what flowed; a drop that says neither is empty */
    static Optional<SeriesSide> of(
            BoardIndex board, RailBook book, Read across, String fed, double amps, BoardState state) {
        double volts = Math.abs(across.value().orElse(0));
        boolean carries = volts > CARRIES_OHMS * amps + DIGIT_VOLTS;
        boolean none = volts < CARRIES_OHMS * amps / 2 && DIGIT_VOLTS < CARRIES_OHMS * amps / 2;
        return carries || none ? of(board, book, across.across(), fed, state, carries) : Optional.empty();
    }

    private static Optional<SeriesSide> of(
            BoardIndex board, RailBook book, Optional<String> ref, String fed, BoardState state, boolean carries) {
        Optional<Part> part = ref.flatMap(board::part).filter(p -> board.role(p) == Role.SERIES);
        if (part.isEmpty()) {
            return Optional.empty();
        }
        Set<String> all = book.joined(fed, state);
        if (part.get().pins().stream().noneMatch(p -> all.contains(p.net()))) {
            return Optional.empty();
        }
        return Optional.of(
                new SeriesSide(book.joined(fed, state.without(part.get().ref())), all, carries));
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
        return !reached ? 1 : here == carries ? 1 / TELLS : TELLS;
    }
}
