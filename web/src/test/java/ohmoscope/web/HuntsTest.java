package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.net.http.HttpResponse;
import java.util.List;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.evidence.Named;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Several hunts in one job, and points that are called otherwise later, over plain HTTP. */
class HuntsTest extends OverHttp {
    private String token;

    @BeforeAll
    void store() throws Exception {
        server.bean(BundleImporter.class).add(Simulated.job("T-HUNTS"), "test", share -> true);
        token = token();
    }

    private void posted(String path, String body) throws Exception {
        HttpResponse<String> answer = post(path, body, token);
        assertThat(answer.statusCode()).as(path + " " + answer.body()).isIn(200, 302);
    }

    private void opened(String number) throws Exception {
        HttpResponse<String> answer = upload(
                "/new?device=instrument+" + number + "&number=" + number
                        + "&board=generic:small-instrument&account=dead",
                List.of(new File("files", "none.txt", new byte[0])),
                token);
        assertThat(answer.headers().firstValue("Location").orElse(answer.body()))
                .contains(number);
    }

    private JobFile.Stored job(String number) throws Exception {
        return server.bean(JobFile.class).withoutTraces(number);
    }

    @Test
    void anotherHuntHasItsOwnRailAndFramesAndTheSameEvidence() throws Exception {
        JobFile.Stored first = job("T-HUNTS");
        String rail = first.bundle().rail();
        String other = first.board().nets().stream()
                .filter(n -> n.kind() == NetKind.POWER && !n.name().equals(rail))
                .findFirst()
                .orElseThrow()
                .name();
        assertThat(get("/jobs/T-HUNTS").body()).doesNotContain("class=\"hunts\"");
        posted("/jobs/T-HUNTS/hunts", "rail=" + other);
        JobFile.Stored second = job("T-HUNTS");
        assertThat(second.bundle().rail()).isEqualTo(other);
        assertThat(second.bundle().captures()).isEmpty();
        assertThat(second.bundle().injection()).isEmpty();
        assertThat(second.bundle().observations()).isEqualTo(first.bundle().observations());
        assertThat(get("/jobs/T-HUNTS").body()).contains("Hunt 1: " + rail, "Hunt 2: " + other);
        assertThat(get("/jobs/T-HUNTS/hand-back").body()).contains("hunt on " + rail);
        posted("/jobs/T-HUNTS/hunts/1", "");
        JobFile.Stored back = job("T-HUNTS");
        assertThat(back.bundle().rail()).isEqualTo(rail);
        assertThat(back.bundle().captures()).hasSameSizeAs(first.bundle().captures());
        assertThat(back.bundle().injection()).isEqualTo(first.bundle().injection());
        assertThat(post("/jobs/T-HUNTS/hunts/9", "", token).statusCode()).isEqualTo(404);
        assertThat(post("/jobs/T-HUNTS/hunts", "rail=NOWHERE", token).statusCode())
                .isEqualTo(400);
        assertThat(server.bean(JobStore.class).hunts(back.row().id())).hasSize(2);
    }

    @Test
    void aPointIsCalledOtherwiseAndKeepsItsReadings() throws Exception {
        opened("T-NAMES");
        String net = job("T-NAMES").bundle().rail();
        posted("/jobs/T-NAMES/points", "name=cap+left+of+U3&kind=CAPACITOR&net=" + net + "&other=GND");
        posted("/jobs/T-NAMES/entries", "line=cap-left-of-U3+d+.412");
        posted("/jobs/T-NAMES/points/name", "was=cap-left-of-U3&called=C214");
        JobFile.Stored named = job("T-NAMES");
        assertThat(named.board().part("C214")).isPresent();
        assertThat(named.board().part("cap-left-of-U3")).isEmpty();
        assertThat(get("/jobs/T-NAMES").body()).contains("C214").doesNotContain("cap-left-of-U3");
        // Met twice under two names: one part, both readings.
        posted("/jobs/T-NAMES/points", "name=the+tall+one&kind=CAPACITOR&net=" + net + "&other=GND");
        posted("/jobs/T-NAMES/entries", "line=the-tall-one+d+.415");
        posted("/jobs/T-NAMES/points/name", "was=the-tall-one&called=C214");
        JobFile.Stored merged = job("T-NAMES");
        assertThat(Named.of(merged.bundle().observations())).containsOnlyOnce("C214");
        assertThat(merged.bundle().observations()).hasSize(2);
        assertThat(Named.unknownOn(merged.board(), merged.bundle().observations()))
                .isEmpty();
        assertThat(post("/jobs/T-NAMES/points/name", "was=nowhere&called=C1", token)
                        .statusCode())
                .isEqualTo(400);
    }

    @Test
    void aProvenBoardTeachesTheNextOnlyWhenSomebodySaysSo() throws Exception {
        opened("T-TEACH");
        for (String line : List.of("V5+d+.001", "removed+C4", "V5+d+.44")) {
            assertThat(get("/jobs/T-TEACH/hand-back").body()).as(line).doesNotContain("Keep them");
            posted("/jobs/T-TEACH/entries", "line=" + line);
        }
        posted("/jobs/T-TEACH/entries", "line=V3_3+d+.39");
        assertThat(get("/jobs/T-TEACH/hand-back").body()).contains("Keep them", "<b>2 readings</b>");
        posted("/jobs/T-TEACH/entries", "line=charger+J1+9V+0.31A+flat+on");
        assertThat(get("/jobs/T-TEACH/hand-back").body()).contains("<b>2 readings and 1 draw</b>");
        posted("/jobs/T-TEACH/hand-back/good", "");
        assertThat(get("/jobs/T-TEACH/hand-back").body()).doesNotContain("Keep them");
        long board = job("T-TEACH").row().boardId();
        assertThat(get("/boards/" + board).body()).contains("0.440 V (1), 1 board, the newest today");
        // What was measured takes the place of what is usual for the class, and a verdict says what it rests on.
        assertThat(get("/boards/" + board + "/tree").body()).contains("0.19–0.43 A", "1 measured draw in its place");
        assertThat(job("T-TEACH")
                        .board()
                        .part("J1")
                        .orElseThrow()
                        .expects()
                        .orElseThrow()
                        .runAmps()
                        .orElseThrow()
                        .high())
                .isEqualTo(0.31 * 1.4, within(1e-9));
        String net = "SDA";
        posted("/jobs/T-TEACH/entries", "line=good+" + net + "+d+.55");
        posted("/jobs/T-TEACH/entries", "line=" + net + "+d+.56");
        assertThat(get("/jobs/T-TEACH").body()).contains("That rests on 1 board, the newest of ");
        assertThat(post("/jobs/T-NAMES-NOT/hand-back/good", "", token).statusCode())
                .isEqualTo(404);
    }
}
