package ohmoscope.web.entry;

import java.io.IOException;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.prove.Proof;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.DecisionStore;
import ohmoscope.web.store.EvidenceStore;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What a technician does to a job: keep an entry, lift a part, read again. */
@Service
public class Bench {
    private final JobFile jobs;
    private final EvidenceStore evidence;
    private final DecisionStore decisions;
    private final AnalysisRunner analyses;
    private final JsonMapper mapper;

    Bench(JobFile jobs, EvidenceStore evidence, DecisionStore decisions, AnalysisRunner analyses, JsonMapper mapper) {
        this.jobs = jobs;
        this.evidence = evidence;
        this.decisions = decisions;
        this.analyses = analyses;
        this.mapper = mapper;
    }

    /** @return why the line was not kept; empty when it was */
    @Transactional
    public Optional<EntryLine.Parsed.NotUnderstood> enter(String number, String line, String by) throws IOException {
        JobFile.Stored job = jobs.read(number);
        EntryLine.Parsed parsed = new EntryLine(job.board())
                .parse(line, evidence.nextSeq(job.row().id()));
        if (parsed instanceof EntryLine.Parsed.NotUnderstood refused) {
            return Optional.of(refused);
        }
        keep(job, ((EntryLine.Parsed.Entry) parsed).observation(), by);
        return Optional.empty();
    }

    /** Records that a part was taken off, with what was known when it was decided. */
    @Transactional
    public void lift(String number, String ref, String by) throws IOException {
        JobFile.Stored job = jobs.read(number);
        if (job.board().part(ref).isEmpty()) {
            throw new InvalidMember("ref", "names the part " + ref + ", which this board does not have");
        }
        keep(job, new Change(evidence.nextSeq(job.row().id()), ChangeAction.REMOVED, ref, true), by);
    }

    /** Records the reading that the proof asks for. */
    @Transactional
    public void readAgain(String number, OptionalDouble value, String by) throws IOException {
        JobFile.Stored job = jobs.read(number);
        Read before = Proof.of(job.board(), job.row().rail(), job.bundle().observations())
                .before()
                .orElseThrow(() -> new InvalidMember("value", "has no reading before the change to be compared with"));
        value.ifPresent(v -> ohmoscope.core.board.Check.within("value", v, 0, 1e9));
        keep(
                job,
                new Read(
                        evidence.nextSeq(job.row().id()),
                        before.mode(),
                        before.net(),
                        before.ref(),
                        before.pin(),
                        before.across(),
                        before.to(),
                        value,
                        before.lead(),
                        Optional.empty()),
                by);
    }

    private void keep(JobFile.Stored job, Observation observation, String by) throws IOException {
        long jobId = job.row().id();
        evidence.add(jobId, observation, by);
        if (observation instanceof Change) {
            String known =
                    analyses.latest(jobId).map(mapper::writeValueAsString).orElse("");
            decisions.add(jobId, observation.seq(), known, by);
        }
        jobs.refreshState(jobId);
    }
}
