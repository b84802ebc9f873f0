package ohmoscope.web.judge;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.EntryWeight;
import ohmoscope.core.diagnose.Experience;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.Observation;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.LastUsed;
import org.springframework.stereotype.Service;

/**
 * Advice on jobs. A board's advisor is made once and kept while the board is in use, a job's advice until its evidence
 * changes: a page that is looked at again costs nothing.
 */
@Service
public class Judge {
    private static final int BOARDS_KEPT = 16;
    private static final int JOBS_KEPT = 64;

    private final Map<Long, Known> advisors = LastUsed.map(BOARDS_KEPT);
    private final Map<Long, Judged> judged = LastUsed.map(JOBS_KEPT);
    private final Map<Long, Judged> earlier = LastUsed.map(JOBS_KEPT);
    private final Map<Long, Map.Entry<Weighed, List<EntryWeight>>> weighed = LastUsed.map(JOBS_KEPT);

    private final Memory memory;

    Judge(Memory memory) {
        this.memory = memory;
    }

    private record Weighed(String account, List<Observation> observations, Facts facts, Set<String> refs) {}

    /** What changes of a board when a good one's readings or draws are kept. */
    private record Facts(List<Net> nets, List<Part> ports) {
        static Facts of(Board board) {
            return new Facts(
                    board.nets(),
                    board.parts().stream().filter(p -> p.expects().isPresent()).toList());
        }
    }

    private record Known(Facts facts, Advisor advisor) {}

    private record Judged(
            Optional<String> rail,
            String account,
            List<Observation> observations,
            Schools schools,
            Experience experience,
            Facts facts,
            Advice advice) {}

    /** What the job's evidence comes to now, for a technician of these schools. */
    public Advice advise(JobFile.Stored job, Schools schools) {
        return kept(judged, job, job.bundle().observations(), schools);
    }

    /** What it came to when only these entries were known. */
    public Advice advise(JobFile.Stored job, List<Observation> observations, Schools schools) {
        return kept(earlier, job, observations, schools);
    }

    private Advice kept(Map<Long, Judged> kept, JobFile.Stored job, List<Observation> observations, Schools schools) {
        String account = job.account();
        Experience experience = schools.memory() == Schools.Memory.HEARD ? memory.of(job) : Experience.NONE;
        Judged known = kept.get(job.row().id());
        if (known != null
                && known.rail().equals(job.row().statedRail())
                && known.account().equals(account)
                && known.schools().equals(schools)
                && known.experience().equals(experience)
                && known.facts().equals(Facts.of(job.board()))
                && known.observations().equals(observations)) {
            return known.advice();
        }
        Advisor advisor = advisor(job);
        Advice advice;
        synchronized (advisor) {
            advice = advisor.advise(Optional.of(job.bundle().rail()), account, observations, schools, experience);
        }
        kept.put(
                job.row().id(),
                new Judged(
                        job.row().statedRail(),
                        account,
                        observations,
                        schools,
                        experience,
                        Facts.of(job.board()),
                        advice));
        return advice;
    }

    /** What each entry does to some parts' odds of being what warms. */
    public List<EntryWeight> weigh(JobFile.Stored job, Set<String> refs) {
        List<Observation> observations = job.bundle().captures().isEmpty()
                ? job.bundle().observations()
                : job.frameCircuit().observations();
        Weighed asked = new Weighed(job.account(), observations, Facts.of(job.board()), refs);
        Map.Entry<Weighed, List<EntryWeight>> known = weighed.get(job.row().id());
        if (known != null && known.getKey().equals(asked)) {
            return known.getValue();
        }
        Advisor advisor = advisor(job);
        List<EntryWeight> weights;
        synchronized (advisor) {
            weights = advisor.weigh(job.account(), observations, refs);
        }
        weighed.put(job.row().id(), Map.entry(asked, weights));
        return weights;
    }

    public PowerTree tree(JobFile.Stored job) {
        return advisor(job).tree();
    }

    /** The nets that anything conducts to from this one, the board being as it is. */
    public Set<String> joined(JobFile.Stored job, String net, BoardState now) {
        return advisor(job).joined(net, now);
    }

    private Advisor advisor(JobFile.Stored job) {
        Facts facts = Facts.of(job.board());
        return advisors.compute(
                        job.row().boardId(),
                        (id, known) -> known != null && known.facts().equals(facts)
                                ? known
                                : new Known(facts, new Advisor(job.board())))
                .advisor();
    }
}
