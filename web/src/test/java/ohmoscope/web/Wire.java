package ohmoscope.web;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** The wire between an application and its database: it can be cut, and mended. */
final class Wire implements AutoCloseable {
    private final int to;
    private final ServerSocket here = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    private final List<Socket> ends = new CopyOnWriteArrayList<>();
    private volatile boolean whole = true;

    Wire(int toPort) throws IOException {
        to = toPort;
        daemon(this::accept);
    }

    int port() {
        return here.getLocalPort();
    }

    void cut() {
        whole = false;
        ends.forEach(Wire::hangUp);
        ends.clear();
    }

    void mend() {
        whole = true;
    }

    @Override
    public void close() throws IOException {
        here.close();
        cut();
    }

    private void accept() {
        while (!here.isClosed()) {
            try {
                Socket near = here.accept();
                if (!whole) {
                    near.close();
                    continue;
                }
                Socket far = new Socket(InetAddress.getLoopbackAddress(), to);
                ends.addAll(List.of(near, far));
                daemon(() -> carry(near, far));
                daemon(() -> carry(far, near));
            } catch (IOException gone) {
                // The next one may come through.
            }
        }
    }

    private static void carry(Socket from, Socket to) {
        try (from;
                to) {
            from.getInputStream().transferTo(to.getOutputStream());
        } catch (IOException gone) {
            // Both ends are closed with it.
        }
    }

    private static void hangUp(Socket end) {
        try {
            end.close();
        } catch (IOException gone) {
            // It is closed either way.
        }
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work, "wire");
        thread.setDaemon(true);
        thread.start();
    }
}
