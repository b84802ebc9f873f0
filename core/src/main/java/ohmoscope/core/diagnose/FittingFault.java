package ohmoscope.core.diagnose;

import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;

/** What belongs there is not there, or was not plugged back. */
final class FittingFault extends FaultKind {
    private static final double UNPLUGGED = 0.5;
    private static final double PLACE_IS_EMPTY = 60;
    private static final double SEEN_LOOSE = 15;
    private static final double LEFT_UNPLUGGED = 60;
    private static final double NEVER_UNPLUGGED = 0.02;
    private static final double UNPLUGGED_BUT_NOT_TRIED = 0.2;

    FittingFault() {
        super(Code.NOT_FITTED);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        boolean plugged = around.peripheral(part) || around.tree().isBattery(part.ref());
        return plugged && around.ground().isPresent()
                ? List.of(Suspicion.unseen(code, part.ref(), UNPLUGGED))
                : List.of();
    }

    /** A place that somebody found empty. */
    static Suspicion empty(String ref) {
        return new Suspicion(Code.NOT_FITTED, ref, UNPLUGGED, List.of(new Variant(List.of(new Open(ref)), 1)));
    }

    @Override
    double look(LookFinding finding) {
        return finding == LookFinding.MISSING ? PLACE_IS_EMPTY : finding == LookFinding.LOOSE ? SEEN_LOOSE : 1;
    }

    @Override
    double besides(Context context, String target) {
        Timeline timeline = context.timeline();
        if (timeline.tree().isBattery(target)) {
            return timeline.cellLeftOut() ? LEFT_UNPLUGGED : NEVER_UNPLUGGED;
        }
        boolean unplugged = timeline.now().unplugged().contains(target)
                || timeline.now().absent().contains(target);
        boolean triedSince = timeline.lastChangeOf(target)
                .map(c -> context.lastIllSeq() > c.seq())
                .orElse(false);
        if (unplugged && triedSince) {
            return LEFT_UNPLUGGED;
        }
        boolean seen = context.looks(target).stream()
                .anyMatch(l -> l.finding() == LookFinding.MISSING || l.finding() == LookFinding.LOOSE);
        if (seen) {
            return 1;
        }
        return unplugged ? UNPLUGGED_BUT_NOT_TRIED : worksWithout(timeline) ? NEVER_UNPLUGGED * 4 : NEVER_UNPLUGGED;
    }

    private static boolean worksWithout(Timeline timeline) {
        return timeline.last(Run.class)
                .map(r -> r.finding() == RunFinding.NO_PICTURE || r.finding() == RunFinding.FUNCTION_MISSING)
                .orElse(false);
    }
}
