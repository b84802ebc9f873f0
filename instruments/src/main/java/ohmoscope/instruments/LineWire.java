package ohmoscope.instruments;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/**
 * Lines over a socket or a serial port. It connects when it is first used, and anew after it was lost: whoever uses it hears
 * of the loss once. After an answer that did not come in time the line is closed, as the late answer would be taken for the
 * next one.
 */
public final class LineWire implements Wire {
    private static final int LONGEST_ANSWER = 65_536;

    private final Place place;
    private final Duration patience;
    private final Duration pace;
    private volatile Optional<Link> link = Optional.empty();
    private volatile long freeAtNanos = System.nanoTime();

    /**
     * @param place a socket or a serial port
     * @param patience how long an answer may take, and connecting
     * @param pace how long the instrument wants to be left alone after a line
     */
    public LineWire(Place place, Duration patience, Duration pace) {
        this.place = place;
        this.patience = patience;
        this.pace = pace;
    }

    @Override
    public synchronized void tell(String line) throws InstrumentException {
        try {
            send(line);
        } catch (IOException lost) {
            throw lost(lost);
        }
    }

    @Override
    public synchronized String ask(String line) throws InstrumentException {
        try {
            return answer(send(line).in());
        } catch (InterruptedIOException late) {
            close();
            throw new InstrumentException(
                    Trouble.SLOW,
                    place + " did not answer \"" + line + "\" within " + patience.toMillis()
                            + " ms: look whether it is busy, or speaks another dialect");
        } catch (IOException lost) {
            throw lost(lost);
        }
    }

    /** Says something though an answer may still be waited for: it is what must not wait. Whether it was heard, nobody knows. */
    void shout(String line) {
        link.ifPresent(open -> {
            try {
                open.out().write((line + "\n").getBytes(StandardCharsets.US_ASCII));
                open.out().flush();
                freeAtNanos = System.nanoTime() + pace.toNanos();
            } catch (IOException lost) {
                // Who has to be sure says it again the usual way.
            }
        });
    }

    /** Closes the line though an answer may still be waited for: who waits hears that it was lost. */
    void cut() {
        link.ifPresent(LineWire::quietly);
    }

    private InstrumentException lost(IOException why) {
        close();
        return why instanceof InstrumentException own
                ? own
                : new InstrumentException(
                        Trouble.LOST,
                        place + " is not there (" + why.getMessage() + "): look at its cable and address");
    }

    private Link send(String line) throws IOException {
        rest();
        Link open = opened();
        open.out().write((line + "\n").getBytes(StandardCharsets.US_ASCII));
        open.out().flush();
        freeAtNanos = System.nanoTime() + pace.toNanos();
        return open;
    }

    private void rest() throws InstrumentException {
        long left = freeAtNanos - System.nanoTime();
        if (left > 0) {
            try {
                TimeUnit.NANOSECONDS.sleep(left);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                throw new InstrumentException(Trouble.LOST, place + ": interrupted");
            }
        }
    }

    /** Connects now, where it is not yet. */
    public synchronized void open() throws InstrumentException {
        try {
            opened();
        } catch (IOException lost) {
            throw lost(lost);
        }
    }

    private Link opened() throws IOException {
        if (link.isEmpty()) {
            link = Optional.of(Link.to(place, patience));
        }
        return link.orElseThrow();
    }

    /** Up to a line's end, however it comes in pieces, within the whole patience. */
    private String answer(InputStream in) throws IOException {
        long until = System.nanoTime() + patience.toNanos();
        ByteArrayOutputStream line = new ByteArrayOutputStream();
        while (true) {
            int one = in.read();
            if (one < 0) {
                throw new IOException("it hung up");
            }
            if (one == '\n') {
                return line.toString(StandardCharsets.ISO_8859_1).strip();
            }
            line.write(one);
            if (line.size() > LONGEST_ANSWER) {
                throw new InstrumentException(
                        Trouble.GARBLED, place + " answers without an end: this is no instrument that speaks in lines");
            }
            if (System.nanoTime() > until) {
                throw new InterruptedIOException();
            }
        }
    }

    @Override
    public synchronized void close() {
        link.ifPresent(LineWire::quietly);
        link = Optional.empty();
    }

    static void quietly(AutoCloseable what) {
        try {
            what.close();
        } catch (Exception gone) {
            // It is let go of either way.
        }
    }
}
