package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.jar.Attributes;
import java.util.jar.JarOutputStream;
import java.util.jar.Manifest;
import java.util.zip.ZipEntry;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The start command, in a folder of its own where nothing runs. */
class ScriptTest {
    @TempDir
    Path folder;

    private final int port = 30_000 + new Random().nextInt(2_000);
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
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(said.toFile());
        builder.environment().put("OHMOSCOPE_PORT", String.valueOf(port));
        Process process = builder.start();
        assertThat(process.waitFor(120, TimeUnit.SECONDS))
                .as("the command ends")
                .isTrue();
        return new Ended(process.exitValue(), Files.readString(said));
    }

    /** A program that answers once and dies stands where the built application would. */
    private void buildAnApplicationThatDies() throws IOException {
        Path app = Files.createDirectories(folder.resolve(".local/app"));
        Path built = Files.createDirectories(folder.resolve("web/target")).resolve("ohmoscope-web.jar");
        Manifest manifest = new Manifest();
        manifest.getMainAttributes().put(Attributes.Name.MANIFEST_VERSION, "1.0");
        manifest.getMainAttributes().put(Attributes.Name.MAIN_CLASS, DiesAtOnce.class.getName());
        String file = DiesAtOnce.class.getName().replace('.', '/') + ".class";
        try (JarOutputStream jar = new JarOutputStream(Files.newOutputStream(built), manifest);
                InputStream program = DiesAtOnce.class.getClassLoader().getResourceAsStream(file)) {
            jar.putNextEntry(new ZipEntry(file));
            program.transferTo(jar);
        }
        Files.copy(built, app.resolve("ohmoscope-web.jar"));
        Files.createFile(Files.createDirectories(folder.resolve("cli/target")).resolve("ohmoscope-cli.jar"));
        Files.createFile(app.resolve("classes.jsa"));
        Files.createFile(folder.resolve("pom.xml"));
        Files.createFile(folder.resolve(".local/built"));
    }

    @Test
    void whatDiesIsStartedAgainThreeTimesAndThenSaidWhileTheDatabaseStaysUp() throws Exception {
        buildAnApplicationThatDies();
        // The database's own user must get through.
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxr-xr-x"));

        Ended ended = run("serve");

        assertThat(ended.status()).isNotZero();
        assertThat(ended.said().lines().filter(line -> line.contains("it is started again")))
                .hasSize(3);
        assertThat(ended.said()).contains("again and again", "Nothing that was kept is lost");
        assertThat(Files.readAllLines(folder.resolve(".local/app.out"))).containsExactly("database there");
        assertThat(folder.resolve(".local/app.pid")).doesNotExist();
        assertThat(folder.resolve(".local/pg/data/postmaster.pid")).doesNotExist();
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
