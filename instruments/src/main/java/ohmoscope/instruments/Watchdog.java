package ohmoscope.instruments;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.core.instrument.InstrumentException;

/**
 * A process of its own that switches a supply off when the one who injects gives no sign of life any more: his pipe ends, as
 * when he is killed; no sign comes in time, as when he hangs; or the hard limit is over, whatever he says.
 *
 * <p>Arguments: address, the line that switches off, milliseconds without a sign, milliseconds in all. It says {@code armed}
 * once it has its own line to the supply, and ends when it has switched off or was told to stand down.
 */
public final class Watchdog {
    /** A sign of life. */
    static final int ALIVE = 'a';
    /** The output is off: nobody needs a dog any more. */
    static final int STAND_DOWN = 'd';

    static final String ARMED = "armed";

    private static final int TRIES = 40;
    private static final Duration PATIENCE = Duration.ofMillis(250);
    private static final long LOOK_MILLIS = 20;

    private Watchdog() {}

    public static void main(String[] args) {
        if (args.length != 4) {
            throw new IllegalArgumentException("ADDRESS OFF-LINE SILENCE-MS LIMIT-MS");
        }
        System.exit(watch(
                Address.of(args[0]), args[1], Long.parseLong(args[2]), Long.parseLong(args[3]), System.in, System.out));
    }

    /** @return 0 when it was told to stand down, 1 when it switched off, 2 when it could not */
    static int watch(
            Address address, String off, long silenceMillis, long limitMillis, InputStream signs, PrintStream out) {
        try (TcpWire wire = new TcpWire(address, PATIENCE, Duration.ZERO)) {
            // Its line is open before anything flows: switching off needs no more than a word.
            wire.open();
            out.println(ARMED);
            out.flush();
            return waited(signs, silenceMillis, limitMillis) ? 0 : switchedOff(wire, off) ? 1 : 2;
        } catch (InstrumentException nobody) {
            out.println(nobody.getMessage());
            return 2;
        }
    }

    /** @return whether he stood it down */
    private static boolean waited(InputStream signs, long silenceMillis, long limitMillis) {
        long start = System.nanoTime();
        AtomicLong last = new AtomicLong(start);
        AtomicLong end = new AtomicLong();
        Thread ears = new Thread(() -> listen(signs, last, end), "ears");
        ears.setDaemon(true);
        ears.start();
        while (true) {
            if (end.get() != 0) {
                return end.get() == STAND_DOWN;
            }
            long now = System.nanoTime();
            if (now - last.get() > silenceMillis * 1_000_000 || now - start > limitMillis * 1_000_000) {
                return false;
            }
            try {
                ears.join(LOOK_MILLIS);
            } catch (InterruptedException stopped) {
                return false;
            }
        }
    }

    private static void listen(InputStream signs, AtomicLong last, AtomicLong end) {
        try {
            for (int sign = signs.read(); sign >= 0; sign = signs.read()) {
                if (sign == STAND_DOWN) {
                    end.set(STAND_DOWN);
                    return;
                }
                last.set(System.nanoTime());
            }
        } catch (IOException broken) {
            // As its end.
        }
        end.compareAndSet(0, -1);
    }

    private static boolean switchedOff(TcpWire wire, String off) {
        for (int i = 0; i < TRIES; i++) {
            try {
                wire.tell(off);
                return true;
            } catch (InstrumentException again) {
                // The next try connects anew.
            }
        }
        return false;
    }
}
