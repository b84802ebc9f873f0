package ohmoscope.core.prove;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;

/**
 * The rail that a job is about. Whoever brings a device in seldom knows: until somebody says, it is what the evidence
 * found, and the board's main rail as long as that is nothing.
 */
public record RailInQuestion(String net, Known known) {
    /** How it is known. */
    public enum Known {
        /** Somebody said so. */
        STATED,
        /** A reading shows it shorted or low. */
        FOUND,
        /** Somebody fed it. */
        FED,
        /** Nothing is known: the main rail, where every hunt begins. */
        NOT_YET
    }

    public static RailInQuestion stated(String net) {
        return new RailInQuestion(net, Known.STATED);
    }

    /** O(entries) and once the board's power tree where nobody said it. @param stated what somebody said */
    public static RailInQuestion of(Board board, Optional<String> stated, List<Observation> observations) {
        if (stated.isPresent()) {
            return new RailInQuestion(stated.get(), Known.STATED);
        }
        String main = PowerTree.of(board).mainRail();
        Optional<String> wrong = Proof.shortedRail(board, main, observations);
        Optional<String> fed = observations.stream()
                .filter(Inject.class::isInstance)
                .map(o -> ((Inject) o).net())
                .filter(n -> board.net(n).isPresent() && !board.isGround(n))
                .reduce((a, b) -> b);
        return wrong.map(n -> new RailInQuestion(n, Known.FOUND))
                .or(() -> fed.map(n -> new RailInQuestion(n, Known.FED)))
                .orElseGet(() -> new RailInQuestion(main, Known.NOT_YET));
    }
}
