package ohmoscope.web.live;

import java.time.Duration;
import java.util.Optional;
import ohmoscope.core.live.Ending;

/** The key that asks for current: down, still held, let go, or gone with its page. Pressed by the page's threads, read by the bench's. */
final class LiveKey {
    private final long silenceNanos;
    private volatile boolean held;
    private volatile boolean gone;
    private volatile long aliveNanos;

    /** @param silence of a page that says every tenth of a second that its key is held */
    LiveKey(Duration silence) {
        silenceNanos = silence.toNanos();
    }

    /** @return whether it was up */
    boolean press() {
        if (held) {
            return false;
        }
        aliveNanos = System.nanoTime();
        held = true;
        return true;
    }

    /** It is still held. */
    void alive() {
        aliveNanos = System.nanoTime();
    }

    void release() {
        held = false;
    }

    /** The page is gone, and never comes back to this bench. */
    void gone() {
        gone = true;
        held = false;
    }

    boolean held() {
        return held;
    }

    /** Why what it asked for ends; empty while it is held. */
    Optional<Ending> ending() {
        if (gone || held && System.nanoTime() - aliveNanos > silenceNanos) {
            return Optional.of(Ending.PAGE_GONE);
        }
        return held ? Optional.empty() : Optional.of(Ending.RELEASED);
    }
}
