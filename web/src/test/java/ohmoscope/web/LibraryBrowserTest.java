package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.formats.Bundle;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The library of boards, in Chromium: found, put right as another version, good readings in and out. */
class LibraryBrowserTest extends InBrowser {
    private static final String NUMBER = "L-0001";

    private long board;

    @BeforeAll
    void job(Server.Running running) throws IOException {
        Bundle demo = DemoJobs.all().get(0).bundle().get();
        Bundle own = new Bundle(
                new Bundle.Job(NUMBER, "library", demo.job().opened()),
                demo.board().called("Causeway lamp post", "C"),
                demo.railInQuestion(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                demo.observations(),
                Map.of());
        running.bean(BundleImporter.class).add(own, "test", share -> true);
        board = running.bean(JobStore.class).named(NUMBER).boardId();
    }

    @Test
    void aBoardIsFoundAndShown() {
        go("/");
        page.locator("a[href='/boards']").click();
        page.locator("#q").fill("causeway");
        assertThat(page.locator(".cards li a")).hasCount(1);
        accessible();
        page.locator("#q").fill("no such thing");
        assertThat(page.locator(".cards .none")).hasText("No board is called so.");
        go("/boards/" + board);
        accessible();
        page.locator("#q").fill("capacitor");
        assertThat(page.locator("#parts tbody tr").first()).containsText("capacitor");
        page.setViewportSize(390, 800);
        page.waitForFunction("() => document.documentElement.scrollWidth <= 390");
        page.setViewportSize(1280, 800);
    }

    @Test
    void whoTypesBeforeThePageIsReadyIsSearchedForAllTheSame() {
        page.route("**/htmx.min.js", route -> {
            page.locator("#q").evaluate("field => field.value = 'no such thing'");
            route.resume();
        });
        go("/boards");
        assertThat(page.locator(".cards .none")).hasText("No board is called so.");
    }

    @Test
    void whatIsPutRightIsAnotherVersionAndJobsKeepTheirs() {
        long before = offered();
        long onJob = server.bean(JobStore.class).named(NUMBER).boardId();
        go("/boards/" + before);
        String ref = page.locator("#parts tbody tr th").first().textContent();
        page.locator("#parts tbody input").first().check();
        page.locator("#parts select[name=kind]").selectOption("OTHER");
        page.locator("#parts .bulk button").click();
        page.waitForURL(url -> !url.endsWith("/" + before));
        assertThat(page.locator("#parts tbody tr").first()).containsText("other");
        assertThat(page.locator("#parts tbody tr th").first()).hasText(ref);
        long after = offered();
        assertThat(after).isNotEqualTo(before);
        assertThat(server.bean(JobStore.class).named(NUMBER).boardId()).isEqualTo(onJob);
        // Undo: the earlier one is offered again.
        page.locator("summary", new Page.LocatorOptions().setHasText("versions"))
                .click();
        page.locator(".versions li:has(a[href='/boards/" + before + "']) button")
                .click();
        page.waitForURL("**/boards/" + before);
        assertThat(offered()).isEqualTo(before);
    }

    private long offered() {
        return server.bean(BoardStore.class).library("causeway").get(0).id();
    }

    @Test
    void goodReadingsComeFromATableAndJudgeTheNextReading() {
        go("/boards/" + board);
        String net = page.locator("tr:has-text('signal') th.rf").first().textContent();
        String kept = "\n" + net + ",diode,0.6";
        int before = good().split(kept, -1).length - 1;
        String table = "net,mode,value\n" + net + ",diode,0.61\n" + net + ",diode,0.63\n";
        page.locator("#table")
                .setInputFiles(new FilePayload("good.csv", "text/csv", table.getBytes(StandardCharsets.UTF_8)));
        leaving(() -> page.locator("#table + button").click());
        assertThat(page.locator("table.nets")).containsText("0.610–0.630 V (" + (before + 2) + ")");
        assertThat(good()).contains(net + ",diode,0.61");
        page.locator(".good-form summary").click();
        page.locator("#good-net").fill(net);
        page.locator("#good-lead").selectOption("black");
        page.locator("#good-value").fill("1,41");
        page.locator("#good-meter").fill("bench meter");
        leaving(() -> page.locator(".good-form button").click());
        page.locator(".point-by-point summary").click();
        assertThat(page.locator(".point-by-point tbody tr")).hasCount(2);
        assertThat(page.locator(".point-by-point tbody tr").last()).containsText("black");
        assertThat(page.locator(".point-by-point tbody tr").last()).containsText("bench meter");
        accessible();
        page.locator("#table")
                .setInputFiles(new FilePayload(
                        "bad.csv", "text/csv", "net,mode,value\nNO,d,1\n".getBytes(StandardCharsets.UTF_8)));
        leaving(() -> page.locator("#table + button").click());
        assertThat(page.locator(".refused")).containsText("bad.csv, line 2: names the net NO");
        for (String file : new String[] {"board.json", "centroid.csv", "netlist.ipc", "board.svg"}) {
            assertThat(page.request()
                            .get(server.url("/boards/" + board + "/" + file))
                            .ok())
                    .as(file)
                    .isTrue();
        }
    }

    private String good() {
        return page.request().get(server.url("/boards/" + board + "/good.csv")).text();
    }

    @Test
    void theTreeIsPutRightByHandAndUndone() {
        long before = offered();
        go("/boards/" + before);
        page.locator("a[href$='/tree']").click();
        accessible();
        Locator made = page.locator("table.made tbody tr");
        int makers = made.count();
        String out = made.first().locator("td").nth(1).textContent();
        made.first().locator("button").click();
        page.waitForURL(url -> !url.contains("/" + before + "/"));
        assertThat(page.locator("table.made tbody tr")).hasCount(makers - 1);
        assertThat(offered()).isNotEqualTo(before);
        page.locator("#part").fill("X404");
        page.locator("#in").fill(out);
        page.locator("#out").fill(out);
        page.locator("#made button").click();
        assertThat(page.locator(".refused")).hasText("The part is X404, which this board does not have.");
        page.getByText("Undo", new Page.GetByTextOptions().setExact(true)).click();
        page.waitForURL("**/boards/" + before + "/tree");
        assertThat(page.locator("table.made tbody tr")).hasCount(makers);
        assertThat(offered()).isEqualTo(before);
        page.getByText("Take the undo back").click();
        assertThat(page.locator("table.made tbody tr")).hasCount(makers - 1);
        page.getByText("Undo", new Page.GetByTextOptions().setExact(true)).click();
        page.waitForURL("**/boards/" + before + "/tree");
    }

    @Test
    void drawsAreThoseOfItsClassUntilSomebodySays() {
        long before = offered();
        go("/boards/" + before + "/tree");
        page.locator("#like").selectOption("jack-portable");
        page.locator("#as-class button").click();
        page.waitForURL(url -> !url.contains("/" + before + "/"));
        assertThat(page.locator("table.draws tbody tr").first()).containsText("A");
        page.locator("#run-from").fill("0.7");
        page.locator("#draws-form button").click();
        assertThat(page.locator(".refused")).containsText("The run draw needs two numbers");
        page.locator("#run-from").fill("0.7");
        page.locator("#run-to").fill("1.4");
        page.locator("#draws-form button").click();
        assertThat(page.locator("table.draws tbody tr").first()).containsText("0.70–1.4 A");
        accessible();
        page.setViewportSize(390, 800);
        page.waitForFunction("() => document.documentElement.scrollWidth <= 390");
        page.setViewportSize(1280, 800);
        server.bean(BoardStore.class).offer(before);
    }

    @Test
    void distancesLayersAndANetAreShown() {
        long id = offered();
        go("/boards/" + id);
        String ref = page.locator("#parts tbody tr th").first().textContent();
        String other = page.locator("#parts tbody tr th").nth(1).textContent();
        page.locator("#from").fill(ref);
        page.locator(".distance button").click();
        assertThat(page.locator(".apart tbody tr")).hasCount(12);
        page.locator("#to").fill(other);
        page.locator(".distance button").click();
        assertThat(page.locator(".apart tbody tr")).hasCount(1);
        assertThat(page.locator(".apart")).containsText(other);
        accessible();
        page.locator("#from").fill("Z909");
        page.locator(".distance button").click();
        assertThat(page.locator(".refused")).containsText("Z909, which this board does not have");
        go("/boards/" + id);
        Locator chips = page.locator(".side:not([hidden]) .part.chip");
        assertThat(chips.first()).isVisible();
        page.locator("[data-layer=chip]").uncheck();
        assertThat(chips.first()).isHidden();
        page.locator("[data-layer=through]").check();
        assertThat(page.locator(".side:not([hidden]) .through")).hasCount(1);
        page.locator("table.nets a").first().click();
        assertThat(page.locator("table.nets a[aria-current=true]")).hasCount(1);
        assertThat(page.locator(".part.rail").first()).isAttached();
    }
}
