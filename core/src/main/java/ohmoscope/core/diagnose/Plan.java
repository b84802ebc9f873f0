package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;

/** The steps so far, each once, and none that the present circuit has answered already. */
final class Plan {
    private final Timeline timeline;
    private final List<Step> steps = new ArrayList<>();
    /** Steps that may wait until the others are named. */
    private final List<Step> later = new ArrayList<>();

    Plan(Timeline timeline) {
        this.timeline = timeline;
    }

    List<Step> steps() {
        return steps;
    }

    void addLater(Step step) {
        later.add(step);
    }

    void addWhatWaited() {
        later.forEach(this::add);
    }

    /** A reading under power or across a part that the present circuit has been asked for tells nothing new. */
    private boolean readAlready(Step step) {
        Optional<Step.Probe> probe = step.probe().filter(p -> step.action() == Action.READ);
        return probe.isPresent()
                && timeline.current(Read.class)
                        .anyMatch(r -> probe.get().across()
                                ? r.across().equals(step.target())
                                : r.across().isEmpty()
                                        && probe.get()
                                                .mode()
                                                .map(m -> m == r.mode())
                                                .orElse(false)
                                        && timeline.netOf(r).equals(step.target()));
    }

    void add(Step step) {
        boolean underPower = step.action() == Action.READ
                && step.probe().flatMap(Step.Probe::power).isPresent();
        if (underPower
                && !readAlready(step)
                && timeline.current(Power.class).findAny().isEmpty()) {
            // What the board draws is seen before anybody measures on it for minutes.
            add(Step.of(Action.POWER, Reason.FIRST_POWER));
        }
        if (steps.stream().noneMatch(step::same) && !readAlready(step)) {
            steps.add(step);
        }
    }
}
