package ohmoscope.web.sheet;

import java.util.List;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.store.OutcomeStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Jobs of an earlier version get their logbook's line when this one begins, one after the other and beside all else. */
@Component
class OlderJobs {
    private static final Logger LOG = LoggerFactory.getLogger(OlderJobs.class);

    private final OutcomeStore outcomes;
    private final ShelfLine lines;

    OlderJobs(OutcomeStore outcomes, ShelfLine lines) {
        this.outcomes = outcomes;
        this.lines = lines;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        List<Long> without = outcomes.without();
        if (!without.isEmpty()) {
            Thread worker = new Thread(() -> catchUp(without), "older-jobs");
            worker.setDaemon(true);
            worker.setPriority(Thread.MIN_PRIORITY);
            worker.start();
        }
    }

    private void catchUp(List<Long> without) {
        LOG.info("{} jobs of an earlier version get their logbook's line", without.size());
        for (long job : without) {
            try {
                lines.refresh(new JobFile.Changed(job));
            } catch (RuntimeException unreadable) {
                // One that cannot be read is left out of the logbook's counts, as it is of all else.
                LOG.warn("job {} gets no logbook's line: {}", job, unreadable.getMessage());
            }
        }
    }
}
