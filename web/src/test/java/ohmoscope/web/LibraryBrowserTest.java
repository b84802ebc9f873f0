package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

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
        assertThat((Boolean) page.evaluate("document.documentElement.scrollWidth <= 390"))
                .isTrue();
        page.setViewportSize(1280, 800);
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
        page.locator("summary", new com.microsoft.playwright.Page.LocatorOptions().setHasText("versions"))
                .click();
        page.locator(".versions button").first().click();
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
        String table = "net,mode,value\n" + net + ",diode,0.61\n" + net + ",diode,0.63\n";
        page.locator("#table")
                .setInputFiles(new FilePayload("good.csv", "text/csv", table.getBytes(StandardCharsets.UTF_8)));
        page.locator("#table + button").click();
        assertThat(page.locator("table.nets")).containsText("0.610–0.630 V (2)");
        assertThat(page.request()
                        .get(server.url("/boards/" + board + "/good.csv"))
                        .text())
                .contains(net + ",diode,0.61");
        page.locator("#table")
                .setInputFiles(new FilePayload(
                        "bad.csv", "text/csv", "net,mode,value\nNO,d,1\n".getBytes(StandardCharsets.UTF_8)));
        page.locator("#table + button").click();
        assertThat(page.locator(".refused")).containsText("bad.csv, line 2: names the net NO");
        for (String file : new String[] {"board.json", "centroid.csv", "netlist.ipc", "board.svg"}) {
            assertThat(page.request()
                            .get(server.url("/boards/" + board + "/" + file))
                            .ok())
                    .as(file)
                    .isTrue();
        }
    }
}
