package ohmoscope.web.analysis;

import java.io.IOException;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Precaution;
import ohmoscope.core.evidence.GoodDraws;
import ohmoscope.core.evidence.GoodReadings;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.job.Hunt;
import ohmoscope.core.job.Job;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.prove.FrameCircuit;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.Walk;
import ohmoscope.formats.Bundle;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.CaptureStore;
import ohmoscope.web.store.EvidenceStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobRow;
import ohmoscope.web.store.JobStore;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** A job put together from the store, and the shelf's line for it kept up to date. */
@Service
public class JobFile {
    private final JobStore jobs;
    private final BoardStore boards;
    private final EvidenceStore evidence;
    private final GoodStore goods;
    private final CaptureStore captures;
    private final AnalysisStore analyses;
    private final IntakeStore intakes;
    private final JsonMapper mapper;
    private final ApplicationEventPublisher events;

    JobFile(
            JobStore jobs,
            BoardStore boards,
            EvidenceStore evidence,
            GoodStore goods,
            CaptureStore captures,
            AnalysisStore analyses,
            IntakeStore intakes,
            JsonMapper mapper,
            ApplicationEventPublisher events) {
        this.events = events;
        this.jobs = jobs;
        this.boards = boards;
        this.evidence = evidence;
        this.goods = goods;
        this.captures = captures;
        this.analyses = analyses;
        this.intakes = intakes;
        this.mapper = mapper;
    }

    /**
     * A job as stored: its row, and what its bundle would be. Frames are read when opened.
     *
     * @param board the bundle's, with what good boards of its kind were read at
     * @param capturedAt when each of the bundle's captures was taken in
     * @param job the job with all its hunts; the bundle is the current one's
     * @param behind what the good readings of the board's nets rest on
     */
    public record Stored(
            JobRow row,
            Bundle bundle,
            List<EvidenceStore.Entry> entries,
            Optional<IntakeStore.Intake> intake,
            Board board,
            List<Instant> capturedAt,
            Job job,
            Map<String, GoodStore.Behind> behind) {
        public Stored {
            capturedAt = List.copyOf(capturedAt);
            behind = Map.copyOf(behind);
        }

        public Stored(JobRow row, Bundle bundle, List<EvidenceStore.Entry> entries) {
            this(row, bundle, entries, Optional.empty(), bundle.board(), List.of());
        }

        /** With its one hunt. */
        public Stored(
                JobRow row,
                Bundle bundle,
                List<EvidenceStore.Entry> entries,
                Optional<IntakeStore.Intake> intake,
                Board board,
                List<Instant> capturedAt) {
            this(
                    row,
                    bundle,
                    entries,
                    intake,
                    board,
                    capturedAt,
                    new Job(board, List.of(new Hunt(1, row.statedRail())), 1, bundle.observations()),
                    Map.of());
        }

        /** Whether what was wrong is right, worked out anew at each call. */
        public Proof proof() {
            return job.proof(bundle.rail());
        }

        /** The circuit that the newest frames were taken on. */
        public FrameCircuit frameCircuit() {
            return capturedAt.stream()
                    .max(Comparator.naturalOrder())
                    .map(this::circuitAt)
                    .orElseGet(() -> unknownHour());
        }

        /** The captures of that circuit; frames of an earlier one would speak of what is no longer there. */
        public List<LocateInput.Capture> framesOfOneCircuit() {
            int known = frameCircuit().observations().size();
            return IntStream.range(0, capturedAt.size())
                    .filter(i -> circuitAt(capturedAt.get(i)).observations().size() == known)
                    .mapToObj(bundle.captures()::get)
                    .toList();
        }

        /** What was entered after the newest frames were taken in. */
        public List<Observation> sinceFrames() {
            Optional<Instant> newest = capturedAt.stream().max(Comparator.naturalOrder());
            return entries.stream()
                    .filter(e -> newest.map(e.madeAt()::isAfter).orElse(false))
                    .map(EvidenceStore.Entry::observation)
                    .toList();
        }

        /** What came with a bundle has an order and no hours; what was entered here has both. */
        private FrameCircuit circuitAt(Instant taken) {
            int there = 0;
            for (int i = 0; i < entries.size(); i++) {
                there = entries.get(i).madeAt().isAfter(taken) ? there : i + 1;
            }
            FrameCircuit then = FrameCircuit.of(bundle.board(), bundle.rail(), bundle.observations(), there);
            FrameCircuit inOrder = unknownHour();
            boolean cameAlong = !taken.isAfter(row.importedAt());
            return cameAlong
                            && inOrder.observations().size()
                                    < then.observations().size()
                    ? inOrder
                    : then;
        }

        private FrameCircuit unknownHour() {
            return FrameCircuit.of(bundle.board(), bundle.rail(), bundle.observations());
        }

        /** The customer's words. */
        public String account() {
            String title = bundle.job().title();
            return intake.map(i -> Stream.of(
                                    i.account().startsWith(title) ? "" : title,
                                    i.account(),
                                    i.earlierWork(),
                                    i.condition())
                            .filter(words -> !words.isBlank())
                            .collect(Collectors.joining(" ")))
                    .orElse(title);
        }

        /** What the supply showed; without rows when nothing was logged. */
        public SupplyLog supplyLog() {
            return bundle.supplyLog().orElse(SupplyLog.empty());
        }

        /** What was ticked at receipt. */
        public Set<Precaution.Hazard> hazards() {
            return intake.stream()
                    .flatMap(i -> i.hazards().stream())
                    .map(code -> Precaution.Hazard.valueOf(
                            code.toUpperCase(Locale.ROOT).replace('-', '_')))
                    .collect(Collectors.toSet());
        }
    }

    /** A job's id alone; what only needs that should not read the job. */
    public long id(String number) {
        return jobs.named(number).id();
    }

    public boolean hasFrames(long jobId) {
        return captures.any(jobId);
    }

    /** The newest finished analysis of a job. */
    public Optional<StoredAnalysis> analysis(long jobId) {
        return analyses.latestDone(jobId)
                .flatMap(AnalysisStore.Row::result)
                .map(json -> mapper.readValue(json, StoredAnalysis.class));
    }

    /** The whole job, as its bundle would be. */
    public Stored read(String number) throws IOException {
        JobRow row = jobs.named(number);
        return read(row, evidence.traces(row.id()));
    }

    /** The job without what its traces hold, which may be megabytes: all that most pages and acts need. */
    public Stored withoutTraces(String number) throws IOException {
        return read(jobs.named(number), Map.of());
    }

    public Stored withoutTraces(long jobId) throws IOException {
        return read(jobs.byId(jobId), Map.of());
    }

    /** The same, as one of its hunts has it. */
    public Stored ofHunt(long jobId, int hunt) throws IOException {
        return read(jobs.byId(jobId).at(jobs.hunts(jobId).get(hunt - 1)), Map.of());
    }

    /** The files under {@code traces/}, by name. */
    public Map<String, String> traces(long jobId) {
        return evidence.traces(jobId);
    }

    public Optional<String> trace(long jobId, String name) {
        return evidence.trace(jobId, name);
    }

    private Stored read(JobRow row, Map<String, String> traces) throws IOException {
        List<EvidenceStore.Entry> entries = evidence.ofJob(row.id());
        List<CaptureStore.Stored> taken = captures.ofHunt(row.id(), row.hunt());
        EvidenceStore.Injected injected = evidence.injected(row.id(), row.hunt());
        Board board = boards.board(row.boardId());
        List<Observation> observations =
                entries.stream().map(EvidenceStore.Entry::observation).toList();
        Board good = GoodDraws.onto(
                GoodReadings.onto(board, goods.readings(row.boardId()), BoardNames.ofClass(board.revision())),
                goods.draws(row.boardId()));
        Job job = new Job(good, jobs.hunts(row.id()), row.hunt(), observations);
        Bundle bundle = new Bundle(
                new Bundle.Job(row.number(), row.title(), Optional.of(row.openedAt())),
                board,
                job.question(job.hunt(), injected.injection()),
                injected.injection(),
                injected.log(),
                taken.stream().map(CaptureStore.Stored::capture).toList(),
                observations,
                traces);
        return new Stored(
                row,
                bundle,
                entries,
                intakes.latest(row.id()),
                good,
                taken.stream().map(CaptureStore.Stored::takenAt).toList(),
                job,
                goods.behind(row.boardId()));
    }

    /**
     * Where the job stands, from its evidence and the newest analysis.
     *
     * @param actedOn whether the other evidence asks for a part to be taken off or exchanged
     */
    public Walk walk(Stored job, Optional<StoredAnalysis> analysis, boolean actedOn, Proof proof) {
        Bundle bundle = job.bundle();
        List<Observation> observations = bundle.observations();
        boolean named =
                actedOn || analysis.map(a -> a.verdict() == Verdict.PART).orElse(false);
        return Walk.of(
                observations,
                bundle.injection().isPresent() || bundle.supplyLog().isPresent(),
                bundle.captures().size(),
                named,
                proof);
    }

    /** Has the shelf's line worked out anew, in the transaction that is under way. */
    public void refreshState(long jobId) {
        events.publishEvent(new Changed(jobId));
    }

    /** A job says something else than before. */
    public record Changed(long jobId) {}
}
