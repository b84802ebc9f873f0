package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ZipFilesTest {
    @TempDir
    private Path folder;

    private Path zip(Map<String, String> files) throws IOException {
        Path path = folder.resolve("job.zip");
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(path))) {
            for (Map.Entry<String, String> file : files.entrySet()) {
                out.putNextEntry(new ZipEntry(file.getKey()));
                out.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                out.closeEntry();
            }
        }
        return path;
    }

    private static Map<String, String> files(String... namesAndTexts) {
        Map<String, String> files = new LinkedHashMap<>();
        for (int i = 0; i < namesAndTexts.length; i += 2) {
            files.put(namesAndTexts[i], namesAndTexts[i + 1]);
        }
        return files;
    }

    private static ZipFiles open(Path path) throws IOException {
        return ZipFiles.open(path, BundleLimits.DEFAULT);
    }

    private static String read(ZipFiles files, String file) throws IOException {
        try (InputStream in = files.open(file)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    @Test
    void aFolderRoundTheBundleIsLookedThrough() throws IOException {
        for (String round : new String[] {"", "K-0417/"}) {
            ZipFiles files = open(zip(files(
                    round + "bundle.json",
                    "{}",
                    round + "captures/top-1/times.csv",
                    "frame,t_s",
                    round + "board.json",
                    "[]")));
            assertThat(files.name()).isEqualTo("job.zip");
            assertThat(files.has("board.json")).isTrue();
            assertThat(files.has("supply.csv")).isFalse();
            assertThat(read(files, "bundle.json")).isEqualTo("{}");
            assertThat(read(files, "captures/top-1/times.csv")).isEqualTo("frame,t_s");
            assertThat(files.in("captures/top-1")).containsExactly("times.csv");
            assertThat(files.in("nowhere")).isEmpty();
        }
    }

    @Test
    void aFileThatIsNotThereIsNamed() throws IOException {
        ZipFiles files = open(zip(files("bundle.json", "{}")));
        assertThatThrownBy(() -> files.open("supply.csv"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("supply.csv")
                .hasMessageContaining("is missing");
    }

    @Test
    void severalBundlesOrNoneAreRefused() throws IOException {
        Path several = zip(files("a/bundle.json", "{}", "b/bundle.json", "{}"));
        assertThatThrownBy(() -> open(several)).hasMessageContaining("holds several bundles");
        Path none = zip(files("a/b/bundle.json", "{}"));
        assertThatThrownBy(() -> open(none)).hasMessageContaining("holds no bundle.json");
    }

    @Test
    void waysOutOfTheBundleAreRefused() throws IOException {
        for (String name : new String[] {"../bundle.json", "/etc/bundle.json", "a/../../bundle.json"}) {
            Path path = zip(files(name, "{}"));
            assertThatThrownBy(() -> open(path)).as(name).isInstanceOf(BundleException.class);
        }
    }

    @Test
    void whatUnpacksToFarTooMuchIsRefusedUnread() throws IOException {
        Path bomb = zip(files("bundle.json", "{}", "captures/top-1/frames.pgm", "0".repeat(30_000_000)));
        assertThatThrownBy(() -> open(bomb))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("frames.pgm")
                .hasMessageContaining("times its size");
    }

    @Test
    void aFileCutOffIsSaidToBeSo() throws IOException {
        Path whole = zip(files("bundle.json", "{}", "board.json", "x".repeat(5000)));
        byte[] bytes = Files.readAllBytes(whole);
        Path cut = Files.write(folder.resolve("cut.zip"), java.util.Arrays.copyOf(bytes, bytes.length - 40));
        assertThatThrownBy(() -> open(cut))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("cut.zip")
                .hasMessageContaining("send the bundle again");
        Path empty = Files.write(folder.resolve("empty.zip"), new byte[0]);
        assertThatThrownBy(() -> open(empty)).hasMessageContaining("is empty");
        Path other = Files.writeString(folder.resolve("other.zip"), "frame,t_s\n0,0\n");
        assertThatThrownBy(() -> open(other)).hasMessageContaining("is no ZIP file");
    }
}
