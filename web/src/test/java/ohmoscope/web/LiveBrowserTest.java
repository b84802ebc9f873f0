package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.core.locate.Verdict;
import ohmoscope.web.analysis.StoredAnalysis;
import org.junit.jupiter.api.Test;

/** The live page in the browser, with the stand-in's instruments on the other end and a hand on the space bar. */
class LiveBrowserTest extends LiveInBrowser {
    @Test
    void aHuntIsFoundLiveByTheCamera() throws Exception {
        long bench = laid("L-1");
        openLive("L-1", bench);
        accessible();
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("(Sharp enough|The step's time is over).*"));
        assertThat(page.locator("#eye-side")).hasText("Camera, laid by its edges");
        assertThat(page.locator("#set-amps")).containsText(" A");
        assertThat(page.locator("#warm")).containsText("warms");
        assertThat(bench().outputOn()).isFalse();
        assertThat(page.locator("#suspects li b").first()).hasText(FAULTY);
        StoredAnalysis stored = analysed("L-1");
        assertThat(stored.verdict()).isEqualTo(Verdict.PART);
        assertThat(stored.suspects().get(0).ref()).isEqualTo(FAULTY);
        // An entry is analysed as soon as it is kept, and may come before the page's own last look.
        await().atMost(Duration.ofMinutes(2))
                .untilAsserted(() -> assertThat(shownFirst())
                        .isCloseTo(analysed("L-1").suspects().get(0).probability(), within(0.01)));
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
            readAcross(page.locator("#asked").textContent());
            read++;
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

    /** A lift that was too short for a slow meter is lifted again; a hold that ended, as on a busy machine, is held again. */
    private void readAcross(String asked) {
        int before = page.locator("#points li").count();
        for (int i = 0; i < 8; i++) {
            if (!bench().outputOn()) {
                page.keyboard().up("Space");
                page.waitForTimeout(1000);
                page.keyboard().down("Space");
                page.waitForTimeout(1000);
            }
            bench().put(asked);
            try {
                page.locator("#points li").nth(before).waitFor(new Locator.WaitForOptions().setTimeout(10_000));
                return;
            } catch (TimeoutError stuck) {
                // Once more.
            }
        }
        throw new AssertionError(
                words().textContent() + " after " + page.locator("#points").textContent());
    }

    /** From a new job to the hand-back: but for what was read first, every number comes from the bench; the hand holds, lifts and says that it boots. */
    @Test
    void aWholeJobOnTheBenchEndsInARightReport() throws Exception {
        // A job on this board was there before, and so the shop has the board.
        long bench = laid("L-15");
        String job = opened("River gauge by the weir", "L-15", "unplugged battery", "VLOG d .004 red");
        openLive(job, bench);
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile("(Sharp enough|The step's time is over).*"));
        assertThat(analysed(job).suspects().get(0).ref()).isEqualTo(FAULTY);
        go("/jobs/" + job);
        assertThat(page.locator(".next .s")).containsText("Lift " + FAULTY);
        leaving(() -> page.locator(".next form .btn-act").first().click());
        assertThat(bench().remove(FAULTY)).isTrue();
        openLive(job, bench);
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
        go("/jobs/" + job);
        page.locator("#line").fill("boots");
        page.locator("#line").press("Enter");
        assertThat(page.locator(".next .s")).containsText("Hand it back");
        go("/jobs/" + job + "/hand-back");
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

    /** A short before a shunt: fed from the rail's own end the shunt carries all of it, from the other nothing. */
    @Test
    void theSideOfASeriesPartIsToldFromItsBothEnds() throws Exception {
        StandInBench.Laid usual = LiveJob.laid();
        String rail = "VLICELL";
        long bench = laid(
                "L-16",
                Mishaps.NONE,
                new StandInBench.Laid(
                        usual.board(),
                        rail,
                        StandInBench.padFor(usual.board(), rail, Set.of("C3")),
                        Map.of("C3", 0.09),
                        Set.of(),
                        usual.leadOhms(),
                        usual.side(),
                        usual.camera(),
                        usual.seed()),
                rail,
                List.of("unplugged battery", rail + " d .004 red"));
        openLive("L-16", bench);
        assertThat(page.locator("#eye-side")).hasText("Camera, laid by its edges");
        page.locator("#ends-on").click();
        for (String net : List.of(rail, "VSUN_S")) {
            assertThat(page.locator("#ends-net")).hasText(net);
            String pad = page.locator("#ends-lead").textContent();
            assertThat(bench().lead(pad.substring(0, pad.indexOf(',')), net)).isTrue();
            bench().put("across R3");
            heldUntil(page, Pattern.compile("It flows.*"));
            heldUntil(page, Pattern.compile("The step's time is over.*"));
        }
        assertThat(page.locator("#ends-words")).containsText("The short is on the side of VSUN_S");
        assertThat(page.locator("#ends-fed li")).hasCount(2);
        accessible();
        List<Observation> kept = job("L-16").bundle().observations();
        assertThat(kept.stream().filter(Warm.class::isInstance)).hasSize(2);
        assertThat(kept.stream()
                        .filter(Read.class::isInstance)
                        .map(Read.class::cast)
                        .filter(r -> r.across().isPresent()))
                .extracting(r -> Math.abs(r.value().getAsDouble()) > 0.01)
                .containsExactly(true, false);
        go("/jobs/L-16");
        assertThat(page.locator("ol.sus").last()).containsText("C3");
    }

    private double shownFirst() {
        return Double.parseDouble(
                String.valueOf(page.locator("#suspects meter").first().evaluate("m => m.value")));
    }
}
