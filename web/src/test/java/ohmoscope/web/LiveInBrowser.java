package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.BenchStore.Role;
import ohmoscope.web.store.JobStore;
import org.junit.jupiter.api.AfterEach;

/** A live page with the stand-in's instruments on the other end, a job and a bench of its own for each test, and a hand on the space bar. */
abstract class LiveInBrowser extends InBrowser {
    static final String FAULTY = "C22";
    private static final double SPEAKS_MS = 4000;
    final List<String> log = new CopyOnWriteArrayList<>();
    private final List<StandInBench> open = new ArrayList<>();

    @AfterEach
    void clear() {
        page.close();
        open.forEach(StandInBench::close);
        open.clear();
        log.clear();
    }

    /** A job of its own on a bench of its own. @return the bench's id */
    long laid(String number, Mishaps mishaps, Map<String, Double> shorts) throws Exception {
        return laid(number, mishaps, shorts, Set.of(), List.of());
    }

    /** @param lines what was entered before; as the demo has it where there are none */
    long laid(String number, Mishaps mishaps, Map<String, Double> shorts, Set<String> unconnected, List<String> lines)
            throws Exception {
        return laid(number, mishaps, LiveJob.laid().with(shorts, unconnected), lines);
    }

    long laid(String number, Mishaps mishaps, StandInBench.Laid laid, List<String> lines) throws Exception {
        return laid(number, mishaps, laid, LiveJob.RAIL, lines);
    }

    /** @param rail the one in question */
    long laid(String number, Mishaps mishaps, StandInBench.Laid laid, String rail, List<String> lines)
            throws Exception {
        LiveBoard.job(server, number, rail, typed(laid.board(), lines));
        StandInBench bench = new StandInBench(laid, mishaps, Vices.NONE, 0, StandInBench.Ports.ANY, log::add);
        open.add(bench);
        return LiveBoard.bench(
                server, "bench of " + number, bench.ports(), Role.SUPPLY, Role.METER, Role.CAMERA, Role.INLINE);
    }

    static List<Observation> typed(Board board, List<String> lines) {
        List<Observation> all = new ArrayList<>();
        for (String line : lines) {
            EntryLine.Parsed.Entry entry = (EntryLine.Parsed.Entry) new EntryLine(board).parse(line, all.size() + 1);
            all.add(entry.observation());
        }
        return all;
    }

    long laid(String number) throws Exception {
        return laid(number, Mishaps.NONE, LiveJob.laid().shorts());
    }

    StandInBench bench() {
        return open.get(open.size() - 1);
    }

    void openLive(String number, long bench) {
        go("/jobs/" + number + "/live?bench=" + bench);
        assertThat(page.locator("#there li").first()).hasText("supply: there");
        assertThat(page.locator("#hold")).isEnabled();
    }

    Locator words() {
        return page.locator("#words");
    }

    /**
     * The space bar held until the page says so. On a machine that is busy with other tests the page or the supply may miss a
     * beat; then the output is off, the page says why, and the hand tries again: the contact first, where that is asked for.
     *
     * @param again what else such a machine may make of this hold, patterns
     */
    void heldUntil(Page on, Pattern says, String... again) {
        Pattern broken = Pattern.compile(
                "The page was gone.*|Let go too soon.*|Contact check first.*|The output is off:.*|Both leads touch.*"
                        + "|Nothing flowed.*|An instrument was lost in the middle.*"
                        + Stream.of(again).map(a -> "|" + a).collect(Collectors.joining()));
        Pattern either = Pattern.compile(says.pattern() + "|" + broken.pattern());
        for (int i = 0; i < 6; i++) {
            String before = on.locator("#words").textContent();
            on.keyboard().down("Space");
            try {
                spoke(on, before);
                assertThat(on.locator("#words")).hasText(either);
            } catch (AssertionError other) {
                throw new AssertionError(
                        on.locator("#warm").textContent() + "; "
                                + on.locator("#suspects").textContent(),
                        other);
            } finally {
                on.keyboard().up("Space");
            }
            if (says.matcher(on.locator("#words").textContent()).matches()) {
                return;
            }
        }
        assertThat(on.locator("#words")).hasText(says);
    }

    /** The page says how the last hold ended until this one says something: what stands there at once tells nothing. */
    private static void spoke(Page on, String before) {
        try {
            on.waitForCondition(
                    () -> !on.locator("#words").textContent().equals(before),
                    new Page.WaitForConditionOptions().setTimeout(SPEAKS_MS));
        } catch (TimeoutError same) {
            // It may have ended as before, too fast to be seen.
        }
    }

    void touched() {
        // The meter may be too slow.
        heldUntil(page, Pattern.compile("Both leads touch.*"), "It flows\\. Without a meter.*");
        assertThat(page.locator("#hold-words")).containsText(" V, ");
    }

    void chosen(int step) {
        page.locator("#steps input").nth(step).check();
    }

    int steps() {
        return page.locator("#steps input").count();
    }

    boolean told(String end) {
        return log.stream().anyMatch(l -> l.endsWith(end));
    }

    JobFile.Stored job(String number) throws Exception {
        return server.bean(JobFile.class).withoutTraces(number);
    }

    StoredAnalysis analysed(String number) throws Exception {
        AnalysisRunner analyses = server.bean(AnalysisRunner.class);
        long id = job(number).row().id();
        await().atMost(Duration.ofMinutes(2))
                .until(() -> !job(number).bundle().captures().isEmpty());
        await().atMost(Duration.ofMinutes(2))
                .until(() -> analyses.state(id).isEmpty()
                        || !analyses.state(id).map(AnalysisStore.Row::pending).orElse(false));
        return analyses.latest(id).orElseThrow();
    }

    /**
     * A job begun on the page, with these lines typed.
     *
     * @param like a job on the board that the shop has; others of its name may be there
     * @return its number
     */
    String opened(String device, String like, String... lines) {
        go("/new");
        page.locator("#device").fill(device);
        long shelved = server.bean(JobStore.class).named(like).boardId();
        page.locator("#board").selectOption("shelved:" + shelved);
        page.locator(".begin .btn-act").click();
        page.waitForURL("**/jobs/**");
        for (String line : lines) {
            page.locator("#line").fill(line);
            page.locator("#line").press("Enter");
            assertThat(page.locator("#line")).hasValue("");
        }
        return page.url().replaceAll("^.*/jobs/([^/?#]+).*$", "$1");
    }
}
