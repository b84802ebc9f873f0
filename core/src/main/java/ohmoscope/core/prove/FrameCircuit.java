package ohmoscope.core.prove;

import java.util.List;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;

/**
 * The circuit that frames were taken on. What frames told belongs to it: a part that was lifted afterwards is still one of
 * their suspects, and readings of the repaired board are none of their evidence.
 *
 * @param observations what was entered on that circuit and before
 * @param innocent parts that were taken away later while the short stayed
 */
public record FrameCircuit(List<Observation> observations, Set<String> innocent) {
    public FrameCircuit {
        observations = List.copyOf(observations);
        innocent = Set.copyOf(innocent);
    }

    /**
     * For frames that nobody knows the hour of: they were taken before the rework that followed the last injection, and
     * before what freed the rail.
     */
    public static FrameCircuit of(Board board, String rail, List<Observation> observations) {
        int injected = -1;
        for (int i = 0; i < observations.size(); i++) {
            injected = observations.get(i) instanceof Inject ? i : injected;
        }
        int end = injected < 0 ? observations.size() : nextChange(observations, injected + 1);
        return until(board, rail, observations, end);
    }

    /** @param there how many of the entries were there when the frames were taken */
    public static FrameCircuit of(Board board, String rail, List<Observation> observations, int there) {
        return until(board, rail, observations, nextChange(observations, there));
    }

    private static FrameCircuit until(Board board, String rail, List<Observation> observations, int end) {
        Proof proof = Proof.of(board, rail, observations);
        List<Observation> before = observations.subList(0, end).stream()
                .takeWhile(o -> proof.culprit().filter(c -> c.seq() <= o.seq()).isEmpty())
                .toList();
        return new FrameCircuit(before, Set.copyOf(proof.innocent()));
    }

    private static int nextChange(List<Observation> observations, int from) {
        for (int i = from; i < observations.size(); i++) {
            if (observations.get(i) instanceof Change change && change.altersCircuit()) {
                return i;
            }
        }
        return observations.size();
    }
}
