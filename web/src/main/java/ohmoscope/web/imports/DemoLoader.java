package ohmoscope.web.imports;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.bench.demo.DemoStock;
import ohmoscope.bench.demo.PastJobs;
import ohmoscope.bench.demo.StartJobs;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Layouts;
import ohmoscope.core.layout.Note;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.core.rework.Way;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.photo.UprightPicture;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.job.SeenBefore;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.PhotoStore;
import ohmoscope.web.store.ReworkStore;
import ohmoscope.web.store.StockStore;
import ohmoscope.web.store.Transactions;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Puts the demo jobs on an empty shelf. */
@Component
class DemoLoader {
    private static final Logger LOG = LoggerFactory.getLogger(DemoLoader.class);
    private static final String BY = "demo";
    /** This job is shown as repaired and proven. */
    private static final String ELSEWHERE = "K-0430";

    private static final String CLOSED = "K-0419";

    private static final String CULPRIT = "C74";
    private static final double AFTER_VOLTS = 0.43;
    private static final long POLL_MS = 100;

    private final Settings settings;
    private final JobStore jobs;
    private final BundleImporter importer;
    private final AnalysisRunner analyses;
    private final JobFile files;
    private final Bench bench;
    private final IntakeStore intakes;
    private final BoardStore boards;
    private final PhotoStore photos;
    private final ReworkStore reworks;
    private final StockStore stock;
    private final OpenJobs openJobs;
    private final SeenBefore seenBefore;
    private final Transactions transactions;
    private volatile boolean full;

    DemoLoader(
            Settings settings,
            JobStore jobs,
            BundleImporter importer,
            AnalysisRunner analyses,
            JobFile files,
            Bench bench,
            IntakeStore intakes,
            BoardStore boards,
            PhotoStore photos,
            ReworkStore reworks,
            StockStore stock,
            OpenJobs openJobs,
            SeenBefore seenBefore,
            Transactions transactions) {
        this.settings = settings;
        this.jobs = jobs;
        this.importer = importer;
        this.analyses = analyses;
        this.files = files;
        this.bench = bench;
        this.intakes = intakes;
        this.boards = boards;
        this.photos = photos;
        this.reworks = reworks;
        this.stock = stock;
        this.openJobs = openJobs;
        this.seenBefore = seenBefore;
        this.transactions = transactions;
    }

    /** Whether all that the shelf should have at the start is on it. */
    boolean ready() {
        return full || !settings.demo();
    }

    @EventListener(ApplicationReadyEvent.class)
    void load() {
        if (!settings.demo()) {
            return;
        }
        Thread loader = new Thread(this::loadMissing, "demo");
        loader.setDaemon(true);
        loader.start();
    }

    /** A board of each kind of file, as it came. */
    private void layouts() {
        for (StartJobs.Layout layout : StartJobs.layouts()) {
            if (boards.library(layout.name()).isEmpty()) {
                Layouts.Laid laid = layout.read();
                long id = boards.add(
                        laid.board(),
                        true,
                        Stream.concat(
                                        Stream.of("read from " + String.join(", ", layout.files())),
                                        laid.notes().stream().map(Note::toString))
                                .toList());
                if (layout.files().size() > 1) {
                    boards.keepFiles(
                            id,
                            layout.files().stream()
                                    .map(f -> new BoardStore.File(f, layout.content(f)))
                                    .toList());
                }
            }
        }
    }

    /** The photographs under a board that was mapped from them. */
    private void photographed(long jobId) throws IOException {
        long board = jobs.byId(jobId).boardId();
        Map<Side, PhotoMap.Laid> laid = new EnumMap<>(Side.class);
        for (Map.Entry<Side, StartJobs.Photograph> one : StartJobs.photographs().entrySet()) {
            BufferedImage picture = one.getValue().photo().picture();
            long photo = photos.add(
                    board, one.getKey(), picture.getWidth(), picture.getHeight(), UprightPicture.jpeg(picture), BY);
            laid.put(one.getKey(), new PhotoMap.Laid(photo, one.getValue().squared()));
        }
        photos.lay(board, laid);
    }

    private void loadMissing() {
        try {
            layouts();
            if (stock.all().isEmpty()) {
                stock.replace(DemoStock.lines());
            }
        } catch (RuntimeException failed) {
            LOG.warn("the demo's layouts and parts could not be loaded", failed);
        }
        for (DemoJobs.Demo demo : DemoJobs.all()) {
            try {
                if (jobs.find(demo.id()).isEmpty()) {
                    long id = add(demo);
                    if (demo.id().equals(ELSEWHERE)) {
                        received(id, demo.id());
                    }
                    if (demo.id().equals(StartJobs.PHOTOGRAPHED)) {
                        photographed(id);
                    }
                    if (demo.id().equals(CLOSED)) {
                        close(id, demo.id());
                    }
                }
            } catch (IOException | RuntimeException failed) {
                LOG.warn("demo job {} could not be loaded", demo.id(), failed);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
        }
        full = true;
        LOG.info("demo jobs are on the shelf");
        for (PastJobs.Past past : PastJobs.all()) {
            try {
                if (jobs.find(past.begun().id()).isEmpty()) {
                    relive(past);
                }
            } catch (IOException | RuntimeException failed) {
                LOG.warn("demo job {} could not be loaded", past.begun().id(), failed);
            }
        }
        LOG.info("and the earlier ones in the logbook");
    }

    private long add(DemoJobs.Demo demo) throws IOException {
        Bundle bundle = demo.bundle().get();
        return transactions.run(() -> {
            long added = importer.add(bundle, BY, share -> true);
            analyses.request(added);
            files.refreshState(added);
            return added;
        });
    }

    /** What led when a part came off is only known where it is taken off on the page: so these are. */
    private void relive(PastJobs.Past past) throws IOException {
        String number = past.begun().id();
        Instant at = past.opened();
        transactions.at(at, () -> add(past.begun()));
        for (PastJobs.Act act : past.acts()) {
            at = at.plus(act.after());
            transactions.at(at, () -> done(number, act));
        }
    }

    private boolean done(String number, PastJobs.Act act) throws IOException {
        if (act instanceof PastJobs.Act.Line typed) {
            bench.enter(number, typed.line(), BY);
        } else if (act instanceof PastJobs.Act.Off off) {
            bench.lift(number, off.ref(), true, BY);
        } else if (act instanceof PastJobs.Act.Again again) {
            bench.readAgain(number, OptionalDouble.of(again.volts()), BY);
        }
        return true;
    }

    /** A device that another bench has had, with what came along. */
    private void received(long jobId, String number) throws IOException {
        bench.receive(
                number,
                new IntakeStore.Intake(
                        "Does not charge since it came back from another bench.",
                        "Another bench replaced the charger chip and kept the screws.",
                        "Three screws missing, no sticker over the seam, flux around U1. Liquid marker white.",
                        List.of("only-copy")),
                BY);
        for (String item : List.of("battery", "drive", "memory", "charger")) {
            intakes.addItem(jobId, item, true, BY);
        }
        intakes.addItem(jobId, "radio card", false, BY);
    }

    /** Lifts the suspect and reads again, once the frames have been looked into. */
    private void close(long jobId, String number) throws IOException, InterruptedException {
        while (analyses.state(jobId).map(AnalysisStore.Row::pending).orElse(false)) {
            Thread.sleep(POLL_MS);
        }
        int seq = bench.lift(number, CULPRIT, true, BY);
        bench.readAgain(number, OptionalDouble.of(AFTER_VOLTS), BY);
        reworks.add(
                jobId,
                BY,
                new ReworkStore.Done(
                        seq,
                        CULPRIT,
                        Way.Method.AIR,
                        OptionalDouble.of(4),
                        OptionalDouble.of(350),
                        OptionalDouble.of(14),
                        1,
                        OptionalDouble.of(15)));
        OpenJobs.Open open = openJobs.open(files.withoutTraces(number));
        seenBefore.keep(
                open,
                open.proof().repair().orElseThrow(),
                CULPRIT + " shorted " + open.job().bundle().rail() + ".",
                BY);
    }
}
