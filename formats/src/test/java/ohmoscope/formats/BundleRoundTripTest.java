package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.locate.LocateInput.Capture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BundleRoundTripTest {
    @TempDir
    Path folder;

    private static void assertSame(Bundle read, Bundle written) throws IOException {
        assertThat(read.job()).isEqualTo(written.job());
        assertThat(read.board()).isEqualTo(written.board());
        assertThat(read.rail()).isEqualTo(written.rail());
        assertThat(read.injection()).isEqualTo(written.injection());
        assertThat(read.supplyLog()).isEqualTo(written.supplyLog());
        assertThat(read.observations()).isEqualTo(written.observations());
        assertThat(read.traces()).isEqualTo(written.traces());
        assertThat(read.captures()).hasSameSizeAs(written.captures());
        for (int i = 0; i < read.captures().size(); i++) {
            assertThat(read.captures().get(i).spec())
                    .isEqualTo(written.captures().get(i).spec());
            assertThat(frames(read.captures().get(i)))
                    .containsExactlyElementsOf(frames(written.captures().get(i)));
        }
    }

    private static List<String> frames(Capture capture) throws IOException {
        List<String> frames = new ArrayList<>();
        char[] counts = new char[capture.spec().pixels()];
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            while (cursor.next(counts)) {
                frames.add(new String(counts));
            }
        }
        return frames;
    }

    private Path zip(Bundle bundle, String name) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream out = Files.newOutputStream(file)) {
            BundleWriter.zip(bundle, out);
        }
        return file;
    }

    @Test
    void aFolderGivesBackWhatWasWritten() throws IOException {
        assertSame(new BundleReader().read(Bundles.folder(folder)), Bundles.good());
    }

    @Test
    void aZipGivesBackWhatWasWritten() throws IOException {
        Bundle read = new BundleReader().read(zip(Bundles.good(), "a.zip"));
        assertSame(read, Bundles.good());
        assertSame(new BundleReader().read(zip(read, "b.zip")), read);
    }

    @Test
    void theSameBundleGivesTheSameBytes() throws IOException {
        ByteArrayOutputStream first = new ByteArrayOutputStream();
        ByteArrayOutputStream second = new ByteArrayOutputStream();
        BundleWriter.zip(Bundles.good(), first);
        BundleWriter.zip(Bundles.good(), second);
        assertThat(first.toByteArray()).isEqualTo(second.toByteArray());
    }

    @Test
    void aZipWithAFolderRoundItIsReadToo() throws IOException {
        Path plain = zip(Bundles.good(), "plain.zip");
        Path wrapped = folder.resolve("wrapped.zip");
        try (ZipInputStream in = new ZipInputStream(Files.newInputStream(plain));
                ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(wrapped))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                out.putNextEntry(new ZipEntry("my job/" + entry.getName()));
                in.transferTo(out);
                out.closeEntry();
            }
        }
        assertSame(new BundleReader().read(wrapped), Bundles.good());
    }

    @Test
    void unknownMembersAreIgnored() throws IOException {
        Path bundle = Bundles.folder(folder);
        Bundles.replace(bundle, "bundle.json", "\"rail\"", "\"mood\" : {\"of\":[\"the\",\"day\"]}, \"rail\"");
        Bundles.replace(bundle, "board.json", "\"ref\" : \"C1\"", "\"ref\" : \"C1\", \"colour\" : \"brown\"");
        assertSame(new BundleReader().read(bundle), Bundles.good());
    }

    @Test
    void linesMayEndAsOnOtherSystems() throws IOException {
        Path bundle = Bundles.folder(folder);
        Bundles.replace(bundle, "supply.csv", "\n", "\r\n");
        Bundles.replace(bundle, "captures/top-1/times.csv", "\n", "\r\n");
        assertSame(new BundleReader().read(bundle), Bundles.good());
    }

    @Test
    void framesAreReadAsOftenAsNeeded() throws IOException {
        Capture capture =
                new BundleReader().read(Bundles.folder(folder)).captures().get(0);
        assertThat(frames(capture)).hasSize(Bundles.FRAMES).isEqualTo(frames(capture));
    }

    @Test
    void boardsAloneGoThereAndBack() throws IOException {
        byte[] json = BoardJson.write(Fixtures.board());
        Board read = BoardJson.read(new ByteArrayInputStream(json), "board.json");
        assertThat(read).isEqualTo(Fixtures.board());
        assertThat(BoardJson.write(read)).isEqualTo(json);
    }

    @Test
    void injectionAndRegistrationLinesGoThereAndBack() throws IOException {
        var injection = Bundles.good().injection().orElseThrow();
        assertThat(InjectionJson.read(InjectionJson.write(injection))).isEqualTo(injection);
        var pairs = Bundles.good().captures().get(0).spec().registration();
        assertThat(RegistrationJson.read(RegistrationJson.write(pairs))).isEqualTo(pairs);
        var log = Bundles.good().supplyLog().orElseThrow();
        assertThat(SupplyCsv.read(SupplyCsv.write(log))).isEqualTo(log);
    }
}
