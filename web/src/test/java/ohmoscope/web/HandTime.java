package ohmoscope.web;

import com.microsoft.playwright.Locator;

/**
 * What a person would take for what a test does: the keystroke-level model (Card, Moran and Newell, Communications of the ACM
 * 23, 1980), with its times for somebody who is no typist. Waiting for the machine is counted apart. Finding an address in an
 * instrument's menu, and plugging it in, are not in it.
 */
final class HandTime {
    private static final double KEY_S = 0.28;
    private static final double POINT_S = 1.1;
    private static final double PRESS_S = 0.2;
    private static final double TO_THE_KEYS_S = 0.4;
    private static final double THINK_S = 1.35;

    /** Reading at 200 words a minute. */
    private static final double WORD_S = 0.3;

    private double seconds;
    private double waitedSeconds;

    double seconds() {
        return seconds;
    }

    double waitedSeconds() {
        return waitedSeconds;
    }

    void reads(String text) {
        seconds += WORD_S * text.trim().split("\\s+").length;
    }

    void types(Locator into, String text) {
        clicks(into);
        seconds += 2 * TO_THE_KEYS_S + KEY_S * text.length();
        into.fill(text);
    }

    void clicks(Locator what) {
        seconds += THINK_S + POINT_S + PRESS_S;
        what.click();
    }

    /** @param work that takes the machine so long as it takes */
    void waits(Runnable work) {
        long from = System.nanoTime();
        work.run();
        waitedSeconds += (System.nanoTime() - from) / 1e9;
    }
}
