package ohmoscope.formats.frames;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.PgmFrames;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class FrameStackTest {
    private static final int W = 12;
    private static final int H = 9;
    private static final List<RegistrationPair> CORNERS = List.of(
            new RegistrationPair(0, 8, 0, 0),
            new RegistrationPair(11, 8, 11, 0),
            new RegistrationPair(11, 0, 11, 8),
            new RegistrationPair(0, 0, 0, 8));

    @TempDir
    Path temp;

    private static int value(int frame, int x, int y) {
        return 1000 + 100 * frame + 10 * y + x;
    }

    private FrameFile file(String name, byte[] content) throws IOException {
        Path path = temp.resolve(name);
        Files.write(path, content);
        return new FrameFile(name, path);
    }

    private FrameFile text(String name, String content) throws IOException {
        return file(name, content.getBytes(StandardCharsets.UTF_8));
    }

    private static byte[] pgm(int frame) throws IOException {
        char[] counts = new char[W * H];
        for (int i = 0; i < counts.length; i++) {
            counts[i] = (char) value(frame, i % W, i / W);
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        PgmFrames.write(out, W, H, counts);
        return out.toByteArray();
    }

    private static byte[] png16(int frame) throws IOException {
        BufferedImage image = new BufferedImage(W, H, BufferedImage.TYPE_USHORT_GRAY);
        for (int i = 0; i < W * H; i++) {
            image.getRaster().setSample(i % W, i / W, 0, value(frame, i % W, i / W));
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(image, "png", out);
        return out.toByteArray();
    }

    private static byte[] npy(String descr, String shape, boolean fortran, ByteBuffer data) {
        StringBuilder header = new StringBuilder("{'descr': '" + descr + "', 'fortran_order': "
                + (fortran ? "True" : "False") + ", 'shape': (" + shape + "), }");
        while ((header.length() + 11) % 64 != 0) {
            header.append(' ');
        }
        header.append('\n');
        ByteBuffer all =
                ByteBuffer.allocate(10 + header.length() + data.capacity()).order(ByteOrder.LITTLE_ENDIAN);
        all.put((byte) 0x93)
                .put("NUMPY".getBytes(StandardCharsets.US_ASCII))
                .put((byte) 1)
                .put((byte) 0);
        all.putShort((short) header.length()).put(header.toString().getBytes(StandardCharsets.US_ASCII));
        all.put(data.array());
        return all.array();
    }

    private static ByteBuffer stackOf(String descr, int frames) {
        ByteBuffer data = ByteBuffer.allocate(frames * W * H * (descr.charAt(2) - '0'))
                .order(descr.startsWith(">") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
        for (int f = 0; f < frames; f++) {
            for (int i = 0; i < W * H; i++) {
                int v = value(f, i % W, i / W);
                switch (descr.substring(1)) {
                    case "u2", "i2" -> data.putShort((short) v);
                    case "i4", "u4" -> data.putInt(v);
                    case "f4" -> data.putFloat(v);
                    default -> data.putDouble(v);
                }
            }
        }
        return data;
    }

    private static List<float[]> all(FrameStack stack) throws IOException {
        List<float[]> frames = new ArrayList<>();
        float[] values = new float[stack.width() * stack.height()];
        try (FloatFrames.Cursor cursor = stack.frames().open()) {
            while (cursor.next(values)) {
                frames.add(values.clone());
            }
        }
        return frames;
    }

    private static void assertThreeFrames(FrameStack stack) throws IOException {
        assertThat(stack.width()).isEqualTo(W);
        assertThat(stack.height()).isEqualTo(H);
        assertThat(stack.count()).isEqualTo(3);
        // Twice: a stack can be read as often as needed.
        for (int pass = 0; pass < 2; pass++) {
            List<float[]> frames = all(stack);
            assertThat(frames).hasSize(3);
            for (int f = 0; f < 3; f++) {
                for (int i = 0; i < W * H; i++) {
                    assertThat(frames.get(f)[i]).isEqualTo(value(f, i % W, i / W));
                }
            }
        }
    }

    @Test
    void aPgmSequenceIsReadInTheOrderOfItsNumbers() throws Exception {
        FrameStack stack =
                FrameStack.read(List.of(file("f10.pgm", pgm(2)), file("f2.pgm", pgm(1)), file("f1.pgm", pgm(0))));
        assertThreeFrames(stack);
        assertThat(stack.depth()).isEqualTo(Depth.SIXTEEN_BIT);
    }

    @Test
    void aPgmFileMayHoldManyImagesAndComments() throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(pgm(0));
        out.write(new String(pgm(1), StandardCharsets.ISO_8859_1)
                .replaceFirst("P5\n", "P5\n# made on a bench\n# twice\n")
                .getBytes(StandardCharsets.ISO_8859_1));
        out.write(pgm(2));
        assertThreeFrames(FrameStack.read(List.of(file("all.pgm", out.toByteArray()))));
    }

    @Test
    void sixteenBitPngIsRead() throws Exception {
        FrameStack stack =
                FrameStack.read(List.of(file("a1.png", png16(0)), file("a2.png", png16(1)), file("a3.png", png16(2))));
        assertThreeFrames(stack);
        assertThat(stack.depth()).isEqualTo(Depth.SIXTEEN_BIT);
    }

    @Test
    void aTiffOfManyFloatPagesComesBackAsItWasWritten() throws Exception {
        CaptureSpec spec = new CaptureSpec(
                "c",
                Side.TOP,
                W,
                H,
                1,
                0,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                CORNERS,
                List.of(0d, 1d, 2d));
        FrameSource source = () -> new FrameSource.Cursor() {
            private int f;

            @Override
            public boolean next(char[] counts) {
                for (int i = 0; i < counts.length && f < 3; i++) {
                    counts[i] = (char) value(f, i % W, i / W);
                }
                return f++ < 3;
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        FrameExport.tiff(spec, source, out);
        FrameStack stack = FrameStack.read(List.of(file("movie.tiff", out.toByteArray())));
        assertThreeFrames(stack);
        assertThat(stack.depth()).isEqualTo(Depth.FLOAT);
    }

    @ParameterizedTest
    @CsvSource({"<u2", "<i2", ">u2", "<i4", "<f4", ">f4", "<f8"})
    void numpyArraysAreRead(String descr) throws Exception {
        FrameStack stack =
                FrameStack.read(List.of(file("stack.npy", npy(descr, "3, " + H + ", " + W, false, stackOf(descr, 3)))));
        assertThreeFrames(stack);
        assertThat(stack.depth()).isEqualTo(descr.contains("f") ? Depth.FLOAT : Depth.SIXTEEN_BIT);
    }

    @Test
    void anNpzBringsItsTimes() throws Exception {
        ByteBuffer times = ByteBuffer.allocate(24).order(ByteOrder.LITTLE_ENDIAN);
        times.putDouble(5).putDouble(5.1).putDouble(5.25);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("t.npy"));
            zip.write(npy("<f8", "3,", false, times));
            zip.putNextEntry(new ZipEntry("frames.npy"));
            zip.write(npy("<u2", "3, " + H + ", " + W, false, stackOf("<u2", 3)));
        }
        FrameStack stack = FrameStack.read(List.of(file("stack.npz", out.toByteArray())));
        assertThreeFrames(stack);
        assertThat(stack.timesS()).contains(List.of(5d, 5.1, 5.25));
    }

    private static String matrix(int frame, String divider, boolean comma) {
        StringBuilder text = new StringBuilder();
        for (int y = 0; y < H; y++) {
            for (int x = 0; x < W; x++) {
                text.append(x > 0 ? divider : "").append(value(frame, x, y)).append(comma ? ",0" : ".0");
            }
            text.append('\n');
        }
        return text.toString();
    }

    @Test
    void csvMatricesMayShareAFileOrHaveOneEach() throws Exception {
        assertThreeFrames(FrameStack.read(List.of(text(
                "all.csv",
                "camera on the bench\n" + matrix(0, ",", false) + "\n" + matrix(1, ",", false) + "\n\n"
                        + matrix(2, ",", false)))));
        assertThreeFrames(FrameStack.read(List.of(
                text("m1.csv", matrix(0, ";", true)),
                text("m2.csv", matrix(1, ";", true)),
                text("m3.csv", matrix(2, "\t", false)))));
    }

    @Test
    void timesBesideTheFramesAreTaken() throws Exception {
        FrameStack stack = FrameStack.read(List.of(
                file("f1.pgm", pgm(0)), file("f2.pgm", pgm(1)), text("times.csv", "frame,t_s\n0,10\n1,10.4\n")));
        assertThat(stack.timesS()).contains(List.of(10d, 10.4));
    }

    @Test
    void aPictureForTheEyeIsSaidToBeOne() throws Exception {
        BufferedImage image = new BufferedImage(W, H, BufferedImage.TYPE_INT_RGB);
        image.setRGB(3, 4, 0xffffff);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(image, "png", out);
        FrameStack stack = FrameStack.read(List.of(file("a.png", out.toByteArray()), file("b.png", out.toByteArray())));
        assertThat(stack.depth()).isEqualTo(Depth.EIGHT_BIT);
        assertThat(stack.stillPictures()).isTrue();
        assertThat(all(stack).get(0)[4 * W + 3]).isCloseTo(255, within(0.1f));
    }

    @Test
    void whatCannotBeUsedIsNamed() throws Exception {
        assertRefused(
                "f2.pgm",
                "the first is 12×9",
                file("f1.pgm", pgm(0)),
                text("f2.pgm", "P5\n20 20\n65535\n" + "x".repeat(800)));
        byte[] cut = pgm(0);
        assertRefused(
                "cut off",
                "image 1",
                file("c1.pgm", java.util.Arrays.copyOf(cut, cut.length - 9)),
                file("c2.pgm", cut));
        assertRefused("e.pgm", "is empty", text("e.pgm", ""));
        assertRefused("x.pgm", "P5", text("x.pgm", "P2\n3 3\n255\n1 2 3"));
        assertRefused("one.pgm", "at least two", file("one.pgm", pgm(0)));
        assertRefused("word.dat", "not a picture", text("word.dat", "hello"));
        assertRefused(
                "a.npy", "rows × columns was expected", file("a.npy", npy("<u2", "9, 12", false, stackOf("<u2", 1))));
        assertRefused("b.npy", "column by column", file("b.npy", npy("<u2", "1, 9, 12", true, stackOf("<u2", 1))));
        assertRefused("d.npy", "uint8, uint16", file("d.npy", npy("<c8", "1, 9, 12", false, stackOf("<f8", 1))));
        assertRefused("n.csv", "line 2, field 2", text("n.csv", "1,2,3\n4,x,6\n"));
        assertRefused("r.csv", "has 2 numbers", text("r.csv", "1,2,3\n4,5\n"));
        assertRefused(
                "times",
                "3 rows for 2 frames",
                file("g1.pgm", pgm(0)),
                file("g2.pgm", pgm(1)),
                text("t.csv", "t_s\n1\n2\n3\n"));
        assertRefused(
                "t2.csv", "line 3", file("g1.pgm", pgm(0)), file("g2.pgm", pgm(1)), text("t2.csv", "t_s\n1\nnoon\n"));
        assertThatThrownBy(() -> FrameStack.read(List.of())).hasMessageContaining("missing");
    }

    private static void assertRefused(String first, String second, FrameFile... files) {
        assertThatThrownBy(() -> all(FrameStack.read(List.of(files))))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining(first)
                .hasMessageContaining(second);
    }

    private Capture capture(StackCapture.Reading reading) throws Exception {
        FrameStack stack = FrameStack.read(List.of(file("f1.pgm", pgm(0)), file("f2.pgm", pgm(1))));
        return StackCapture.of(stack, reading, "cam", Side.TOP, CORNERS);
    }

    private static StackCapture.Reading reading(Scale scale, Turn turn) {
        return new StackCapture.Reading(scale, turn, 5, 2, OptionalDouble.of(0.05));
    }

    @Test
    void aScaleThroughTwoKnownTemperaturesMakesKelvin() throws Exception {
        // 1000 counts at 20 °C and 1200 at 40 °C: a tenth of a kelvin each.
        Capture capture = capture(reading(Scale.through(1000, 20, 1200, 40), Turn.NONE));
        assertThat(capture.spec().times()).containsExactly(2, 2.2);
        char[] counts = new char[W * H];
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            assertThat(cursor.next(counts)).isTrue();
            assertThat(capture.spec().kelvin(counts[0])).isCloseTo(293.15, within(0.002));
            assertThat(cursor.next(counts)).isTrue();
            assertThat(capture.spec().kelvin(counts[5 * W + 3])).isCloseTo(293.15 + 15.3, within(0.002));
            assertThat(cursor.next(counts)).isFalse();
        }
    }

    @ParameterizedTest
    @EnumSource(Turn.class)
    void turningMovesTheFirstPixelToItsCorner(Turn turn) throws Exception {
        Capture capture = capture(reading(new Scale.Linear(0.01, 280), turn));
        int w = capture.spec().width();
        int h = capture.spec().height();
        assertThat(w).isEqualTo(turn == Turn.RIGHT || turn == Turn.LEFT ? H : W);
        char[] counts = new char[W * H];
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            cursor.next(counts);
        }
        int corner = switch (turn) {
            case NONE -> 0;
            case RIGHT, MIRRORED -> w - 1;
            case HALF -> w * h - 1;
            case LEFT -> (h - 1) * w;
        };
        assertThat(capture.spec().kelvin(counts[corner])).isCloseTo(280 + 10, within(0.001));
    }

    @Test
    void aScaleThatMakesNonsenseIsRefused() {
        assertThatThrownBy(() -> capture(reading(new Scale.Linear(5, 280), Turn.NONE)))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("makes 5280");
        assertThatThrownBy(() -> Scale.through(1000, 20, 1000, 40)).hasMessageContaining("two different");
        assertThatThrownBy(() -> Scale.through(1000, 40, 1200, 20)).hasMessageContaining("higher temperature");
    }

    @Test
    void picturesGoOutAsPngAndCsv() throws Exception {
        float[] picture = {0, 1, 2, 3, 4, 5};
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        FrameExport.png(picture, 3, 2, png);
        BufferedImage image = ImageIO.read(new java.io.ByteArrayInputStream(png.toByteArray()));
        assertThat(image.getRaster().getSample(0, 0, 0)).isZero();
        assertThat(image.getRaster().getSample(1, 1, 0)).isEqualTo(65_535);
        ByteArrayOutputStream csv = new ByteArrayOutputStream();
        FrameExport.csv(picture, 3, csv);
        assertThat(csv.toString(StandardCharsets.US_ASCII)).isEqualTo("0.0000,1.0000,2.0000\n3.0000,4.0000,5.0000\n");
        ByteArrayOutputStream tiff = new ByteArrayOutputStream();
        FrameExport.tiff(picture, 3, 2, tiff);
        assertThat(tiff.toByteArray()).startsWith('M', 'M');
        try (OutputStream nowhere = OutputStream.nullOutputStream()) {
            FrameExport.csv(picture, 3, nowhere);
        }
    }
}
