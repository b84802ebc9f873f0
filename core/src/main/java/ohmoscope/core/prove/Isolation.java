package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.ReadPoint;

/**
 * What was taken off or unplugged, in order, each with what was read at the same point before and after.
 *
 * @param steps oldest first
 */
public record Isolation(List<Step> steps) {
    /**
     * One change.
     *
     * @param pairs points that were read on both sides of it, without another change between
     */
    public record Step(Change change, List<Pair> pairs) {
        public Step {
            pairs = List.copyOf(pairs);
        }
    }

    /** One point. @param before the last reading before the change @param after the last one after it; empty when none */
    public record Pair(Read before, Optional<Read> after) {}

    public Isolation {
        steps = List.copyOf(steps);
    }

    public static Isolation of(Board board, List<Observation> observations) {
        List<Step> steps = new ArrayList<>();
        for (int i = 0; i < observations.size(); i++) {
            if (observations.get(i) instanceof Change change) {
                List<Read> before = last(board, readsBack(observations, i));
                List<Read> after = last(board, readsOn(observations, i));
                List<Pair> pairs = before.stream()
                        .map(b -> new Pair(
                                b,
                                after.stream()
                                        .filter(a -> ReadPoint.of(board, a).answers(ReadPoint.of(board, b)))
                                        .findFirst()))
                        .toList();
                steps.add(new Step(change, pairs));
            }
        }
        return new Isolation(steps);
    }

    private static List<Read> readsBack(List<Observation> all, int at) {
        List<Read> reads = new ArrayList<>();
        for (int i = at - 1; i >= 0 && !(all.get(i) instanceof Change); i--) {
            unpowered(all.get(i)).ifPresent(r -> reads.add(0, r));
        }
        return reads;
    }

    private static List<Read> readsOn(List<Observation> all, int at) {
        List<Read> reads = new ArrayList<>();
        for (int i = at + 1; i < all.size() && !(all.get(i) instanceof Change); i++) {
            unpowered(all.get(i)).ifPresent(reads::add);
        }
        return reads;
    }

    private static Optional<Read> unpowered(Observation observation) {
        return observation instanceof Read read && read.power().isEmpty() ? Optional.of(read) : Optional.empty();
    }

    /** The last reading of each point. */
    private static List<Read> last(Board board, List<Read> reads) {
        List<Read> last = new ArrayList<>();
        for (Read read : reads) {
            ReadPoint point = ReadPoint.of(board, read);
            last.removeIf(r -> ReadPoint.of(board, r).equals(point));
            last.add(read);
        }
        return last;
    }
}
