package ohmoscope.web.job;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.prove.Proof;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.NotFoundException;

/** The part that a page about a part is about where nobody says which. */
public final class NamedPart {
    private NamedPart() {}

    /**
     * @param of its reference; empty for who is named
     * @throws NotFoundException where the board has no such part
     */
    public static Optional<Part> of(OpenJobs.Open open, String of) {
        Board board = open.job().board();
        if (!of.isEmpty()) {
            return Optional.of(board.part(of)
                    .orElseThrow(() -> new NotFoundException("There is no part " + of + " on this board.")));
        }
        return named(open, board);
    }

    /** What the next step takes off, else who leads, by the frames or by the meter. */
    private static Optional<Part> named(OpenJobs.Open open, Board board) {
        Optional<Part> asked = open.advice().next().stream()
                .filter(s -> s.action() == Step.Action.REMOVE || s.action() == Step.Action.REPLACE)
                .flatMap(s -> s.target().stream())
                .flatMap(t -> board.part(t).stream())
                .findFirst();
        return asked.or(() -> open.analysis()
                        .filter(a -> a.verdict() != Verdict.NONE)
                        .flatMap(a -> a.suspects().stream().findFirst())
                        .flatMap(s -> board.part(s.ref())))
                .or(() -> open.advice().hypotheses().stream()
                        .flatMap(h -> board.part(h.target()).stream())
                        .findFirst());
    }

    /** What was proven to be it, else who is named. */
    public static Optional<Part> provenOrNamed(OpenJobs.Open open, String of) {
        Proof proof = open.proof();
        return of.isEmpty()
                ? proof.culprit()
                        .flatMap(c -> open.job().board().part(c.target()))
                        .or(() -> of(open, of))
                : of(open, of);
    }

    /**
     * How likely each part is to be it, likeliest first: by the frames, with the readings before them, where frames name
     * any; else by the readings alone.
     *
     * @param counted which of the readings' faults are meant
     */
    public static Map<String, Double> suspected(OpenJobs.Open open, Predicate<Hypothesis> counted) {
        Map<String, Double> suspected = new LinkedHashMap<>();
        Optional<StoredAnalysis> frames = open.analysis().filter(a -> a.verdict() != Verdict.NONE);
        if (frames.isPresent()) {
            frames.get().suspects().forEach(s -> suspected.merge(s.ref(), s.probability(), Double::sum));
        } else {
            open.advice().hypotheses().stream()
                    .filter(counted)
                    .filter(h -> open.job().board().part(h.target()).isPresent())
                    .forEach(h -> suspected.merge(h.target(), h.probability(), Double::sum));
        }
        return suspected;
    }
}
