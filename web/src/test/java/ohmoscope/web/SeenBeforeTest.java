package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.OptionalDouble;
import ohmoscope.formats.Bundle;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.imports.BundleImporter;
import org.junit.jupiter.api.Test;

/** A proven job, kept for the next of its kind. Other tests keep cases too: the model is this test's own. */
class SeenBeforeTest extends OverHttp {
    /** Another one at a second try. */
    private static final String AT = Long.toString(System.nanoTime(), 36);

    private static final String FIRST = "T-SEEN-1-" + AT;
    private static final String NEXT = "T-SEEN-2-" + AT;
    private static final String SEEN_FIRST = "<b>" + FIRST + "</b>";

    private static Bundle job(String number) {
        Bundle made = Simulated.job(number);
        return made.as(made.job(), made.board().called("Mossgill Syke rain gauge " + AT, "A"));
    }

    @Test
    void aProvenJobIsShownToTheNextOfItsModelOnceSomebodyKeptIt() throws Exception {
        for (String number : new String[] {FIRST, NEXT}) {
            server.bean(BundleImporter.class).add(job(number), "test", share -> true);
        }
        assertThat(get("/jobs/" + FIRST + "/hand-back").body()).doesNotContain("Keep the case");
        assertThat(post("/jobs/" + FIRST + "/hand-back/case", "", token()).statusCode())
                .isEqualTo(400);

        Bench bench = server.bean(Bench.class);
        bench.lift(FIRST, Simulated.CULPRIT, "test");
        bench.readAgain(FIRST, OptionalDouble.of(0.43), "test");
        assertThat(get("/jobs/" + FIRST + "/hand-back").body()).contains("Keep the case");
        assertThat(get("/jobs/" + NEXT).body()).doesNotContain(SEEN_FIRST);

        assertThat(post("/jobs/" + FIRST + "/hand-back/case", "", token()).statusCode())
                .isEqualTo(302);
        assertThat(get("/jobs/" + FIRST + "/hand-back").body()).doesNotContain("Keep the case");
        assertThat(get("/jobs/" + NEXT).body())
                .contains("Seen before", SEEN_FIRST, Simulated.CULPRIT, "same model, same rail");
        assertThat(get("/jobs/" + FIRST).body()).doesNotContain(SEEN_FIRST);

        assertThat(get("/jobs/" + NEXT).body()).contains("1 of 1 proven on this model", "times as likely");
        assertThat(get("/settings").body()).contains("What others of the model had");
        post("/settings", "name=memory&choice=not-heard", token());
        assertThat(get("/jobs/" + NEXT).body()).contains(SEEN_FIRST).doesNotContain("proven on this model");
        post("/settings", "name=memory&choice=heard", token());
    }
}
