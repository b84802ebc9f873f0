package ohmoscope.core.diagnose;

import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;

/** A chip that does nothing of what it should. */
final class DeadFault extends FaultKind {
    private static final double CONTROLLER = 0.7;
    private static final double LOAD = 0.12;

    DeadFault() {
        super(Code.DEAD_CONTROLLER);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        Role role = around.board().role(part);
        if (part.kind() != PartKind.IC || role == Role.PASS) {
            return List.of();
        }
        boolean controls = role == Role.REGULATOR || role == Role.CHARGER || role == Role.PORT_CONTROLLER;
        List<Variant> dead = List.of(new Variant(List.of(new Dead(part.ref())), 1));
        return List.of(new Suspicion(code, part.ref(), controls ? CONTROLLER : LOAD, dead));
    }

    @Override
    double look(LookFinding finding) {
        return Harm.seldomSeen(finding);
    }

    @Override
    boolean byHeat() {
        return true;
    }
}
