package ohmoscope.formats;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.prove.FrameCircuit;
import ohmoscope.core.prove.RailInQuestion;

/**
 * A job as a bundle holds it. Frames are not in it but can be opened from it.
 *
 * @param railInQuestion what it is about as far as anybody knows
 * @param traces the files under {@code traces/}, by name, as they are
 */
public record Bundle(
        Job job,
        Board board,
        RailInQuestion railInQuestion,
        Optional<Injection> injection,
        Optional<SupplyLog> supplyLog,
        List<Capture> captures,
        List<Observation> observations,
        Map<String, String> traces) {
    /** A long job has sixty entries. */
    public static final int MOST_OBSERVATIONS = 5_000;

    private static final int MOST_CAPTURES = 500;

    /** What is left for a part that was off while the short stayed: the reading may have been wrong. */
    private static final double INNOCENT = 0.02;

    /** Who is on the bench. */
    public record Job(String id, String title, Optional<Instant> opened) {
        public Job {
            Check.text("id", id);
            if (id.length() > 100) {
                throw new InvalidMember("id", "must not be longer than 100 characters");
            }
            if (title.length() > 300) {
                throw new InvalidMember("title", "must not be longer than 300 characters");
            }
        }
    }

    public Bundle {
        if (board.net(railInQuestion.net()).isEmpty()) {
            throw new InvalidMember(
                    "rail", "names the net " + railInQuestion.net() + ", which board.json does not have");
        }
        injection.ifPresent(i -> {
            if (board.net(i.net()).isEmpty()) {
                throw new InvalidMember(
                        "injection.net", "names the net " + i.net() + ", which board.json does not have");
            }
        });
        captures = List.copyOf(captures);
        for (int i = 0; i < captures.size(); i++) {
            String id = captures.get(i).spec().id();
            long same = captures.stream().filter(c -> c.spec().id().equals(id)).count();
            if (same > 1) {
                throw new InvalidMember("captures[" + i + "].id", "stands twice: " + id);
            }
        }
        observations = List.copyOf(observations);
        Check.atMost("observations", observations.size(), MOST_OBSERVATIONS);
        Check.atMost("captures", captures.size(), MOST_CAPTURES);
        for (int i = 1; i < observations.size(); i++) {
            if (observations.get(i).seq() <= observations.get(i - 1).seq()) {
                throw new InvalidMember(
                        "observations[" + i + "].seq",
                        "must rise, was " + observations.get(i).seq() + " after "
                                + observations.get(i - 1).seq());
            }
        }
        traces = Map.copyOf(new TreeMap<>(traces));
    }

    /** The net of {@link #railInQuestion()}. */
    public String rail() {
        return railInQuestion.net();
    }

    /** What somebody said that it is about; empty while nobody did. */
    public Optional<String> statedRail() {
        return railInQuestion.known() == RailInQuestion.Known.STATED ? Optional.of(rail()) : Optional.empty();
    }

    /** The same of another number or on another board. */
    public Bundle as(Job otherJob, Board otherBoard) {
        return new Bundle(otherJob, otherBoard, railInQuestion, injection, supplyLog, captures, observations, traces);
    }

    public Bundle withCaptures(List<Capture> others) {
        return new Bundle(job, board, railInQuestion, injection, supplyLog, others, observations, traces);
    }

    public LocateInput locateInput() {
        return locateInput(job.title(), FrameCircuit.of(board, rail(), observations));
    }

    /**
     * @param account the customer's words, as far as they are known
     * @param circuit what the frames were taken on
     */
    public LocateInput locateInput(String account, FrameCircuit circuit) {
        Map<String, Double> leaning = new HashMap<>(new Advisor(board).leaning(account, circuit.observations()));
        circuit.innocent().forEach(ref -> leaning.put(ref, INNOCENT));
        return new LocateInput(
                board,
                rail(),
                injection,
                supplyLog.orElse(SupplyLog.empty()),
                captures,
                circuit.observations(),
                leaning);
    }

    /** What the observations come to so far. */
    public Advice advise() {
        return new Advisor(board).advise(Optional.of(rail()), job.title(), observations);
    }
}
