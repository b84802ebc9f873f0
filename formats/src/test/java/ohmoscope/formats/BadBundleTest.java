package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.locate.LocateInput.Capture;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Each kind of bad input has its own clear sentence: the file, the place in it, what was expected. */
class BadBundleTest {
    private static final String FRAMES = "captures/top-1/frames.pgm";
    private static final String TIMES = "captures/top-1/times.csv";

    @TempDir
    Path temp;

    private Path folder;

    @BeforeEach
    void makeGood() throws IOException {
        folder = Bundles.folder(temp);
    }

    private void refused(String... words) {
        assertThatThrownBy(() -> readAll(folder))
                .isInstanceOf(BundleException.class)
                .hasMessageContainingAll(words);
    }

    private void zipRefused(Path zip, String... words) {
        assertThatThrownBy(() -> readAll(zip))
                .isInstanceOf(BundleException.class)
                .hasMessageContainingAll(words);
    }

    private static void readAll(Path path) throws IOException {
        Bundle bundle = new BundleReader().read(path);
        for (Capture capture : bundle.captures()) {
            char[] counts = new char[capture.spec().pixels()];
            try (FrameSource.Cursor cursor = capture.frames().open()) {
                while (cursor.next(counts)) {
                    assertThat(counts).isNotEmpty();
                }
            }
        }
    }

    @Test
    void aTruncatedFrame() throws IOException {
        byte[] frames = Files.readAllBytes(folder.resolve(FRAMES));
        Files.write(folder.resolve(FRAMES), Arrays.copyOf(frames, frames.length - 100));
        refused(FRAMES, "frame 4", "cut off", "764 of 864 bytes");
    }

    @Test
    void aFrameCutInItsHeader() throws IOException {
        byte[] frames = Files.readAllBytes(folder.resolve(FRAMES));
        Files.write(folder.resolve(FRAMES), Arrays.copyOf(frames, frames.length - 870));
        refused(FRAMES, "frame 4", "header");
    }

    @Test
    void aFrameOfAnotherSize() throws IOException {
        byte[] frames = Files.readAllBytes(folder.resolve(FRAMES));
        String header = new String(frames, 0, 20, java.nio.charset.StandardCharsets.ISO_8859_1);
        assertThat(header).contains("24 18");
        frames[3] = '3';
        Files.write(folder.resolve(FRAMES), frames);
        refused(FRAMES, "frame 0", "34×18", "24×18");
    }

    @Test
    void moreRowsThanFrames() throws IOException {
        Files.writeString(folder.resolve(TIMES), Files.readString(folder.resolve(TIMES)) + "5,0.9\n");
        refused(FRAMES, "has 5 frames", "6 rows");
    }

    @Test
    void moreFramesThanRows() throws IOException {
        Bundles.replace(folder, TIMES, "4,0.4", "");
        refused(FRAMES, "more frames than times.csv has rows (4)");
    }

    @Test
    void timesThatGoBackwards() throws IOException {
        Bundles.replace(folder, TIMES, "3,0.3", "3,0.05");
        refused(TIMES, "line 5", "goes backwards");
    }

    @Test
    void supplyTimesThatGoBackwards() throws IOException {
        Bundles.replace(folder, "supply.csv", "0.2,", "0.01,");
        refused("supply.csv", "line 4", "t_s goes backwards");
    }

    @Test
    void notANumberInATable() throws IOException {
        Bundles.replace(folder, "supply.csv", "0.2,0.2,2,1", "0.2,NaN,2,1");
        refused("supply.csv", "line 4", "volts must be a finite number", "NaN");
    }

    @Test
    void notANumberInTheDescription() throws IOException {
        Bundles.replace(folder, "bundle.json", "\"kelvin_per_count\" : 0.01", "\"kelvin_per_count\" : NaN");
        refused("bundle.json", "line", "not valid JSON");
    }

    @Test
    void aThousandMillionKelvin() throws IOException {
        Bundles.replace(folder, "bundle.json", "\"kelvin_at_zero\" : 0", "\"kelvin_at_zero\" : 1e9");
        refused("bundle.json", "captures[0].kelvin_at_zero", "1.0E9");
    }

    @Test
    void aScaleThatMakesFramesHotterThanAnyBoard() throws IOException {
        Bundles.replace(folder, "bundle.json", "\"kelvin_per_count\" : 0.01", "\"kelvin_per_count\" : 100");
        refused(FRAMES, "frame 0", "no board does", "kelvin_per_count");
    }

    @Test
    void aNetThatDoesNotExist() throws IOException {
        Bundles.replace(folder, "board.json", "\"net\" : \"VIN\"", "\"net\" : \"VOUT\"");
        refused("board.json", "parts[0] (F1).pins[0].net", "VOUT", "not in nets");
    }

    @Test
    void aRailThatDoesNotExist() throws IOException {
        Bundles.replace(folder, "bundle.json", "\"rail\" : \"VSYS\"", "\"rail\" : \"V9\"");
        refused("bundle.json", "rail", "V9");
    }

    @Test
    void twoPartsOfOneName() throws IOException {
        Bundles.replace(folder, "board.json", "\"ref\" : \"C2\"", "\"ref\" : \"C1\"");
        refused("board.json", "parts[3] (C1).ref", "stands twice");
    }

    @Test
    void anOutlineThatCrossesItself() throws IOException {
        Bundles.replace(
                folder,
                "board.json",
                "[ 0, 0 ], [ 40, 0 ], [ 40, 30 ], [ 0, 30 ]",
                "[ 0, 0 ], [ 40, 30 ], [ 40, 0 ], [ 0, 30 ]");
        refused("board.json", "outline_mm", "crosses or touches itself near x 20.0 mm");
    }

    @Test
    void fewerThanFourPairs() throws IOException {
        String text = Files.readString(folder.resolve("bundle.json"));
        int last = text.lastIndexOf("}, {", text.indexOf("\"observations\""));
        int end = text.indexOf("} ]", last);
        Files.writeString(folder.resolve("bundle.json"), text.substring(0, last) + text.substring(end));
        refused("bundle.json", "captures[0].registration", "at least four pairs, has 3");
    }

    @Test
    void fourPairsOnOneLine() throws IOException {
        String text = Files.readString(folder.resolve("bundle.json"));
        int start = text.indexOf("\"registration\"");
        int end = text.indexOf("\"observations\"");
        String pairs = "\"registration\":[{\"px\":[1,1],\"mm\":[0,0]},{\"px\":[2,2],\"mm\":[1,1]},"
                + "{\"px\":[3,3],\"mm\":[2,2]},{\"px\":[4,4],\"mm\":[3,3]}]}],";
        Files.writeString(folder.resolve("bundle.json"), text.substring(0, start) + pairs + text.substring(end));
        refused("bundle.json", "captures[0].registration", "on one line");
    }

    @Test
    void allFaultsAreToldAtOnce() throws IOException {
        Bundles.replace(folder, "board.json", "\"kind\" : \"fuse\"", "\"kind\" : \"wizard\"");
        Bundles.replace(
                folder, "board.json", "\"side\" : \"top\",\n    \"x_mm\" : 12", "\"side\" : 3,\n    \"x_mm\" : 12");
        assertThatThrownBy(() -> readAll(folder))
                .isInstanceOfSatisfying(
                        BundleException.class,
                        e -> assertThat(e.faults())
                                .hasSizeGreaterThan(1)
                                .allSatisfy(f -> assertThat(f.file()).isEqualTo("board.json")))
                .hasMessageContaining("more)");
    }

    @Test
    void wordsOutsideTheContract() throws IOException {
        Bundles.replace(folder, "bundle.json", "\"kind\" : \"look\"", "\"kind\" : \"guess\"");
        refused("bundle.json", "observations[1].kind", "power, look, read", "guess");
    }

    @Test
    void anotherFormat() throws IOException {
        Bundles.replace(folder, "bundle.json", "ohmoscope-bundle", "something-else");
        refused("bundle.json", "format", "must be ohmoscope-bundle, was something-else");
    }

    @Test
    void missingFiles() throws IOException {
        Files.delete(folder.resolve(FRAMES));
        refused(FRAMES, "missing from the bundle");
        Files.delete(folder.resolve("board.json"));
        refused("board.json", "missing from the bundle");
        assertThatThrownBy(() -> new BundleReader().read(temp.resolve("nowhere")))
                .hasMessageContaining("does not exist");
    }

    @Test
    void namesThatLeaveTheBundle() throws IOException {
        Bundles.replace(folder, "bundle.json", "captures/top-1/frames.pgm", "../../secret.pgm");
        refused("captures[0].frames", "outside the bundle");
    }

    @Test
    void aLinkOutOfTheFolder() throws IOException {
        Path outside = Files.writeString(temp.resolve("outside.csv"), "frame,t_s\n0,0\n");
        Files.delete(folder.resolve(TIMES));
        Files.createSymbolicLink(folder.resolve(TIMES), outside);
        refused(TIMES, "link out of the bundle");
    }

    @Test
    void zipsWithClimbingOrAbsoluteNames() throws IOException {
        for (String name : new String[] {"../evil.json", "/etc/evil.json", "a/../../b.json", "C:\\evil.json"}) {
            Path zip = Bundles.zip(temp.resolve("evil.zip"), Map.of(name, "x"));
            zipRefused(zip, "evil.zip", "outside the bundle");
        }
    }

    @Test
    void aZipBomb() throws IOException {
        Path bomb = temp.resolve("bomb.zip");
        try (OutputStream out = Files.newOutputStream(bomb);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("bundle.json"));
            byte[] zeros = new byte[1 << 20];
            for (int i = 0; i < 40; i++) {
                zip.write(zeros);
            }
            zip.closeEntry();
        }
        zipRefused(bomb, "bomb.zip", "bundle.json", "times its size");
    }

    @Test
    void aZipWithTooManyFilesOrTooMuchInIt() throws IOException {
        Map<String, String> many = new LinkedHashMap<>();
        for (int i = 0; i < 30; i++) {
            many.put("f" + i, "0123456789");
        }
        Path zip = Bundles.zip(temp.resolve("many.zip"), many);
        BundleReader fewFiles = new BundleReader(new BundleLimits(20, 1 << 20, 100, 1 << 20));
        assertThatThrownBy(() -> fewFiles.read(zip)).hasMessageContaining("more than 20 files");
        BundleReader fewBytes = new BundleReader(new BundleLimits(100, 200, 100, 1 << 20));
        assertThatThrownBy(() -> fewBytes.read(zip)).hasMessageContaining("unpacks to more than");
    }

    @Test
    void aZipCutOffHalfWay() throws IOException {
        Path whole = temp.resolve("whole.zip");
        try (OutputStream out = Files.newOutputStream(whole)) {
            BundleWriter.zip(Bundles.good(), out);
        }
        byte[] bytes = Files.readAllBytes(whole);
        Path half = Files.write(temp.resolve("half.zip"), Arrays.copyOf(bytes, bytes.length / 2));
        zipRefused(half, "half.zip", "cut off or damaged", "send the bundle again");
    }

    @Test
    void anEmptyFileAndAFileThatIsNoZip() throws IOException {
        zipRefused(Files.write(temp.resolve("empty.zip"), new byte[0]), "empty.zip", "is empty (0 bytes)");
        zipRefused(Files.writeString(temp.resolve("note.zip"), "hello, this is text"), "note.zip", "is no ZIP file");
        zipRefused(Bundles.zip(temp.resolve("other.zip"), Map.of("readme.txt", "x")), "holds no bundle.json");
    }

    @Test
    void anEmptyDescription() throws IOException {
        Files.writeString(folder.resolve("bundle.json"), "");
        refused("bundle.json", "is empty");
        Files.writeString(folder.resolve("bundle.json"), "[1,2]");
        refused("bundle.json", "must hold one JSON object");
    }

    @Test
    void tablesWithoutTheirColumns() throws IOException {
        Bundles.replace(folder, "supply.csv", "t_s,volts,amps,output", "time,volts,amps,output");
        refused("supply.csv", "line 1", "no column t_s");
        Files.writeString(folder.resolve(TIMES), "frame,t_s\n0,0\n2,0.1\n");
        refused("supply.csv");
    }
}
