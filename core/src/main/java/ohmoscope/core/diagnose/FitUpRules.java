package ohmoscope.core.diagnose;

import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Run;

/** What was unplugged or belongs to a pair, before parts are suspected for it. */
final class FitUpRules extends PlanRules {

    FitUpRules(Situation situation) {
        super(situation);
    }

    /** A device that was put together again and is ill: ask for what was unplugged before suspecting the repair. */
    void notPluggedBack() {
        Optional<Run> run = timeline.last(Run.class).filter(r -> !r.finding().well());
        timeline.now().unplugged().stream()
                .filter(ref -> run.isPresent()
                        && timeline.lastChangeOf(ref)
                                .map(c -> c.seq() < run.get().seq())
                                .orElse(false))
                .sorted()
                .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.NOT_PLUGGED_BACK)));
        diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.NOT_FITTED && h.probability() > 0.12)
                .limit(2)
                .forEach(h -> {
                    boolean connector = board.part(h.target())
                            .map(p -> p.kind() == PartKind.CONNECTOR)
                            .orElse(true);
                    add(Step.of(
                            connector ? Action.CHECK_FITTED : Action.FIT,
                            h.target(),
                            connector ? Reason.NOT_PLUGGED_BACK : Reason.PLACE_IS_EMPTY));
                });
    }

    /** Power goes in again and little flows: what was unplugged on the way may be what is missing. */
    void plugIn() {
        boolean little = lastDraw()
                .filter(d -> d == Draw.NONE || d == Draw.STUCK || d == Draw.NORMAL)
                .isPresent();
        if (little && !ran()) {
            timeline.now().unplugged().stream()
                    .sorted()
                    .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.NOT_PLUGGED_BACK)));
        }
    }

    void pair() {
        diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.PAIRED_PART && h.probability() > 0.08)
                .limit(1)
                .forEach(h -> {
                    add(Step.of(Action.REPLACE, h.target(), Reason.MOVE_THE_PAIR));
                    board.part(h.target())
                            .flatMap(Part::pairedWith)
                            .ifPresent(other -> add(Step.of(Action.REPLACE, other, Reason.MOVE_THE_PAIR)));
                });
    }
}
