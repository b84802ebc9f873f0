package ohmoscope.core.diagnose;

import java.util.Optional;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Run;

/** What was unplugged or belongs to a pair, before parts are suspected for it. */
final class FitUpRules extends PlanRules {
    FitUpRules(Situation situation) {
        super(situation);
    }

    /** A device that was put together again and is ill: ask for what was unplugged before suspecting the repair. */
    void notPluggedBack() {
        if (timeline.cellLeftOut()) {
            add(Step.of(Action.CHECK_FITTED, Timeline.BATTERY, Reason.NOT_PLUGGED_BACK));
        }
        Optional<Run> run = timeline.last(Run.class).filter(r -> !r.finding().well());
        timeline.now().unplugged().stream()
                .filter(ref -> run.isPresent()
                        && timeline.lastChangeOf(ref)
                                .map(c -> c.seq() < run.get().seq())
                                .orElse(false))
                .sorted()
                .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.NOT_PLUGGED_BACK)));
        diagnosis.hypotheses().stream()
                .filter(h -> h.code() == Code.NOT_FITTED && h.probability() > 0.12 && !tree.isBattery(h.target()))
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

    /** A plug that does not sit, on a device that is ill. */
    void seenLoose() {
        if (ran()) {
            return;
        }
        timeline.current(Look.class)
                .filter(l -> l.finding() == LookFinding.LOOSE)
                .map(Look::target)
                .distinct()
                .filter(ref -> board.part(ref)
                        .filter(p -> p.kind() == PartKind.CONNECTOR && !tree.isInput(ref))
                        .isPresent())
                .forEach(ref -> add(Step.of(Action.CHECK_FITTED, ref, Reason.SEEN_LOOSE)));
    }

    /** One function is missing and the rest works: the parts that are called like it, each looked at and its supply read. */
    void missingFunction() {
        MissingFunction.parts(timeline).limit(MOST_LINES).forEach(this::function);
    }

    private void function(Part part) {
        if (part.kind() == PartKind.CONNECTOR) {
            add(Step.of(Action.CHECK_FITTED, part.ref(), Reason.FUNCTION_MISSING));
            return;
        }
        if (timeline.uncleaned().contains(part.ref())) {
            add(Step.of(Action.LOOK, part.ref(), Reason.CLEAN_FIRST));
        } else if (!looked(part.ref())) {
            add(Step.of(Action.LOOK, part.ref(), Reason.FUNCTION_MISSING));
        }
        board.powerNets(part).stream()
                .filter(n -> book.powered(n).isEmpty())
                .limit(1)
                .forEach(n ->
                        add(Step.of(Action.READ, n, Reason.FUNCTION_MISSING).how(Step.Probe.UNDER_POWER)));
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
