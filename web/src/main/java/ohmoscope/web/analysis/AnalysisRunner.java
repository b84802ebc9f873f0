package ohmoscope.web.analysis;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.Outage;
import ohmoscope.web.store.Transactions;
import ohmoscope.web.store.WorkQueue;
import ohmoscope.web.store.WorkQueues;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Runs queued analyses one after another. */
@Service
public class AnalysisRunner {
    private static final Logger LOG = LoggerFactory.getLogger(AnalysisRunner.class);

    private final AnalysisStore analyses;
    private final JobFile jobs;
    private final JsonMapper mapper;
    private final Transactions transactions;
    private final WorkQueue queue;

    private final Computing computing;

    AnalysisRunner(
            AnalysisStore analyses,
            JobFile jobs,
            JsonMapper mapper,
            Transactions transactions,
            WorkQueues queues,
            Computing computing) {
        this.computing = computing;
        this.analyses = analyses;
        this.jobs = jobs;
        this.mapper = mapper;
        this.transactions = transactions;
        this.queue = queues.open("analysis", id -> run(Long.parseLong(id)));
    }

    /** Asks for a job's analysis; returns at once. A job without frames has nothing to be looked into. */
    public void request(long jobId) {
        if (jobs.hasFrames(jobId)) {
            queue.add(String.valueOf(analyses.queue(jobId, Locator.VERSION)));
        }
    }

    public void cancel(long jobId) {
        analyses.cancel(jobId);
    }

    /** What an earlier version left waiting has no place in the queue yet. */
    @EventListener(ApplicationReadyEvent.class)
    void takeUp() {
        analyses.pending().forEach(id -> queue.add(String.valueOf(id)));
    }

    /** An outage of the database is let through: the queue tries again. */
    private void run(long id) {
        Optional<AnalysisStore.Row> row = analyses.start(id);
        if (row.isEmpty()) {
            return;
        }
        long start = System.nanoTime();
        try {
            JobFile.Stored job = jobs.ofHunt(row.get().jobId(), row.get().hunt());
            LocateInput input =
                    job.bundle().withCaptures(job.framesOfOneCircuit()).locateInput(job.account(), job.frameCircuit());
            LocateResult result = computing.locate(input, share -> {
                if (!analyses.progress(id, share)) {
                    throw new CancellationException();
                }
            });
            double seconds = (System.nanoTime() - start) / 1e9;
            String stored = mapper.writeValueAsString(StoredAnalysis.of(input, result, seconds));
            LOG.info("analysis {} took {} s", id, Math.round(10 * seconds) / 10.0);
            transactions.run(() -> {
                if (analyses.done(id, stored)) {
                    jobs.refreshState(row.get().jobId());
                }
                return id;
            });
        } catch (CancellationException cancelled) {
            LOG.info("analysis {} was cancelled", id);
        } catch (IOException failed) {
            failed(id, String.valueOf(failed.getMessage()), failed);
        } catch (RuntimeException failed) {
            if (Outage.is(failed)) {
                LOG.warn("analysis {} waits for the database: {}", id, failed.toString());
                throw failed;
            }
            failed(id, "The computation failed; the log has the reason.", failed);
        } catch (OutOfMemoryError failed) {
            failed(id, "It needs more memory than there is.", failed);
        }
    }

    private void failed(long id, String reason, Throwable cause) {
        LOG.warn("analysis {} failed", id, cause);
        analyses.failed(id, reason);
    }

    /** The newest finished analysis of a job. */
    public Optional<StoredAnalysis> latest(long jobId) {
        return jobs.analysis(jobId);
    }

    /** The newest analysis that waits, runs or failed. */
    public Optional<AnalysisStore.Row> state(long jobId) {
        return analyses.latest(jobId);
    }
}
