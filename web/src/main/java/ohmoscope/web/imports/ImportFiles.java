package ohmoscope.web.imports;

import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.ImportStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;

/** Clears the work folder at the start and daily: uploads that were broken off, and frames that nobody came back for. */
@Component
class ImportFiles {
    static final String PREFIX = "import-";
    static final String SUFFIX = ".zip";
    private static final Logger LOG = LoggerFactory.getLogger(ImportFiles.class);
    private static final Duration KEPT = Duration.ofDays(1);
    /** What the web server keeps an upload in while it comes in. */
    private static final String UPLOAD = "upload_";

    private static final String FRAMES = "frames-";

    private final Path folder;
    private final ImportStore imports;
    private final Clock clock;
    private final ScheduledExecutorService daily = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "clearing");
        thread.setDaemon(true);
        return thread;
    });

    ImportFiles(Settings settings, ImportStore imports, Clock clock) {
        this.folder = settings.workFolder();
        this.imports = imports;
        this.clock = clock;
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        daily.scheduleWithFixedDelay(this::clear, 0, KEPT.toHours(), TimeUnit.HOURS);
    }

    @PreDestroy
    void stop() {
        daily.shutdownNow();
    }

    void clear() {
        try {
            Files.createDirectories(folder);
            for (Path path : files()) {
                if (leftOver(path)) {
                    FileSystemUtils.deleteRecursively(path);
                    LOG.info("{} was left over; it is removed", path.getFileName());
                }
            }
        } catch (IOException | DataAccessException failed) {
            LOG.warn("the work folder could not be cleared; it is tried again tomorrow", failed);
        }
    }

    private List<Path> files() throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.toList();
        }
    }

    private boolean leftOver(Path path) throws IOException {
        String name = path.getFileName().toString();
        Instant changed = Files.getLastModifiedTime(path).toInstant();
        boolean old = changed.isBefore(clock.instant().minus(KEPT));
        if (name.startsWith(PREFIX) && name.endsWith(SUFFIX)) {
            return !pending(name.substring(PREFIX.length(), name.length() - SUFFIX.length()))
                    && changed.isBefore(clock.instant().minus(Duration.ofMinutes(1)));
        }
        return old && (name.startsWith(UPLOAD) || name.startsWith(FRAMES));
    }

    private boolean pending(String id) {
        try {
            return imports.pending(UUID.fromString(id));
        } catch (IllegalArgumentException noId) {
            return false;
        }
    }
}
