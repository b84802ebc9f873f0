package ohmoscope.core.job;

import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import ohmoscope.core.diagnose.Mending;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.prove.Proof;

/**
 * How a job went, in a few numbers: what a shop counts.
 *
 * @param repair what was done about it, where that is proven
 * @param innocent how many parts were taken off for nothing
 * @param firstHeat the number of the entry by which a part was first heated
 * @param worked time spent on it, by stage; stages without any are left out, and all are where the entries were not written
 *     down while it was done
 */
public record Outcome(Optional<Change> repair, int innocent, OptionalInt firstHeat, Map<Stage, Duration> worked) {
    /** Longer than this between two entries was spent on something else. */
    public static final Duration PAUSE = Duration.ofMinutes(15);

    /** No part comes off with heat in less: entries that say so were written down in one go, and tell nothing of times. */
    public static final Duration LEAST_HEAT = Duration.ofSeconds(30);

    /** What time goes into. */
    public enum Stage {
        MEASURING,
        INJECTING,
        REWORKING,
        PROVING
    }

    public Outcome {
        worked = Map.copyOf(worked);
    }

    public boolean proven() {
        return repair.isPresent();
    }

    /**
     * @param mending what the last repair did to all that was wrong, where there was one
     * @param observations in order
     * @param at when each was written down, as many
     */
    public static Outcome of(Proof proof, Optional<Mending> mending, List<Observation> observations, List<Instant> at) {
        if (observations.size() != at.size()) {
            throw new IllegalArgumentException(
                    "as many times as entries are wanted, were " + at.size() + " and " + observations.size());
        }
        OptionalInt firstHeat = observations.stream()
                .filter(o -> o instanceof Change c && c.heat())
                .mapToInt(Observation::seq)
                .findFirst();
        return new Outcome(repair(proof, mending), proof.innocent().size(), firstHeat, worked(observations, at));
    }

    /** Of a short that is gone, or of anything else that was wrong and is right since. */
    public static Optional<Change> repair(Proof proof, Optional<Mending> mending) {
        return proof.state() == Proof.State.CLEARED
                ? proof.repair()
                : mending.filter(Mending::proven).map(Mending::repair);
    }

    /** The time before an entry belongs to what it says. */
    private static Map<Stage, Duration> worked(List<Observation> observations, List<Instant> at) {
        Map<Stage, Duration> worked = new EnumMap<>(Stage.class);
        boolean heated = false;
        for (int i = 0; i < observations.size(); i++) {
            Observation entry = observations.get(i);
            Stage stage = stage(entry, heated);
            Duration before = i == 0 ? Duration.ZERO : Duration.between(at.get(i - 1), at.get(i));
            if (stage == Stage.REWORKING && !heated && before.compareTo(LEAST_HEAT) < 0) {
                return Map.of();
            }
            heated |= stage == Stage.REWORKING;
            if (!before.isNegative() && !before.isZero() && before.compareTo(PAUSE) <= 0) {
                worked.merge(stage, before, Duration::plus);
            }
        }
        return worked;
    }

    private static Stage stage(Observation entry, boolean heated) {
        if (entry instanceof Change c && c.heat()) {
            return Stage.REWORKING;
        }
        if (entry instanceof Inject || entry instanceof Warm) {
            return Stage.INJECTING;
        }
        return heated ? Stage.PROVING : Stage.MEASURING;
    }
}
