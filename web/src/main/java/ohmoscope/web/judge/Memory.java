package ohmoscope.web.judge;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Net;
import ohmoscope.core.diagnose.Experience;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.job.Likeness;
import ohmoscope.core.job.PastCase;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.ExperienceStore;
import ohmoscope.web.store.OthersStore;
import org.springframework.stereotype.Service;

/** What proven jobs that were kept say of an open one. */
@Service
public class Memory {
    private final ExperienceStore store;
    private final OthersStore others;

    Memory(ExperienceStore store, OthersStore others) {
        this.store = store;
        this.others = others;
    }

    /** What others of a job's model had; three queries by index, at most sixty rows each. */
    Experience of(JobFile.Stored job) {
        PastCase now = now(job, OptionalDouble.empty());
        return Likeness.experience(
                now,
                store.ofModel(now.model()),
                others.of(job.board().name(), job.board().revision()));
    }

    /** An open job in the few numbers that jobs are compared by. @param ohms of its short, where that is known */
    public PastCase now(JobFile.Stored job, OptionalDouble ohms) {
        Optional<String> rail =
                Optional.of(job.bundle().rail()).filter(r -> job.board().net(r).isPresent());
        OptionalDouble draw = job.bundle().observations().stream()
                .takeWhile(o -> !(o instanceof Change c && c.altersCircuit()))
                .filter(Power.class::isInstance)
                .map(o -> ((Power) o).amps())
                .filter(OptionalDouble::isPresent)
                .reduce((a, b) -> b)
                .orElseGet(OptionalDouble::empty);
        return PastCase.open(
                job.bundle().job().id(),
                store.model(job.row().boardId()),
                rail,
                rail.flatMap(job.board()::net).map(Net::nominalVolts).orElseGet(OptionalDouble::empty),
                job.account(),
                ohms,
                draw);
    }
}
