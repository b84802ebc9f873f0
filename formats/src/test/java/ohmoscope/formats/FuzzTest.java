package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Stream;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.formats.frames.FloatFrames;
import ohmoscope.formats.frames.FrameFile;
import ohmoscope.formats.frames.FrameStack;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Good files with bytes turned over, cut off, doubled or filled with what breaks readers. Each is read to its end within ten
 * seconds or refused in a sentence. {@code -Dohmoscope.fuzz=N} makes N spoilt files of each kind.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FuzzTest {
    private static final int EACH = Integer.getInteger("ohmoscope.fuzz", 120);
    private static final long MOST_SECONDS = 10;
    private static final long MOST_KEPT_BYTES = 8L << 20;
    private static final int W = 24;
    private static final int H = 18;
    private static final String[] NASTY = {
        "\u0000",
        "-1",
        "0",
        "1e309",
        "4000000000",
        "9".repeat(400),
        "NaN",
        "null",
        "[]",
        "{}",
        "\"\\ud800\"",
        "../../x",
        "(((",
        "\r\n"
    };

    private final ExecutorService one = Executors.newSingleThreadExecutor();

    @TempDir
    Path temp;

    @AfterAll
    void stop() {
        one.shutdownNow();
    }

    /** A kind of file: a good one, and how it is read to its end. */
    record Kind(String name, byte[] good, Reading reading) {
        @Override
        public String toString() {
            return name;
        }
    }

    interface Reading {
        void all(Path file) throws IOException;
    }

    static Stream<Kind> kinds() throws IOException {
        ByteArrayOutputStream zip = new ByteArrayOutputStream();
        BundleWriter.zip(Bundles.good(), zip);
        return Stream.of(
                new Kind("bundle.zip", zip.toByteArray(), FuzzTest::bundle),
                new Kind("frames.tiff", tiff(), FuzzTest::frames),
                new Kind("frame.png", image("png"), FuzzTest::frames),
                new Kind("frame.jpg", image("jpg"), FuzzTest::frames),
                new Kind("frame.bmp", image("bmp"), FuzzTest::frames),
                new Kind("frames.pgm", pgm(), FuzzTest::frames),
                new Kind("frames.npy", npy(), FuzzTest::frames),
                new Kind("frames.csv", csv(), FuzzTest::frames),
                new Kind(
                        "supply.csv",
                        "t_s,volts,amps,output\n0,0,0,0\n0.2,0.5,2,1\n0.4,0.5,2,1\n0.6,0,0,0\n"
                                .getBytes(StandardCharsets.UTF_8),
                        f -> SupplyCsv.read(text(f))),
                new Kind(
                        "trace.csv",
                        "t_s,volts,amps\n0,5.1,0.02\n0.1,5.1,0.03\n0.2,5.0,0.4\n".getBytes(StandardCharsets.UTF_8),
                        f -> TraceCsv.read(text(f), "trace.csv")),
                new Kind(
                        "entry.txt",
                        "inj VSYS 1V 2A 31mV 2.00A at C3 leads 10mohm burst\n".getBytes(StandardCharsets.UTF_8),
                        FuzzTest::entry));
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void aSpoiltFileIsReadOrRefusedInTime(Kind kind) throws Exception {
        Random random = new Random(17L * kind.name().hashCode());
        Path file = temp.resolve(kind.name());
        long usedBefore = 0;
        for (int i = 0; i < EACH; i++) {
            if (i == EACH / 3) {
                usedBefore = used();
            }
            byte[] spoilt = spoilt(kind.good(), random);
            Files.write(file, spoilt);
            within(kind + " " + i, () -> {
                try {
                    kind.reading().all(file);
                } catch (IOException | ohmoscope.core.board.InvalidMember refused) {
                    assertThat(refused.getMessage()).isNotBlank().doesNotContain("java.", "Exception:");
                }
                return null;
            });
        }
        assertThat(used() - usedBefore)
                .as("bytes kept since a third of the way")
                .isLessThan(MOST_KEPT_BYTES);
    }

    /** Heap in use once what nobody holds is gone: picture readers let go of theirs only when a cleaner comes by. */
    private static long used() throws InterruptedException {
        for (int i = 0; i < 3; i++) {
            System.gc();
            Thread.sleep(100);
        }
        return ManagementFactory.getMemoryMXBean().getHeapMemoryUsage().getUsed();
    }

    /** The members inside a ZIP are checked by its own sums: they are spoilt before they are packed. */
    @Test
    void aBundleOfSpoiltMembersIsReadOrRefused() throws Exception {
        Random random = new Random(5);
        for (int i = 0; i < EACH; i++) {
            Path folder = Bundles.folder(temp);
            List<Path> members;
            try (Stream<Path> all = Files.walk(folder)) {
                members = all.filter(Files::isRegularFile).sorted().toList();
            }
            Path member = members.get(random.nextInt(members.size()));
            Files.write(member, spoilt(Files.readAllBytes(member), random));
            within("member " + i, () -> {
                try {
                    bundle(folder);
                } catch (BundleException refused) {
                    assertThat(refused.getMessage()).isNotBlank().doesNotContain("java.", "Exception:");
                }
                return null;
            });
        }
    }

    private void within(String what, Callable<Void> work) throws Exception {
        Future<Void> done = one.submit(work);
        try {
            done.get(MOST_SECONDS, TimeUnit.SECONDS);
        } catch (TimeoutException hangs) {
            throw new AssertionError(what + " hangs", hangs);
        } catch (ExecutionException broken) {
            throw new AssertionError(what + " breaks its reader", broken.getCause());
        }
    }

    private static byte[] spoilt(byte[] good, Random random) {
        byte[] bytes = good.clone();
        int times = 1 + random.nextInt(4);
        for (int i = 0; i < times; i++) {
            int at = random.nextInt(Math.max(1, bytes.length));
            // Heads decide more than what follows.
            at = random.nextBoolean() ? at : at % Math.min(bytes.length == 0 ? 1 : bytes.length, 200);
            switch (random.nextInt(6)) {
                case 0 -> bytes = java.util.Arrays.copyOf(bytes, at);
                case 1 ->
                    bytes = joined(bytes, at, NASTY[random.nextInt(NASTY.length)].getBytes(StandardCharsets.UTF_8));
                case 2 -> bytes = joined(bytes, at, java.util.Arrays.copyOfRange(good, 0, Math.min(good.length, 64)));
                case 3 -> {
                    for (int k = at; k < Math.min(bytes.length, at + 4); k++) {
                        bytes[k] = (byte) 0xff;
                    }
                }
                default -> {
                    if (bytes.length > 0) {
                        bytes[at] ^= (byte) (1 << random.nextInt(8));
                    }
                }
            }
        }
        return bytes;
    }

    private static byte[] joined(byte[] bytes, int at, byte[] more) {
        byte[] all = new byte[bytes.length + more.length];
        System.arraycopy(bytes, 0, all, 0, at);
        System.arraycopy(more, 0, all, at, more.length);
        System.arraycopy(bytes, at, all, at + more.length, bytes.length - at);
        return all;
    }

    private static String text(Path file) throws IOException {
        return new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
    }

    private static void entry(Path file) throws IOException {
        new EntryLine(Fixtures.board()).parse(text(file), 1);
    }

    private static void bundle(Path file) throws IOException {
        Bundle bundle = new BundleReader().read(file);
        for (var capture : bundle.captures()) {
            try (FrameSource.Cursor cursor = capture.frames().open()) {
                char[] counts = new char[capture.spec().pixels()];
                while (cursor.next(counts)) {
                    assertThat(counts).isNotEmpty();
                }
            }
        }
        bundle.advise();
    }

    private static void frames(Path file) throws IOException {
        FrameStack stack = FrameStack.read(List.of(
                new FrameFile(file.getFileName().toString(), file), new FrameFile("b-" + file.getFileName(), file)));
        float[] values = new float[stack.width() * stack.height()];
        try (FloatFrames.Cursor cursor = stack.frames().open()) {
            int read = 0;
            while (read++ < 200 && cursor.next(values)) {
                assertThat(values).isNotEmpty();
            }
        }
    }

    private static BufferedImage picture(int type) {
        BufferedImage image = new BufferedImage(W, H, type);
        for (int i = 0; i < W * H; i++) {
            image.getRaster().setSample(i % W, i / W, 0, 1000 + 7 * i);
        }
        return image;
    }

    private static byte[] image(String format) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        int type = format.equals("png") ? BufferedImage.TYPE_USHORT_GRAY : BufferedImage.TYPE_3BYTE_BGR;
        assertThat(ImageIO.write(picture(type), format, out)).isTrue();
        return out.toByteArray();
    }

    private static byte[] tiff() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        ImageWriter writer = ImageIO.getImageWritersByFormatName("tiff").next();
        try (ImageOutputStream out = ImageIO.createImageOutputStream(bytes)) {
            writer.setOutput(out);
            writer.prepareWriteSequence(null);
            for (int i = 0; i < 3; i++) {
                writer.writeToSequence(new IIOImage(picture(BufferedImage.TYPE_USHORT_GRAY), null, null), null);
            }
            writer.endWriteSequence();
        }
        writer.dispose();
        return bytes.toByteArray();
    }

    private static byte[] pgm() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < 3; i++) {
            PgmFrames.write(out, W, H, new char[W * H]);
        }
        return out.toByteArray();
    }

    private static byte[] npy() {
        StringBuilder header =
                new StringBuilder("{'descr': '<u2', 'fortran_order': False, 'shape': (3, " + H + ", " + W + "), }");
        while ((header.length() + 11) % 64 != 0) {
            header.append(' ');
        }
        header.append('\n');
        ByteBuffer all = ByteBuffer.allocate(10 + header.length() + 6 * W * H).order(ByteOrder.LITTLE_ENDIAN);
        all.put((byte) 0x93)
                .put("NUMPY".getBytes(StandardCharsets.US_ASCII))
                .put((byte) 1)
                .put((byte) 0);
        all.putShort((short) header.length()).put(header.toString().getBytes(StandardCharsets.US_ASCII));
        return all.array();
    }

    private static byte[] csv() {
        List<String> rows = new ArrayList<>();
        for (int y = 0; y < H; y++) {
            rows.add("20.5,".repeat(W - 1) + "21");
        }
        return String.join("\n", rows).getBytes(StandardCharsets.UTF_8);
    }
}
