package ohmoscope.instruments;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.atomic.AtomicLong;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/**
 * A process of its own that holds the only line to a supply: whoever injects talks to the supply through it. It switches the
 * output off when he gives no sign of life any more: his pipe ends, as when he is killed; no sign comes in time, as when he
 * hangs; or the hard limit is over, whatever he says. While the output is known to be off it rests. So there is nothing that
 * could be switched on without it, and a supply that takes one caller only, or hangs on a serial port, is watched like any.
 *
 * <p>That a line was sent does not say that it was heard: it asks whether the output is on, and says it again until it is not.
 *
 * <p>Arguments: place, the line that switches off, the line that asks whether it is on, milliseconds without a sign,
 * milliseconds in all, milliseconds that an answer may take, milliseconds that the supply wants to be left alone. What it
 * hears and says are lines, see the constants.
 */
public final class Watchdog {
    /** A sign of life. */
    static final String ALIVE = "a";
    /** The output is known to be off: silence counts from the next sign of life on. */
    static final String REST = "r";
    /** Something to tell the supply: answered by {@link #DONE} or {@link #TROUBLE}. */
    static final String TELL = "t ";
    /** Something to ask it: answered by {@link #ANSWER} or {@link #TROUBLE}. */
    static final String ASK = "q ";

    static final String ARMED = "armed";
    static final String DONE = "ok";
    static final String ANSWER = "= ";
    /** With the kind of trouble and what it is. */
    static final String TROUBLE = "! ";

    private static final int TRIES = 40;
    /** For an answer to the first try, and so much more for each later one, up to what an answer may take. */
    private static final Duration OFF_PATIENCE = Duration.ofMillis(250);

    private static final long LOOK_MILLIS = 20;

    private final LineWire wire;
    private final PrintStream out;
    private final BlockingQueue<String> work = new LinkedBlockingQueue<>();
    private final AtomicLong last = new AtomicLong(System.nanoTime());
    private final AtomicLong since = new AtomicLong(System.nanoTime());
    private volatile boolean resting = true;
    private volatile boolean ended;
    private volatile boolean leaving;
    private volatile boolean asking;

    private Watchdog(LineWire wire, PrintStream out) {
        this.wire = wire;
        this.out = out;
    }

    public static void main(String[] args) {
        if (args.length != 7) {
            throw new IllegalArgumentException("PLACE OFF-LINE IS-ON-LINE SILENCE-MS LIMIT-MS ANSWER-MS PACE-MS");
        }
        Place place = Place.of(args[0]);
        Duration answer = Duration.ofMillis(Long.parseLong(args[5]));
        Duration pace = Duration.ofMillis(Long.parseLong(args[6]));
        try (LineWire wire = new LineWire(place, answer, pace)) {
            // Its line is open before anything flows: switching off needs no more than a word.
            wire.open();
            Watchdog dog = new Watchdog(wire, System.out);
            dog.say(ARMED);
            if (!dog.stoodDown(System.in, Long.parseLong(args[3]), Long.parseLong(args[4]))) {
                dog.switchOff(place, args[1], args[2], answer, pace);
            }
        } catch (InstrumentException nobody) {
            System.out.println(TROUBLE + nobody.trouble() + " " + nobody.getMessage());
            System.out.flush();
        }
        System.exit(0);
    }

    private synchronized void say(String line) {
        out.println(line);
        out.flush();
    }

    private static void daemon(String name, Runnable work) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        thread.start();
    }

    /** @return whether he went while nothing was on */
    private boolean stoodDown(InputStream signs, long silenceMillis, long limitMillis) {
        daemon("ears", () -> listen(signs));
        daemon("mouth", this::talk);
        while (!ended) {
            long now = System.nanoTime();
            boolean tooLong = !resting
                    && (now - last.get() > silenceMillis * 1_000_000 || now - since.get() > limitMillis * 1_000_000);
            if (tooLong) {
                return false;
            }
            try {
                Thread.sleep(LOOK_MILLIS);
            } catch (InterruptedException stopped) {
                return false;
            }
        }
        return resting;
    }

    /** Never waits for the supply: signs of life are heard while an answer is away. */
    private void listen(InputStream signs) {
        try (BufferedReader in = new BufferedReader(new InputStreamReader(signs, StandardCharsets.US_ASCII))) {
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                if (line.equals(ALIVE)) {
                    // Nothing else counts: a bench that asks on and on may have nobody at its key.
                    long now = System.nanoTime();
                    last.set(now);
                    if (resting) {
                        since.set(now);
                    }
                    resting = false;
                } else if (line.equals(REST)) {
                    resting = true;
                } else {
                    work.add(line);
                }
            }
        } catch (IOException broken) {
            // As its end.
        }
        ended = true;
    }

    private void talk() {
        try {
            while (true) {
                String line = work.take();
                asking = true;
                try {
                    if (leaving) {
                        say(TROUBLE + Trouble.LOST + " the watchdog switches off");
                    } else if (line.startsWith(ASK)) {
                        say(ANSWER + wire.ask(line.substring(ASK.length())));
                    } else {
                        wire.tell(line.substring(TELL.length()));
                        say(DONE);
                    }
                } catch (InstrumentException trouble) {
                    say(TROUBLE + trouble.trouble() + " " + trouble.getMessage());
                } finally {
                    asking = false;
                }
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    /** At once on the open line, and again on a fresh one until it says that it is off. */
    private void switchOff(Place place, String off, String isOn, Duration answer, Duration pace) {
        leaving = true;
        wire.shout(off);
        if (!asking && isOff(wire, isOn)) {
            return;
        }
        // A line whose answer is still waited for is cut: a supply that takes one caller only must be free for the next
        // try.
        for (int i = 1; i <= TRIES; i++) {
            Duration grown = OFF_PATIENCE.multipliedBy(i);
            try (LineWire fresh = new LineWire(place, grown.compareTo(answer) < 0 ? grown : answer, pace)) {
                wire.cut();
                fresh.tell(off);
                if (isOff(fresh, isOn)) {
                    return;
                }
            } catch (InstrumentException again) {
                // The next try connects anew.
            }
        }
    }

    private static boolean isOff(LineWire line, String isOn) {
        try {
            return Talk.onOff(line.ask(isOn)).filter(on -> !on).isPresent();
        } catch (InstrumentException unknown) {
            return false;
        }
    }
}
