package ohmoscope.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import ohmoscope.bench.standin.StandInBench;
import org.junit.jupiter.api.Test;

/** Instruments are entered and asked. */
class BenchesBrowserTest extends LiveInBrowser {
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

    /** Four instruments at hand, on this machine or a tick away from it, their addresses known. */
    @Test
    void aWholeBenchIsSetUpWithinTwoMinutes() throws Exception {
        laid("L-27");
        StandInBench.Ports ports = bench().ports();
        int[] each = {ports.supply(), ports.meter(), ports.camera(), ports.inline()};
        go("/benches");
        HandTime hand = new HandTime();
        hand.reads(page.locator("#main > .note").textContent());
        hand.types(page.locator("input[name=name]"), "under the stairs");
        hand.waits(() -> leaving(() -> hand.clicks(page.locator("text=Add it"))));
        for (int i = 0; i < each.length; i++) {
            Locator own = page.locator("section.bench:has(h2:text-is('under the stairs')) form.instrument")
                    .nth(i);
            hand.types(own.locator("input[name=address]"), "127.0.0.1:" + each[i]);
            hand.clicks(own.locator("input[name=beyond]"));
            hand.waits(() -> leaving(() -> hand.clicks(own.locator("button[value=ask]"))));
            assertThat(own.locator("[role=alert]")).hasCount(0);
            hand.reads(own.locator(".answers").textContent());
            hand.waits(() -> leaving(() -> hand.clicks(own.locator("button[value=keep]"))));
            assertThat(own.locator("input[name=address]")).hasValue("127.0.0.1:" + each[i]);
        }
        assertThat(hand.seconds())
                .as("of a hand that is no typist's, besides %.0f s of waiting", hand.waitedSeconds())
                .isBetween(60.0, 120.0);
    }
}
