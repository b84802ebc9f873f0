package ohmoscope.web.live;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.atomic.AtomicBoolean;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.MovieFollower;
import ohmoscope.core.prove.FrameCircuit;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.Computing;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.entry.EvidenceChanged;
import ohmoscope.web.store.CaptureStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.Transactions;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/** Keeps what happens at a live bench: entries as they are made, movies as they come. */
@Service
class LiveKeeper {
    private static final Logger LOG = LoggerFactory.getLogger(LiveKeeper.class);
    /** Between what a job's clock has seen and a new session at the bench, seconds. */
    private static final double GAP_S = 60;

    private final JobFile jobs;
    private final CaptureStore captures;
    private final EvidenceStore evidence;
    private final AnalysisRunner analyses;
    private final Bench bench;
    private final Transactions transactions;
    private final ApplicationEventPublisher events;
    private final Computing computing;
    private final AtomicBoolean rehearsed = new AtomicBoolean();

    LiveKeeper(
            JobFile jobs,
            CaptureStore captures,
            EvidenceStore evidence,
            AnalysisRunner analyses,
            Bench bench,
            Transactions transactions,
            ApplicationEventPublisher events,
            Computing computing) {
        this.computing = computing;
        this.jobs = jobs;
        this.captures = captures;
        this.evidence = evidence;
        this.analyses = analyses;
        this.bench = bench;
        this.transactions = transactions;
        this.events = events;
    }

    JobFile.Stored job(String number) throws IOException {
        return jobs.withoutTraces(number);
    }

    /** @return whether nothing has been looked into since the start: the first look takes several times as long as the next */
    boolean rehearses() {
        return !rehearsed.getAndSet(true);
    }

    /** Looks into a movie while current flows: who watches the current is not kept waiting. */
    LocateResult look(MovieFollower follower, LocateInput input, Progress progress) throws IOException {
        return computing.done(() -> follower.look(input, progress));
    }

    /** Where a new session begins on the job's clock: after all that it has seen. */
    static double startS(JobFile.Stored job) {
        double last = Double.NEGATIVE_INFINITY;
        for (SupplyLog.Row row : job.supplyLog().rows()) {
            last = Math.max(last, row.tS());
        }
        for (Capture capture : job.bundle().captures()) {
            last = Math.max(last, capture.spec().timesS().get(capture.spec().frameCount() - 1));
        }
        return Double.isFinite(last) ? last + GAP_S : 0;
    }

    /** Keeps what was set and read as an entry. */
    void entry(String number, Bench.LogEntries entries, String by) throws IOException {
        bench.injected(number, entries, Optional.empty(), by);
    }

    /** Keeps a line as if it had been typed. */
    void line(String number, String line, String by) throws IOException {
        Optional<Bench.Refused> refused = bench.enter(number, line, by);
        if (refused.isPresent()) {
            throw new IllegalStateException(line + ": " + refused.get().why());
        }
    }

    /** Keeps what an inline meter recorded, with its entry. */
    void trace(String number, String name, String csv, Bench.TraceEntry entry, String by) throws IOException {
        bench.trace(number, name, csv, entry, by);
    }

    /** A name that no capture of the job has. */
    String freeName(long jobId) {
        List<String> taken = captures.names(jobId);
        int n = 1;
        while (taken.contains("live-" + n)) {
            n++;
        }
        return "live-" + n;
    }

    /** Begins to keep a movie with what is there of it. @return its row's id */
    long begin(JobFile.Stored job, Injection injection, Capture capture, String by) throws IOException {
        long jobId = job.row().id();
        return transactions.run(() -> {
            evidence.addInjection(jobId, Optional.of(injection), job.bundle().supplyLog());
            return captures.begin(jobId, captures.names(jobId).size(), capture, by);
        });
    }

    void more(long capture, int from, int width, LiveMovie.Stretch stretch, List<SupplyLog.Row> rows)
            throws IOException {
        transactions.run(() -> {
            captures.more(capture, from, width, stretch.frames(), stretch.timesS());
            captures.rows(capture, rows);
            return capture;
        });
    }

    /** The movie is a capture from now on, timed by what the supply showed. */
    void taken(long jobId, int hunt, long capture) throws IOException {
        transactions.run(() -> {
            List<SupplyLog.Row> rows = captures.taken(capture);
            EvidenceStore.Injected before = evidence.injected(jobId, hunt);
            evidence.addInjection(
                    jobId, before.injection(), Optional.of(joined(before.log().orElse(SupplyLog.empty()), rows)));
            analyses.request(jobId);
            jobs.refreshState(jobId);
            return capture;
        });
        events.publishEvent(new EvidenceChanged(jobId));
    }

    /** One log after the other; what is not later than the first one's end belongs to none. */
    static SupplyLog joined(SupplyLog before, List<SupplyLog.Row> rows) {
        List<SupplyLog.Row> all = new ArrayList<>(before.rows());
        for (SupplyLog.Row row : rows) {
            if (all.isEmpty() || row.tS() >= all.get(all.size() - 1).tS()) {
                all.add(row);
            }
        }
        return new SupplyLog(all);
    }

    /**
     * What is known before a movie, with the earlier captures of the same circuit. Made once for each: what the other evidence
     * leans to takes longer than a look at the frames.
     */
    static LocateInput before(JobFile.Stored job, Injection injection) {
        List<Observation> observations = job.bundle().observations();
        Bundle bundle = job.bundle();
        FrameCircuit circuit = FrameCircuit.of(bundle.board(), bundle.rail(), observations, observations.size());
        return new Bundle(
                        bundle.job(),
                        bundle.board(),
                        bundle.railInQuestion(),
                        Optional.of(injection),
                        bundle.supplyLog(),
                        job.framesOfOneCircuit(),
                        observations,
                        bundle.traces())
                .locateInput(job.account(), circuit);
    }

    /** The same with a movie as far as it has come. */
    static LocateInput with(LocateInput before, Capture capture, List<SupplyLog.Row> rows) {
        List<Capture> all = new ArrayList<>(before.captures());
        all.add(capture);
        return of(before, all, rows);
    }

    /** The new movie without those before it: with each of them a look takes longer, and the hold does not. */
    static LocateInput alone(LocateInput before, Capture capture, List<SupplyLog.Row> rows) {
        return of(before, List.of(capture), rows);
    }

    private static LocateInput of(LocateInput before, List<Capture> all, List<SupplyLog.Row> rows) {
        return new LocateInput(
                before.board(),
                before.rail(),
                before.injection(),
                joined(before.supplyLog(), rows),
                all,
                before.observations(),
                before.leaning());
    }

    /** What the application's end left half taken becomes a capture with what had come by then. */
    @EventListener(ApplicationReadyEvent.class)
    void takeUp() {
        for (CaptureStore.Unfinished one : captures.unfinished()) {
            try {
                taken(one.jobId(), one.huntNo(), one.id());
                LOG.info("capture {} of {} is kept as far as it had come", one.name(), one.number());
            } catch (IOException | RuntimeException failed) {
                LOG.warn("capture {} of {} could not be taken up", one.name(), one.number(), failed);
            }
        }
    }

    static Injection injection(
            String net,
            Optional<ohmoscope.core.evidence.ProbePlace> hot,
            Optional<ohmoscope.core.evidence.ProbePlace> back,
            double volts,
            double amps,
            double leadOhms) {
        return new Injection(
                net,
                hot,
                back,
                OptionalDouble.of(volts),
                OptionalDouble.of(amps),
                OptionalDouble.of(leadOhms),
                OptionalDouble.empty());
    }
}
