package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.Set;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.core.instrument.ThermalCamera.Frame;
import ohmoscope.core.instrument.ThermalCamera.Scale;
import ohmoscope.sim.BenchSetup;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class CamerasTest {
    private static final Scale ENTERED = new Scale(0.04, -273);
    private static final int W = 80;
    private static final int H = 62;

    private static StandInBench bench(int lostEvery) {
        Board board = PowerFixtures.board();
        return new StandInBench(
                new StandInBench.Laid(
                        board,
                        "VMAIN",
                        "C3",
                        Map.of("C3", 0.05),
                        Set.of(),
                        0.05,
                        Side.TOP,
                        new BenchSetup.Camera(W, H, 40, 0, 0.06, 0.2, 1, 0, 0.2),
                        3),
                Mishaps.NONE,
                Vices.NONE,
                lostEvery,
                StandInBench.Ports.ANY,
                line -> {});
    }

    private static StreamCamera camera(int port, int patienceMillis) {
        return new StreamCamera(
                new Address("127.0.0.1", port), Duration.ofMillis(patienceMillis), ENTERED, System::nanoTime);
    }

    @Test
    void framesComeWithTheCamerasClockAndScale() throws Exception {
        try (StandInBench bench = bench(0);
                ThermalCamera camera = camera(bench.ports().camera(), 5_000)) {
            Frame first = camera.next();
            Frame second = camera.next();
            assertThat(first.width()).isEqualTo(W);
            assertThat(first.height()).isEqualTo(H);
            assertThat(camera.scale()).isEqualTo(new Scale(0.01, 0));
            assertThat(second.stampS().getAsDouble())
                    .isGreaterThan(first.stampS().getAsDouble());
            assertThat(second.atNanos()).isGreaterThan(first.atNanos());
            assertThat(first.counts()[W * H / 2] * 0.01).isCloseTo(296, within(6.0));
        }
    }

    @Test
    void framesLostOnTheWayAreCounted() throws Exception {
        try (StandInBench bench = bench(4);
                ThermalCamera camera = camera(bench.ports().camera(), 5_000)) {
            int lost = 0;
            for (int i = 0; i < 12; i++) {
                lost += camera.next().lost();
            }
            assertThat(lost).isBetween(3, 4);
        }
    }

    @Test
    void aCameraThatWasUnpluggedIsHeardOnceAndThenThereAgain() throws Exception {
        try (StandInBench bench = bench(0);
                ThermalCamera camera = camera(bench.ports().camera(), 5_000)) {
            camera.next();
            bench.pullCamera();
            assertThatThrownBy(() -> {
                        while (true) {
                            camera.next();
                        }
                    })
                    .isInstanceOfSatisfying(
                            InstrumentException.class,
                            e -> assertThat(e.trouble()).isEqualTo(Trouble.LOST))
                    .hasMessageContaining("look at its cable");
            assertThat(camera.next().width()).isEqualTo(W);
        }
    }

    /** Answers each caller with the same bytes, and leaves the line open. */
    private static ServerSocket saying(byte[] bytes) throws IOException {
        ServerSocket server = new ServerSocket(0, 4, InetAddress.getLoopbackAddress());
        Thread thread = new Thread(() -> {
            while (!server.isClosed()) {
                try {
                    Socket caller = server.accept();
                    OutputStream out = caller.getOutputStream();
                    out.write(bytes);
                    out.flush();
                } catch (IOException closed) {
                    // The test is over.
                }
            }
        });
        thread.setDaemon(true);
        thread.start();
        return server;
    }

    private static byte[] pgm(String header, int pixels) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(header.getBytes(StandardCharsets.US_ASCII));
        out.writeBytes(new byte[2 * pixels]);
        return out.toByteArray();
    }

    @Test
    void whatIsNoPictureIsSaidToBeNone() throws Exception {
        for (String wrong :
                new String[] {"GET / HTTP/1.1\r\n", "P5 4 4 65535\n", "P5 80 62 255\n", "P5 many 62 65535\n"}) {
            try (ServerSocket server = saying(pgm(wrong, 10));
                    ThermalCamera camera = camera(server.getLocalPort(), 1_000)) {
                assertThatThrownBy(camera::next)
                        .isInstanceOfSatisfying(
                                InstrumentException.class,
                                e -> assertThat(e.trouble()).isEqualTo(Trouble.GARBLED))
                        .hasMessageContaining("binary PGM images of 16 bits");
            }
        }
    }

    @Test
    void aFrameThatStopsHalfWayIsNotWaitedForLong() throws Exception {
        try (ServerSocket server = saying(pgm("P5 80 62 65535\n", 100));
                ThermalCamera camera = camera(server.getLocalPort(), 200)) {
            assertThatThrownBy(camera::next)
                    .isInstanceOfSatisfying(
                            InstrumentException.class,
                            e -> assertThat(e.trouble()).isEqualTo(Trouble.SLOW));
        }
    }

    @Test
    void withoutAWordOnItsScaleTheEnteredOneHolds() throws Exception {
        try (ServerSocket server = saying(pgm("P5\n# made by hand\n80 62\n65535\n", W * H));
                ThermalCamera camera = camera(server.getLocalPort(), 1_000)) {
            Frame frame = camera.next();
            assertThat(frame.stampS()).isEmpty();
            assertThat(frame.lost()).isZero();
            assertThat(camera.scale()).isEqualTo(ENTERED);
        }
    }

    @Test
    void aFolderGivesItsNewFilesInOrderAndWaitsForAHalfWrittenOne(@TempDir Path folder) throws Exception {
        Files.write(folder.resolve("0.pgm"), pgm("P5 80 62 65535\n", W * H));
        try (ThermalCamera camera = new FolderCamera(folder, Duration.ofMillis(400), ENTERED, System::nanoTime)) {
            assertThatThrownBy(camera::next)
                    .isInstanceOfSatisfying(
                            InstrumentException.class,
                            e -> assertThat(e.trouble()).isEqualTo(Trouble.SLOW))
                    .hasMessageContaining("writes .pgm files");
            Files.write(folder.resolve("2.pgm"), pgm("P5\n# t_s 2 kelvin_per_count 0.02\n80 62\n65535\n", W * H));
            Files.write(folder.resolve("1.pgm"), pgm("P5\n# t_s 1\n80 62\n65535\n", W * H));
            Files.writeString(folder.resolve("notes.txt"), "nothing");
            assertThat(camera.next().stampS().getAsDouble()).isEqualTo(1);
            assertThat(camera.next().stampS().getAsDouble()).isEqualTo(2);
            assertThat(camera.scale().kelvinPerCount()).isEqualTo(0.02);
            Files.write(folder.resolve("3.pgm"), "P5 80 62 65".getBytes(StandardCharsets.US_ASCII));
            Thread writer = new Thread(() -> {
                try {
                    Thread.sleep(80);
                    Files.write(folder.resolve("3.pgm"), pgm("P5\n# t_s 3\n80 62\n65535\n", W * H));
                } catch (IOException | InterruptedException gone) {
                    Thread.currentThread().interrupt();
                }
            });
            writer.start();
            assertThat(camera.next().stampS().getAsDouble()).isEqualTo(3);
            writer.join();
        }
    }
}
