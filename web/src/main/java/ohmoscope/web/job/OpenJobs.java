package ohmoscope.web.job;

import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.job.Outcome;
import ohmoscope.core.locate.RemovalCost;
import ohmoscope.core.prove.Posterior;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.Walk;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.config.Technician;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.SchoolStore;
import ohmoscope.web.store.ShopCostStore;
import org.springframework.stereotype.Service;

/** A job laid open for a page: its evidence, what that comes to for this technician, and the head of the page. */
@Service
public class OpenJobs {
    private final JobFile jobs;
    private final AnalysisRunner analyses;
    private final Judge judge;
    private final SchoolStore schools;
    private final ShopCostStore costs;
    private final Clock clock;

    OpenJobs(
            JobFile jobs, AnalysisRunner analyses, Judge judge, SchoolStore schools, ShopCostStore costs, Clock clock) {
        this.clock = clock;
        this.jobs = jobs;
        this.analyses = analyses;
        this.judge = judge;
        this.schools = schools;
        this.costs = costs;
    }

    /**
     * An open job.
     *
     * @param at when it was opened
     * @param analysis with what the readings say of it, where they speak together
     * @param minutes what lifting and looking cost this shop
     * @param together what frames and readings come to as one; empty where they stand apart
     */
    public record Open(
            JobFile.Stored job,
            Advice advice,
            Schools schools,
            Optional<StoredAnalysis> analysis,
            Proof proof,
            Walk walk,
            JobHead head,
            PowerTree tree,
            Instant at,
            RemovalCost.Minutes minutes,
            Optional<Posterior> together) {
        /** How it went so far. */
        public Outcome outcome() {
            return Outcome.of(
                    proof,
                    advice.mending(),
                    job.bundle().observations(),
                    job.entries().stream().map(EvidenceStore.Entry::madeAt).toList());
        }
    }

    /** Where frames name something, until a part comes off: what was measured after that is of another board. */
    private static Optional<Posterior> together(Optional<StoredAnalysis> frames, Advice advice) {
        return frames.filter(a -> advice.mending().isEmpty() && a.names())
                .flatMap(a -> Posterior.of(a.noneProbability(), advice.hypotheses()));
    }

    private static boolean actsOnAPart(Advice advice) {
        return advice.next().stream()
                .findFirst()
                .map(s -> s.action() == Action.REMOVE || s.action() == Action.REPLACE || s.action() == Action.FIT)
                .orElse(false);
    }

    public Open open(String number, Principal principal) throws IOException {
        return open(jobs.withoutTraces(number), schools.of(Technician.name(principal)));
    }

    /** For a technician of the usual schools. */
    public Open open(JobFile.Stored job) {
        return open(job, Schools.DEFAULT);
    }

    private Open open(JobFile.Stored job, Schools chosen) {
        Advice advice = judge.advise(job, chosen);
        Optional<StoredAnalysis> frames = analyses.latest(job.row().id());
        Optional<Posterior> together = together(frames, advice);
        Optional<StoredAnalysis> analysis =
                frames.map(a -> together.map(a::weighed).orElse(a));
        Proof proof = job.proof();
        Walk walk = jobs.walk(job, analysis, actsOnAPart(advice), proof);
        return new Open(
                job,
                advice,
                chosen,
                analysis,
                proof,
                walk,
                JobHead.of(job, walk),
                judge.tree(job),
                clock.instant(),
                costs.minutes(),
                together);
    }
}
