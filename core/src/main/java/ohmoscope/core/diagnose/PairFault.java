package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/** A part that only works together with the one it was paired with. */
final class PairFault extends FaultKind {
    private static final double PAIRED = 0.05;
    private static final double BROKEN = 200;
    private static final double WHOLE = 0.02;

    PairFault() {
        super(Code.PAIRED_PART);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return part.pairedWith().isPresent() ? List.of(refusing(part)) : List.of();
    }

    /** Alone it does nothing, or all but what the two do together. */
    private Suspicion refusing(Part part) {
        return new Suspicion(
                code,
                part.ref(),
                PAIRED,
                List.of(new Variant(List.of(new Dead(part.ref())), 0.5), new Variant(List.of(), 0.5)));
    }

    /** The same of a new one that was put in alone. */
    static Suspicion asFitted(Part part) {
        return new Suspicion(
                Code.PAIRED_PART, part.ref(), PAIRED, List.of(new Variant(List.of(new Dead(part.ref(), true)), 1)));
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
