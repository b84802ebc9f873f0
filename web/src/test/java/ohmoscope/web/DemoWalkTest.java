package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.PlaywrightException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.AnalysisRunner;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.AnalysisStore;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every demo job from the shelf to its hand-back page: the technician presses what the page offers, and types what the
 * page begins, with the numbers that a meter on this board would show.
 */
class DemoWalkTest extends InBrowser {
    private static final int MOST_STEPS = 18;
    private static final Pattern PART_OFF = Pattern.compile("(?:removed|replaced|fitted|unplugged) (\\S+)");

    /**
     * A demo job and what is really wrong with it.
     *
     * @param part the faulty part; empty when there is none
     * @param wrongNet the net that reads wrong until it is mended
     * @param handedBack what the report must say was wrong
     */
    record Walk(String job, String part, String wrongNet, String handedBack) {
        @Override
        public String toString() {
            return job;
        }
    }

    private static Stream<Walk> walks() {
        return Stream.of(
                new Walk("K-0417", "C22", "VMAIN", "The capacitor C22 (10u) on the top side shorted VMAIN"),
                new Walk("K-0418", "U4", "VLICELL", "The chip U4 (modem) on the top side shorted VLICELL"),
                new Walk("K-0419", "C74", "VSEED", "The capacitor C74 (10u) on the bottom side shorted VSEED"),
                new Walk("K-0420", "C64", "VBATT", "The capacitor C64 (10u) on the top side shorted VBATT"),
                new Walk("K-0421", "C40", "VMAIN", "The capacitor C40 (10u) on the top side shorted VMAIN"),
                new Walk("K-0422", "C74", "VLICELL", "The capacitor C74"),
                new Walk("K-0423", "C60", "VSEED", "The capacitor C60 (10u) on the bottom side shorted VSEED"),
                new Walk("K-0424", "D1", "VCLIP", "The clamp D1 (clamp) on the top side shorted VCLIP"),
                new Walk("K-0425", "J1", "VPLUG", "J1: the port is damaged"),
                new Walk("K-0426", "R2", "VCHIP", "R2 open"),
                new Walk("K-0427", "Q4", "VCELLS", "Q4 leaking"),
                new Walk("K-0428", "C15", "V3KEEP", "The capacitor C15"),
                new Walk("K-0429", "", "", "Nothing. What reads low here does so by design."),
                new Walk("K-0430", "C6", "", "C6: what belongs there is not fitted"),
                new Walk("K-0431", "C97", "VPH", "The capacitor C97"),
                new Walk("K-0432", "C5", "V5", "The capacitor C5"),
                new Walk("K-0433", "F1", "VSOLAR_F", "F1 open"),
                new Walk("K-0434", "C13", "VCELL", "The capacitor C13"));
    }

    /** What is not at its own voltage though nothing is wrong with it: the battery is out. */
    private static final Map<String, String> VOLTS = Map.of("VCHIP", "18.9", "VCELLS", "0.3", "VBAT2S", "0.1");

    /** A layout file does not say what a device draws: whether it starts has to be seen. */
    private static final String WITHOUT_EXPECTATIONS = "K-0433";

    private static final Duration LOOKED_INTO = Duration.ofMinutes(2);

    private Board board = Fixtures.board();
    private boolean mended;
    private long jobId;

    @ParameterizedTest
    @MethodSource("walks")
    void typingWhatThePageSuggestsEndsInARightReport(Walk walk) throws Exception {
        page.setDefaultTimeout(60_000);
        taken(walk.job());
        mended = walk.part().isEmpty();
        StringBuilder told = new StringBuilder();
        await().atMost(LOOKED_INTO)
                .until(() -> server.bean(AnalysisRunner.class)
                        .state(jobId)
                        .map(r -> !r.pending())
                        .orElse(true));
        go("/jobs/" + walked(walk.job()));
        for (int i = 0; i < MOST_STEPS && !done(); i++) {
            told.append('\n').append(page.locator(".next .s").textContent());
            try {
                step(walk);
            } catch (PlaywrightException stuck) {
                throw new AssertionError("no way on: " + told, stuck);
            }
        }
        assertThat(done()).as("%s", told).isTrue();
        leaving(() -> page.locator(".next a.btn-act").click());
        assertThat(page.locator(".wrong")).containsText(walk.handedBack());
        String state = walk.part().isEmpty() ? "No fault was found" : "Proven";
        assertThat(page.locator(".proof")).containsText(state);
        assertThat(page.locator(".before-back .stop")).hasCount(0);
        afterwards(walk, state);
    }

    /** The battery goes back in, it boots, it charges: that is no other repair. */
    private void afterwards(Walk walk, String state) {
        go("/jobs/" + walked(walk.job()));
        for (String line : List.of("plugged battery", "boots", "charges")) {
            enter(line);
        }
        assertThat(page.locator(".next .s")).containsText("Hand it back");
        go("/jobs/" + walked(walk.job()) + "/hand-back");
        assertThat(page.locator(".wrong")).containsText(walk.handedBack());
        assertThat(page.locator(".proof")).containsText(state);
        assertThat(page.locator(".ticks tr[data-state=wrong]")).hasCount(0);
    }

    private void taken(String number) throws Exception {
        DemoJobs.Demo demo = DemoJobs.all().stream()
                .filter(d -> d.id().equals(number))
                .findFirst()
                .orElseThrow();
        Bundle made = demo.bundle().get();
        board = made.board();
        Bundle own = made.as(
                new Bundle.Job(walked(number), made.job().title(), made.job().opened()), made.board());
        long id = server.bean(BundleImporter.class).add(own, "bench", share -> true);
        jobId = id;
        server.bean(JobFile.class).refreshState(id);
        server.bean(AnalysisRunner.class).request(id);
    }

    /** Other tests have these jobs too. */
    private static String walked(String number) {
        return number.replace("K-", "W-");
    }

    /** Nothing is pressed while the frames are looked into: the page would be made anew under the hand. */
    private boolean done() {
        AnalysisRunner analyses = server.bean(AnalysisRunner.class);
        if (analyses.state(jobId).map(AnalysisStore.Row::pending).orElse(false)) {
            await().atMost(LOOKED_INTO)
                    .until(() -> !analyses.state(jobId).orElseThrow().pending());
            page.reload();
        }
        assertThat(page.locator("#progress progress")).hasCount(0);
        return page.locator(".next > a.btn-act").count() > 0;
    }

    private void step(Walk walk) {
        Locator lift = page.locator(".next form input[name=ref]");
        if (lift.count() > 0) {
            mended |= lift.getAttribute("value").equals(walk.part());
            leaving(() -> page.locator(".next form .btn-act").first().click());
        } else if (page.locator("#again").count() > 0) {
            page.locator("#again").fill(mended ? good() : "0.004");
            leaving(() -> page.locator(".again .btn-act").click());
        } else {
            page.locator(".next > button[data-do=fill]").click();
            String begun = page.locator("#line").inputValue();
            enter(answered(begun, walk));
            if (mended && begun.startsWith("charger") && walk.job().equals(WITHOUT_EXPECTATIONS)) {
                enter("boots");
            }
        }
    }

    /** In the mode that is asked for. */
    private String good() {
        return page.locator(".again .row-input span").textContent().contains("V") ? "0.44" : "2300";
    }

    private String answered(String begun, Walk walk) {
        Matcher changed = PART_OFF.matcher(begun);
        if (changed.find()) {
            mended |= changed.group(1).equals(walk.part());
            return begun;
        }
        String place = begun.trim().split(" ")[0];
        boolean wrong = !mended && place.equals(walk.wrongNet());
        if (begun.startsWith("across")) {
            return begun + (begun.startsWith("across F") ? "0.1" : "10.2");
        }
        if (begun.startsWith("look")) {
            return begun + "clean";
        }
        if (begun.startsWith("inj")) {
            return begun + (mended ? "1V 2mA" : "47mV 2A");
        }
        if (begun.equals("warm ")) {
            return begun + walk.part() + " 2.8K";
        }
        if (begun.startsWith("charger") || begun.startsWith("bench")) {
            return begun + "19.1V 0.93A rising on";
        }
        if (begun.contains(" v ")) {
            return begun + (wrong ? "0.02" : VOLTS.getOrDefault(place, standing(place)));
        }
        if (begun.contains(" d ")) {
            return begun + (wrong ? "0.004" : "0.44");
        }
        return begun;
    }

    /** What a net of a board that is well carries when it is fed, volts. */
    private String standing(String net) {
        return String.valueOf(board.net(net).orElseThrow().nominalVolts().orElse(3.3));
    }

    /** Keeps a line as a technician does, and waits until the page shows what it came to. */
    private void enter(String line) {
        int before = page.locator(".ev .seq").count();
        page.locator("#line").fill(line);
        page.locator("#line").press("Enter");
        page.waitForFunction("n => document.querySelectorAll('.ev .seq').length > n", before);
        assertThat(page.locator("#line")).hasValue("");
    }
}
