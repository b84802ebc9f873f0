package ohmoscope.core.job;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.RailInQuestion;

/**
 * One device on the bench. The evidence is the device's: a reading that was taken in one hunt counts in every other.
 *
 * @param board with what good boards of its kind read
 * @param hunts in the order in which they were opened, numbered from 1
 * @param current the number of the one that is being worked on
 * @param observations in order
 */
public record Job(Board board, List<Hunt> hunts, int current, List<Observation> observations) {
    public Job {
        hunts = List.copyOf(hunts);
        observations = List.copyOf(observations);
        for (int i = 0; i < hunts.size(); i++) {
            if (hunts.get(i).number() != i + 1) {
                throw new InvalidMember(
                        "hunts",
                        "must be numbered 1, 2 and on, has " + hunts.get(i).number() + " at " + (i + 1));
            }
        }
        if (current < 1 || current > hunts.size()) {
            throw new InvalidMember("hunt", "must be from 1 to " + hunts.size() + ", was " + current);
        }
    }

    public Hunt hunt() {
        return hunts.get(current - 1);
    }

    /**
     * The rail that a hunt is about as far as anybody knows. A rail that the board no longer has is as good as unsaid.
     *
     * @param injection the hunt's own
     */
    public RailInQuestion question(Hunt hunt, Optional<Injection> injection) {
        Optional<String> said = hunt.statedRail()
                .or(() -> injection.map(Injection::net))
                .filter(r -> board.net(r).isPresent());
        return RailInQuestion.of(board, said, observations);
    }

    /** Whether what was wrong on a rail is right. */
    public Proof proof(String rail) {
        return Proof.of(board, rail, observations);
    }

    /** Whether the short on this rail, and on no other, is gone. */
    public boolean proven(String rail) {
        Proof proof = proof(rail);
        return proof.state() == Proof.State.CLEARED && proof.rail().equals(rail);
    }

    /**
     * Rails that another hunt of this job is about and whose repair nobody has proven: the device is not ready for them.
     */
    public List<String> unprovenElsewhere() {
        String here = question(hunt(), Optional.empty()).net();
        return hunts.stream()
                .filter(h -> h.number() != current)
                .map(h -> question(h, Optional.empty()).net())
                .filter(r -> !r.equals(here))
                .distinct()
                .filter(r -> !proven(r))
                .toList();
    }
}
