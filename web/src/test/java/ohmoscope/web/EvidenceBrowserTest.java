package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import javax.imageio.ImageIO;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.imports.BundleImporter;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What comes before the injection, in Chromium: judged entries, the survey, rails, isolation, traces, receiving. */
class EvidenceBrowserTest extends InBrowser {
    @BeforeAll
    void jobs(Server.Running running) throws IOException {
        for (DemoJobs.Demo demo : DemoJobs.all().subList(0, 6)) {
            long id = running.bean(BundleImporter.class).add(demo.bundle().get(), "test", share -> true);
            running.bean(JobFile.class).refreshState(id);
        }
    }

    private void type(String line) {
        page.locator("#line").fill(line);
        page.keyboard().press("Enter");
        assertThat(page.locator("#line")).hasValue("");
    }

    private void paste(String text) {
        page.evaluate(
                "text => { const d = new DataTransfer(); d.setData('text', text);"
                        + " document.getElementById('line').dispatchEvent(new ClipboardEvent('paste',"
                        + " { clipboardData: d, bubbles: true, cancelable: true })); }",
                text);
    }

    @Test
    void touchingPinsStopEverythingElse() {
        go("/jobs/K-0425");
        assertThat(page.locator(".stops")).containsText("pins of J1 touch");
        assertThat(page.locator(".next .s")).hasText("Take J1 off.");
        assertThat(page.locator(".sus .rf").first()).hasText("J1");
        accessible();
        page.keyboard().press("g");
        assertThat(page.locator(".ev")).isHidden();
        assertThat(page.locator(".next .s")).isVisible();
    }

    @Test
    void entriesAreCorrectedWithdrawnAndPasted() {
        go("/jobs/K-0429");
        type("VDECK d .002");
        assertThat(page.locator(".stops")).containsText("VDECK is shorted");
        assertThat(page.locator(".next .s")).containsText("VDECK");
        Locator last = page.locator(".e[data-seq]").last();
        last.hover();
        last.locator(".fix").click();
        assertThat(page.locator("#line")).hasValue("fix 4 VDECK d 0.002");
        page.locator("#line").fill("fix 4 VDECK d .45");
        assertThat(page.locator("#echo")).containsText("entry 4 becomes: VDECK, diode: 0.450 V");
        page.keyboard().press("Enter");
        assertThat(page.locator(".ev")).containsText("0.450");
        assertThat(page.locator(".stops")).hasCount(0);
        type("undo");
        assertThat(page.locator(".e[data-seq]")).hasCount(3);
        page.locator("#line").focus();
        paste("V3D d .41\nV5D d .43\nlook J1 clean\nVJACK_F d .55\nVJACK d .56");
        assertThat(page.locator(".e[data-seq]")).hasCount(8);
        paste("V3D d .41\nQ99 d .4");
        assertThat(page.locator("#echo")).containsText("Nothing kept: line 2. This board has no Q99.");
        assertThat(page.locator(".e[data-seq]")).hasCount(8);
    }

    @Test
    void tabCompletesANameAndSuggestionsFillTheLine() {
        go("/jobs/K-0427");
        page.locator("#line").focus();
        page.keyboard().type("vdec");
        assertThat(page.locator("#completions")).containsText("VDECK");
        page.keyboard().press("Tab");
        assertThat(page.locator("#line")).hasValue("VDECK ");
        page.locator(".next .btn-act[data-do=fill]").click();
        assertThat(page.locator("#line")).hasValue("replaced Q4");
    }

    @Test
    void twoTechniciansSeeEachOthersEvidence() {
        go("/jobs/K-0426");
        page.locator("#line").fill("VDECK d");
        Page other = fresh();
        other.navigate(server.url("/jobs/K-0426"));
        other.locator("#line").fill("look R2 hole");
        other.keyboard().press("Enter");
        assertThat(page.locator(".ev")).containsText("R2 hole");
        // What was being typed here is still there.
        assertThat(page.locator("#line")).hasValue("VDECK d");
        assertThat(page.locator(".next .s")).containsText("R2");
        other.close();
    }

    @Test
    void twentyReadingsWithoutTheMouse() {
        go("/jobs/K-0430/survey");
        accessible();
        int coming = page.locator(".coming li").count();
        String first = page.locator(".point").textContent();
        page.keyboard().press("Enter");
        assertThat(page.locator(".point")).not().hasText(first);
        for (int i = 0; i < Math.min(6, coming); i++) {
            String point = page.locator(".point").textContent();
            assertThat(page.locator("#value")).isFocused();
            page.keyboard().type(point.contains("VGFX") ? ".012" : ".44");
            page.keyboard().press("Enter");
            assertThat(page.locator(".point")).not().hasText(point);
        }
        assertThat(page.locator("#read-so-far")).containsText("As a good board reads");
        page.keyboard().type("hello");
        page.keyboard().press("Enter");
        assertThat(page.locator("#said")).containsText("not understood");
        accessible();
    }

    @Test
    void theTreeShowsWhereVoltageStopsAndWhatLeaks() {
        go("/jobs/K-0427/rails");
        assertThat(page.locator("aside")).containsText("Q4 leaks about 49 kΩ");
        assertThat(page.locator(".rail-box.bad")).containsText("VCELLS");
        page.locator("a[aria-label^='V5D']").click();
        assertThat(page.locator("aside")).containsText("V5D made by U2 from VDECK");
        accessible();
        go("/jobs/K-0426/rails");
        assertThat(page.locator("aside")).containsText("Voltage absent from VCHIP on");
        assertThat(page.locator(".wire.broken")).hasCount(1);
        accessible();
    }

    @Test
    void isolationStandsSideBySide() {
        go("/jobs/K-0428");
        type("VSLATE d .003");
        go("/jobs/K-0428/isolate");
        assertThat(page.locator(".parting tbody tr").first()).containsText("min");
        page.locator(".parting tbody button").first().click();
        assertThat(page.locator("#line")).hasValue(java.util.regex.Pattern.compile("^(unplugged|removed) "));
        accessible();
        go("/jobs/K-0428");
        for (String line : new String[] {"unplugged J3", "VSLATE d .003", "removed J1", "VSLATE d .44"}) {
            type(line);
        }
        go("/jobs/K-0428/isolate");
        assertThat(page.locator(".tags a")).hasText("joints");
        assertThat(page.locator(".change").first()).containsText("still there");
        assertThat(page.locator(".change").last()).containsText("free again");
        assertThat(page.locator(".tags")).containsText("J3");
        accessible();
    }

    @Test
    void theInjectionIsPlannedTriedAndCompared() {
        go("/jobs/K-0425/inject");
        accessible();
        assertThat(page.locator(".limits")).containsText("Never above");
        int steps = page.locator(".ladder li").count();
        assertThat(steps).isGreaterThan(1);
        page.locator(".ladder .small").first().click();
        assertThat(page.locator("#line")).hasValue(java.util.regex.Pattern.compile("inj VSLATE .*A "));
        page.keyboard().type("0.09V 0.2A leads 0.05ohm");
        page.keyboard().press("Enter");
        assertThat(page.locator("#ev")).containsText("The short: 400 mΩ");
        assertThat(page.locator(".vi circle")).hasCount(1);
        String before = page.locator("#told").textContent();
        page.locator("#what-if [name=amps]").fill("3");
        page.locator("#what-if [name=volts]").fill("2");
        assertThat(page.locator("#told")).not().hasText(before);
        assertThat(page.locator("#told")).containsText("A");
        accessible();
    }

    @Test
    void whatTheSupplyWroteBecomesEntriesAndTheFramesClock() {
        StringBuilder csv = new StringBuilder("time s;volts;amps\n");
        double[][] steps = {{0, 0}, {0.055, 0.5}, {0.11, 1.0}, {0, 0}, {0.231, 2.1}};
        for (int i = 0; i < 200; i++) {
            double[] step = steps[i / 40];
            csv.append(String.format(Locale.ROOT, "%.1f;%.3f;%.3f\n", i / 10.0, step[0], step[1]));
        }
        // Said here, whatever leads the technician keeps.
        go("/jobs/K-0430/inject?leads=0.06");
        int before = page.locator(".vi circle").count();
        FilePayload notes = new FilePayload("notes.csv", "text/csv", "dear diary\n".getBytes(StandardCharsets.UTF_8));
        page.setInputFiles(".supply-file [type=file]", notes);
        leaving(() -> page.locator(".supply-file button").click());
        assertThat(page.locator(".supply-file [role=alert]")).containsText("Nothing was kept");
        accessible();
        page.setInputFiles(
                ".supply-file [type=file]",
                new FilePayload("ladder.csv", "text/csv", csv.toString().getBytes(StandardCharsets.UTF_8)));
        page.locator("[name=clock]").check();
        leaving(() -> page.locator(".supply-file button").click());
        assertThat(page.locator(".vi circle")).hasCount(before + 3);
        assertThat(page.locator("#ev")).containsText("The short: 5");
        // The frames have a clock now; a second one is not offered.
        assertThat(page.locator("[name=clock]")).hasCount(0);
        accessible();
    }

    @Test
    void leadsThatNobodyMeasuredAreReckonedFromLengthAndGauge() {
        go("/jobs/K-0426/inject");
        // Enter in the form plans anew; it does not ask for a wire.
        leaving(() -> page.locator("[name=mostV]").first().press("Enter"));
        assertThat(page.locator(".wire [role=alert]")).hasCount(0);
        page.locator(".wire summary").click();
        page.locator("[name=length]").fill("1.2");
        page.locator("[name=gauge]").fill("thick");
        leaving(() -> page.locator("[name=by]").click());
        assertThat(page.locator(".wire [role=alert]")).containsText("AWG 18");
        page.locator("[name=gauge]").fill("AWG 18");
        leaving(() -> page.locator("[name=by]").click());
        // 2 × 1.2 m × 0.0172 Ω mm²/m ÷ 0.823 mm², and 12 mΩ.
        assertThat(page.locator("[name=leads]").first()).hasValue("0.062");
        assertThat(page.locator("[name=rated]").first()).hasValue("7.8");
        accessible();
    }

    @Test
    void aTraceIsTakenInReadAndDrawn() {
        StringBuilder csv = new StringBuilder("Time;Voltage (V);Current (mA)\n");
        for (int i = 0; i < 200; i++) {
            csv.append(i / 10.0)
                    .append(';')
                    .append(5.1)
                    .append(';')
                    .append(i % 16 < 7 ? 900 : 20)
                    .append('\n');
        }
        go("/jobs/K-0425/power");
        page.setInputFiles(
                "[name=file]",
                new FilePayload("meter 3.csv", "text/csv", csv.toString().getBytes(StandardCharsets.UTF_8)));
        page.getByText("Keep it").click();
        assertThat(page.locator(".change").last()).containsText("Pulsing up to 900 mA every 1.6 s");
        assertThat(page.locator(".change").last()).containsText("a supply into a short");
        assertThat(page.locator(".trace-plot canvas").first()).isVisible();
        accessible();
        page.setInputFiles(
                "[name=file]",
                new FilePayload("notes.csv", "text/csv", "hello,world\n".getBytes(StandardCharsets.UTF_8)));
        page.getByText("Keep it").click();
        assertThat(page.locator("[role=alert]").last()).containsText("notes.csv");
    }

    @Test
    void receivingAsksAgainBeforeHandingBack() throws IOException {
        go("/jobs/K-0430/receive");
        page.locator("#condition").fill("two screws missing, no glue");
        page.getByText("Swollen or punctured cell").click();
        page.locator(".receive .btn-act").first().click();
        assertThat(page.locator(".stops")).containsText("Take it outdoors");
        page.getByText("+ memory", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator(".fit")).containsText("memory came with it");
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB), "png", png);
        page.locator("[name=caption]").fill("port from the front");
        page.setInputFiles("#photos", new FilePayload("a.png", "image/png", png.toByteArray()));
        page.locator("#photo-form button").click();
        assertThat(page.locator(".photos img")).hasAttribute("alt", "port from the front");
        accessible();
        go("/jobs/K-0430/hand-back");
        page.getByText("memory is back").click();
        assertThat(page.locator(".before-back")).not().containsText("memory is back");
        accessible();
    }

    @Test
    void anotherSchoolChangesTheWay() {
        go("/settings");
        accessible();
        page.locator("[value=ohms]").click();
        go("/jobs/K-0425/survey");
        assertThat(page.locator(".ask .note")).containsText("ohms");
        go("/settings");
        page.locator("[value=diode]").click();
        assertThat(page.locator("[value=diode]")).hasAttribute("aria-pressed", "true");
    }

    @Test
    void allPagesFit() {
        fits(
                "/settings",
                "/jobs/K-0427/survey",
                "/jobs/K-0427/rails",
                "/jobs/K-0427/isolate",
                "/jobs/K-0427/inject",
                "/jobs/K-0427/power",
                "/jobs/K-0427/receive",
                "/jobs/K-0427");
        assertThat(page.title()).contains("Ohmoscope");
    }
}
