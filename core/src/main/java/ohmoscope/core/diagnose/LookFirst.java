package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Precaution.Hazard;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.reading.Says;

/**
 * Why the microscope comes before the next measurement: what is wet, cracked or gone is seen in less time than it is
 * measured in.
 *
 * @param rail the rail that is missing; empty for the other reasons
 */
public record LookFirst(Because because, Optional<String> rail) {
    /** What asks for it, the most pressing first. */
    public enum Because {
        /** It met a liquid: what corrodes is seen, and wanders with time. */
        LIQUID,
        /** A rail that stands on a good board does not, although power is there. */
        MISSING_RAIL,
        /** The port has all the volts that it asked for, and nothing starts: a small part in a supply is open or gone. */
        NO_START_AT_FULL_VOLTS
    }

    private static final double FULL = 0.9;
    /** A fault this likely is looked at by itself. */
    private static final double FOUND = 0.6;

    /**
     * @param hazards as ticked at receipt
     * @param account the customer's words; may be empty
     * @return empty when a measurement tells more, as where a rail is shorted, or one part leads
     */
    public static Optional<LookFirst> of(
            BoardIndex board,
            PowerTree tree,
            Set<Hazard> hazards,
            String account,
            Advice advice,
            List<Observation> observations) {
        boolean wet = hazards.contains(Hazard.LIQUID)
                || Account.of(account).wet()
                || observations.stream()
                        .anyMatch(o -> o instanceof Look look && Precaution.WET.contains(look.finding()));
        if (wet) {
            return Optional.of(new LookFirst(Because.LIQUID, Optional.empty()));
        }
        boolean shorted = advice.signs().stream().anyMatch(s -> s.says() == Says.SHORTED);
        boolean found = advice.hypotheses().stream()
                .anyMatch(h -> h.code() != Hypothesis.Code.NONE && h.probability() >= FOUND);
        if (shorted || found || works(observations)) {
            return Optional.empty();
        }
        return missing(tree, advice)
                .map(net -> new LookFirst(Because.MISSING_RAIL, Optional.of(net)))
                .or(() -> stays(board, tree, observations)
                        ? Optional.of(new LookFirst(Because.NO_START_AT_FULL_VOLTS, Optional.empty()))
                        : Optional.empty());
    }

    /** Somebody said so since it had power. */
    private static boolean dead(List<Observation> observations, int since) {
        return observations.stream()
                .anyMatch(o -> o instanceof Run run && run.seq() > since && run.finding() == RunFinding.DEAD);
    }

    private static boolean works(List<Observation> observations) {
        return observations.stream()
                .filter(Run.class::isInstance)
                .reduce((a, b) -> b)
                .map(o -> ((Run) o).finding().well())
                .orElse(false);
    }

    /** The one nearest to the port: what comes after it waits for it. */
    private static Optional<String> missing(PowerTree tree, Advice advice) {
        return advice.signs().stream()
                .filter(s -> s.says() == Says.ABSENT)
                .map(Sign::net)
                .distinct()
                .filter(net -> !tree.pathTo(net).isEmpty())
                .min(Comparator.comparingInt(net -> tree.pathTo(net).size()));
    }

    private static boolean stays(BoardIndex board, PowerTree tree, List<Observation> observations) {
        Optional<Power> last = observations.stream()
                .filter(o ->
                        o instanceof Power power && Draw.of(board, tree, power).isPresent())
                .map(Power.class::cast)
                .reduce((a, b) -> b);
        return last.filter(power -> {
                    Draw draw = Draw.of(board, tree, power).orElseThrow();
                    Optional<Part> port = Draw.port(board, tree, power);
                    double asked = Draw.nominal(board, port, port.flatMap(Part::expects));
                    boolean still = draw == Draw.STUCK
                            || draw == Draw.NONE
                            || draw != Draw.EXCESSIVE && draw != Draw.PULSING && dead(observations, power.seq());
                    return still && power.volts().orElse(0) >= FULL * asked;
                })
                .isPresent();
    }
}
