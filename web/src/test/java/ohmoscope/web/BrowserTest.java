package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.BoundingBox;
import java.nio.file.Path;
import java.util.regex.Pattern;
import ohmoscope.formats.BundleReader;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;

/** What a technician does, in Chromium: take in, look, turn over, scrub, drag a pair, lift, prove, hand back, export. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class BrowserTest extends InBrowser {
    private static final String JOB = "T-BROWSER";

    @TempDir
    static Path temp;

    @Test
    @Order(1)
    void aBundleIsTakenIn() throws Exception {
        go("/");
        page.setInputFiles("#pick", Simulated.zip(temp, JOB));
        Locator link = page.locator("#imports a");
        assertThat(link).hasText(JOB + " is on the shelf");
        assertThat(page.locator(".jobs")).containsText(JOB);
        accessible();
        link.click();
        assertThat(page.locator(".next .s")).containsText("Lift " + Simulated.CULPRIT);
    }

    @Test
    @Order(2)
    void aPageThatWaitsForTheFramesShowsWhatTheyTold() {
        go("/jobs/" + JOB);
        server.bean(AnalysisRunner.class).request(server.bean(JobFile.class).id(JOB));
        page.reload();
        assertThat(page.locator("#progress progress")).isVisible();
        assertThat(page.locator("#progress progress")).hasCount(0);
        assertThat(page.locator("#progress")).hasCount(1);
        assertThat(page.locator(".next .s")).containsText("Lift " + Simulated.CULPRIT);
    }

    @Test
    @Order(2)
    void aFileThatIsNoBundleIsToldInPlace() throws Exception {
        go("/");
        Path note = java.nio.file.Files.writeString(temp.resolve("note.zip"), "hello, not a zip");
        page.setInputFiles("#pick", note);
        assertThat(page.locator("#imports .failed .says")).containsText("note.zip: is no ZIP file");
        page.locator("#imports button").click();
        assertThat(page.locator("#imports li")).hasCount(0);
    }

    @Test
    @Order(3)
    void theSheetTellsTheNumbers() {
        go("/jobs/" + JOB);
        assertThat(page.locator(".meas")).containsText(Pattern.compile("0\\.3\\d\\d V"));
        assertThat(page.locator(".meas")).containsText("2.50 A");
        assertThat(page.locator(".sus li").first()).containsText(Simulated.CULPRIT);
        assertThat(page.locator(".walk .now")).containsText("Name it");
        assertThat(page.locator(".ev")).containsText("Shorted: next to nothing");
        assertThat(page.locator(".contours .iso").first()).isAttached();
        accessible();
    }

    @Test
    @Order(4)
    void theBoardIsTurnedOverAndWalkedByKeys() {
        go("/jobs/" + JOB);
        String shown = Simulated.side().name();
        assertThat(page.locator("#board-" + shown)).isVisible();
        page.keyboard().press("f");
        assertThat(page.locator("#board-" + shown)).isHidden();
        page.keyboard().press("f");
        page.keyboard().press("b");
        page.keyboard().press("Enter");
        assertThat(page.locator("#part-tip")).containsText(Simulated.CULPRIT);
        assertThat(page.locator("#part-tip")).containsText("% the fault");
        page.keyboard().press("ArrowRight");
        assertThat(page.locator("#part-tip")).not().containsText(Simulated.CULPRIT + " ·");
        page.keyboard().press("Escape");
        String whole = page.locator("#board-" + shown).getAttribute("viewBox");
        page.keyboard().press("+");
        page.keyboard().press("+");
        assertThat(page.locator("#board-" + shown)).not().hasAttribute("viewBox", whole);
        page.keyboard().press("0");
        double width = Double.parseDouble(
                page.locator("#board-" + shown).getAttribute("viewBox").split(" ")[2]);
        assertThat(width).isCloseTo(Double.parseDouble(whole.split(" ")[2]), within(1e-6));
    }

    @Test
    @Order(5)
    void choosingASuspectMarksItsPartAndFlag() {
        go("/jobs/" + JOB);
        page.locator(".sus .pick").first().click();
        assertThat(page.locator(".part.lit")).hasAttribute("data-ref", Simulated.CULPRIT);
        assertThat(page.locator(".flag.lit")).hasAttribute("data-ref", Simulated.CULPRIT);
        assertThat(page.locator(".sus .pick").first()).hasAttribute("aria-current", "true");
    }

    @Test
    @Order(6)
    void theWheelZoomsWhereItPoints() {
        go("/jobs/" + JOB);
        Locator board = page.locator("#board-" + Simulated.side().name());
        BoundingBox box = board.boundingBox();
        page.mouse().move(box.x + box.width / 4, box.y + box.height / 2);
        double before = Double.parseDouble(board.getAttribute("viewBox").split(" ")[2]);
        page.mouse().wheel(0, -300);
        page.waitForTimeout(100);
        double after = Double.parseDouble(board.getAttribute("viewBox").split(" ")[2]);
        assertThat(after).isCloseTo(before / 1.25, within(0.01));
    }

    @Test
    @Order(7)
    void aLineIsEchoedThenKept() {
        go("/jobs/" + JOB);
        page.keyboard().press("/");
        page.keyboard().type("look C30 cracked");
        assertThat(page.locator("#echo")).hasText("C30, looked at: cracked");
        page.keyboard().press("Enter");
        assertThat(page.locator(".ev")).containsText("C30 cracked");
        page.locator("#line").fill("Q77 d .3");
        assertThat(page.locator("#echo")).hasText("This board has no Q77.");
        page.keyboard().press("Enter");
        assertThat(page.locator("#line")).hasValue("Q77 d .3");
    }

    /** A refresh that waits behind a line, and whose place the frames' answer then takes, does not hold up the next line. */
    @Test
    @Order(7)
    void aLineBehindWhatIsGoneIsSentAllTheSame() {
        go("/jobs/" + JOB);
        slowPosts();
        page.locator("#line").fill("look C31 clean");
        page.locator("#line").press("Enter");
        page.evaluate("""
                () => {
                  const old = document.querySelector("[hx-trigger='evidence from:body']");
                  document.body.dispatchEvent(new CustomEvent("evidence"));
                  document.body.dispatchEvent(new CustomEvent("analysed"));
                  return new Promise(done => {
                    const wait = setInterval(() => {
                      if (!old.isConnected) {
                        clearInterval(wait);
                        done();
                      }
                    }, 10);
                  });
                }""");
        page.locator("#line").fill("look C32 clean");
        page.locator("#line").press("Enter");
        assertThat(page.locator(".ev")).containsText("C32 clean");
        assertThat(page.locator("#line")).hasValue("");
    }

    /** What is said of a line that is typed while the last one is sent stays when that one's answer comes. */
    @Test
    @Order(7)
    void aLineTypedMeanwhileIsStillEchoed() {
        go("/jobs/" + JOB);
        slowPosts();
        page.locator("#line").fill("look C34 clean");
        page.locator("#line").press("Enter");
        page.locator("#line").fill("Q77 d .3");
        assertThat(page.locator("#echo")).hasText("This board has no Q77.");
        assertThat(page.locator(".ev")).containsText("C34 clean");
        assertThat(page.locator("#echo")).hasText("This board has no Q77.");
        assertThat(page.locator("#line")).hasValue("Q77 d .3");
    }

    private void slowPosts() {
        page.evaluate("""
                () => {
                  const { open, send } = XMLHttpRequest.prototype;
                  XMLHttpRequest.prototype.open = function (verb, ...more) {
                    this.slow = verb === "POST";
                    open.call(this, verb, ...more);
                  };
                  XMLHttpRequest.prototype.send = function (body) {
                    setTimeout(() => send.call(this, body), this.slow ? 2000 : 0);
                  };
                }""");
    }

    @Test
    @Order(8)
    void framesAreScrubbedAndAPlaceFollowed() {
        go("/jobs/" + JOB);
        page.locator(".ev .v a").click();
        page.waitForSelector("#capture[data-ready=true]");
        assertThat(page.locator("#when")).containsText("+");
        page.locator("#scrub").fill("0");
        assertThat(page.locator("#when")).containsText("1/");
        assertThat(page.locator("#when")).containsText("−");
        assertThat(page.locator("#course canvas").first()).isVisible();
        // Said once the frames are read, which the picture does not wait for.
        assertThat(page.locator("#course-words")).containsText(" K");
        String words = page.locator("#course-words").textContent();
        double kelvin = Double.parseDouble(words.replaceAll(".*: ([0-9.]+) K.*", "$1"));
        assertThat(kelvin).isGreaterThan(3);
        BoundingBox box = page.locator("#board").boundingBox();
        page.mouse().click(box.x + box.width * 0.3, box.y + box.height * 0.3);
        assertThat(page.locator("#course-words")).not().hasText(words);
        assertThat(page.locator(".facts")).containsText("mK");
        accessible();
    }

    @Test
    @Order(9)
    void aDraggedPairChangesTheResidualsAndLooksAgain() {
        go("/jobs/" + JOB);
        page.locator(".ev .v a").click();
        page.waitForSelector("#capture[data-ready=true]");
        String before = page.locator(".residual").first().textContent();
        String wasX = page.locator("[name=px]").first().inputValue();
        BoundingBox cross = page.locator("#pairs g").first().boundingBox();
        double x = cross.x + cross.width / 2;
        double y = cross.y + cross.height / 2;
        page.mouse().move(x, y);
        page.mouse().down();
        page.mouse().move(x + 24, y + 9, new com.microsoft.playwright.Mouse.MoveOptions().setSteps(4));
        page.mouse().up();
        assertThat(page.locator("[name=px]").first()).not().hasValue(wasX);
        assertThat(page.locator(".residual").first()).not().hasText(before);
        page.locator("[name=px]").first().fill(wasX);
        page.locator("[name=px]").first().press("ArrowUp");
        leaving(() -> page.getByText("Keep, and look again").click());
        page.waitForSelector("#capture[data-ready=true]");
        go("/jobs/" + JOB);
        assertThat(page.locator(".next .s")).containsText(Simulated.CULPRIT);
    }

    @Test
    @Order(10)
    void theLoopIsClosed() {
        go("/jobs/" + JOB);
        page.getByText(Simulated.CULPRIT + " is off").click();
        assertThat(page.locator(".next .s")).containsText("read VBAT again");
        assertThat(page.locator(".again label")).containsText("VBAT at C28, diode. It read 0.004 V.");
        page.locator("#again").fill("0.003");
        page.locator(".again .btn-act").click();
        assertThat(page.locator(".next .s")).containsText("still there");
        page.locator("#again").fill("0.43");
        page.locator(".again .btn-act").click();
        assertThat(page.locator(".next .s")).containsText("VBAT is clear");
        page.locator(".next > button[data-do=fill]").click();
        assertThat(page.locator("#line")).hasValue("boots");
        page.locator("#line").press("Enter");
        assertThat(page.locator(".next .s")).containsText("Hand it back");
        page.locator(".next a.btn-act").click();
        assertThat(page.locator(".proof")).containsText("Proven");
        Locator beforeAndAfter = page.locator(".numbers").first();
        assertThat(beforeAndAfter).containsText("0.004 V");
        assertThat(beforeAndAfter).containsText("0.430 V");
        assertThat(page.locator(".ticks tr[data-state=right]").first()).containsText("0.430 V");
        assertThat(page.locator(".ticks tr[data-state=wanted]").first()).containsText("Supply on VBAT, at a low limit");
        assertThat(page.locator(".paper")).containsText("the frames gave it");
        assertThat(page.locator(".paper")).containsText(Simulated.CULPRIT + " removed with heat.");
        assertThat(page.locator(".paper .iso").first()).isAttached();
        accessible();
    }

    @Test
    @Order(11)
    void theJobIsExported() throws Exception {
        go("/jobs/" + JOB);
        Download download =
                page.waitForDownload(() -> page.getByText("Bundle (ZIP)").click());
        Path file = temp.resolve("export.zip");
        download.saveAs(file);
        var bundle = new BundleReader().read(file);
        assertThat(bundle.job().id()).isEqualTo(JOB);
        assertThat(bundle.observations()).hasSizeGreaterThan(4);
    }

    @Test
    @Order(12)
    void narrowWideAndDimAreUsable() {
        fits("/", "/jobs/" + JOB, "/jobs/" + JOB + "/hand-back");
        go("/jobs/" + JOB);
        page.keyboard().press("t");
        assertThat(page.locator("html")).hasAttribute("data-theme", "dim");
        accessible();
        page.reload();
        assertThat(page.locator("html")).hasAttribute("data-theme", "dim");
        page.keyboard().press("?");
        assertThat(page.locator("#keys")).isVisible();
        accessible();
    }

    @Test
    @Order(13)
    void searchNarrowsTheShelf() {
        go("/");
        page.keyboard().press("/");
        page.keyboard().type("t-brow");
        assertThat(page.locator(".jobs tbody tr")).hasCount(1);
        page.locator("#q").fill("no such job");
        assertThat(page.locator(".empty")).containsText("No job has");
    }
}
