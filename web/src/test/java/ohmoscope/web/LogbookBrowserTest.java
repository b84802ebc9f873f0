package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page.LocatorOptions;
import java.time.Duration;
import java.util.regex.Pattern;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/** From the named part over its being off, the proof and the hand-back to the next job of its model, in Chromium. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class LogbookBrowserTest extends InBrowser {
    private static final String JOB = "T-WALK-1";
    private static final String NEXT = "T-WALK-2";

    @BeforeAll
    void store() throws Exception {
        long id = server.bean(BundleImporter.class).add(Simulated.job(JOB), "test", share -> true);
        server.bean(BundleImporter.class).add(Simulated.job(NEXT), "test", share -> true);
        server.bean(AnalysisRunner.class).request(id);
        await().atMost(Duration.ofMinutes(4))
                .until(() -> server.bean(AnalysisStore.class).latestDone(id).isPresent());
    }

    private Locator with(String selector, String text) {
        return page.locator(selector, new LocatorOptions().setHasText(text)).first();
    }

    @Test
    @Order(1)
    void theNamedPartComesOffAndIsProven() {
        go("/jobs/" + JOB + "/name");
        with("#walk a", "Rework").click();
        page.locator("form.done button").click();
        assertThat(page.locator("#ev")).containsText(Simulated.CULPRIT + " removed");
        page.locator("#again").fill("0.43");
        page.locator("form.again button.btn-act").click();
        assertThat(page.locator("#walk")).containsText("Prove");
        go("/jobs/" + JOB + "/hand-back");
        assertThat(page.locator(".proof")).containsText("Proven");
        with("button", "Keep the case").click();
        page.locator("#tags").fill("liquid, warranty");
        with("button", "Note it").click();
        assertThat(page.locator("#tags")).hasValue("liquid, warranty");
        accessible();
    }

    @Test
    @Order(2)
    void theNextJobOfItsModelIsHelpedByIt() {
        go("/jobs/" + NEXT);
        assertThat(page.locator(".seen")).containsText(JOB);
        assertThat(page.locator(".seen .counts"))
                .containsText(Pattern.compile(Simulated.CULPRIT + ".*proven on this model"));
        accessible();
        go("/settings");
        with("form", "What others of the model had")
                .locator("button", new Locator.LocatorOptions().setHasText("Not heard"))
                .click();
        go("/jobs/" + NEXT);
        assertThat(page.locator(".seen .counts")).hasCount(0);
        go("/settings");
        with("form", "What others of the model had")
                .locator("button", new Locator.LocatorOptions().setHasText(Pattern.compile("^Heard$")))
                .click();
    }

    @Test
    @Order(3)
    void theLogbookFindsItAndCountsIt() {
        go("/");
        with("a", "Logbook").click();
        page.locator("#lq").fill("removed " + Simulated.CULPRIT);
        assertThat(with("#rows tr", JOB)).containsText("named before heat");
        page.locator("#lstate").selectOption("proven");
        page.locator("#ltag").selectOption("warranty");
        page.waitForURL(Pattern.compile("tag=warranty"));
        assertThat(page.locator("#rows tbody tr")).hasCount(1);
        assertThat(page.locator("#counted")).containsText("1 job ");
        assertThat(page.locator("#counted a")).hasAttribute("href", Pattern.compile("tag=warranty"));
        accessible();
        with("a", "what they come to").click();
        assertThat(page.locator(".chart[data-kind=sure] canvas")).hasCount(1);
        assertThat(with("#main section", "By technician")).containsText("of");
        accessible();
        fits("/logbook", "/logbook/numbers");
    }
}
