package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.core.locate.Verdict;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.store.AnalysisStore;
import ohmoscope.web.store.BenchStore.Role;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** The live page in the browser, with the stand-in's instruments on the other end and a hand on the space bar. */
class LiveBrowserTest extends InBrowser {
    private static final String FAULTY = "C22";
    private final List<String> log = new CopyOnWriteArrayList<>();
    private final List<StandInBench> open = new ArrayList<>();

    @AfterEach
    void clear() {
        page.close();
        open.forEach(StandInBench::close);
        open.clear();
        log.clear();
    }

    /** A job of its own on a bench of its own. @return the bench's id */
    private long laid(String number, Mishaps mishaps, Map<String, Double> shorts) throws Exception {
        return laid(number, mishaps, shorts, Set.of(), List.of());
    }

    /** @param lines what was entered before; as the demo has it where there are none */
    private long laid(
            String number, Mishaps mishaps, Map<String, Double> shorts, Set<String> unconnected, List<String> lines)
            throws Exception {
        return laid(number, mishaps, LiveJob.laid().with(shorts, unconnected), lines);
    }

    private long laid(String number, Mishaps mishaps, StandInBench.Laid laid, List<String> lines) throws Exception {
        LiveBoard.job(server, number, typed(laid.board(), lines));
        StandInBench bench = new StandInBench(laid, mishaps, Vices.NONE, 0, StandInBench.Ports.ANY, log::add);
        open.add(bench);
        return LiveBoard.bench(
                server, "bench of " + number, bench.ports(), Role.SUPPLY, Role.METER, Role.CAMERA, Role.INLINE);
    }

    private static List<Observation> typed(Board board, List<String> lines) {
        List<Observation> all = new ArrayList<>();
        for (String line : lines) {
            EntryLine.Parsed.Entry entry = (EntryLine.Parsed.Entry) new EntryLine(board).parse(line, all.size() + 1);
            all.add(entry.observation());
        }
        return all;
    }

    private long laid(String number) throws Exception {
        return laid(number, Mishaps.NONE, LiveJob.laid().shorts());
    }

    private StandInBench bench() {
        return open.get(open.size() - 1);
    }

    private void openLive(String number, long bench) {
        go("/jobs/" + number + "/live?bench=" + bench);
        assertThat(page.locator("#there li").first()).hasText("supply: there");
        assertThat(page.locator("#hold")).isEnabled();
    }

    private Locator words() {
        return page.locator("#words");
    }

    /**
     * The space bar held until the page says so. On a machine that is busy with other tests the page or the supply may miss a
     * beat; then the output is off, the page says why, and the hand tries again: the contact first, where that is asked for.
     */
    private void heldUntil(Page on, Pattern says) {
        Pattern broken = Pattern.compile(
                "The page was gone.*|Let go too soon.*|Contact check first.*|The output is off:.*|Both leads touch.*|Nothing flowed.*");
        Pattern either = Pattern.compile(says.pattern() + "|" + broken.pattern());
        for (int i = 0; i < 6; i++) {
            on.evaluate("document.getElementById('words').textContent = ''");
            on.keyboard().down("Space");
            assertThat(on.locator("#words")).hasText(either);
            on.keyboard().up("Space");
            if (says.matcher(on.locator("#words").textContent()).matches()) {
                return;
            }
        }
        assertThat(on.locator("#words")).hasText(says);
    }

    private void touched() {
        heldUntil(page, Pattern.compile("Both leads touch.*"));
        assertThat(page.locator("#hold-words")).containsText(" V, ");
    }

    private void chosen(int step) {
        page.locator("#steps input").nth(step).check();
    }

    private int steps() {
        return page.locator("#steps input").count();
    }

    private boolean told(String end) {
        return log.stream().anyMatch(l -> l.endsWith(end));
    }

    private JobFile.Stored job(String number) throws Exception {
        return server.bean(JobFile.class).withoutTraces(number);
    }

    private StoredAnalysis analysed(String number) throws Exception {
        AnalysisRunner analyses = server.bean(AnalysisRunner.class);
        long id = job(number).row().id();
        await().atMost(Duration.ofMinutes(2))
                .until(() -> !job(number).bundle().captures().isEmpty());
        await().atMost(Duration.ofMinutes(2))
                .until(() -> analyses.state(id).isEmpty()
                        || !analyses.state(id).map(AnalysisStore.Row::pending).orElse(false));
        return analyses.latest(id).orElseThrow();
    }

    @Test
    void aHuntIsFoundLiveByTheCamera() throws Exception {
        long bench = laid("L-1");
        openLive("L-1", bench);
        assertThat(page.locator("#eye-side")).hasText("Camera, laid by its edges");
        accessible();
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("(Sharp enough|The step's time is over).*"));
        assertThat(page.locator("#set-amps")).containsText(" A");
        assertThat(page.locator("#warm")).containsText("warms");
        assertThat(bench().outputOn()).isFalse();
        assertThat(page.locator("#suspects li b").first()).hasText(FAULTY);
        StoredAnalysis stored = analysed("L-1");
        assertThat(stored.verdict()).isEqualTo(Verdict.PART);
        assertThat(stored.suspects().get(0).ref()).isEqualTo(FAULTY);
        double live = Double.parseDouble(
                String.valueOf(page.locator("#suspects meter").first().evaluate("m => m.value")));
        assertThat(live).isCloseTo(stored.suspects().get(0).probability(), within(0.01));
        List<Inject> entries = job("L-1").bundle().observations().stream()
                .filter(Inject.class::isInstance)
                .map(Inject.class::cast)
                .toList();
        assertThat(entries).hasSizeGreaterThanOrEqualTo(2);
        Inject newest = entries.get(entries.size() - 1);
        assertThat(newest.volts().getAsDouble() / newest.amps().getAsDouble())
                .isCloseTo(LiveJob.laid().shorts().get(FAULTY) + LiveJob.laid().leadOhms(), within(0.02));
        assertThat(job("L-1").supplyLog().onSpans()).isNotEmpty();
    }

    /** The test's hand puts the probe where the page asks; what it shows comes from a grid of copper, not from the fit's sheets. */
    @Test
    void aHuntIsFoundByTheMillivoltWalk() throws Exception {
        long bench = laid("L-11");
        openLive("L-11", bench);
        touched();
        page.locator("#walk-on").click();
        assertThat(page.locator("#hold-words")).hasText("Hold, and walk");
        page.keyboard().down("Space");
        assertThat(page.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
        int read = 0;
        while (read < 20 && !page.locator("#walk-words").textContent().contains("stand alone")) {
            bench().put(page.locator("#asked").textContent());
            read++;
            try {
                page.locator("#points li").nth(read - 1).waitFor(new Locator.WaitForOptions().setTimeout(15_000));
            } catch (com.microsoft.playwright.TimeoutError stuck) {
                throw new AssertionError(
                        words().textContent() + " after "
                                + page.locator("#points").textContent(),
                        stuck);
            }
        }
        page.keyboard().up("Space");
        assertThat(page.locator("#walk-words")).hasText(FAULTY + ": the volts are lowest there, and stand alone.");
        assertThat(words()).hasText("Key released, output off.");
        assertThat(page.locator("#kept li")).hasCount(Math.min(12, 1 + read));
        assertThat(job("L-11").bundle().observations().stream()
                        .filter(Read.class::isInstance)
                        .count())
                .isEqualTo(1 + read);
        accessible();
    }

    /** From the named part to the hand-back: every number comes from the bench, the hand only holds, lifts and says that it boots. */
    @Test
    void aWholeJobOnTheBenchEndsInARightReport() throws Exception {
        long bench = laid("L-15");
        openLive("L-15", bench);
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("(Sharp enough|The step's time is over).*"));
        assertThat(analysed("L-15").suspects().get(0).ref()).isEqualTo(FAULTY);
        go("/jobs/L-15");
        assertThat(page.locator(".next .s")).containsText("Lift " + FAULTY);
        leaving(() -> page.locator(".next form .btn-act").first().click());
        assertThat(bench().remove(FAULTY)).isTrue();
        openLive("L-15", bench);
        page.locator("#read-diode").click();
        assertThat(page.locator("#kept li").first()).containsText("the meter reads");
        page.locator("#power-on").click();
        assertThat(page.locator("#power-asked")).hasText("charger into J1");
        bench().charger(true);
        assertThat(page.locator("#power-verdict")).containsText("draw is normal");
        page.locator("#tap").click();
        for (int i = 0; i < 6 && page.locator("#power-volts").textContent().contains("V"); i++) {
            bench().put(page.locator("#power-asked").textContent());
            assertThat(page.locator("#power-verdict")).containsText("The voltage is there");
            page.locator("#tap").click();
            assertThat(page.locator("#power-verdict")).isEmpty();
        }
        go("/jobs/L-15");
        page.locator("#line").fill("boots");
        page.locator("#line").press("Enter");
        assertThat(page.locator(".next .s")).containsText("Hand it back");
        go("/jobs/L-15/hand-back");
        assertThat(page.locator(".wrong")).containsText("The capacitor " + FAULTY);
        assertThat(page.locator(".proof")).containsText("Proven");
    }

    /** Rails are free, the device is dead: the charger in, then from rail to rail in volts. What the board does is not the twin's. */
    @Test
    void anOpenFuseIsFoundInVolts() throws Exception {
        List<String> surveyed = List.of(
                "unplugged battery",
                "look J1 clean",
                "VLICELL d .45 red",
                "VLOG d .42 red",
                "VMCU d .38 red",
                "VSUN d .5 red");
        long bench = laid("L-12", Mishaps.NONE, Map.of(), Set.of("F1"), surveyed);
        openLive("L-12", bench);
        page.locator("#power-on").click();
        assertThat(page.locator("#power-asked")).hasText("charger into J1");
        assertThat(page.locator("#hold")).isHidden();
        accessible();
        assertThat(bench().charger(true)).isTrue();
        assertThat(page.locator("#power-verdict")).containsText("J1");
        assertThat(page.locator("#power-plot canvas")).hasCount(1);
        page.keyboard().press("Space");
        assertThat(page.locator("#power-asked")).hasText("VLICELL");
        bench().put("VLICELL");
        assertThat(page.locator("#power-apart")).containsText("rests");
        page.keyboard().press("Space");
        assertThat(page.locator("#power-verdict")).containsText("VLICELL");
        // Once more, because the hand slipped.
        page.locator("#again").click();
        assertThat(page.locator("#power-verdict")).isEmpty();
        bench().put("VLICELL");
        assertThat(page.locator("#power-apart")).containsText("rests");
        page.locator("#tap").click();
        assertThat(page.locator("#power-verdict")).containsText("VLICELL");
        page.locator("#tap").click();
        assertThat(page.locator("#power-asked")).hasText("No more volts to read");
        assertThat(page.locator("#power-step")).containsText("F1");
        List<Observation> kept = job("L-12").bundle().observations();
        assertThat(kept.stream().filter(Power.class::isInstance).map(Power.class::cast))
                .singleElement()
                .satisfies(p -> assertThat(p.trace()).isPresent());
        assertThat(kept.stream().filter(Read.class::isInstance).map(Read.class::cast))
                .filteredOn(r -> r.mode() == ReadMode.VOLTS)
                .singleElement()
                .satisfies(r -> assertThat(r.value().getAsDouble()).isLessThan(0.1));
        assertThat(told("< OUTP ON")).isFalse();
        page.locator("#power-on").click();
        assertThat(page.locator("#hold")).isVisible();
    }

    @Test
    void whatDriesFirstIsMarkedWhileCurrentFlows() throws Exception {
        long bench = laid("L-14");
        openLive("L-14", bench);
        touched();
        page.locator("[data-means=film]").click();
        assertThat(page.locator("#by-eye-guide")).containsText("It burns");
        accessible();
        chosen(0);
        page.keyboard().down("Space");
        assertThat(page.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
        page.keyboard().press("Enter");
        assertThat(page.locator("#marks li")).hasText(Pattern.compile("^[1-9].* s: [?]$"));
        page.locator("#mark-ref").fill("c22");
        page.locator("#mark-ref").press("Enter");
        assertThat(page.locator("#marks li")).hasText(Pattern.compile("^[1-9].* s: C22$"));
        page.locator("#mark-ref").fill("nonsense");
        page.locator("#mark-ref").press("Enter");
        assertThat(page.locator("#marks li")).hasCount(1);
        page.keyboard().up("Space");
        assertThat(words()).hasText("Key released, output off.");
        page.locator("#keep-mark").click();
        assertThat(page.locator("#kept li").first()).hasText("C22 first");
        assertThat(job("L-14").bundle().observations().stream()
                        .filter(Warm.class::isInstance)
                        .map(Warm.class::cast))
                .singleElement()
                .satisfies(w -> {
                    assertThat(w.ref()).contains("C22");
                    assertThat(w.by()).contains(WarmthMeans.LIQUID);
                });
    }

    @Test
    void nothingFlowsBeforeTheLeadsWereTriedAndNothingWithoutTheKey() throws Exception {
        long bench = laid("L-2");
        openLive("L-2", bench);
        // The ladder is there, but the one key tries the contact first.
        assertThat(page.locator("#hold-words")).hasText("Hold: contact check");
        page.keyboard().press("Space");
        assertThat(words()).hasText(Pattern.compile("(Let go too soon|Both leads touch).*"));
        touched();
        chosen(0);
        page.keyboard().down("Space");
        assertThat(page.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
        assertThat(bench().outputOn()).isTrue();
        page.keyboard().up("Space");
        assertThat(words()).hasText("Key released, output off.");
        assertThat(bench().outputOn()).isFalse();
    }

    @Test
    void closingThePageSwitchesOff() throws Exception {
        long bench = laid("L-3");
        openLive("L-3", bench);
        touched();
        chosen(0);
        page.keyboard().down("Space");
        assertThat(page.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
        assertThat(bench().outputOn()).isTrue();
        page.close();
        await().atMost(Duration.ofMillis(1500)).until(() -> !bench().outputOn());
        page = fresh();
        // The bench is free again.
        openLive("L-3", bench);
    }

    @Test
    void aLeadThatSlipsIsToldFromAShortThatBurnedOpenByTheMeter() throws Exception {
        // The contact check takes a second of it; at the lowest step no picture ends the hold before.
        long slips = laid("L-4", Mishaps.slip(3.5), LiveJob.laid().shorts());
        openLive("L-4", slips);
        touched();
        chosen(0);
        heldUntil(page, Pattern.compile("The meter still reads .*a lead slipped.*"));
        assertThat(page.locator("#hold-words")).hasText("Hold: contact check");
        assertThat(bench().outputOn()).isFalse();
        page.close();
        page = fresh();
        long burns = laid("L-5", Mishaps.burn(0.02), LiveJob.laid().shorts());
        openLive("L-5", burns);
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("The meter reads .*burned open.*"));
        assertThat(bench().outputOn()).isFalse();
    }

    /** The leads sit on another rail than the page believes: what warms is no part of its own. */
    @Test
    void whatWarmsElsewhereEndsIt() throws Exception {
        StandInBench.Laid usual = LiveJob.laid();
        Board board = usual.board();
        String far = board.partsOn("VMCU")
                .filter(p -> p.kind() == PartKind.CAPACITOR && p.side() == Side.TOP)
                .max(Comparator.comparingDouble(p -> board.partsOn(usual.net())
                        .mapToDouble(q -> Math.hypot(p.xMm() - q.xMm(), p.yMm() - q.yMm()))
                        .min()
                        .orElse(0)))
                .orElseThrow()
                .ref();
        long bench = laid(
                "L-13",
                Mishaps.NONE,
                new StandInBench.Laid(
                        board,
                        "VMCU",
                        StandInBench.padFor(board, "VMCU", Set.of(far)),
                        Map.of(far, 0.12),
                        Set.of(),
                        usual.leadOhms(),
                        usual.side(),
                        usual.camera(),
                        usual.seed()),
                List.of());
        openLive("L-13", bench);
        assertThat(page.locator("#eye-side")).hasText("Camera, laid by its edges");
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("What warms is no part of this rail.*"));
        assertThat(page.locator("#warm")).containsText("No part of this rail");
        assertThat(bench().outputOn()).isFalse();
    }

    @Test
    void instrumentsGoInTheMiddleAndComeBack() throws Exception {
        long bench = laid("L-6");
        openLive("L-6", bench);
        touched();
        chosen(0);
        page.keyboard().down("Space");
        assertThat(page.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
        bench().pullCables();
        assertThat(words()).hasText(Pattern.compile("An instrument was lost.*"));
        page.keyboard().up("Space");
        await().atMost(Duration.ofSeconds(2)).until(() -> !bench().outputOn());
        assertThat(page.locator("#there li").first()).hasText("supply: there");
        bench().pullCamera();
        assertThat(page.locator("#there li").nth(2)).containsText("was gone 1");
        touched();
    }

    @Test
    void twoBenchesInTwoPagesAndNoneTwice() throws Exception {
        long one = laid("L-7");
        StandInBench first = bench();
        long two = laid("L-8");
        StandInBench second = bench();
        openLive("L-7", one);
        try (Page other = fresh()) {
            other.navigate(server.url("/jobs/L-8/live?bench=" + two));
            assertThat(other.locator("#there li").first()).hasText("supply: there");
            touched();
            heldUntil(other, Pattern.compile("Both leads touch.*"));
            other.locator("#steps input").first().check();
            other.keyboard().down("Space");
            assertThat(other.locator("#hold-seconds")).hasText(Pattern.compile("^[1-9]"));
            assertThat(second.outputOn()).isTrue();
            assertThat(first.outputOn()).isFalse();
            other.keyboard().up("Space");
            assertThat(other.locator("#words")).hasText("Key released, output off.");
            other.navigate(server.url("/jobs/L-8/live?bench=" + one));
            assertThat(other.locator("#words")).containsText("in use for L-7");
        }
    }

    @Test
    void aBatteryThatNobodySpokeOfIsAskedFor() throws Exception {
        long bench = laid("L-9");
        go("/jobs/L-9");
        page.locator("#line").fill("plugged battery");
        page.locator("#line").press("Enter");
        assertThat(page.locator("#line")).hasValue("");
        openLive("L-9", bench);
        page.keyboard().down("Space");
        assertThat(words()).containsText("attery");
        page.keyboard().up("Space");
        assertThat(told("< OUTP ON")).isFalse();
        page.locator("#battery").click();
        assertThat(page.locator("#kept li").first()).hasText("battery out");
        touched();
    }

    @Test
    void aBenchIsEnteredAndAsked() throws Exception {
        laid("L-10");
        go("/benches");
        page.locator("input[name=name]").fill("by the door");
        leaving(() -> page.locator("text=Add it").click());
        Locator supply = page.locator("section.bench:has(h2:text-is('by the door')) form.instrument")
                .first();
        supply.locator("input[name=address]")
                .fill("127.0.0.1:" + bench().ports().supply());
        leaving(() -> supply.locator("button[value=ask]").click());
        assertThat(page.locator(".answers")).containsText("Stand-in supply");
        assertThat(page.locator(".answers")).containsText("speaks: supply, the usual SCPI words");
        accessible();
        leaving(() -> supply.locator("button[value=keep]").click());
        assertThat(supply.locator("input[name=address]"))
                .hasValue("127.0.0.1:" + bench().ports().supply());
        supply.locator("input[name=address]").fill("192.0.2.9:5025");
        leaving(() -> supply.locator("button[value=keep]").click());
        assertThat(page.locator("[role=alert]")).containsText("beyond this machine");
        assertThat(log).noneMatch(l -> l.endsWith("< OUTP ON") || l.contains("< VOLT "));
    }
}
