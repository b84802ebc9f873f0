package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.Fault.Dead;
import ohmoscope.core.circuit.Fault.Inactive;
import ohmoscope.core.circuit.Fault.NoOutput;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.reading.Says;

/** A chip that does nothing of what it should, or of several outputs makes one no more, or drives a switch no more. */
final class DeadFault extends FaultKind {
    private static final double CONTROLLER = 0.7;
    private static final double LOAD = 0.12;
    /** Of the dead chips with several outputs, those that still make the others. */
    private static final double ONE_OUTPUT = 0.4;
    /** Of those that close a switch, those that do all but that. */
    private static final double ONE_GATE = 0.25;

    /** How makers call the output of a regulator that a chip has for itself. */
    private static final Pattern INNER_OUTPUT = Pattern.compile("(?i)LDO.*|V?REG.*");

    private static final double ALIVE = 0.2;
    private static final double SILENT = 40;
    /** The same where nobody has read whether the rail is free. */
    private static final double SILENT_MAYBE_SHORTED = 5;

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
        return List.of(new Suspicion(code, part.ref(), controls ? CONTROLLER : LOAD, forms(around, part)));
    }

    private static List<Variant> forms(Surroundings around, Part part) {
        List<String> outs = part.supplies().stream().map(Supply::out).distinct().toList();
        List<Variant> forms = new ArrayList<>();
        double whole = 1;
        if (outs.size() > 1) {
            whole -= ONE_OUTPUT;
            outs.forEach(out ->
                    forms.add(new Variant(List.of(new NoOutput(part.ref(), out)), ONE_OUTPUT / outs.size())));
        }
        List<String> gates = around.board().parts().stream()
                .flatMap(p -> p.gate().stream())
                .map(Gate::net)
                .distinct()
                .filter(part::touches)
                .toList();
        if (!gates.isEmpty()) {
            whole -= ONE_GATE;
            gates.forEach(gate -> forms.add(new Variant(List.of(new Inactive(gate)), ONE_GATE / gates.size())));
        }
        forms.add(0, new Variant(List.of(new Dead(part.ref())), whole));
        return forms;
    }

    /** A chip that is fed and whose own inner regulator gives nothing is dead, though no board file says who makes that. */
    @Override
    double besides(Context context, String target) {
        BoardIndex board = context.timeline().board();
        RailBook book = context.book();
        Part chip = board.part(target).orElseThrow();
        boolean fed = context.timeline().tree().supplies(board, chip).stream().anyMatch(book::stands);
        List<String> inner = innerRails(context.timeline(), chip);
        List<String> away = inner.stream()
                .filter(n -> fed && !book.down(n))
                .filter(n -> book.powered(n)
                        .map(s -> s.says() == Says.ABSENT || s.says() == Says.HALF)
                        .orElse(false))
                .toList();
        if (away.isEmpty()) {
            return inner.stream().anyMatch(book::stands) ? ALIVE : 1;
        }
        return away.stream().anyMatch(n -> book.unpowered(n).isPresent()) ? SILENT : SILENT_MAYBE_SHORTED;
    }

    /** Rails on a pin that is named as a regulator's output, with no other chip on them, and fed by nothing that is known. */
    static List<String> innerRails(Timeline timeline, Part chip) {
        return chip.pins().stream()
                .filter(p -> INNER_OUTPUT.matcher(p.name()).matches())
                .map(Pin::net)
                .distinct()
                .filter(n -> timeline.board()
                        .net(n)
                        .filter(net -> net.kind() == NetKind.POWER)
                        .isPresent())
                .filter(n -> timeline.tree().pathTo(n).isEmpty())
                .filter(n -> timeline.board()
                        .partsOn(n)
                        .allMatch(p -> p.kind() != PartKind.IC || p.ref().equals(chip.ref())))
                .toList();
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
