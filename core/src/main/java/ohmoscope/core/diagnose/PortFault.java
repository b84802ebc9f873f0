package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.LookFinding;

/** A port may bridge its supply to ground, a line to ground, or make no contact. */
final class PortFault extends FaultKind {
    private static final double PORT = 2.5;
    /** Bent contacts touch; dirt and corrosion conduct some tens of ohms. */
    private static final double[] OHMS = {0.03, 0.3, 3, 40};
    /** Of damaged ports, those that short the supply, and those that short a line. */
    private static final double SHORTS = 0.3;

    private static final Map<LookFinding, Double> SEEN = new EnumMap<>(Map.of(
            LookFinding.PINS_TOUCHING, 150.0,
            LookFinding.PIN_BENT, 25.0,
            LookFinding.PIN_MISSING, 40.0,
            LookFinding.LOOSE, 20.0,
            LookFinding.BURNT, 20.0,
            LookFinding.CORRODED, 8.0,
            LookFinding.WET_MARK, 3.0));
    private static final double CLEAN = 0.3;
    /** Nothing behind the port knows which way round the plug is, but its own two lines. */
    private static final double ONE_SIDE = 150;

    private static final double SAID_TO_BE_HURT = 3;

    PortFault() {
        super(Code.DAMAGED_PORT);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        Optional<String> ground = around.ground();
        boolean port = part.kind() == PartKind.CONNECTOR
                && around.tree().isInput(part.ref())
                && !around.tree().isBattery(part.ref());
        if (!port || ground.isEmpty()) {
            return List.of();
        }
        List<String> rails = around.board().powerNets(part);
        List<String> lines = part.pins().stream()
                .map(Pin::net)
                .distinct()
                .filter(n -> around.kind(n) == NetKind.SIGNAL)
                .toList();
        List<Variant> variants = new ArrayList<>();
        for (List<String> nets : List.of(rails, lines)) {
            for (String net : nets) {
                for (double ohms : OHMS) {
                    variants.add(new Variant(
                            List.of(new Bridge(part.ref(), net, ground.get(), ohms)),
                            SHORTS / nets.size() / OHMS.length));
                }
            }
        }
        double left = 1 - variants.stream().mapToDouble(Variant::weight).sum();
        variants.add(new Variant(List.of(new Open(part.ref())), left * 0.5));
        variants.add(new Variant(List.of(), left * 0.5));
        return List.of(new Suspicion(code, part.ref(), PORT, variants));
    }

    @Override
    double look(LookFinding finding) {
        return finding == LookFinding.CLEAN ? CLEAN : SEEN.getOrDefault(finding, 1.0);
    }

    @Override
    double besides(Context context, String target) {
        return DrawsBySide.of(context.timeline()).oneSideOnly() ? ONE_SIDE : 1;
    }

    @Override
    double said(Account account, Suspicion suspicion) {
        return account.hurtPort() && !suspicion.asFitted() ? SAID_TO_BE_HURT : 1;
    }

    @Override
    boolean heats() {
        return true;
    }
}
