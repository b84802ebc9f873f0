package ohmoscope.bench.standin;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import ohmoscope.sim.LiveScene;

/** A thermal camera that sends its frames as binary PGM images of 16 bits, the time stamp in a comment line of each. */
final class StandInCamera implements AutoCloseable {
    private final StreamServer server;
    private final StandInBoard board;
    private final LiveScene scene;
    private final double showsTimes;
    private final int lostEvery;
    private int frames;

    StandInCamera(StandInBoard board, LiveScene scene, Mishaps mishaps, int lostEvery, int port) {
        showsTimes = mishaps.of(Mishaps.Kind.SHOWS_TIMES).orElse(1);
        this.board = board;
        this.scene = scene;
        this.lostEvery = lostEvery;
        server = new StreamServer("camera", port);
        LineServer.daemon("camera", this::look).start();
    }

    int port() {
        return server.port();
    }

    void hangUp() {
        server.hangUp();
    }

    /** While nobody looks, nothing is drawn; the heat goes on. */
    private void look() {
        long period = (long) (1e9 / scene.camera().framesPerSecond());
        long due = System.nanoTime();
        while (!server.closed()) {
            due += period;
            long left = due - System.nanoTime();
            try {
                TimeUnit.NANOSECONDS.sleep(Math.max(0, left));
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
            // A machine that was too busy leaves frames out, as a camera does, and does not hurry after them.
            due = Math.max(due, System.nanoTime() - period);
            board.goOn();
            double tS = board.nowS();
            if (!server.heard()) {
                scene.goOn(tS);
            } else {
                char[] counts = shown(scene.frame(tS));
                frames++;
                if (lostEvery == 0 || frames % lostEvery != 0) {
                    server.send(message(counts, tS));
                }
            }
        }
    }

    private char[] shown(char[] counts) {
        if (showsTimes == 1) {
            return counts;
        }
        char[] shown = new char[counts.length];
        for (int i = 0; i < counts.length; i++) {
            double differs = counts[i] * LiveScene.KELVIN_PER_COUNT - LiveScene.AMBIENT_K;
            double kelvin = LiveScene.AMBIENT_K + showsTimes * differs;
            shown[i] = (char) Math.max(0, Math.min(Character.MAX_VALUE, kelvin / LiveScene.KELVIN_PER_COUNT));
        }
        return shown;
    }

    private byte[] message(char[] counts, double tS) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(2 * counts.length + 100);
        out.writeBytes(String.format(
                        Locale.ROOT,
                        "P5\n# t_s %.6f frame %d kelvin_per_count %s kelvin_at_zero 0\n%d %d\n65535\n",
                        tS,
                        frames,
                        LiveScene.KELVIN_PER_COUNT,
                        scene.camera().width(),
                        scene.camera().height())
                .getBytes(StandardCharsets.US_ASCII));
        byte[] bytes = new byte[2 * counts.length];
        for (int i = 0; i < counts.length; i++) {
            bytes[2 * i] = (byte) (counts[i] >> 8);
            bytes[2 * i + 1] = (byte) counts[i];
        }
        out.writeBytes(bytes);
        return out.toByteArray();
    }

    @Override
    public void close() {
        server.close();
    }
}
