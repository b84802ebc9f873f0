package ohmoscope.bench.standin;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** A device that speaks without being asked: on loopback only, the same to all who call. A slow one is let go of. */
final class StreamServer implements AutoCloseable {
    private static final int BUFFER = 1 << 20;

    private final ServerSocket server;
    private final List<Socket> callers = new CopyOnWriteArrayList<>();

    /** @throws UncheckedIOException where the port is taken */
    StreamServer(String name, int port) {
        try {
            server = new ServerSocket(port, 8, InetAddress.getLoopbackAddress());
        } catch (IOException taken) {
            throw new UncheckedIOException("port " + port + " for the " + name + " is taken", taken);
        }
        LineServer.daemon(name, this::welcome).start();
    }

    int port() {
        return server.getLocalPort();
    }

    boolean heard() {
        return !callers.isEmpty();
    }

    boolean closed() {
        return server.isClosed();
    }

    private void welcome() {
        while (!server.isClosed()) {
            try {
                Socket caller = server.accept();
                caller.setTcpNoDelay(true);
                caller.setSendBufferSize(BUFFER);
                callers.add(caller);
            } catch (IOException closed) {
                // The server was closed, or a caller went before it was there.
            }
        }
    }

    void send(byte[] message) {
        for (Socket caller : callers) {
            try {
                OutputStream out = caller.getOutputStream();
                out.write(message);
                out.flush();
            } catch (IOException gone) {
                LineServer.quietly(caller);
                callers.remove(caller);
            }
        }
    }

    void hangUp() {
        callers.forEach(LineServer::quietly);
        callers.clear();
    }

    @Override
    public void close() {
        LineServer.quietly(server);
        hangUp();
    }
}
