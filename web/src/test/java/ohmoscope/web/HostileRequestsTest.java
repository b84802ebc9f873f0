package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import ohmoscope.formats.PgmFrames;
import ohmoscope.formats.frames.FrameStack;
import ohmoscope.web.config.Settings;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What is sent wrongly, or to do harm: it is refused with its reason, in time, and nothing of it stays.
 * {@code -Dohmoscope.fuzz=N} sends N requests of each kind.
 */
class HostileRequestsTest extends OverHttp {
    private static final int EACH = Integer.getInteger("ohmoscope.fuzz", 30);
    private static final String JOB = "T-HOSTILE";
    private static final long MOST_MS = 10_000;
    private static final List<String> NASTY = List.of(
            "\u0000",
            "C1\u0000 d .4",
            "{5}",
            "${7*7}",
            "(((C1",
            "C1[",
            "\\E.*",
            "9".repeat(400),
            "1e309",
            "-1",
            "NaN",
            "4000000000",
            "../../x",
            "%2f",
            "a;b",
            "\ufffe",
            "\ud83d\ude00",
            "<script>alert(1)</script>",
            "'; drop table job; --",
            "\u202e",
            "x".repeat(9_000),
            "inj VBAT 1V 2A 30mV 2A leads 0ohm",
            "inj VBAT 1V 2A leads -1ohm",
            "inj VBAT 1V 2A leads 1e308ohm",
            "fix 99999999999999999999 C1 d .4",
            "undo 0",
            "good VBAT d 9999999999",
            "warm 1e308,1e308",
            "VBAT d -1e300",
            "at at at at");

    @TempDir
    Path temp;

    @BeforeAll
    void store() throws Exception {
        server.bean(BundleImporter.class).add(Simulated.job(JOB), "test", share -> true);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private HttpResponse<String> sane(String what, HttpResponse<String> answer, long startedAt) {
        assertThat((System.nanoTime() - startedAt) / 1_000_000)
                .as("%s, ms", what)
                .isLessThan(MOST_MS);
        assertThat(answer.statusCode()).as(what).isLessThan(500);
        assertThat(answer.body())
                .as(what)
                .doesNotContain("java.lang", "org.springframework", "org.postgresql", "Exception", "\tat ");
        return answer;
    }

    @Test
    void whateverIsTypedIsKeptOrRefusedAndThePagesStayOpen() throws Exception {
        Random random = new Random(23);
        String token = token();
        List<String> fields = List.of(
                "/jobs/T-HOSTILE/entries|line",
                "/jobs/T-HOSTILE/lift|ref",
                "/jobs/T-HOSTILE/again|value",
                "/jobs/T-HOSTILE/survey|start=VBAT+d&net=VBAT&value",
                "/jobs/T-HOSTILE/survey|start=VBAT+d&value=&net=VBAT&skipped",
                "/jobs/T-HOSTILE/receive|account",
                "/jobs/T-HOSTILE/receive|hazards",
                "/jobs/T-HOSTILE/receive/items|name",
                "/jobs/T-HOSTILE/receive/items/back|name",
                "/jobs/T-HOSTILE/inject/means|rated=5&mostV=30&mostA=5&leads",
                "/jobs/T-HOSTILE/inject/means|leads=0.05&rated=5&mostV=30&mostA",
                "/settings|name=meter&choice",
                "/shelf/999999/number|number");
        for (int i = 0; i < Math.max(EACH, NASTY.size()); i++) {
            String nasty = NASTY.get(i % NASTY.size());
            for (String field : fields) {
                String[] parts = field.split("\\|");
                String sent = random.nextInt(4) == 0 ? nasty + NASTY.get(random.nextInt(NASTY.size())) : nasty;
                if (sent.length() > 20_000) {
                    continue;
                }
                sane(field + " " + sent, post(parts[0], parts[1] + "=" + encoded(sent), token), System.nanoTime());
            }
            String path = "/jobs/T-HOSTILE/survey?skipped=" + encoded(nasty);
            sane(path, get(path), System.nanoTime());
            for (String query : List.of(
                    "/?page=1&q=",
                    "/?q=&page=",
                    "/jobs/T-HOSTILE/echo?line=",
                    "/jobs/T-HOSTILE/inject?leads=",
                    "/jobs/T-HOSTILE/inject?volts=",
                    "/jobs/T-HOSTILE/inject?by=wire&length=",
                    "/imports/")) {
                sane(query + nasty, get(query + encoded(nasty)), System.nanoTime());
            }
        }
        for (String page :
                List.of("", "/survey", "/rails", "/isolate", "/inject", "/power", "/receive", "/hand-back", "/name")) {
            assertThat(get("/jobs/" + JOB + page).statusCode()).as(page).isEqualTo(200);
        }
        assertThat(get("/").statusCode()).isEqualTo(200);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "inj VBAT 1V 2A 30mV 2A leads 0ohm",
                "inj VBAT 1V 2A leads -1ohm",
                "inj VBAT 1V 2A leads 1e308ohm"
            })
    void leadsThatCannotBeAreRefusedAtEntry(String line) throws Exception {
        assertThat(post("/jobs/" + JOB + "/entries", "line=" + encoded(line), token())
                        .body())
                .containsPattern("cannot be: both together|is not understood here|Say mode and value");
        assertThat(get("/jobs/" + JOB + "/inject").statusCode()).isEqualTo(200);
    }

    @Test
    void whatIsNoTextIsSaidToBeNone() throws Exception {
        HttpResponse<String> answer = post("/jobs/" + JOB + "/entries", "line=" + encoded("C1\u0000 d .4"), token());
        assertThat(answer.statusCode()).isEqualTo(400);
        HttpResponse<String> item = post("/jobs/" + JOB + "/receive/items/back", "name=unicorn", token());
        assertThat(item.statusCode()).isEqualTo(400);
        assertThat(item.body()).contains("not on this job");
        HttpResponse<String> page = get("/?page=" + "9".repeat(400));
        assertThat(page.statusCode()).isEqualTo(400);
        assertThat(page.body()).contains("“page” is not what is expected there");
    }

    @Test
    void aJobNumberThatIsNoPartOfAnAddressIsRefused() throws Exception {
        for (String number : List.of("../../x", "a/b", "a%2fb", "a;b", "..", "x".repeat(41))) {
            String told = awaitImport(upload("odd.zip", renumbered(number)));
            assertThat(told).as(number).contains("\"failed\"").contains("1 to 40 letters");
        }
        assertThat(get("/").statusCode()).isEqualTo(200);
    }

    private byte[] renumbered(String number) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipInputStream in = new ZipInputStream(Files.newInputStream(Simulated.zip(temp, "T-NUMBER")));
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                byte[] content = in.readAllBytes();
                zip.putNextEntry(new ZipEntry(entry.getName()));
                zip.write(
                        entry.getName().equals("bundle.json")
                                ? new String(content, StandardCharsets.UTF_8)
                                        .replace("T-NUMBER", number)
                                        .getBytes(StandardCharsets.UTF_8)
                                : content);
            }
        }
        return out.toByteArray();
    }

    @Test
    void asManyFramesAsArePromisedGoIn() throws Exception {
        ByteArrayOutputStream pgm = new ByteArrayOutputStream();
        PgmFrames.write(pgm, 16, 12, new char[16 * 12]);
        String token = token();
        HttpResponse<String> some =
                upload("/jobs/" + JOB + "/frames", files(FrameStack.MOST_FILES, pgm.toByteArray()), token);
        assertThat(some.statusCode()).isEqualTo(302);
        String draft = some.headers().firstValue("Location").orElseThrow();
        assertThat(get(draft.substring(draft.indexOf("/jobs"))).body())
                .contains(FrameStack.MOST_FILES + " frames of 16×12");
        assertThat(post(draft.substring(draft.indexOf("/jobs")) + "/drop", "", token)
                        .statusCode())
                .isEqualTo(302);
        HttpResponse<String> more =
                upload("/jobs/" + JOB + "/frames", files(FrameStack.MOST_FILES + 60, pgm.toByteArray()), token);
        assertThat(more.statusCode()).isEqualTo(413);
        assertThat(more.body()).contains("up to " + FrameStack.MOST_FILES + " files", "<html");
    }

    private static List<File> files(int count, byte[] content) {
        List<File> files = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            files.add(new File("files", "f" + i + ".pgm", content));
        }
        return files;
    }

    @Test
    void spoiltUploadsLeaveNothingBehind() throws Exception {
        Random random = new Random(29);
        byte[] good = Files.readAllBytes(Simulated.zip(temp, "T-SPOILT"));
        String token = token();
        long jobs = server.bean(JobStore.class).count("");
        int kept = 0;
        for (int i = 0; i < EACH / 3; i++) {
            byte[] spoilt = good.clone();
            for (int k = 0; k < 4; k++) {
                spoilt[random.nextInt(spoilt.length)] ^= (byte) (1 << random.nextInt(8));
            }
            String told = awaitImport(upload(
                    "spoilt.zip",
                    i % 3 == 0 ? java.util.Arrays.copyOf(spoilt, random.nextInt(spoilt.length)) : spoilt));
            kept += told.contains("\"done\"") ? 1 : 0;
            long start = System.nanoTime();
            sane(
                    "frames " + i,
                    upload(
                            "/jobs/" + JOB + "/frames",
                            List.of(new File("files", "a.png", spoilt), new File("files", "b.tif", good)),
                            token),
                    start);
            sane(
                    "picture " + i,
                    upload(
                            "/jobs/" + JOB + "/receive/photos",
                            List.of(new File("photos", "p\u0001.jpg", spoilt)),
                            token),
                    start);
            sane(
                    "log " + i,
                    upload("/jobs/" + JOB + "/inject/log", List.of(new File("file", "s.csv", spoilt)), token),
                    start);
        }
        assertThat(server.bean(JobStore.class).count("")).isEqualTo(jobs + kept);
        assertThat(server.bean(JdbcClient.class)
                        .sql("select count(*) from import_task where state in ('waiting', 'running')")
                        .query(Long.class)
                        .single())
                .isZero();
        org.awaitility.Awaitility.await().atMost(Duration.ofSeconds(20)).until(() -> {
            try (Stream<Path> left = Files.list(server.bean(Settings.class).workFolder())) {
                return left.noneMatch(p -> p.getFileName().toString().matches("(import|frames)-.*"));
            }
        });
    }
}
