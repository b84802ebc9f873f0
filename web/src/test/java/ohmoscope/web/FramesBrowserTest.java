package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.frames.FrameExport;
import ohmoscope.web.imports.BundleImporter;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Frames from anywhere: sent, read, laid over the board; and out again. */
class FramesBrowserTest extends InBrowser {
    private static final String BARE = "T-FRAMES";

    @TempDir
    static Path temp;

    private Path tiff;
    private Capture original;

    @BeforeAll
    void aJobWithoutFrames(Server.Running running) throws Exception {
        Bundle whole = Simulated.job(BARE);
        original = whole.captures().get(0);
        tiff = temp.resolve("movie.tiff");
        try (var out = Files.newOutputStream(tiff)) {
            FrameExport.tiff(original.spec(), original.frames(), out);
        }
        Bundle bare = new Bundle(
                whole.job(),
                whole.board(),
                whole.railInQuestion(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                whole.observations(),
                Map.of());
        running.bean(BundleImporter.class).add(bare, "test", share -> true);
    }

    private void send(Path... files) {
        go("/jobs/" + BARE + "/frames");
        page.locator("#files").setInputFiles(files);
        page.getByText("Send", new com.microsoft.playwright.Page.GetByTextOptions().setExact(true))
                .click();
    }

    @Test
    void aTiffIsReadRememberedAndLaidOverTheBoard() {
        go("/jobs/" + BARE);
        leaving(() -> page.getByText("Frames into this job").click());
        accessible();
        send(tiff);
        assertThat(page.locator("#recognised")).containsText("80×60, numbers with a fraction");
        accessible();
        page.locator("[name=turn]").selectOption("HALF");
        assertThat(page.locator("#preview")).hasAttribute("src", java.util.regex.Pattern.compile("turn=HALF"));
        page.locator("[name=turn]").selectOption("NONE");
        page.locator("[name=scale][value=two]").check();
        assertThat(page.locator("[name=value1]")).isVisible();
        assertThat(page.locator("[name=perCount]")).isHidden();
        page.locator("[name=scale][value=kelvin]").check();
        page.locator("[name=fps]").fill("8");
        page.locator("[name=on]").fill("1.5");
        page.locator("[name=off]").fill("5.5");
        page.locator("[name=volts]").fill("0.4");
        page.locator("[name=amps]").fill("2.5");
        page.locator("[name=camera]").fill("bench camera");
        page.getByText("Keep, and lay it over the board").click();
        page.waitForSelector("#capture[data-ready=true]");
        assertThat(page.locator("h1")).containsText("frames-1");
        assertThat(page.locator(".residual")).hasCount(4);
        assertThat(page.locator("#course-words, #part-tip").first()).isVisible();
        // The same files again: the camera is known.
        send(tiff);
        assertThat(page.locator("[name=camera]")).hasValue("bench camera");
        assertThat(page.locator("[name=perCount]")).hasValue("1.0");
        assertThat(page.locator("[name=fps]")).hasValue("8.0");
        assertThat(page.locator("[name=on]")).hasCount(0);
        page.getByText("Leave these files").click();
        assertThat(page.locator("#sheet")).isVisible();
    }

    @Test
    void whatIsNoFrameIsRefusedInASentence() throws Exception {
        Path words = temp.resolve("words.csv");
        Files.writeString(words, "1,2,3\n4,five,6\n", StandardCharsets.UTF_8);
        send(words);
        assertThat(page.locator("main"))
                .containsText("words.csv, line 2, field 2: is no number: five. Nothing of it was kept.");
        noOtherComplaint();
    }

    /** The browser notes the refusal's status in its console. */
    private void noOtherComplaint() {
        complaints().removeIf(c -> c.contains("status of 400"));
    }
}
