package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.args.AxeRunOptions;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.TimeoutError;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.lang.reflect.Method;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.TestInfo;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** A page in Chromium for each test; an error in its console fails the test. */
@ExtendWith(Server.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class InBrowser {
    /** How long a page may take to get there on a machine that is busy with analyses. */
    private static final int WAIT_MS = 90_000;

    private final List<String> complaints = new ArrayList<>();
    private final Set<Method> taken = new HashSet<>();
    Server.Running server;
    private Playwright playwright;
    Browser browser;
    Page page;

    @BeforeAll
    void open(Server.Running running) {
        server = running;
        PlaywrightAssertions.setDefaultAssertionTimeout(WAIT_MS);
        playwright = Playwright.create();
        browser = playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of("--no-sandbox", "--disable-gpu", "--disable-background-networking")));
    }

    @AfterAll
    void close() {
        browser.close();
        playwright.close();
    }

    /** A step of a walk that is taken alone, as one that failed is tried again, has those before it taken first. */
    @BeforeEach
    void newPage(TestInfo test) throws ReflectiveOperationException {
        Method own = test.getTestMethod().orElseThrow();
        for (Method step : walk()) {
            if (step.equals(own)) {
                break;
            }
            if (taken.add(step)) {
                page = fresh();
                step.invoke(this);
                page.close();
            }
        }
        taken.add(own);
        complaints.clear();
        page = fresh();
    }

    /** The methods of a class whose order is told, in that order. */
    private List<Method> walk() {
        return Arrays.stream(getClass().getDeclaredMethods())
                .filter(m -> m.isAnnotationPresent(Order.class))
                .sorted(Comparator.comparingInt(
                        m -> m.getAnnotation(Order.class).value()))
                .toList();
    }

    /** Another page, watched like the first. */
    Page fresh() {
        Page made = browser.newPage(new Browser.NewPageOptions().setViewportSize(1280, 800));
        made.setDefaultTimeout(WAIT_MS);
        made.onConsoleMessage(m -> {
            if (m.type().equals("error")) {
                complaints.add(m.text());
            }
        });
        made.onPageError(complaints::add);
        return made;
    }

    @AfterEach
    void noComplaints() {
        page.close();
        assertThat(complaints).isEmpty();
    }

    /** What the console has said in this test so far; a test that expects a complaint takes it out. */
    List<String> complaints() {
        return complaints;
    }

    /** A page that just then fetches itself anew, as one does when the frames have told, breaks the first attempt off. */
    void go(String path) {
        try {
            page.navigate(server.url(path));
        } catch (PlaywrightException brokenOff) {
            if (!brokenOff.getMessage().contains("ERR_ABORTED")) {
                throw brokenOff;
            }
            page.navigate(server.url(path));
        }
    }

    /** Does what sends the browser to a page, maybe to the same one anew, and waits until that has come. */
    void leaving(Runnable act) {
        page.evaluate("document.documentElement.dataset.leaving = ''");
        act.run();
        try {
            page.waitForSelector("html:not([data-leaving])");
        } catch (TimeoutError stayed) {
            throw new AssertionError("the page stayed: " + whyStayed(), stayed);
        }
        page.waitForLoadState();
    }

    /** What a page that should have been left says: fields that a form refuses, where the focus is, what lies open. */
    private Object whyStayed() {
        return page.evaluate(
                "() => JSON.stringify({ at: location.pathname, focus: document.activeElement?.outerHTML.slice(0, 120),"
                        + " refused: [...document.querySelectorAll(':invalid')].map(e => `${e.id} '${e.value ?? ''}'`),"
                        + " open: [...document.querySelectorAll('details[open]')].map(e => e.className) })");
    }

    /** A page that just then fetches itself anew is looked at once more. */
    void accessible() {
        List<Rule> violations;
        try {
            violations = violations();
        } catch (RuntimeException brokenOff) {
            if (!String.valueOf(brokenOff.getCause()).contains("Execution context was destroyed")) {
                throw brokenOff;
            }
            page.waitForLoadState();
            violations = violations();
        }
        assertThat(violations)
                .as(
                        "%s",
                        violations.stream()
                                .map(v -> v.getId() + ": " + v.getNodes().get(0).getHtml())
                                .toList())
                .isEmpty();
    }

    /** By every rule. What passed is not named: that is four fifths of the time; no page has a frame of another origin. */
    private List<Rule> violations() {
        AxeRunOptions options = new AxeRunOptions();
        options.setResultTypes(List.of("violations"));
        return new AxeBuilder(page)
                .setLegacyMode(true)
                .options(options)
                .analyze()
                .getViolations();
    }

    /** Nothing stands outside the page, narrow or wide. */
    void fits(String... paths) {
        for (int[] size : new int[][] {{390, 844}, {2560, 1440}}) {
            page.setViewportSize(size[0], size[1]);
            for (String path : paths) {
                go(path);
                int overflow = (int) page.evaluate("document.documentElement.scrollWidth - innerWidth");
                assertThat(overflow).as("%s at %s", path, size[0]).isLessThanOrEqualTo(0);
            }
        }
        page.setViewportSize(1280, 800);
    }
}
