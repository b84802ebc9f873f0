package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Hypothesis.Code;

/** A part that only works together with the one it was paired with. */
final class PairFault extends FaultKind {
    private static final double PAIRED = 0.05;
    private static final double BROKEN = 200;
    private static final double WHOLE = 0.1;

    PairFault() {
        super(Code.PAIRED_PART);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return part.pairedWith().isPresent() ? List.of(Suspicion.unseen(code, part.ref(), PAIRED)) : List.of();
    }

    @Override
    double besides(Context context, String target) {
        Optional<String> other = context.timeline().board().part(target).flatMap(Part::pairedWith);
        boolean one = context.exchanged(target);
        boolean two = other.map(context::exchanged).orElse(false);
        boolean ill = context.lastIllSeq() > Integer.MIN_VALUE;
        return one != two ? ill ? BROKEN : BROKEN / 6 : WHOLE;
    }
}
