package ohmoscope.core.diagnose;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.evidence.Observation.LookFinding;

/**
 * One kind of fault: how often it is met and in which electrical forms, and what that is not electrical speaks for it. A
 * new kind is one class here, its {@link Code} and its words.
 *
 * <p>Frequencies are the trade's, as ratios to one shorted bypass capacitor.
 */
abstract class FaultKind {
    /** In the order in which a part is asked for them. */
    static final List<FaultKind> ALL = List.of(
            new ShortFault(),
            new LeakFault(),
            new OpenFault(),
            new DeadFault(),
            new PortFault(),
            new BatteryFault(),
            new FittingFault(),
            new PairFault(),
            new EnableFault(),
            new NoFault());

    private static final Map<Code, FaultKind> BY_CODE = new EnumMap<>(Code.class);

    static {
        ALL.forEach(kind -> BY_CODE.put(kind.code, kind));
    }

    /** Looks clean where such a fault would often show. */
    static final double CLEAN_PART = 0.6;

    final Code code;

    FaultKind(Code code) {
        this.code = code;
    }

    static FaultKind of(Code code) {
        return BY_CODE.get(code);
    }

    /** The ways in which a part may have this fault. */
    List<Suspicion> of(Surroundings around, Part part) {
        return List.of();
    }

    /** The ways in which the board as a whole may. */
    List<Suspicion> of(Surroundings around) {
        return List.of();
    }

    /** How much likelier what was seen on the part makes it. */
    double look(LookFinding finding) {
        return 1;
    }

    /** How much likelier the rest makes it: what was done, how the device behaves. */
    double besides(Context context, String target) {
        return 1;
    }

    /** How much likelier the customer's words make it. */
    double said(Account account, Suspicion suspicion) {
        return 1;
    }

    /** Whether current through it makes it warm. */
    boolean heats() {
        return false;
    }

    /** Whether heat beside it may have brought it about. */
    boolean byHeat() {
        return false;
    }
}
