package ohmoscope.core.locate;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;

/**
 * Everything that locating may look at.
 *
 * @param leaning what the other evidence says of parts by reference, as factors on their prior, above 0; 1 where absent
 */
public record LocateInput(
        Board board,
        String rail,
        Optional<Injection> injection,
        SupplyLog supplyLog,
        List<Capture> captures,
        List<Observation> observations,
        Map<String, Double> leaning) {
    /** A capture with its frames. */
    public record Capture(CaptureSpec spec, FrameSource frames) {}

    public LocateInput {
        Check.text("rail", rail);
        if (board.net(rail).isEmpty()) {
            throw new InvalidMember("rail", "names the net " + rail + ", which the board does not have");
        }
        captures = List.copyOf(captures);
        observations = List.copyOf(observations);
        leaning = Map.copyOf(leaning);
    }

    /** From the net that is fed to the one in question. */
    public Rail fedRail() {
        return Rail.between(board, injection.map(Injection::net).orElse(rail), rail);
    }

    /** Without other evidence than what was taken off the board. */
    public LocateInput(
            Board board,
            String rail,
            Optional<Injection> injection,
            SupplyLog supplyLog,
            List<Capture> captures,
            List<Observation> observations) {
        this(board, rail, injection, supplyLog, captures, observations, Map.of());
    }
}
