package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.NoOutput;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;

/** A chip that does nothing of what it should, or of several outputs makes one no more. */
final class DeadFault extends FaultKind {
    private static final double CONTROLLER = 0.7;
    private static final double LOAD = 0.12;
    /** Of the dead chips with several outputs, those that still make the others. */
    private static final double ONE_OUTPUT = 0.4;

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
        return List.of(new Suspicion(code, part.ref(), controls ? CONTROLLER : LOAD, forms(part)));
    }

    private static List<Variant> forms(Part part) {
        List<String> outs = part.supplies().stream().map(Supply::out).distinct().toList();
        if (outs.size() < 2) {
            return List.of(new Variant(List.of(new Dead(part.ref())), 1));
        }
        List<Variant> forms = new ArrayList<>();
        forms.add(new Variant(List.of(new Dead(part.ref())), 1 - ONE_OUTPUT));
        outs.forEach(out -> forms.add(new Variant(List.of(new NoOutput(part.ref(), out)), ONE_OUTPUT / outs.size())));
        return forms;
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
