package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import java.time.Duration;
import java.util.List;
import java.util.regex.Pattern;
import ohmoscope.core.rework.Way;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.ReworkStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/** From the named part to its being off, in Chromium. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class ReworkBrowserTest extends InBrowser {
    private static final String JOB = "T-REWORK";
    private long id;

    @BeforeAll
    void store() throws Exception {
        id = server.bean(BundleImporter.class).add(Simulated.job(JOB), "test", share -> true);
        server.bean(AnalysisRunner.class).request(id);
        await().atMost(Duration.ofMinutes(4))
                .until(() -> server.bean(AnalysisStore.class).latestDone(id).isPresent());
    }

    private Locator heading() {
        return page.locator("h1", new com.microsoft.playwright.Page.LocatorOptions().setHasText("off"));
    }

    @Test
    @Order(1)
    void theNamedPartHasItsWaysWithTheBestShown() {
        go("/jobs/" + JOB + "/name");
        page.locator("#walk a", new com.microsoft.playwright.Page.LocatorOptions().setHasText("Rework"))
                .click();
        assertThat(heading()).containsText("Take " + Simulated.CULPRIT + " off");
        assertThat(page.locator(".rework-ways tbody tr").count()).isGreaterThanOrEqualTo(4);
        assertThat(page.locator(".rework-ways tbody tr").first()).hasAttribute("aria-current", "true");
        assertThat(page.locator(".verdict")).containsText("no neighbour comes to harm");
        assertThat(page.locator(".rework-see tbody tr").first()).containsText(Pattern.compile("\\d+ °C"));
        assertThat(page.locator(".rework-after")).containsText("read the same point again");
        accessible();
    }

    @Test
    @Order(2)
    void anotherWayIsLookedAtWithItsNozzleDrawn() {
        go("/jobs/" + JOB + "/rework");
        page.locator(
                        ".rework-ways a",
                        new com.microsoft.playwright.Page.LocatorOptions()
                                .setHasText("Hot air")
                                .setHasNotText("below"))
                .click();
        assertThat(page.locator(".rework-do > h2")).hasText("Hot air");
        assertThat(page.locator(".rework-board circle.air")).hasCount(2);
        assertThat(page.locator(".settings-big")).containsText("Nozzle");
        accessible();
    }

    /** A bench without air has no way that needs it. */
    @Test
    @Order(3)
    void theKitDecidesWhatIsOffered() {
        go("/jobs/" + JOB + "/rework");
        page.locator(".kit summary").click();
        page.locator(".kit [name=nozzles]").fill("");
        page.locator(".kit button").click();
        assertThat(page.locator(".rework-ways")).not().containsText("Hot air");
        page.locator(".kit summary").click();
        page.locator(".kit [name=nozzles]").fill("5 8");
        page.locator(".kit [name=air]").fill("450");
        page.locator(".kit button").click();
        assertThat(page.locator(".rework-ways")).containsText("Hot air");
        page.locator(".kit summary").click();
        page.locator(".kit [name=nozzles]").fill("5000");
        page.locator(".kit button").click();
        assertThat(page.locator("main")).containsText("nozzles must be a number from 1 to 40");
        complaints().removeIf(c -> c.contains("status of 400"));
    }

    @Test
    @Order(4)
    void whatItTookIsKeptAndTeachesTheNextPlan() throws Exception {
        go("/jobs/" + JOB + "/rework?way=AIR");
        double planned = Double.parseDouble(page.locator("[name=planned]").inputValue());
        page.locator("[name=took]").fill(String.valueOf(Math.round(planned * 3)));
        page.locator("form.done button").click();
        assertThat(page.locator("#ev")).containsText(Simulated.CULPRIT + " removed");
        List<ReworkStore.Done> done = server.bean(ReworkStore.class).ofJob(id);
        assertThat(done).singleElement().satisfies(d -> {
            assertThat(d.method()).isEqualTo(Way.Method.AIR);
            assertThat(d.ref()).isEqualTo(Simulated.CULPRIT);
            assertThat(d.tookS().orElseThrow()).isEqualTo(Math.round(planned * 3));
        });
        go("/jobs/" + JOB + "/rework?way=AIR&of=" + Simulated.CULPRIT);
        assertThat(page.locator("form.done")).containsText("Your air passes on 0.");
        assertThat(page.locator("#walk")).containsText("Prove");

        // The next board of the model is told by what it came off.
        server.bean(BundleImporter.class).add(Simulated.job(JOB + "-NEXT"), "test", share -> true);
        go("/jobs/" + JOB + "-NEXT/rework?way=AIR&of=" + Simulated.CULPRIT);
        assertThat(page.locator(".earlier"))
                .containsText(Pattern.compile(Simulated.CULPRIT + " on .*, set to \\d+ °C, nozzle .* mm, off after "
                        + Math.round(planned * 3)));
    }

    /** The new part's legs are asked by two buttons; what the beeper said is evidence and stands in the report. */
    @Test
    @Order(5)
    void aPartThatIsBackOnIsListenedTo() {
        go("/jobs/" + JOB);
        page.locator("#line").fill("replaced " + Simulated.CULPRIT);
        page.locator("#line").press("Enter");
        page.locator("#advice a", new com.microsoft.playwright.Page.LocatorOptions().setHasText("joints to listen to"))
                .click();
        Locator rows = page.locator(".rework-joints tbody tr");
        assertThat(rows.first()).containsText(Simulated.CULPRIT + ".1 to another place of");
        accessible();
        leaving(() -> rows.nth(0).locator("button[value=true]").click());
        assertThat(rows.nth(0)).hasClass("ok");
        leaving(() -> rows.nth(1).locator("button[value=false]").click());
        assertThat(rows.nth(1)).containsText("the leg does not hold");
        go("/jobs/" + JOB + "/hand-back");
        assertThat(page.locator(".missing")).containsText("silent: the leg does not hold");
        assertThat(page.locator(".ticks tr[data-state=wrong]").last()).containsText(Simulated.CULPRIT);
        go("/jobs/" + JOB + "/rework?of=" + Simulated.CULPRIT);
        leaving(() -> rows.nth(1).locator("button[value=true]").click());
        assertThat(rows.nth(1)).hasClass("ok");
        go("/jobs/" + JOB + "/hand-back");
        assertThat(page.locator("main")).not().containsText("does not hold");
    }

    @Test
    @Order(6)
    void aPartThatIsNotThereIsSaid() {
        go("/jobs/" + JOB + "/rework?of=X99");
        assertThat(page.locator("main")).containsText("There is no part X99 on this board");
        complaints().removeIf(c -> c.contains("status of 404"));
    }
}
