package ohmoscope.formats.frames;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.OptionalInt;
import java.util.zip.CRC32;
import java.util.zip.DeflaterOutputStream;
import ohmoscope.formats.BundleException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files that are small and say that they are large, or lead their reader in circles. */
class HostileFilesTest {
    @TempDir
    Path temp;

    private FrameStack read(String name, byte[] content) throws IOException {
        Path path = Files.write(temp.resolve(name), content);
        return FrameStack.read(List.of(new FrameFile(name, path)));
    }

    /** Black, one bit a pixel. */
    private static byte[] png(int width, int height) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'});
        chunk(
                out,
                "IHDR",
                ByteBuffer.allocate(13)
                        .putInt(width)
                        .putInt(height)
                        .put((byte) 1)
                        .array());
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (DeflaterOutputStream rows = new DeflaterOutputStream(packed)) {
            byte[] row = new byte[1 + (width + 7) / 8];
            for (int y = 0; y < height; y++) {
                rows.write(row);
            }
        }
        chunk(out, "IDAT", packed.toByteArray());
        chunk(out, "IEND", new byte[0]);
        return out.toByteArray();
    }

    private static void chunk(ByteArrayOutputStream out, String type, byte[] content) throws IOException {
        DataOutputStream data = new DataOutputStream(out);
        byte[] name = type.getBytes(StandardCharsets.US_ASCII);
        CRC32 sum = new CRC32();
        sum.update(name);
        sum.update(content);
        data.writeInt(content.length);
        data.write(name);
        data.write(content);
        data.writeInt((int) sum.getValue());
    }

    @Test
    void aPictureThatUnpacksToGigabytesIsRefusedByItsHeader() throws Exception {
        byte[] bomb = png(20_000, 20_000);
        assertThat(bomb.length).isLessThan(100_000);
        assertThatThrownBy(() -> read("bomb.png", bomb))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("bomb.png")
                .hasMessageContaining("20000×20000")
                .hasMessageContaining("4096");
    }

    /** One directory without entries, which names itself as the next one. */
    private static byte[] tiff(int next) {
        return ByteBuffer.allocate(6_000)
                .order(ByteOrder.LITTLE_ENDIAN)
                .put((byte) 'I')
                .put((byte) 'I')
                .putShort((short) 42)
                .putInt(8)
                .putShort((short) 0)
                .putInt(next)
                .array();
    }

    @Test
    void aDirectoryThatLeadsToItselfEnds() {
        org.junit.jupiter.api.Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(10),
                () -> assertThatThrownBy(() -> read("circle.tif", tiff(8)))
                        .isInstanceOf(BundleException.class)
                        .hasMessageContaining("circle.tif")
                        .hasMessageContaining("is followed by a page before it"));
        assertThatThrownBy(() -> read("beyond.tif", tiff(1_000_000)))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("cut off");
    }

    @Test
    void pagesAreCountedByTheirDirectories() throws IOException {
        Path path = Files.write(temp.resolve("one.tif"), tiff(0));
        assertThat(TiffPages.count(new FrameFile("one.tif", path))).isEqualTo(OptionalInt.of(1));
        Path other = Files.write(temp.resolve("no.tif"), "P5 2 2 255\n".getBytes(StandardCharsets.US_ASCII));
        assertThat(TiffPages.count(new FrameFile("no.tif", other))).isEmpty();
    }

    @Test
    void anArrayThatSaysItIsHugeIsRefusedByItsHeader() {
        String header = "{'descr': '<u2', 'fortran_order': False, 'shape': (3, 2000000000, 2000000000), }\n";
        ByteBuffer npy = ByteBuffer.allocate(10 + header.length()).order(ByteOrder.LITTLE_ENDIAN);
        npy.put((byte) 0x93)
                .put("NUMPY".getBytes(StandardCharsets.US_ASCII))
                .put((byte) 1)
                .put((byte) 0);
        npy.putShort((short) header.length()).put(header.getBytes(StandardCharsets.US_ASCII));
        assertThatThrownBy(() -> read("huge.npy", npy.array()))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("4096");
        assertThatThrownBy(() -> read("huge.pgm", "P5 9000 9000 65535\n".getBytes(StandardCharsets.US_ASCII)))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("9000×9000");
    }
}
