package ohmoscope.web.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.BundleWriter;
import ohmoscope.web.Server;
import ohmoscope.web.Simulated;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.imports.BundleImporter;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/** What is stored, in the real PostgreSQL. */
@ExtendWith(Server.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class StoresTest {
    private final Bundle bundle = Simulated.job("T-STORE");
    private Server.Running server;
    private long jobId;

    @BeforeAll
    void store(Server.Running running) throws IOException {
        server = running;
        jobId = server.bean(BundleImporter.class).add(bundle, "test", share -> true);
    }

    private JdbcClient jdbc() {
        return server.bean(JdbcClient.class);
    }

    private long count(String table) {
        return jdbc().sql("select count(*) from " + table).query(Long.class).single();
    }

    @Test
    void aStoredJobIsTheBundleAgain() throws IOException {
        Bundle back = server.bean(JobFile.class).read("T-STORE").bundle();
        assertThat(back.board()).isEqualTo(bundle.board());
        assertThat(back.injection()).isEqualTo(bundle.injection());
        assertThat(back.supplyLog()).isEqualTo(bundle.supplyLog());
        assertThat(back.traces()).isEqualTo(bundle.traces());
        assertThat(back.captures().get(0).spec())
                .isEqualTo(bundle.captures().get(0).spec());
        assertThat(back.observations().subList(0, 2)).isEqualTo(bundle.observations());
        char[] stored = new char[80 * 60];
        char[] sent = new char[80 * 60];
        try (FrameSource.Cursor a = back.captures().get(0).frames().open();
                FrameSource.Cursor b = bundle.captures().get(0).frames().open()) {
            int n = 0;
            while (a.next(stored)) {
                assertThat(b.next(sent)).isTrue();
                assertThat(stored).isEqualTo(sent);
                n++;
            }
            assertThat(n).isEqualTo(bundle.captures().get(0).spec().frameCount());
        }
    }

    @Test
    void exportingGivesTheSameBytes() throws IOException {
        Bundle fresh = Simulated.job("T-EXPORT");
        server.bean(BundleImporter.class).add(fresh, "test", share -> true);
        ByteArrayOutputStream sent = new ByteArrayOutputStream();
        ByteArrayOutputStream back = new ByteArrayOutputStream();
        BundleWriter.zip(fresh, sent);
        BundleWriter.zip(server.bean(JobFile.class).read("T-EXPORT").bundle(), back);
        assertThat(back.toByteArray()).isEqualTo(sent.toByteArray());
    }

    @Test
    void evidenceIsAppendOnly() {
        for (String table : List.of("evidence", "frame", "registration", "injection", "trace")) {
            assertThatThrownBy(() -> jdbc().sql("delete from " + table).update())
                    .as(table)
                    .isInstanceOf(DataAccessException.class)
                    .hasMessageContaining("append-only");
        }
        assertThatThrownBy(() ->
                        jdbc().sql("update evidence set recorded_by = 'x'").update())
                .hasMessageContaining("append-only");
        assertThatThrownBy(() -> jdbc().sql("update frame set t_s = 0").update())
                .hasMessageContaining("append-only");
    }

    @Test
    void aNumberIsTakenOnce() {
        long before = count("job");
        assertThatThrownBy(() -> server.bean(BundleImporter.class).add(bundle, "test", share -> true))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("T-STORE, which is already on the shelf");
        assertThat(count("job")).isEqualTo(before);
    }

    @Test
    void aCancelledImportLeavesNothingBehind() {
        long jobs = count("job");
        long frames = count("frame");
        Bundle other = Simulated.job("T-CANCEL");
        assertThatThrownBy(() -> server.bean(BundleImporter.class).add(other, "test", share -> share < 0.5))
                .isInstanceOf(CancellationException.class);
        assertThat(count("job")).isEqualTo(jobs);
        assertThat(count("frame")).isEqualTo(frames);
        assertThat(server.bean(JobStore.class).find("T-CANCEL")).isEmpty();
    }

    @Test
    void twoWritersGetTwoNumbers() {
        EvidenceStore evidence = server.bean(EvidenceStore.class);
        TransactionTemplate transaction = server.bean(TransactionTemplate.class);
        for (int i = 0; i < 2; i++) {
            transaction.executeWithoutResult(
                    status -> evidence.add(jobId, new Look(evidence.nextSeq(jobId), "C1", LookFinding.CLEAN), "test"));
        }
        long distinct = jdbc().sql("select count(distinct seq) from evidence where job_id = :job")
                .param("job", jobId)
                .query(Long.class)
                .single();
        assertThat(distinct).isEqualTo(4);
        assertThatThrownBy(() -> evidence.add(jobId, new Look(1, "C1", LookFinding.CLEAN), "test"))
                .isInstanceOf(DataAccessException.class);
    }

    @Test
    void theNewestRegistrationIsInForce() throws IOException {
        CaptureStore captures = server.bean(CaptureStore.class);
        CaptureStore.Stored capture = captures.ofHunt(jobId, 1).get(0);
        List<RegistrationPair> moved = capture.spec().registration().stream()
                .map(p -> new RegistrationPair(p.xPx() + 1, p.yPx(), p.xMm(), p.yMm()))
                .toList();
        captures.addRegistration(capture.id(), moved, "test");
        assertThat(captures.ofHunt(jobId, 1).get(0).spec().registration()).isEqualTo(moved);
        captures.addRegistration(capture.id(), capture.spec().registration(), "test");
        assertThat(captures.named(jobId, capture.spec().id()).spec()).isEqualTo(capture.spec());
        assertThatThrownBy(() -> captures.named(jobId, "nowhere")).isInstanceOf(NotFoundException.class);
    }

    @Test
    void theShelfIsSearchedPagedAndCounted() {
        JobStore jobs = server.bean(JobStore.class);
        assertThat(jobs.count("t-store")).isEqualTo(1);
        assertThat(jobs.count("SILENT")).isPositive();
        assertThat(jobs.count("100%_no")).isZero();
        assertThat(jobs.page("t-store", 10, 0)).singleElement().satisfies(row -> {
            assertThat(row.device()).contains("river-gauge");
            assertThat(row.lead()).isEmpty();
        });
        JobStore.Lead lead = new JobStore.Lead("C1", 0.9, JobStore.Lead.By.METER);
        jobs.setState(jobId, "PROVE", "Read VBAT again.", Optional.of("PART"), Optional.of(lead), "VBAT");
        assertThat(jobs.page("t-store", 10, 0).get(0).lead()).contains(lead);
        assertThat(jobs.page("t-store", 10, 0).get(0).nextStep()).contains("Read VBAT again.");
        assertThat(jobs.page("t-store", 10, 1)).isEmpty();
    }

    @Test
    void aJobMayBeGivenAnotherNumber() {
        JobStore jobs = server.bean(JobStore.class);
        assertThat(jobs.rename(jobId, "T-STORE")).as("taken, by itself").isFalse();
        assertThat(jobs.rename(jobId, "T-STORE.2")).isTrue();
        assertThat(jobs.count("t-store.2")).isEqualTo(1);
        assertThat(jobs.rename(jobId, "T-STORE")).isTrue();
        for (String number : List.of("../../x", "a/b", "a;b", "..", "", "x".repeat(41), "é", "a b")) {
            assertThat(JobStore.usable(number)).as(number).isFalse();
        }
        assertThat(JobStore.usable("K-0417_b.2")).isTrue();
    }

    @Test
    void analysesAreQueuedStartedAndFinished() {
        AnalysisStore analyses = server.bean(AnalysisStore.class);
        long other = jdbc().sql("select id from job where number = 'T-STORE'")
                .query(Long.class)
                .single();
        long dropped = analyses.queue(other, "test-1");
        long id = analyses.queue(other, "test-1");
        assertThat(analyses.start(dropped)).as("a newer one took its place").isEmpty();
        assertThat(analyses.start(id)).isPresent();
        assertThat(analyses.start(id)).as("taken up again after a stop").isPresent();
        assertThat(analyses.pending()).contains(id).doesNotContain(dropped);
        assertThat(analyses.progress(id, 0.5)).isTrue();
        analyses.cancel(other);
        assertThat(analyses.progress(id, 0.6)).isFalse();
        assertThat(analyses.done(id, "{}")).isFalse();
        assertThat(analyses.start(id)).isEmpty();
    }
}
