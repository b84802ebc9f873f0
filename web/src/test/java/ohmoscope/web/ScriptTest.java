package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The start command, in a folder of its own where nothing runs. */
class ScriptTest {
    @TempDir
    Path folder;

    private Path script;
    private Process stranger;

    @BeforeEach
    void copy() throws IOException {
        Path here = Path.of("").toAbsolutePath();
        Path root = Files.exists(here.resolve("ohmoscope")) ? here : here.getParent();
        script = folder.resolve("ohmoscope");
        Files.copy(root.resolve("ohmoscope"), script, StandardCopyOption.COPY_ATTRIBUTES);
        Files.createDirectories(folder.resolve(".local"));
        stranger = new ProcessBuilder("sleep", "60").start();
    }

    @AfterEach
    void end() {
        stranger.destroyForcibly();
    }

    private record Ended(int status, String said) {}

    private Ended run(String... words) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(List.of("bash", script.toString()));
        command.addAll(List.of(words));
        Path said = folder.resolve("said");
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        assertThat(process.waitFor(30, TimeUnit.SECONDS)).as("the command ends").isTrue();
        return new Ended(process.exitValue(), Files.readString(said));
    }

    @Test
    void aStrangerWhoseNumberStandsInAnOldFileLivesOn() throws Exception {
        Files.writeString(folder.resolve(".local/app.pid"), stranger.pid() + "\n");

        Ended stopped = run("stop");

        assertThat(stopped.status()).isZero();
        assertThat(stranger.isAlive()).isTrue();
    }

    @Test
    void aStrangerInTheDatabasesPidFileLivesOnToo() throws Exception {
        Path data = Files.createDirectories(folder.resolve(".local/pg/data"));
        Files.writeString(data.resolve("postmaster.pid"), stranger.pid() + "\n" + data + "\n");

        Ended stopped = run("stop");

        assertThat(stopped.status()).isZero();
        assertThat(stranger.isAlive()).isTrue();
    }

    @Test
    void anUnknownWordIsAnsweredWithWhatThereIs() throws Exception {
        Ended ended = run("perhaps");

        assertThat(ended.status()).isNotZero();
        assertThat(ended.said()).contains("./ohmoscope demo");
    }
}
