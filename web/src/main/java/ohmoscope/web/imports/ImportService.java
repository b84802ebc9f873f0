package ohmoscope.web.imports;

import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import ohmoscope.formats.BundleException;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.ImportStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/** Takes uploaded bundles, reads them in the background, and tells how far it is. */
@Service
public class ImportService {
    private static final Logger LOG = LoggerFactory.getLogger(ImportService.class);

    private final ImportStore imports;
    private final BundleImporter importer;
    private final AnalysisRunner analyses;
    private final JobFile jobs;
    private final Path workFolder;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(task -> {
        Thread thread = new Thread(task, "import");
        thread.setDaemon(true);
        return thread;
    });

    ImportService(
            ImportStore imports, BundleImporter importer, AnalysisRunner analyses, JobFile jobs, Settings settings) {
        this.imports = imports;
        this.importer = importer;
        this.analyses = analyses;
        this.jobs = jobs;
        this.workFolder = settings.workFolder();
    }

    /** Copies the upload aside and queues it. */
    public UUID accept(String fileName, InputStream upload, String by) throws IOException {
        Files.createDirectories(workFolder);
        Path file = Files.createTempFile(workFolder, "import-", ".zip");
        try {
            Files.copy(upload, file, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException cutOff) {
            Files.deleteIfExists(file);
            throw cutOff;
        }
        UUID id = imports.add(fileName);
        worker.submit(() -> run(id, fileName, file, by));
        return id;
    }

    public void cancel(UUID id) {
        imports.cancel(id);
    }

    private void run(UUID id, String fileName, Path file, String by) {
        try {
            if (!imports.progress(id, 0)) {
                return;
            }
            long jobId = importer.read(file, by, share -> imports.progress(id, share));
            jobs.refreshState(jobId);
            // Before it is called done: a page opened at once must know that it has something to wait for.
            analyses.request(jobId);
            imports.done(id, jobId);
        } catch (CancellationException cancelled) {
            LOG.info("import of {} was cancelled; nothing was kept", fileName);
        } catch (BundleException unusable) {
            imports.failed(id, unusable.getMessage().replace(file.getFileName().toString(), fileName));
        } catch (IOException | RuntimeException failed) {
            LOG.warn("import of {} failed", fileName, failed);
            imports.failed(id, "It could not be read to the end; nothing was kept. The log has the reason.");
        } finally {
            delete(file);
        }
    }

    private static void delete(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException left) {
            LOG.warn("{} could not be removed", file, left);
        }
    }

    @EventListener(ApplicationReadyEvent.class)
    void failLost() {
        imports.failLost();
    }

    @PreDestroy
    void stop() {
        worker.shutdownNow();
    }
}
