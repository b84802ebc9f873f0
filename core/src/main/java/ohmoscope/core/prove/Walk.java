package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;

/** Where a job stands on the way from receiving a device to handing it back. It suggests; it locks nothing. */
public record Walk(List<Stop> stops) {
    /** The steps in their order. */
    public enum Step {
        RECEIVE,
        FIRST_POWER,
        LOOK,
        SURVEY,
        ISOLATE,
        INJECT,
        IMAGE,
        NAME_IT,
        REWORK,
        PROVE,
        HAND_BACK
    }

    /** How far a step is. */
    public enum State {
        DONE,
        SKIPPED,
        NOW,
        TO_COME
    }

    /** @param count entries that belong to the step */
    public record Stop(Step step, State state, int count) {}

    public Walk {
        stops = List.copyOf(stops);
    }

    public Step now() {
        return stops.stream()
                .filter(s -> s.state() == State.NOW)
                .map(Stop::step)
                .findFirst()
                .orElse(Step.HAND_BACK);
    }

    /**
     * @param injected whether a supply log or an injection is there
     * @param captures how many captures there are
     * @param named whether a part has been called
     */
    public static Walk of(List<Observation> observations, boolean injected, int captures, boolean named, Proof proof) {
        int[] counts = new int[Step.values().length];
        counts[Step.RECEIVE.ordinal()] = 1;
        for (Observation observation : observations) {
            counts[step(observation).ordinal()]++;
        }
        if (injected) {
            counts[Step.INJECT.ordinal()] = Math.max(1, counts[Step.INJECT.ordinal()]);
        }
        counts[Step.IMAGE.ordinal()] += captures;
        counts[Step.NAME_IT.ordinal()] = named ? 1 : 0;
        boolean proven = proof.state() == Proof.State.CLEARED;
        counts[Step.PROVE.ordinal()] = proof.after().isPresent() ? 1 : 0;
        int now = current(counts, proven);
        List<Stop> stops = new ArrayList<>();
        for (Step step : Step.values()) {
            int i = step.ordinal();
            State state = i == now ? State.NOW : i > now ? State.TO_COME : counts[i] > 0 ? State.DONE : State.SKIPPED;
            stops.add(new Stop(step, state, counts[i]));
        }
        return new Walk(stops);
    }

    private static int current(int[] counts, boolean proven) {
        if (proven) {
            return Step.HAND_BACK.ordinal();
        }
        if (counts[Step.REWORK.ordinal()] > 0) {
            return Step.PROVE.ordinal();
        }
        int furthest = 0;
        for (int i = 0; i <= Step.NAME_IT.ordinal(); i++) {
            if (counts[i] > 0) {
                furthest = i;
            }
        }
        return Math.min(Step.NAME_IT.ordinal(), furthest + 1);
    }

    private static Step step(Observation observation) {
        if (observation instanceof Observation.Power || observation instanceof Observation.Run) {
            return Step.FIRST_POWER;
        }
        if (observation instanceof Observation.Look) {
            return Step.LOOK;
        }
        if (observation instanceof Observation.Read) {
            return Step.SURVEY;
        }
        if (observation instanceof Observation.Inject) {
            return Step.INJECT;
        }
        if (observation instanceof Observation.Warm) {
            return Step.IMAGE;
        }
        Change change = (Change) observation;
        if (change.target().equals(Change.BATTERY)) {
            // Asked for when a device is received.
            return Step.RECEIVE;
        }
        boolean unplugged = change.action() == ChangeAction.DISCONNECTED
                || change.action() == ChangeAction.CONNECTED
                || change.action() == ChangeAction.SEPARATED;
        return unplugged ? Step.ISOLATE : Step.REWORK;
    }
}
