package ohmoscope.bench.standin;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import java.util.function.Function;

/** An instrument's end of the line: on loopback only, a thread for each who calls. */
public final class LineServer implements AutoCloseable {
    private static final int LONGEST_LINE = 4_096;

    private final ServerSocket server;
    private final Function<String, Optional<String>> talk;
    private final Vices vices;
    private final Consumer<String> log;
    private final List<Socket> callers = new CopyOnWriteArrayList<>();
    private final Random random = new Random(1);
    private int answers;

    /**
     * @param port 0 for any
     * @param talk what a line is answered with; empty for no answer
     * @param log hears each line and answer with its time
     * @throws UncheckedIOException where the port is taken
     */
    public LineServer(
            String name, int port, Function<String, Optional<String>> talk, Vices vices, Consumer<String> log) {
        try {
            server = new ServerSocket(port, 8, InetAddress.getLoopbackAddress());
        } catch (IOException taken) {
            throw new UncheckedIOException("port " + port + " for the " + name + " is taken", taken);
        }
        this.talk = talk;
        this.vices = vices;
        this.log = line -> log.accept(Instant.now() + " " + name + " " + line);
        daemon(name, this::welcome).start();
    }

    public int port() {
        return server.getLocalPort();
    }

    /** How many are on the line. */
    public int callers() {
        return callers.size();
    }

    static Thread daemon(String name, Runnable work) {
        Thread thread = new Thread(work, "stand-in " + name);
        thread.setDaemon(true);
        return thread;
    }

    private void welcome() {
        while (!server.isClosed()) {
            try {
                Socket caller = server.accept();
                callers.add(caller);
                daemon("caller", () -> serve(caller)).start();
            } catch (IOException closed) {
                // The server was closed, or a caller went before it was there.
            }
        }
    }

    private void serve(Socket caller) {
        try (caller;
                BufferedReader in = new BufferedReader(
                        new InputStreamReader(caller.getInputStream(), StandardCharsets.US_ASCII), LONGEST_LINE)) {
            caller.setTcpNoDelay(true);
            OutputStream out = caller.getOutputStream();
            int lines = 0;
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                Optional<String> answer;
                synchronized (caller) {
                    if (caller.isClosed()) {
                        // Read, but the cable was out by then: nobody hears it.
                        return;
                    }
                    log.accept("< " + line);
                    answer = talk.apply(line.strip());
                }
                if (vices.dropAfter().isPresent()
                        && ++lines >= vices.dropAfter().getAsInt()) {
                    log.accept("- hung up");
                    return;
                }
                if (answer.isPresent()) {
                    Thread.sleep(vices.latencyMillis());
                    String sent = spoilt(answer.get());
                    log.accept("> " + sent);
                    // In two pieces, as a slow line brings them.
                    byte[] bytes = (sent + "\n").getBytes(StandardCharsets.US_ASCII);
                    out.write(bytes, 0, bytes.length / 2);
                    out.flush();
                    out.write(bytes, bytes.length / 2, bytes.length - bytes.length / 2);
                    out.flush();
                }
            }
        } catch (IOException gone) {
            log.accept("- caller gone");
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        } finally {
            callers.remove(caller);
        }
    }

    private synchronized String spoilt(String answer) {
        if (vices.garbleEvery().isEmpty() || ++answers % vices.garbleEvery().getAsInt() != 0) {
            return answer;
        }
        StringBuilder spoilt = new StringBuilder();
        answer.chars().forEach(c -> spoilt.append((char) (Character.isDigit(c) ? '#' + random.nextInt(4) : c)));
        return spoilt.toString();
    }

    /** Cuts every line, as a cable that is pulled; who calls again is served. Nothing said before is acted on afterwards. */
    public void hangUp() {
        for (Socket caller : callers) {
            synchronized (caller) {
                quietly(caller);
            }
        }
    }

    static void quietly(AutoCloseable what) {
        try {
            what.close();
        } catch (Exception gone) {
            // It is let go of either way.
        }
    }

    @Override
    public void close() {
        quietly(server);
        hangUp();
    }
}
