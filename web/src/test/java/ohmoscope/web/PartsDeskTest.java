package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.web.imports.BundleImporter;
import org.junit.jupiter.api.Test;

/** What goes in a part's place: from the board, the shop's list and other boards. */
class PartsDeskTest extends OverHttp {
    private static final String JOB = "T-DESK";

    @Test
    void theDeskSaysWhatIsWantedAndWhereItIs() throws Exception {
        server.bean(BundleImporter.class).add(Simulated.job(JOB), "test", share -> true);
        Part off = Simulated.job(JOB).board().part(Simulated.CULPRIT).orElseThrow();
        String csv = "kind,value,count,least,place,volts_rated\ncapacitor," + off.value() + ",3,10,drawer 7,100\n"
                + "capacitor,1p,90,0,drawer 8,100\n";
        upload("/parts", List.of(new File("file", "parts.csv", csv.getBytes(StandardCharsets.UTF_8))), token());
        assertThat(get("/parts").body()).contains(off.value(), "drawer 7", "order more");
        assertThat(get("/parts.csv").body()).contains("capacitor," + off.value() + ",,100,3,10,drawer 7");

        String desk = get("/jobs/" + JOB + "/parts?of=" + Simulated.CULPRIT).body();
        assertThat(desk)
                .contains(
                        "In place of " + Simulated.CULPRIT, off.value() + ", as the board", "drawer 7", "Looked for on")
                .doesNotContain("drawer 8");
        assertThat(desk).contains("within 20 % does: it only steadies the rail", "Here rather new");
        whatIsPrintedIsRead();
        String id = desk.replaceAll("(?s).*name=\"id\" value=\"(\\d+)\".*", "$1");
        post("/jobs/" + JOB + "/parts/take", "of=" + Simulated.CULPRIT + "&id=" + id, token());
        assertThat(get("/parts.csv").body()).contains(",,100,2,10,drawer 7,");
        assertThat(post("/jobs/" + JOB + "/parts/take", "of=C1&id=999999", token())
                        .body())
                .contains("names no line with one left");
        assertThat(get("/jobs/" + JOB + "/parts?of=X99").statusCode()).isEqualTo(404);
        anOrderGoesByChanceAndPrice();
        assertThat(get("/jobs/" + JOB + "/parts").statusCode()).isEqualTo(200);
    }

    private void whatIsPrintedIsRead() throws Exception {
        String at = "/jobs/" + JOB + "/parts?of=" + Simulated.CULPRIT + "&printed=";
        assertThat(get(at + "476e").body())
                .contains("47.0 µF, 2.5 V: two figures", "not the same", "take the higher rating");
        assertThat(get(at + "what").body()).contains("Ceramic ones carry none");
        assertThat(get(at + "%3Cb%3E").body()).contains("&lt;b&gt;").doesNotContain("<b>\"");
    }

    private void anOrderGoesByChanceAndPrice() throws Exception {
        post("/parts/costs", "price.capacitor=0.25&postage=6&wait_days=2&day_worth=5&minutes.large=300", token());
        assertThat(get("/parts").body())
                .contains("name=\"postage\" value=\"6\"", "name=\"minutes.large\" value=\"300\"");
        String desk = get("/jobs/" + JOB + "/parts?of=" + Simulated.CULPRIT).body();
        assertThat(desk)
                .contains("One order", "in the shop")
                .containsPattern("second order would cost 16\\.00|has to be ordered");
        assertThat(post("/parts/costs", "postage=cheap", token()).body())
                .contains("postage must be a number of 0 or more, was &quot;cheap&quot;");
        assertThat(post("/parts/costs", "minutes.look=0", token()).body()).contains("look");
        assertThat(get("/parts").body()).contains("name=\"postage\" value=\"6\"");
        post("/parts/costs", "", token());
        assertThat(get("/parts").body()).contains("name=\"postage\" value=\"8\"");
    }

    @Test
    void aListThatIsNoneChangesNothing() throws Exception {
        String before = get("/parts.csv").body();
        assertThat(upload(
                                "/parts",
                                List.of(new File("file", "x.csv", "kind,value\n".getBytes(StandardCharsets.UTF_8))),
                                token())
                        .body())
                .contains("x.csv", "has no column count");
        assertThat(get("/parts.csv").body()).isEqualTo(before);
    }
}
