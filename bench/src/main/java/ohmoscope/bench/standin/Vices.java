package ohmoscope.bench.standin;

import java.util.OptionalInt;
import ohmoscope.core.board.Check;

/**
 * How a stand-in's line misbehaves.
 *
 * @param latencyMillis before each answer, 0 to 10,000
 * @param garbleEvery each so many answers is spoilt; empty for never
 * @param dropAfter the connection is cut after so many lines; empty for never. The next one is served again
 */
public record Vices(int latencyMillis, OptionalInt garbleEvery, OptionalInt dropAfter) {
    public static final Vices NONE = new Vices(0, OptionalInt.empty(), OptionalInt.empty());

    public Vices {
        Check.within("latency_ms", latencyMillis, 0, 10_000);
        garbleEvery.ifPresent(n -> Check.within("garble", n, 1, 1_000_000));
        dropAfter.ifPresent(n -> Check.within("drop_after", n, 1, 1_000_000));
    }
}
