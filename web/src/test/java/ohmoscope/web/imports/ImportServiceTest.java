package ohmoscope.web.imports;

import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import ohmoscope.formats.BundleException;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.ImportStore;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What becomes of an upload, whatever happens to it. */
class ImportServiceTest {
    private static final int WAIT_MS = 60_000;
    private final ImportStore store = mock(ImportStore.class);
    private final BundleImporter importer = mock(BundleImporter.class);
    private final AnalysisRunner analyses = mock(AnalysisRunner.class);
    private final JobFile jobs = mock(JobFile.class);
    private final UUID id = UUID.randomUUID();

    @TempDir
    Path work;

    private ImportService service;

    @BeforeEach
    void make() {
        service = new ImportService(store, importer, analyses, jobs, new Settings(work, false, false));
        when(store.add(any())).thenReturn(id);
        when(store.progress(eq(id), anyDouble())).thenReturn(true);
    }

    private void send() throws IOException {
        service.accept("job.zip", new ByteArrayInputStream(new byte[] {1, 2, 3}), "bench");
    }

    private void nothingLeftInTheWorkFolder() {
        await().atMost(Duration.ofMillis(WAIT_MS)).until(() -> {
            try (Stream<Path> files = Files.list(work)) {
                return files.findAny().isEmpty();
            }
        });
    }

    @Test
    void aGoodBundleIsDoneAndLookedInto() throws Exception {
        when(importer.read(any(), eq("bench"), any())).thenReturn(5L);
        send();
        // Done comes last.
        verify(store, timeout(WAIT_MS)).done(id, 5);
        verify(analyses).request(5);
        verify(jobs).refreshState(5);
        nothingLeftInTheWorkFolder();
    }

    @Test
    void aBadBundleFailsWithItsOwnSentence() throws Exception {
        when(importer.read(any(), any(), any()))
                .thenThrow(new BundleException("board.json", "nets[0].name", "is missing"));
        send();
        verify(store, timeout(WAIT_MS)).failed(id, "board.json, nets[0].name: is missing");
        verify(store, never()).done(any(), anyLong());
        nothingLeftInTheWorkFolder();
    }

    @Test
    void aSurpriseFailsWithoutItsStackTrace() throws Exception {
        when(importer.read(any(), any(), any())).thenThrow(new IllegalStateException("secret details"));
        send();
        verify(store, timeout(WAIT_MS)).failed(eq(id), contains("nothing was kept"));
        nothingLeftInTheWorkFolder();
    }

    @Test
    void aCancelledImportIsNeitherDoneNorFailed() throws Exception {
        when(importer.read(any(), any(), any())).thenThrow(new CancellationException());
        send();
        nothingLeftInTheWorkFolder();
        verify(store, never()).done(any(), anyLong());
        verify(store, never()).failed(any(), any());
    }

    @Test
    void anImportCancelledWhileItWaitedIsNotRead() throws Exception {
        when(store.progress(id, 0)).thenReturn(false);
        send();
        nothingLeftInTheWorkFolder();
        verify(importer, never()).read(any(), any(), any());
    }

    @Test
    void anUploadThatBreaksOffLeavesNoFile() throws Exception {
        InputStream broken = new InputStream() {
            private int left = 10;

            @Override
            public int read() throws IOException {
                if (left <= 0) {
                    throw new IOException("connection reset");
                }
                left--;
                return 7;
            }
        };
        assertThatThrownBy(() -> service.accept("job.zip", broken, "bench")).isInstanceOf(IOException.class);
        verify(store, never()).add(any());
        nothingLeftInTheWorkFolder();
    }
}
