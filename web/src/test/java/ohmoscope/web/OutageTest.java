package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import ohmoscope.formats.BundleWriter;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The database goes away in the middle of work, and comes back. */
class OutageTest extends OverHttp {
    private Wire wire;

    @BeforeAll
    @Override
    void meet(Server.Running shared) throws Exception {
        server = Server.start(this::through);
    }

    private String through(String url) {
        try {
            wire = new Wire(URI.create(url.substring("jdbc:".length())).getPort());
        } catch (IOException failed) {
            throw new IllegalStateException(failed);
        }
        return url.replaceFirst(":\\d+/", ":" + wire.port() + "/");
    }

    @AfterAll
    void end() throws IOException {
        wire.mend();
        server.context().close();
        wire.close();
    }

    private static byte[] zip(String number) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        BundleWriter.zip(Simulated.job(number), out);
        return out.toByteArray();
    }

    private void nothingIsServed() throws Exception {
        HttpResponse<String> away = get("/");
        assertThat(away.statusCode()).isEqualTo(503);
        assertThat(away.body()).contains("database").doesNotContain("Exception");
    }

    @Test
    void anImportThatAnOutageBreaksGoesOnByItself() throws Exception {
        byte[] bytes = zip("OUT-1");
        String token = token();
        HttpResponse<String> accepted = upload("/imports", List.of(new File("bundle", "out.zip", bytes)), token);
        assertThat(accepted.statusCode()).isLessThan(300);

        wire.cut();
        nothingIsServed();
        wire.mend();

        await().atMost(QUEUE).ignoreExceptions().until(() -> get("/").statusCode() == 200);
        assertThat(awaitImport(accepted)).contains("\"done\"");
        assertThat(get("/jobs/OUT-1").statusCode()).isEqualTo(200);
    }

    @Test
    void anAnalysisThatAnOutageBreaksIsTakenUpAgain() throws Exception {
        long job = server.bean(BundleImporter.class).add(Simulated.job("OUT-2"), "bench", share -> true);
        AnalysisStore analyses = server.bean(AnalysisStore.class);
        server.bean(AnalysisRunner.class).request(job);
        await().atMost(QUEUE)
                .pollInterval(Duration.ofMillis(2))
                .until(() -> !state(analyses, job).equals("queued"));

        wire.cut();
        nothingIsServed();
        wire.mend();

        await().atMost(QUEUE)
                .ignoreExceptions()
                .until(() -> state(analyses, job).equals("done"));
        assertThat(analyses.pending()).isEmpty();
    }

    private static String state(AnalysisStore analyses, long job) {
        return analyses.latest(job).map(AnalysisStore.Row::state).orElse("queued");
    }
}
