package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.reading.Says;

/** The battery is to blame when the board is well without it and ill with it. */
final class BatteryFault extends FaultKind {
    private static final double BATTERY = 0.5;
    /** Of the cells that are to blame, those that have switched themselves off, or reach no contact. */
    private static final double GIVES_NOTHING = 0.3;

    private static final double ILL_WITH_WELL_WITHOUT = 20;
    private static final double TAKES_NO_CHARGE = 3;
    /** What stands on the battery's net without it is somebody else's doing. */
    private static final double BACKFED = 0.1;

    BatteryFault() {
        super(Code.BATTERY);
    }

    @Override
    List<Suspicion> of(Surroundings around, Part part) {
        return around.tree().isBattery(part.ref()) && around.ground().isPresent()
                ? List.of(new Suspicion(
                        code,
                        part.ref(),
                        BATTERY,
                        List.of(
                                new Variant(List.of(), 1 - GIVES_NOTHING),
                                new Variant(List.of(new Open(part.ref())), GIVES_NOTHING))))
                : List.of();
    }

    @Override
    double besides(Context context, String target) {
        boolean illWith = false;
        boolean wellWithout = false;
        Timeline timeline = context.timeline();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Power power) {
                Optional<Draw> draw = Draw.of(timeline.board(), timeline.tree(), power);
                boolean in = moment.state().battery()
                        || power.battery().map(b -> b == BatteryState.IN).orElse(false);
                illWith |= in
                        && draw.map(d -> d == Draw.EXCESSIVE || d == Draw.PULSING || d == Draw.NONE || d == Draw.STUCK)
                                .orElse(false);
                wellWithout |= !in && draw.map(d -> d == Draw.NORMAL).orElse(false);
            }
        }
        RailBook book = context.book();
        boolean backfed =
                book.nets().stream().anyMatch(n -> book.last(n, Says.BACKFED).isPresent());
        boolean chargeless = timeline.last(Run.class)
                .map(r -> r.finding() == RunFinding.DOES_NOT_CHARGE || r.finding() == RunFinding.SHOWS_CHARGING_ONLY)
                .orElse(false);
        double ratio = illWith && wellWithout ? ILL_WITH_WELL_WITHOUT : 1;
        ratio *= chargeless ? TAKES_NO_CHARGE : 1;
        return backfed ? BACKFED * ratio : ratio;
    }
}
