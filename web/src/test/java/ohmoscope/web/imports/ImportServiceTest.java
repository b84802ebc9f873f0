package ohmoscope.web.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.reset;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import ohmoscope.formats.BundleException;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.ImportStore;
import ohmoscope.web.store.Transactions;
import ohmoscope.web.store.WorkQueue;
import ohmoscope.web.store.WorkQueues;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.dao.DataAccessResourceFailureException;

/** What becomes of an upload, whatever happens to it. */
class ImportServiceTest {
    private static final int WAIT_MS = 60_000;
    private final ImportStore store = mock(ImportStore.class);
    private final BundleImporter importer = mock(BundleImporter.class);
    private final AnalysisRunner analyses = mock(AnalysisRunner.class);
    private final JobFile jobs = mock(JobFile.class);
    private UUID id = UUID.randomUUID();

    @TempDir
    Path work;

    private ImportService service;

    private final List<String> queued = new ArrayList<>();
    private WorkQueue.Work worker = id -> {};

    @BeforeEach
    void make() throws IOException {
        WorkQueues queues = mock(WorkQueues.class);
        when(queues.open(eq("import"), any())).thenAnswer(call -> {
            worker = call.getArgument(1);
            return (WorkQueue) queued::add;
        });
        Transactions transactions = mock(Transactions.class);
        when(transactions.run(any()))
                .thenAnswer(call -> call.<Transactions.Work<?>>getArgument(0).run());
        service = new ImportService(
                store,
                importer,
                analyses,
                jobs,
                transactions,
                new Settings(work, work, false, false, Duration.ofMillis(400)),
                queues);
        when(store.progress(any(), anyDouble())).thenReturn(true);
        when(store.done(any(), anyLong())).thenReturn(true);
        when(store.pending(any())).thenReturn(true);
        when(store.find(any()))
                .thenAnswer(call -> Optional.of(new ImportStore.Row(
                        call.getArgument(0), "job.zip", "bench", "waiting", 0, Optional.empty(), Optional.empty())));
    }

    private void send() throws IOException {
        id = service.accept("job.zip", new ByteArrayInputStream(new byte[] {1, 2, 3}), "bench");
        assertThat(queued).containsExactly(id.toString());
        worker.run(id.toString());
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
        when(store.progress(any(), eq(0.0))).thenReturn(false);
        send();
        nothingLeftInTheWorkFolder();
        verify(importer, never()).read(any(), any(), any());
    }

    @Test
    void whatCannotBeWrittenDownIsStillSaid() throws Exception {
        when(importer.read(any(), any(), any()))
                .thenThrow(new BundleException("board.json", "name", "is \u0000odd\ud800"));
        send();
        verify(store).failed(id, "board.json, name: is odd");
    }

    @Test
    void anOutageLeavesItInTheQueueWithItsFile() throws Exception {
        when(importer.read(any(), any(), any())).thenThrow(new DataAccessResourceFailureException("away"));
        assertThatThrownBy(this::send).isInstanceOf(DataAccessResourceFailureException.class);
        verify(store, never()).failed(any(), any());
        reset(importer);
        when(importer.read(any(), eq("bench"), any())).thenReturn(5L);
        worker.run(id.toString());
        verify(store).done(id, 5);
        nothingLeftInTheWorkFolder();
    }

    @Test
    void oneThatIsDoneIsNotReadAgain() throws Exception {
        when(store.pending(any())).thenReturn(false);
        send();
        verify(importer, never()).read(any(), any(), any());
        nothingLeftInTheWorkFolder();
    }

    @Test
    void cancelledAtTheLastMomentNothingIsKept() throws Exception {
        when(store.done(any(), anyLong())).thenReturn(false);
        send();
        verify(store, never()).failed(any(), any());
        nothingLeftInTheWorkFolder();
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
        verify(store, never()).add(any(), any(), any());
        nothingLeftInTheWorkFolder();
    }
}
