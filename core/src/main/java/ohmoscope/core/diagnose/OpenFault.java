package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;

/** A part that conducts no more, or for a resistor too little. */
final class OpenFault extends FaultKind {
    private static final double FUSE = 1.2;
    private static final double SMALL_RESISTOR = 1.2;
    private static final double RESISTOR = 0.4;
    private static final double COIL = 0.08;
    private static final double SWITCH = 0.35;
    /** A series resistor up to this is small enough to be a supply's own fuse, ohms. */
    private static final double SMALL_RESISTOR_OHMS = 200;

    private static final double UNKNOWN_OHMS = 1e6;
    private static final double[] RISEN_OHMS = {1, 20, 300, 2_000, 15_000, 200_000};
    /** Less than so many times its own value is no fault. */
    private static final double RISEN_FACTOR = 3;
    /** Where nobody states a value. */
    private static final double LEAST_RISEN_OHMS = 50;

    private static final double RISEN_SHARE = 0.2;
    private static final double PLACE_IS_EMPTY = 60;
    private static final double WET = 1.5;
    private static final double FROM_CELL_ONLY = 40;

    OpenFault() {
        super(Code.OPEN);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return switch (part.kind()) {
            case FUSE -> List.of(open(around, part, FUSE, false));
            case INDUCTOR, FERRITE -> List.of(open(around, part, COIL, false));
            case RESISTOR -> List.of(open(around, part, resistor(around, part), true));
            case DIODE, TVS ->
                around.twoNets(part)
                        .filter(n -> !around.board().isGround(n[1]))
                        .map(n -> List.of(open(around, part, COIL, false)))
                        .orElse(List.of());
            case MOSFET, TRANSISTOR ->
                around.channel(part)
                        .map(c -> List.of(open(
                                around, part, around.board().role(part) == Role.PASS ? SWITCH : RESISTOR / 2, false)))
                        .orElse(List.of());
            case IC -> around.board().role(part) == Role.PASS ? List.of(open(around, part, SWITCH, false)) : List.of();
            default -> List.of();
        };
    }

    private static double resistor(Surroundings around, Part part) {
        boolean series = around.board().role(part) == Role.SERIES;
        double ohms = PartValue.ohms(part).orElse(UNKNOWN_OHMS);
        return series && ohms < SMALL_RESISTOR_OHMS ? SMALL_RESISTOR : RESISTOR;
    }

    private Suspicion open(Surroundings around, Part part, double prior, boolean rises) {
        List<Variant> variants = new ArrayList<>();
        variants.add(new Variant(List.of(new Open(part.ref())), rises ? 1 - RISEN_SHARE : 1));
        if (rises) {
            double[] risen = risen(PartValue.ohms(part).orElse(LEAST_RISEN_OHMS));
            for (double ohms : risen) {
                variants.add(new Variant(List.of(new Open(part.ref(), ohms)), RISEN_SHARE / risen.length));
            }
        }
        return new Suspicion(code, part.ref(), around.behindPort(prior, around.behindPort(part)), variants);
    }

    /** What a resistor of {@code own} ohms may have risen to; at least one value. */
    private static double[] risen(double own) {
        double least = RISEN_FACTOR * own;
        double[] risen = Arrays.stream(RISEN_OHMS).filter(ohms -> ohms > least).toArray();
        return risen.length > 0 ? risen : new double[] {least};
    }

    /** What the port gives runs it, and what is fed in the cell's stead does nothing: it is between the cell and the rest. */
    @Override
    double besides(Context context, String target) {
        Timeline timeline = context.timeline();
        boolean onTheWay = timeline.board().part(target).stream()
                .flatMap(p -> p.pins().stream())
                .anyMatch(pin -> timeline.tree().ofBattery(pin.net()));
        return onTheWay && draws(timeline, true, Draw.NONE) && draws(timeline, false, Draw.NORMAL) ? FROM_CELL_ONLY : 1;
    }

    private static boolean draws(Timeline timeline, boolean atCell, Draw wanted) {
        return timeline.current(Power.class)
                .filter(p -> p.state() == DeviceState.ON)
                .filter(p -> p.from() == PowerSource.BATTERY
                                || p.port().map(timeline.tree()::isBattery).orElse(false)
                        ? atCell
                        : !atCell)
                .anyMatch(p -> Draw.of(timeline.board(), timeline.tree(), p)
                        .filter(d -> d == wanted)
                        .isPresent());
    }

    @Override
    double look(LookFinding finding) {
        return finding == LookFinding.MISSING ? PLACE_IS_EMPTY : Harm.seen(finding);
    }

    @Override
    double said(Account account, Suspicion suspicion) {
        return account.wet() ? WET : 1;
    }

    @Override
    boolean byHeat() {
        return true;
    }
}
