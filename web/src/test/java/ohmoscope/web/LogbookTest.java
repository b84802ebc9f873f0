package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.job.SharedCase;
import ohmoscope.formats.CasesJson;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.LogbookStore;
import ohmoscope.web.store.LogbookStore.Asked;
import ohmoscope.web.store.LogbookStore.By;
import ohmoscope.web.store.LogbookStore.Counted;
import org.junit.jupiter.api.Test;

/** How jobs went: written as they go, found again, counted. */
class LogbookTest extends OverHttp {
    private static final String JOB = "T-LOG-1";
    private static final String BACK = "T-LOG-2";

    private static Asked words(String words) {
        return new Asked(words, "", "", "", "", "", Optional.empty(), Optional.empty());
    }

    @Test
    void aJobIsFoundByWhatWasEnteredAndByHowItWent() throws Exception {
        for (String number : new String[] {JOB, BACK}) {
            server.bean(BundleImporter.class).add(Simulated.job(number), "test", share -> true);
        }
        LogbookStore logbook = server.bean(LogbookStore.class);
        assertThat(logbook.page(words(JOB), 5, 0)).singleElement().satisfies(r -> {
            assertThat(r.proven()).isFalse();
            assertThat(r.named()).isEmpty();
        });

        Bench bench = server.bean(Bench.class);
        assertThat(bench.enter(JOB, "look J1 wet mark", OptionalLong.empty(), "test-log"))
                .isEmpty();
        Counted before = logbook.counted(By.ALL, 1).get(0);
        bench.lift(JOB, Simulated.CULPRIT, "test-log");
        bench.readAgain(JOB, OptionalDouble.of(0.43), "test-log");
        assertThat(logbook.page(words("wet mark"), 5, 0).stream().map(r -> r.number()))
                .contains(JOB)
                .doesNotContain(BACK);
        assertThat(logbook.page(words(JOB), 5, 0)).singleElement().satisfies(r -> {
            assertThat(r.proven()).isTrue();
            assertThat(r.ref()).hasValue(Simulated.CULPRIT);
            assertThat(r.innocent()).isZero();
        });
        Counted after = logbook.counted(By.ALL, 1).get(0);
        assertThat(after.proven()).isEqualTo(before.proven() + 1);
        assertThat(after.heated()).isEqualTo(before.heated() + 1);

        post("/jobs/" + BACK + "/logbook", "tags=Warranty%2C+liquid+damage&back=" + JOB, token());
        assertThat(get("/jobs/" + BACK + "/hand-back").body()).contains("liquid damage, warranty", "value=\"" + JOB);
        assertThat(get("/logbook?state=back&tag=warranty").body())
                .contains(BACK)
                .doesNotContain(">" + JOB + "<");
        assertThat(get("/logbook?q=" + JOB + "&state=proven").body()).contains(JOB, Simulated.CULPRIT);
        assertThat(get("/logbook?q=" + JOB + "&state=open").body()).contains("No job is like that");
        assertThat(get("/logbook.csv?q=" + JOB).body())
                .startsWith("job,opened_at,device")
                .contains(JOB + ",", ",yes," + Simulated.CULPRIT + ",");
        assertThat(get("/logbook/numbers").body()).contains("How sure, how often right", "By technician", "By month");
    }

    /** Who brought a device and whose it is are kept apart, are found, and never leave the shop. */
    @Test
    void dealerAndOwnerAreKeptApart() throws Exception {
        for (String number : new String[] {"T-LOG-7", "T-LOG-8"}) {
            server.bean(BundleImporter.class).add(Simulated.job(number), "test", share -> true);
        }
        post("/jobs/T-LOG-7/logbook", "dealer=Fell+radio+shop&owner=Ada+Thwaite", token());
        post("/jobs/T-LOG-8/logbook", "owner=Bo+Raistrick", token());
        assertThat(get("/jobs/T-LOG-7/hand-back").body())
                .contains("value=\"Fell radio shop\"", "value=\"Ada Thwaite\"");
        assertThat(get("/logbook?q=thwaite").body()).contains("T-LOG-7", "Fell radio shop for Ada Thwaite");
        assertThat(get("/logbook?dealer=Fell+radio+shop").body())
                .contains("T-LOG-7", "dealer=Fell%20radio%20shop")
                .doesNotContain("T-LOG-8");
        assertThat(get("/logbook.csv?q=raistrick").body()).contains("T-LOG-8", ",,Bo Raistrick,");
        post("/jobs/T-LOG-7/logbook", "dealer=&owner=Bo+Raistrick", token());
        assertThat(get("/logbook?q=thwaite").body()).contains("No job is like that");
        assertThat(get("/logbook?q=T-LOG-7").body()).contains("T-LOG-7");
        assertThat(get("/logbook/cases.json").body()).doesNotContain("Raistrick", "T-LOG");
        assertThat(get("/logbook/numbers").body()).contains("By who brought it");
        assertThat(post("/jobs/T-LOG-7/logbook", "owner=" + "x".repeat(121), token())
                        .body())
                .contains("owner");
    }

    @Test
    void whatCannotBeNotedIsRefusedWithItsReason() throws Exception {
        server.bean(BundleImporter.class).add(Simulated.job("T-LOG-3"), "test", share -> true);
        assertThat(post("/jobs/T-LOG-3/logbook", "back=T-LOG-3", token()).body())
                .contains("is this job");
        assertThat(post("/jobs/T-LOG-3/logbook", "back=NO-SUCH", token()).body())
                .contains("no job has that number");
        assertThat(post("/jobs/T-LOG-3/logbook", "tags=%3Cb%3E", token()).body())
                .contains("letters, digits");
        assertThat(get("/logbook?from=yesterday").statusCode()).isEqualTo(400);
        assertThat(get("/logbook?q=%25%27%3B--").statusCode()).isEqualTo(200);
    }

    /** A file of another shop counts by its weight, is replaced by a newer one, and can be forgotten. */
    @Test
    void whatAnotherShopHadIsHeardAndForgotten() throws Exception {
        String job = "T-LOG-4";
        server.bean(BundleImporter.class).add(Simulated.job(job), "test", share -> true);
        Board board = Simulated.job("T-LOG-5").board();
        SharedCase met = new SharedCase(
                board.name(),
                board.revision(),
                Optional.empty(),
                "dead",
                Optional.of(Hypothesis.Code.SHORT),
                Simulated.CULPRIT,
                OptionalDouble.empty(),
                OptionalDouble.empty());
        int own = counted(job);
        assertThat(takeIn(List.of(met, met, met)).statusCode()).isEqualTo(302);
        assertThat(get("/logbook/numbers").body()).contains("Fell bench", "What other shops had");
        assertThat(counted(job)).isEqualTo(own + 3);
        takeIn(List.of(met));
        assertThat(counted(job)).isEqualTo(own + 1);
        post("/logbook/cases/forget", "name=Fell+bench", token());
        assertThat(counted(job)).isEqualTo(own);
        assertThat(get("/logbook/cases.json").body()).contains("\"cases\"");
    }

    /** The short is gone and the device still ill: the page where it would go back opens the next hunt. */
    @Test
    void aNewSymptomOpensAHuntOfItsOwn() throws Exception {
        String job = "T-LOG-6";
        server.bean(BundleImporter.class).add(Simulated.job(job), "test", share -> true);
        Bench bench = server.bean(Bench.class);
        bench.lift(job, Simulated.CULPRIT, "test");
        bench.readAgain(job, OptionalDouble.of(0.43), "test");
        assertThat(get("/jobs/" + job + "/hand-back").body()).doesNotContain("Open a hunt of its own");
        bench.enter(job, "no picture", OptionalLong.empty(), "test");
        assertThat(get("/jobs/" + job + "/hand-back").body()).contains("Open a hunt of its own", "no picture");
        post("/jobs/" + job + "/hunts", "rail=", token());
        assertThat(get("/jobs/" + job).body()).contains("Hunt 2");
    }

    private HttpResponse<String> takeIn(List<SharedCase> cases) throws Exception {
        return upload(
                "/logbook/cases?name=Fell+bench&weight=0.5",
                List.of(new File("file", "fell.json", CasesJson.write(cases))),
                token());
    }

    /** Of how many cases the sheet speaks. */
    private int counted(String job) throws Exception {
        Matcher m = Pattern.compile("of (\\d+) proven on this model")
                .matcher(get("/jobs/" + job).body());
        return m.find() ? Integer.parseInt(m.group(1)) : 0;
    }
}
