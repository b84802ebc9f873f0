package ohmoscope.bench.standin;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.circuit.Twin;

/** A meter between supply and board that says its seconds, volts and amperes twenty times a second, a line each. */
final class StandInInline implements AutoCloseable {
    private static final long PERIOD_MS = 50;

    private final StreamServer server;
    private final StandInBoard board;

    StandInInline(StandInBoard board, int port) {
        this.board = board;
        server = new StreamServer("inline", port);
        LineServer.daemon("inline", this::tell).start();
    }

    int port() {
        return server.port();
    }

    private void tell() {
        while (!server.closed()) {
            try {
                TimeUnit.MILLISECONDS.sleep(PERIOD_MS);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
            if (server.heard()) {
                Twin.Injected now = board.inline();
                server.send(String.format(
                                Locale.ROOT,
                                "%.3f,%.4f,%.4f\n",
                                board.nowS(),
                                board.noisy(now.volts(), 1e-3),
                                board.noisy(now.amps(), 1e-3))
                        .getBytes(StandardCharsets.US_ASCII));
            }
        }
    }

    @Override
    public void close() {
        server.close();
    }
}
