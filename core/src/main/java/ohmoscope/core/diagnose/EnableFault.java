package ohmoscope.core.diagnose;

import java.util.List;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;

/** A regulator that nobody tells to start. */
final class EnableFault extends FaultKind {
    private static final double NO_ENABLE = 0.35;

    EnableFault() {
        super(Code.NO_ENABLE);
    }

    @Override
    List<Suspicion> of(Surroundings around) {
        return around.board().parts().stream()
                .flatMap(p -> p.supplies().stream())
                .flatMap(s -> s.enable().stream())
                .distinct()
                .filter(n -> around.kind(n) == NetKind.SIGNAL)
                .map(n -> new Suspicion(code, n, NO_ENABLE, List.of(new Variant(List.of(new Inactive(n)), 1))))
                .toList();
    }
}
