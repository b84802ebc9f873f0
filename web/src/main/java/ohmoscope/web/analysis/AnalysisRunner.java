package ohmoscope.web.analysis;

import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Locator;
import ohmoscope.web.store.AnalysisStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.event.TransactionalEventListener;
import tools.jackson.databind.json.JsonMapper;

/** Runs queued analyses one after another. The queue is in the database; several processes may serve it. */
@Service
public class AnalysisRunner {
    private static final Logger LOG = LoggerFactory.getLogger(AnalysisRunner.class);

    /** What another process queued, or a failed look left, is taken up after this. */
    private static final long LOOK_AGAIN_S = 5;

    private final AnalysisStore analyses;
    private final JobFile jobs;
    private final JsonMapper mapper;
    private final ApplicationEventPublisher events;
    private final String owner = UUID.randomUUID().toString();
    private final ScheduledExecutorService worker = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "analysis");
        thread.setDaemon(true);
        return thread;
    });

    AnalysisRunner(AnalysisStore analyses, JobFile jobs, JsonMapper mapper, ApplicationEventPublisher events) {
        this.events = events;
        this.analyses = analyses;
        this.jobs = jobs;
        this.mapper = mapper;
    }

    /** Asks for a job's analysis; returns at once. A job without frames has nothing to be looked into. */
    public void request(long jobId) {
        if (!jobs.hasFrames(jobId)) {
            return;
        }
        analyses.queue(jobId, Locator.VERSION);
        events.publishEvent(new Queued());
    }

    /** Something waits in the queue. */
    record Queued() {}

    /** Not before the row is stored: the worker would not see it. */
    @TransactionalEventListener(fallbackExecution = true)
    void wake(Queued event) {
        worker.submit(this::drain);
    }

    public void cancel(long jobId) {
        analyses.cancel(jobId);
    }

    @EventListener(ApplicationReadyEvent.class)
    void resume() {
        analyses.requeueLost();
        worker.scheduleWithFixedDelay(this::drain, 0, LOOK_AGAIN_S, TimeUnit.SECONDS);
    }

    @PreDestroy
    void stop() {
        worker.shutdownNow();
    }

    private void drain() {
        try {
            Optional<AnalysisStore.Row> next = analyses.claim(owner);
            while (next.isPresent()) {
                run(next.get());
                next = analyses.claim(owner);
            }
        } catch (DataAccessException unreachable) {
            LOG.warn("the queue of analyses could not be read; it is tried again", unreachable);
        }
    }

    private void run(AnalysisStore.Row row) {
        long start = System.nanoTime();
        try {
            JobFile.Stored job = jobs.withoutTraces(row.jobId());
            LocateInput input =
                    job.bundle().withCaptures(job.framesOfOneCircuit()).locateInput(job.account(), job.frameCircuit());
            LocateResult result = new Locator().locate(input, share -> {
                if (!analyses.progress(row.id(), share)) {
                    throw new CancellationException();
                }
            });
            StoredAnalysis stored = StoredAnalysis.of(input, result, (System.nanoTime() - start) / 1e9);
            if (analyses.done(row.id(), mapper.writeValueAsString(stored))) {
                jobs.refreshState(row.jobId());
            }
        } catch (CancellationException cancelled) {
            LOG.info("analysis {} was cancelled", row.id());
        } catch (IOException | RuntimeException failed) {
            LOG.warn("analysis {} failed", row.id(), failed);
            String reason = failed instanceof IOException
                    ? failed.getMessage()
                    : "The computation failed; the log has the reason.";
            analyses.failed(row.id(), reason);
        }
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
