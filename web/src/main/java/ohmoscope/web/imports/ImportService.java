package ohmoscope.web.imports;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.concurrent.TimeUnit;
import java.util.function.DoublePredicate;
import ohmoscope.core.board.Check;
import ohmoscope.formats.BundleException;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.ImportStore;
import ohmoscope.web.store.Outage;
import ohmoscope.web.store.Transactions;
import ohmoscope.web.store.WorkQueue;
import ohmoscope.web.store.WorkQueues;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Takes uploaded bundles, reads them in the background, and tells how far it is. The job, its state, its analysis in the
 * queue and the end of the import are one transaction: whatever is broken off in between goes on by itself.
 */
@Service
public class ImportService {
    private static final Logger LOG = LoggerFactory.getLogger(ImportService.class);
    private static final long TELL_EVERY_NS = TimeUnit.MILLISECONDS.toNanos(250);

    private final ImportStore imports;
    private final BundleImporter importer;
    private final AnalysisRunner analyses;
    private final JobFile jobs;
    private final Transactions transactions;
    private final Path workFolder;
    private final WorkQueue queue;

    ImportService(
            ImportStore imports,
            BundleImporter importer,
            AnalysisRunner analyses,
            JobFile jobs,
            Transactions transactions,
            Settings settings,
            WorkQueues queues) {
        this.imports = imports;
        this.importer = importer;
        this.analyses = analyses;
        this.jobs = jobs;
        this.transactions = transactions;
        this.workFolder = settings.workFolder();
        this.queue = queues.open("import", id -> run(UUID.fromString(id)));
    }

    /** Copies the upload aside and queues it. */
    public UUID accept(String fileName, InputStream upload, String by) throws IOException {
        Files.createDirectories(workFolder);
        UUID id = UUID.randomUUID();
        Path file = file(id);
        try {
            Files.copy(upload, file, StandardCopyOption.REPLACE_EXISTING);
            transactions.run(() -> {
                imports.add(id, Check.printable(fileName) ? fileName : "bundle.zip", by);
                queue.add(id.toString());
                return id;
            });
        } catch (IOException | RuntimeException cutOff) {
            Files.deleteIfExists(file);
            throw cutOff;
        }
        return id;
    }

    private Path file(UUID id) {
        return workFolder.resolve(ImportFiles.PREFIX + id + ImportFiles.SUFFIX);
    }

    public void cancel(UUID id) {
        imports.cancel(id);
    }

    /** An outage of the database is let through: the queue tries again, and the file stays until it has been read. */
    private void run(UUID id) {
        Optional<ImportStore.Row> task = imports.find(id).filter(row -> imports.pending(id));
        Path file = file(id);
        try {
            if (task.isPresent()) {
                read(task.get(), file);
            }
        } catch (CancellationException cancelled) {
            LOG.info("import {} was cancelled; nothing was kept", id);
        } catch (BundleException unusable) {
            failed(
                    id,
                    unusable.getMessage()
                            .replace(file.getFileName().toString(), task.get().fileName()));
        } catch (RuntimeException failed) {
            if (Outage.is(failed)) {
                LOG.warn("import {} waits for the database: {}", id, failed.toString());
                throw failed;
            }
            broken(id, failed);
        } catch (IOException | OutOfMemoryError failed) {
            broken(id, failed);
        }
        delete(file);
    }

    private void broken(UUID id, Throwable failed) {
        LOG.warn("import {} failed", id, failed);
        failed(id, "It could not be read to the end; nothing was kept. The log has the reason.");
    }

    private void read(ImportStore.Row task, Path file) throws IOException {
        UUID id = task.id();
        if (!Files.exists(file)) {
            failed(id, "Its file is gone. Send it again.");
            return;
        }
        if (!imports.progress(id, 0)) {
            return;
        }
        transactions.run(() -> {
            long jobId = importer.read(file, task.sentBy(), told(id));
            analyses.request(jobId);
            jobs.refreshState(jobId);
            if (!imports.done(id, jobId)) {
                throw new CancellationException();
            }
            return jobId;
        });
    }

    /** Keeps how far it is, a few times a second, where everybody can see it; answers whether to go on. */
    private DoublePredicate told(UUID id) {
        long[] last = {System.nanoTime()};
        return share -> {
            if (System.nanoTime() - last[0] < TELL_EVERY_NS) {
                return true;
            }
            last[0] = System.nanoTime();
            return transactions.apart(() -> imports.progress(id, share));
        };
    }

    /** A file's own words may hold anything. */
    private void failed(UUID id, String problem) {
        imports.failed(
                id,
                problem.chars()
                        .filter(c -> Check.printable(String.valueOf((char) c)))
                        .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                        .toString());
    }

    private static void delete(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException left) {
            LOG.warn("{} could not be removed", file, left);
        }
    }
}
