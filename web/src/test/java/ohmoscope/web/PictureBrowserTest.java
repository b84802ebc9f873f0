package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.BoundingBox;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import ohmoscope.core.board.Side;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Pictures beside what was measured, the board over the picture, and naming the part, in Chromium. */
class PictureBrowserTest extends InBrowser {
    private static final String JOB = "T-PICTURES";
    private static final String FIRST = "/jobs/" + JOB + "/captures/" + name(Simulated.side(), 1);
    private static final String SECOND = name(Simulated.side().opposite(), 2);

    private static String name(Side side, int number) {
        return side.name().toLowerCase(Locale.ROOT) + "-" + number;
    }

    @BeforeAll
    void store() throws Exception {
        long id = server.bean(BundleImporter.class)
                .add(
                        Simulated.job(
                                JOB, List.of(Simulated.side(), Simulated.side().opposite())),
                        "test",
                        share -> true);
        server.bean(AnalysisRunner.class).request(id);
        await().atMost(Duration.ofMinutes(4))
                .until(() -> server.bean(AnalysisStore.class).latestDone(id).isPresent());
    }

    private void ready(String path, String what) {
        go(path);
        page.waitForSelector(
                what + "[data-ready]",
                new com.microsoft.playwright.Page.WaitForSelectorOptions()
                        .setState(com.microsoft.playwright.options.WaitForSelectorState.ATTACHED));
    }

    /** Pixels of the drawn layer that are not bare paper. */
    private int drawn() {
        return (int) page.evaluate("() => { const c = document.getElementById('heat');"
                + " const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;"
                + " let n = 0; for (let i = 3; i < d.length; i += 4) n += d[i] > 8 ? 1 : 0; return n; }");
    }

    @Test
    void whatTheEngineBelievesIsDrawnBesideWhatWasMeasured() {
        ready(FIRST, "#capture");
        assertThat(page.locator("[data-do=measured]")).hasAttribute("aria-pressed", "true");
        int measured = drawn();
        assertThat(measured).isGreaterThan(500);
        page.locator("[data-do=predicted]").click();
        assertThat(page.locator("#layer-words")).containsText("if " + Simulated.CULPRIT + " is the fault");
        assertThat(drawn()).isGreaterThan(500);
        page.locator("[data-do=left]").click();
        assertThat(page.locator("#layer-words")).containsText("Little should be left");
        int left = drawn();
        assertThat(left).isLessThan(measured);
        page.locator("[data-do=onset]").click();
        assertThat(page.locator("#layer-words")).containsText("Seconds from power");
        assertThat(drawn()).isGreaterThan(500);
        accessible();
    }

    @Test
    void aLinkOpensASuspectsPicture() {
        ready(FIRST + "?suspect=" + Simulated.CULPRIT, "#capture");
        assertThat(page.locator("[data-do=predicted]")).hasAttribute("aria-pressed", "true");
        assertThat(page.locator("#suspect")).hasValue(Simulated.CULPRIT);
    }

    @Test
    void pairsAreNudgedByKeysDraggedAndSnapped() {
        ready(FIRST + "/lay", "#lay");
        Locator x = page.locator("[name=px]").first();
        double before = Double.parseDouble(x.inputValue());
        page.locator("#handles g").first().focus();
        page.keyboard().press("ArrowRight");
        page.keyboard().press("Shift+ArrowRight");
        assertThat(Double.parseDouble(x.inputValue())).isEqualTo(before + 2.25);
        assertThat(page.locator("#fit-words")).containsText("Keep the pairs");
        BoundingBox handle = page.locator("#handles g").nth(1).boundingBox();
        String second = page.locator("[name=py]").nth(1).inputValue();
        page.mouse().move(handle.x + handle.width / 2, handle.y + handle.height / 2);
        page.mouse().down();
        page.mouse().move(handle.x + handle.width / 2 - 20, handle.y + handle.height / 2 - 20);
        page.mouse().up();
        assertThat(page.locator("[name=py]").nth(1)).not().hasValue(second);
        page.locator("[data-do=undo-lay]").click();
        assertThat(page.locator("[name=py]").nth(1)).hasValue(second);
        page.locator("[data-do=snap]").click();
        assertThat(page.locator("#lay-words")).hasText(Pattern.compile("Snapped: .*|The picture shows no edges.*"));
        assertThat(page.locator(".lay-body").first()).isVisible();
        page.locator("[data-do=bodies]").click();
        assertThat(page.locator(".lay-body").first()).isHidden();
        accessible();
    }

    @Test
    void theWholeBoardIsMovedByItsOutline() {
        ready(FIRST + "/lay", "#lay");
        List<String> before = page.locator("[name=px]").all().stream()
                .map(Locator::inputValue)
                .toList();
        BoundingBox box = page.locator("#over").boundingBox();
        page.mouse().move(box.x + box.width / 2 + 9, box.y + box.height / 2 + 31);
        page.mouse().down();
        page.mouse().move(box.x + box.width / 2 + 29, box.y + box.height / 2 + 31);
        page.mouse().up();
        List<String> after = page.locator("[name=px]").all().stream()
                .map(Locator::inputValue)
                .toList();
        double by = Double.parseDouble(after.get(0)) - Double.parseDouble(before.get(0));
        assertThat(by).isPositive();
        for (int i = 1; i < after.size(); i++) {
            assertThat(Double.parseDouble(after.get(i)) - Double.parseDouble(before.get(i)))
                    .isCloseTo(by, org.assertj.core.api.Assertions.within(0.02));
        }
    }

    @Test
    void twoCapturesStandInTheSameAxes() {
        ready(FIRST + "/beside/" + SECOND, "#beside");
        assertThat(page.locator(".halves section")).hasCount(2);
        assertThat(page.locator(".halves .iso").first()).isAttached();
        BoundingBox box = page.locator("#half-board-0").boundingBox();
        page.mouse().move(box.x + box.width / 3, box.y + box.height / 2);
        String left = page.locator(".cross").first().getAttribute("d");
        assertThat(left).startsWith("M");
        assertThat(page.locator(".cross").nth(1)).hasAttribute("d", left);
        accessible();
    }

    @Test
    void thePartIsNamedWithWhatSpeaksForAndAgainst() {
        go("/jobs/" + JOB);
        page.locator("text=For and against each").click();
        Locator leading = page.locator(".named").first();
        assertThat(leading).containsText(Simulated.CULPRIT);
        assertThat(leading.locator(".for").first()).containsText("from where the heat starts");
        assertThat(leading.locator(".cost")).containsText("Another look costs 8");
        assertThat(leading.locator("button")).containsText("Act on " + Simulated.CULPRIT);
        accessible();
        leading.locator("a").first().click();
        page.waitForURL(Pattern.compile(".*suspect=" + Simulated.CULPRIT));
    }

    @Test
    void nothingStandsOutsideThePage() {
        fits("/jobs/" + JOB + "/name", FIRST + "/lay", FIRST + "/beside/" + SECOND, FIRST, "/jobs/" + JOB + "/inject");
    }
}
