package ohmoscope.web.entry;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import ohmoscope.web.analysis.JobFile;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Tells open pages of a job that its evidence has changed, as server-sent events. */
@RestController
@EnableScheduling
class Listeners {
    private static final long OPEN_MS = 30 * 60 * 1000L;
    private static final long BEAT_MS = 20_000;

    private final JobFile jobs;
    private final Map<Long, List<SseEmitter>> open = new ConcurrentHashMap<>();

    Listeners(JobFile jobs) {
        this.jobs = jobs;
    }

    @GetMapping(path = "/jobs/{number}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter listen(@PathVariable String number) {
        long jobId = jobs.id(number);
        SseEmitter emitter = new SseEmitter(OPEN_MS);
        List<SseEmitter> all = open.computeIfAbsent(jobId, id -> new CopyOnWriteArrayList<>());
        all.add(emitter);
        emitter.onCompletion(() -> all.remove(emitter));
        emitter.onTimeout(emitter::complete);
        emitter.onError(gone -> all.remove(emitter));
        send(all, emitter, SseEmitter.event().comment("open"));
        return emitter;
    }

    /** The page that the change came from is told its own name, so that it can leave the news aside. */
    @TransactionalEventListener(fallbackExecution = true)
    void changed(EvidenceChanged event) {
        List<SseEmitter> all = open.getOrDefault(event.jobId(), List.of());
        String page = RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes request
                ? String.valueOf(request.getRequest().getHeader("X-Tab"))
                : "";
        all.forEach(e -> send(all, e, SseEmitter.event().name("evidence").data(page)));
    }

    /** Finds out which pages have gone. */
    @Scheduled(fixedDelay = BEAT_MS)
    void beat() {
        open.values()
                .forEach(all -> all.forEach(e -> send(all, e, SseEmitter.event().comment("beat"))));
    }

    /** Open streams would hold the server back from stopping. */
    @EventListener(ContextClosedEvent.class)
    void close() {
        open.values().forEach(all -> all.forEach(SseEmitter::complete));
    }

    private static void send(List<SseEmitter> all, SseEmitter emitter, SseEmitter.SseEventBuilder event) {
        try {
            emitter.send(event);
        } catch (IOException | IllegalStateException gone) {
            all.remove(emitter);
        }
    }
}
