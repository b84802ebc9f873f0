package ohmoscope.instruments;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/**
 * Lines over a raw socket. It connects when it is first used, and anew after it was lost: whoever uses it hears of the loss
 * once. After an answer that did not come in time the socket is closed, as the late answer would be taken for the next one.
 */
public final class TcpWire implements Wire {
    private static final int LONGEST_ANSWER = 65_536;

    private final Address address;
    private final Duration patience;
    private final Duration pace;
    private Optional<Socket> socket = Optional.empty();
    private long freeAtNanos = System.nanoTime();

    /**
     * @param patience how long an answer may take, and connecting
     * @param pace how long the instrument wants to be left alone after a line
     */
    public TcpWire(Address address, Duration patience, Duration pace) {
        this.address = address;
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
            Socket open = send(line);
            return answer(open.getInputStream());
        } catch (SocketTimeoutException late) {
            close();
            throw new InstrumentException(
                    Trouble.SLOW,
                    address + " did not answer \"" + line + "\" within " + patience.toMillis()
                            + " ms: look whether it is busy, or speaks another dialect");
        } catch (IOException lost) {
            throw lost(lost);
        }
    }

    private InstrumentException lost(IOException why) {
        close();
        return why instanceof InstrumentException own
                ? own
                : new InstrumentException(
                        Trouble.LOST,
                        address + " is not there (" + why.getMessage() + "): look at its cable and address");
    }

    private Socket send(String line) throws IOException {
        rest();
        Socket open = opened();
        open.getOutputStream().write((line + "\n").getBytes(StandardCharsets.US_ASCII));
        open.getOutputStream().flush();
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
                throw new InstrumentException(Trouble.LOST, address + ": interrupted");
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

    private Socket opened() throws IOException {
        if (socket.isEmpty()) {
            Socket fresh = new Socket();
            try {
                fresh.setTcpNoDelay(true);
                fresh.connect(new InetSocketAddress(address.host(), address.port()), (int) patience.toMillis());
                fresh.setSoTimeout((int) patience.toMillis());
            } catch (IOException nobody) {
                fresh.close();
                throw nobody;
            }
            socket = Optional.of(fresh);
        }
        return socket.get();
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
                        Trouble.GARBLED,
                        address + " answers without an end: this is no instrument that speaks in lines");
            }
            if (System.nanoTime() > until) {
                throw new SocketTimeoutException();
            }
        }
    }

    @Override
    public synchronized void close() {
        socket.ifPresent(open -> {
            try {
                open.close();
            } catch (IOException gone) {
                // It is let go of either way.
            }
        });
        socket = Optional.empty();
    }
}
