package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.web.store.BenchStore.Role;
import org.junit.jupiter.api.Test;

/** Whatever ends the current: by each rule, with the stand-in's mishaps behind it. */
class LiveStopsBrowserTest extends LiveInBrowser {
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
        long slips = laid(
                "L-4",
                Mishaps.NONE.with(Mishaps.Kind.SLIPS_AFTER_S, 3.5),
                LiveJob.laid().shorts());
        openLive("L-4", slips);
        touched();
        chosen(0);
        // The picture may be sharp before the lead slips, as frames come late and many at once.
        heldUntil(page, Pattern.compile("The meter still reads .*a lead slipped.*"), "Sharp enough.*");
        assertThat(page.locator("#hold-words")).hasText("Hold: contact check");
        assertThat(bench().outputOn()).isFalse();
        page.close();
        page = fresh();
        long burns = laid(
                "L-5",
                Mishaps.NONE.with(Mishaps.Kind.BURNS_AT_W, 0.02),
                LiveJob.laid().shorts());
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

    /** Each mishap on a bench of its own, at the ladder's last step. Its page stays open. */
    private void endedBy(String number, Mishaps.Kind kind, double value, String words) throws Exception {
        long bench = laid(number, Mishaps.NONE.with(kind, value), LiveJob.laid().shorts());
        openLive(number, bench);
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile(words + ".*"));
        assertThat(bench().outputOn()).isFalse();
        assertThat(words()).hasAttribute("data-tone", "bad");
    }

    @Test
    void aSupplyThatRunsAwayIsSwitchedOff() throws Exception {
        endedBy("L-20", Mishaps.Kind.RUNS_AWAY_BY_SHARE, 0.2, "The supply gave more than it was told");
    }

    @Test
    void aSupplyThatTrippedIsToldFromOneThatIsLostAtTheNextHoldToo() throws Exception {
        String tripped = "The supply switched itself off at one of its limits";
        endedBy("L-21", Mishaps.Kind.RUNS_AWAY_BY_SHARE, 1, tripped);
        // Still latched: nobody cleared it.
        heldUntil(page, Pattern.compile(tripped + ".*"));
        assertThat(bench().outputOn()).isFalse();
    }

    @Test
    void aContactThatGetsWorseEndsIt() throws Exception {
        endedBy("L-22", Mishaps.Kind.CREEPS_OHMS_PER_S, 0.06, "Its ohms ran away while it flowed");
    }

    /** The ladder warms nothing so far: a camera whose emissivity is set too low shows what would end it. */
    private void endedByHeat(
            String number, Mishaps mishaps, Map<String, Double> shorts, double showsTimes, String words)
            throws Exception {
        long bench = laid(number, mishaps.with(Mishaps.Kind.SHOWS_TIMES, showsTimes), shorts);
        openLive(number, bench);
        assertThat(page.locator("#eye-side")).hasText("Camera, laid by its edges");
        touched();
        chosen(steps() - 1);
        heldUntil(page, Pattern.compile(words + ".*"));
        assertThat(bench().outputOn()).isFalse();
    }

    @Test
    void whatIsHotEnoughEndsIt() throws Exception {
        endedByHeat("L-25", Mishaps.NONE, LiveJob.laid().shorts(), 15, "Hot enough");
    }

    @Test
    void aHotLeadEndsIt() throws Exception {
        // A short so hard that the contact takes nearly all of the heat: else the frames may name it first.
        endedByHeat(
                "L-26",
                Mishaps.NONE.with(Mishaps.Kind.CONTACT_OHMS, 0.3),
                Map.of(FAULTY, 0.01),
                6,
                "A lead is what gets hot");
        assertThat(page.locator("#warm")).containsText("lead");
    }

    @Test
    void withoutACameraTheStepsTimeEndsIt() throws Exception {
        laid("L-24");
        long blind = LiveBoard.bench(server, "bench without a camera", bench().ports(), Role.SUPPLY, Role.METER);
        openLive("L-24", blind);
        touched();
        chosen(0);
        heldUntil(page, Pattern.compile("The step's time is over.*"));
        assertThat(bench().outputOn()).isFalse();
    }
}
