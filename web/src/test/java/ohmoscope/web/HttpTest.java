package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Part;
import ohmoscope.formats.BundleReader;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The application over plain HTTP: headers, uploads, errors, data for scripts. */
class HttpTest extends OverHttp {
    @TempDir
    Path temp;

    @BeforeAll
    void store() throws Exception {
        long id = server.bean(BundleImporter.class).add(Simulated.job("T-HTTP"), "test", share -> true);
        server.bean(AnalysisRunner.class).request(id);
        awaitAnalysis(id);
    }

    private void awaitAnalysis(long id) {
        AnalysisStore analyses = server.bean(AnalysisStore.class);
        await().atMost(QUEUE).until(() -> analyses.latestDone(id).isPresent());
    }

    @Test
    void everyPageHasAStrictPolicyAndNoInlineScriptOrStyle() throws Exception {
        for (String path : new String[] {
            "/",
            "/settings",
            "/jobs/T-HTTP",
            "/jobs/T-HTTP/survey",
            "/jobs/T-HTTP/rails",
            "/jobs/T-HTTP/isolate",
            "/jobs/T-HTTP/inject",
            "/jobs/T-HTTP/power",
            "/jobs/T-HTTP/receive",
            "/jobs/T-HTTP/hand-back",
            "/jobs/T-HTTP/name",
            "/jobs/T-HTTP/rework",
            captures(),
            captures() + "/lay"
        }) {
            HttpResponse<String> page = get(path);
            assertThat(page.statusCode()).as(path).isEqualTo(200);
            assertThat(page.headers().firstValue("Content-Security-Policy").orElse(""))
                    .contains("default-src 'none'", "script-src 'self'", "style-src 'self'")
                    .doesNotContain("unsafe");
            assertThat(page.headers().firstValue("X-Content-Type-Options")).contains("nosniff");
            assertThat(page.headers().firstValue("X-Frame-Options")).contains("DENY");
            assertThat(page.body())
                    .doesNotContainPattern("<script(?![^>]*src=)")
                    .doesNotContain("style=\"", "onclick");
        }
    }

    private static String captures() {
        return "/jobs/T-HTTP/captures/" + Simulated.side().name().toLowerCase(java.util.Locale.ROOT) + "-1";
    }

    @Test
    void postingWithoutATokenIsRefused() throws Exception {
        assertThat(post("/jobs/T-HTTP/entries", "line=C1+d+.4", "wrong").statusCode())
                .isEqualTo(403);
    }

    @Test
    void otherHostNamesAreNotAnswered() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", server.port())) {
            socket.getOutputStream()
                    .write("GET / HTTP/1.1\r\nHost: evil.example\r\nConnection: close\r\n\r\n"
                            .getBytes(StandardCharsets.US_ASCII));
            String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            assertThat(answer).startsWith("HTTP/1.1 421");
        }
    }

    @Test
    void whatIsNotThereSaysSoWithoutAStackTrace() throws Exception {
        HttpResponse<String> missing = get("/jobs/NOPE");
        assertThat(missing.statusCode()).isEqualTo(404);
        assertThat(missing.body()).contains("There is no job NOPE").doesNotContain("Exception", "\tat ");
        assertThat(get("/nowhere").statusCode()).isEqualTo(404);
        HttpResponse<String> bad = post("/jobs/T-HTTP/lift", "ref=C999", token());
        assertThat(bad.statusCode()).isEqualTo(400);
        assertThat(bad.body()).contains("names the part C999").doesNotContain("Exception");
    }

    @Test
    void aBundleIsTakenInAndFound() throws Exception {
        byte[] zip = Files.readAllBytes(Simulated.zip(temp, "T-UP"));
        String told = awaitImport(upload("my job.zip", zip));
        assertThat(told).contains("\"done\"", "\"T-UP\"");
        long id = server.bean(JobStore.class).named("T-UP").id();
        awaitAnalysis(id);
        StoredAnalysis analysis = server.bean(AnalysisRunner.class).latest(id).orElseThrow();
        assertThat(analysis.suspects().get(0).ref()).isEqualTo(Simulated.CULPRIT);
        assertThat(analysis.captures().get(0).contours()).isNotEmpty();
        assertThat(get("/jobs/T-UP").body()).contains("Lift " + Simulated.CULPRIT);
    }

    @Test
    void badUploadsAreToldByTheirOwnNameAndLeaveNothing() throws Exception {
        assertThat(awaitImport(upload("empty.zip", new byte[0]))).contains("\"failed\"", "empty.zip", "0 bytes");
        assertThat(awaitImport(upload("note.zip", "hello".getBytes(StandardCharsets.UTF_8))))
                .contains("\"failed\"", "note.zip", "no ZIP");
        byte[] zip = Files.readAllBytes(Simulated.zip(temp, "T-HALF"));
        assertThat(awaitImport(upload("half.zip", java.util.Arrays.copyOf(zip, zip.length / 2))))
                .contains("\"failed\"", "half.zip", "cut off or damaged");
        assertThat(server.bean(JobStore.class).find("T-HALF")).isEmpty();
    }

    @Test
    void anUploadThatBreaksOffLeavesNothing() throws Exception {
        long before = server.bean(JobStore.class).count("");
        String token = token();
        try (Socket socket = new Socket("127.0.0.1", server.port())) {
            socket.getOutputStream()
                    .write(("POST /imports HTTP/1.1\r\nHost: 127.0.0.1\r\nX-XSRF-TOKEN: " + token
                                    + "\r\nContent-Type: multipart/form-data; boundary=b\r\nContent-Length: 500000\r\n\r\n"
                                    + "--b\r\nContent-Disposition: form-data; name=\"bundle\"; filename=\"x.zip\"\r\n\r\nPK\3\4half")
                            .getBytes(StandardCharsets.ISO_8859_1));
            socket.getOutputStream().flush();
        }
        Thread.sleep(300);
        assertThat(server.bean(JobStore.class).count("")).isEqualTo(before);
    }

    @Test
    void theExportIsTheContract() throws Exception {
        Path file = temp.resolve("back.zip");
        HttpResponse<Path> answer = http.send(
                HttpRequest.newBuilder(URI.create(server.url("/jobs/T-HTTP/bundle.zip")))
                        .build(),
                BodyHandlers.ofFile(file));
        assertThat(answer.headers().firstValue("Content-Disposition").orElse(""))
                .contains("T-HTTP.zip");
        assertThat(new BundleReader().read(file).board())
                .isEqualTo(Simulated.job("T-HTTP").board());
    }

    @Test
    void framesComeAsTheyAre() throws Exception {
        HttpResponse<byte[]> frames = http.send(
                HttpRequest.newBuilder(URI.create(server.url(captures() + "/frames?from=2&count=3")))
                        .build(),
                BodyHandlers.ofByteArray());
        assertThat(frames.body()).hasSize(3 * 80 * 60 * 2);
        int first = (frames.body()[0] & 0xff) | (frames.body()[1] & 0xff) << 8;
        assertThat(first * 0.01).isBetween(280.0, 310.0);
        assertThat(get(captures() + "/about").body()).contains("\"kelvinPerCount\":0.01", "\"toPx\"");
        assertThat(get(captures() + "/frames?from=-1&count=3").statusCode()).isEqualTo(400);
    }

    @Test
    void theEchoSaysWhatWouldBeKept() throws Exception {
        assertThat(get("/jobs/T-HTTP/echo?line=C28+d+.003").body())
                .isEqualTo("{\"understood\":true,\"words\":\"C28, diode: 0.003 V\"}");
        assertThat(get("/jobs/T-HTTP/echo?line=X99+d+1").body())
                .isEqualTo("{\"understood\":false,\"words\":\"This board has no X99.\"}");
    }

    @Test
    void theProgressFragmentIsAFragment() throws Exception {
        // Evidence kept by other tests has the frames looked into again, behind whatever else is queued.
        HttpResponse<String> fragment = await().atMost(QUEUE)
                .until(
                        () -> get("/jobs/T-HTTP/progress"),
                        told -> told.headers().firstValue("HX-Trigger").isPresent());
        assertThat(fragment.body()).contains("id=\"progress\"").doesNotContain("<html");
        assertThat(fragment.headers().firstValue("HX-Trigger")).contains("analysed");
    }

    @Test
    void whatIsAskedInATransactionIsTakenUpWhenItEnds() throws Exception {
        long id = server.bean(JobStore.class).named("T-HTTP").id();
        AnalysisStore analyses = server.bean(AnalysisStore.class);
        server.bean(org.springframework.transaction.support.TransactionTemplate.class)
                .execute(status -> {
                    server.bean(AnalysisRunner.class).request(id);
                    try {
                        // Long enough for a worker that was woken too early to have looked and gone.
                        Thread.sleep(500);
                    } catch (InterruptedException stopped) {
                        Thread.currentThread().interrupt();
                    }
                    return id;
                });
        assertThat(analyses.latest(id).orElseThrow().pending()).isTrue();
        await().atMost(QUEUE).until(() -> !analyses.latest(id).orElseThrow().pending());
        assertThat(analyses.latest(id).orElseThrow().state()).isEqualTo("done");
    }

    @Test
    void aCaptureGoesOutForOtherPrograms() throws Exception {
        String path = "/jobs/T-HTTP/captures/"
                + Simulated.job("X").captures().get(0).spec().id() + "/export/";
        assertThat(get(path + "difference.csv").body().lines())
                .hasSize(60)
                .allSatisfy(row -> assertThat(row.split(",")).hasSize(80));
        assertThat(get(path + "source.csv").body()).startsWith("x_mm,y_mm,side,sigma_mm,watts\n");
        assertThat(get(path + "contours.svg").body())
                .contains("<polygon")
                .contains("<polyline")
                .endsWith("</svg>\n");
        HttpResponse<String> tiff = get(path + "frames.tiff");
        assertThat(tiff.headers().firstValue("Content-Type")).contains("image/tiff");
        assertThat(tiff.headers().firstValue("Content-Disposition").orElse("")).contains("T-HTTP");
        assertThat(get(path + "frames.exe").statusCode()).isEqualTo(404);
        assertThat(get("/jobs/T-HTTP/frames/" + java.util.UUID.randomUUID()).statusCode())
                .isEqualTo(404);
    }

    @Test
    void evidenceIsToldToWhoeverListens() throws Exception {
        var lines = http.send(
                        HttpRequest.newBuilder(URI.create(server.url("/jobs/T-HTTP/events")))
                                .build(),
                        BodyHandlers.ofLines())
                .body();
        var heard = java.util.concurrent.CompletableFuture.supplyAsync(
                () -> lines.filter(l -> l.startsWith("event:")).findFirst().orElse(""));
        post("/jobs/T-HTTP/entries", "line=look+J1+clean", token());
        assertThat(heard.get(5, java.util.concurrent.TimeUnit.SECONDS)).isEqualTo("event:evidence");
    }

    @Test
    void aSurveyWithoutScriptGoesOnToTheNextPoint() throws Exception {
        HttpResponse<String> skipped = post("/jobs/T-HTTP/survey", "start=TP1+VBAT+d&net=VBAT&value=", token());
        assertThat(skipped.statusCode()).isEqualTo(302);
        assertThat(skipped.headers().firstValue("Location").orElse("")).endsWith("/jobs/T-HTTP/survey?skipped=VBAT");
        HttpResponse<String> bad = post("/jobs/T-HTTP/survey", "start=TP1+VBAT+d&net=VBAT&value=hello", token());
        assertThat(bad.body()).contains("is not understood here");
    }

    @Test
    void whatCannotBeKeptIsSaidOnAPage() throws Exception {
        assertThat(post("/settings", "name=meter&choice=tongue", token()).statusCode())
                .isEqualTo(400);
        assertThat(post("/jobs/T-HTTP/receive/items", "name=" + "x".repeat(90), token())
                        .statusCode())
                .isEqualTo(400);
        assertThat(get("/jobs/T-HTTP/traces/none.csv").statusCode()).isEqualTo(404);
        assertThat(get("/jobs/T-HTTP/photos/99999").statusCode()).isEqualTo(404);
        assertThat(get("/jobs/NO-SUCH/survey").statusCode()).isEqualTo(404);
        HttpResponse<String> trace = get("/jobs/T-HTTP/traces/port.csv");
        assertThat(trace.statusCode()).as(trace.body()).isLessThan(600);
        assertThat(trace.body()).doesNotContain("Exception");
        assertThat(get("/jobs/T-HTTP/inject?pixel=0").statusCode()).isEqualTo(400);
        assertThat(get("/jobs/T-HTTP/inject?pixel=0").body()).contains("pixel_mm");
        assertThat(get("/jobs/T-HTTP/inject?pixel=wide").body()).doesNotContain("Exception");
        assertThat(get("/jobs/T-HTTP/inject?pixel=wide").statusCode()).isEqualTo(400);
        assertThat(get("/jobs/T-HTTP/inject?by=wire&gauge=0.75").body()).contains("The length is missing.");
        assertThat(get("/jobs/T-HTTP/inject?by=wire&length=900&gauge=0.75").body())
                .contains("length must be");
        assertThat(get("/jobs/T-HTTP/rails?of=NOPE").body()).contains("no net or part of that name");
    }

    @Test
    void leadsAndSupplyAreKeptForTheNextJob() throws Exception {
        assertThat(get("/jobs/T-HTTP/inject").body())
                .contains("Keep these leads and this supply")
                .doesNotContain("are kept for your next jobs");
        HttpResponse<String> kept =
                post("/jobs/T-HTTP/inject/means", "leads=0.031&rated=7.5&mostV=15&mostA=3", token());
        assertThat(kept.statusCode()).isEqualTo(302);
        assertThat(kept.headers().firstValue("Location").orElse("")).endsWith("/jobs/T-HTTP/inject");
        String again = get("/jobs/T-HTTP/inject").body();
        assertThat(again)
                .contains("name=\"rated\" inputmode=\"decimal\" value=\"7.5\"")
                .contains("name=\"mostV\" inputmode=\"decimal\" value=\"15\"");
        // Asked for otherwise, it is planned otherwise, and what is kept stays.
        assertThat(get("/jobs/T-HTTP/inject?mostV=20").body())
                .contains("name=\"mostV\" inputmode=\"decimal\" value=\"20\"")
                .contains("Keep these leads and this supply");
        HttpResponse<String> odd = post("/jobs/T-HTTP/inject/means", "leads=-1&rated=7.5&mostV=15&mostA=3", token());
        assertThat(odd.statusCode()).isEqualTo(400);
        assertThat(odd.body()).contains("lead_ohms").doesNotContain("Exception");
        assertThat(post("/jobs/T-HTTP/inject/means", "leads=0.03", token()).statusCode())
                .isEqualTo(400);
        assertThat(get("/jobs/T-HTTP/inject").body()).contains("value=\"7.5\"");
    }

    @Test
    void thePredictedPictureIsWarmestWhereTheSuspectIs() throws Exception {
        HttpResponse<String> told = get(captures() + "/fields/predicted?suspect=" + Simulated.CULPRIT + "&frame=40");
        assertThat(told.statusCode()).isEqualTo(200);
        JsonNode field = JsonMapper.builder().build().readTree(told.body());
        Part culprit = DemoBoards.beck().part(Simulated.CULPRIT).orElseThrow();
        double most = 0;
        double off = Double.NaN;
        for (int c = 0; c < field.get("values").size(); c++) {
            double x = field.get("x0").asDouble()
                    + c % field.get("columns").asInt() * field.get("step").asDouble();
            double y = field.get("y0").asDouble()
                    + c / field.get("columns").asInt() * field.get("step").asDouble();
            if (field.get("values").get(c).asDouble(0) > most) {
                most = field.get("values").get(c).asDouble();
                off = Math.hypot(x - culprit.xMm(), y - culprit.yMm());
            }
        }
        assertThat(most).isGreaterThan(0.3);
        assertThat(off).isLessThan(1.5);
    }

    @Test
    void fieldsThatCannotBeDrawnAreExplained() throws Exception {
        assertThat(get(captures() + "/fields/predicted?suspect=NONE&frame=1").statusCode())
                .isEqualTo(404);
        HttpResponse<String> late = get(captures() + "/fields/predicted?suspect=" + Simulated.CULPRIT + "&frame=9999");
        assertThat(late.statusCode()).isEqualTo(400);
        assertThat(late.body()).contains("frame must be from 0 to");
    }

    @Test
    void heatIsFirstAtTheSuspect() throws Exception {
        JsonNode field = JsonMapper.builder()
                .build()
                .readTree(get(captures() + "/fields/onset").body());
        Part culprit = DemoBoards.beck().part(Simulated.CULPRIT).orElseThrow();
        int column = (int) Math.round(
                (culprit.xMm() - field.get("x0").asDouble()) / field.get("step").asDouble());
        int row = (int) Math.round(
                (culprit.yMm() - field.get("y0").asDouble()) / field.get("step").asDouble());
        JsonNode there = field.get("values").get(row * field.get("columns").asInt() + column);
        assertThat(there.isNull()).isFalse();
        assertThat(there.asDouble()).isBetween(0.0, 2.5);
        assertThat(get(captures() + "/fields/onset").body()).contains("\"columns\"");
    }

    @Test
    void pairsSnapBackToThePicture() throws Exception {
        JsonNode shapes = JsonMapper.builder()
                .build()
                .readTree(get(captures() + "/shapes").body());
        assertThat(shapes.get("parts").size()).isGreaterThan(20);
        StringBuilder query = new StringBuilder();
        for (JsonNode pair : shapes.get("pairs")) {
            query.append("&px=").append(pair.get("xPx").asDouble() + 1.5);
            query.append("&py=").append(pair.get("yPx").asDouble() - 1);
        }
        HttpResponse<String> told = get(captures() + "/snap?" + query.substring(1));
        assertThat(told.statusCode()).isEqualTo(200);
        JsonNode snapped = JsonMapper.builder().build().readTree(told.body());
        assertThat(snapped.get("usable").asBoolean()).as(told.body()).isTrue();
        double before = 0;
        double after = 0;
        for (int i = 0; i < shapes.get("pairs").size(); i++) {
            JsonNode pair = shapes.get("pairs").get(i);
            after += Math.abs(
                    snapped.get("px").get(i).asDouble() - pair.get("xPx").asDouble());
            before += 1.5;
        }
        assertThat(after).isLessThan(0.8 * before);
        assertThat(get(captures() + "/snap?px=1&py=1").statusCode()).isEqualTo(400);
    }

    @Test
    void aCaptureThatIsNotThereHasNothingBesideIt() throws Exception {
        assertThat(get(captures() + "/beside/none").statusCode()).isEqualTo(404);
    }
}
