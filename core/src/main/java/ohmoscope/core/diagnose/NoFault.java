package ohmoscope.core.diagnose;

import java.util.List;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.evidence.Observation.Run;

/** Nothing is wrong with the board. */
final class NoFault extends FaultKind {
    private static final double NONE = 0.5;
    private static final double RUNS = 12;
    private static final double DOES_NOT_RUN = 0.3;

    NoFault() {
        super(Code.NONE);
    }

    @Override
    List<Suspicion> of(Surroundings around) {
        return List.of(Suspicion.unseen(code, "", NONE));
    }

    @Override
    double besides(Context context, String target) {
        return context.timeline()
                .last(Run.class)
                .map(r -> r.finding().well() ? RUNS : DOES_NOT_RUN)
                .orElse(1.0);
    }
}
