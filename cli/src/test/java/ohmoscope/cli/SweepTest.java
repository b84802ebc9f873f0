package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import ohmoscope.cli.SweepDiagram.Level;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;

class SweepTest {
    private static final List<Level> LEVELS =
            List.of(new Level(0.001, 10, 0.2, 0), new Level(0.01, 10, 0.8, 0.1), new Level(0.1, 10, 1, 0.5));

    @Test
    void theWattsForARateLieBetweenTheLevels() {
        assertThat(SweepDiagram.wattsFor(LEVELS, 0.5, Level::engine)).isCloseTo(Math.sqrt(1e-5), within(1e-6));
        assertThat(SweepDiagram.wattsFor(LEVELS, 0.5, Level::eye)).isCloseTo(0.1, within(1e-9));
        assertThat(SweepDiagram.wattsFor(LEVELS, 0.9, Level::eye)).isInfinite();
        assertThat(SweepDiagram.wattsFor(LEVELS, 0.1, Level::engine)).isEqualTo(0.001);
    }

    @Test
    void bothCurvesAreDrawn() {
        String svg = SweepDiagram.svg(LEVELS);
        assertThat(svg).startsWith("<svg").contains(">engine<", ">by eye<", "milliwatts");
        assertThat(svg.split("<polyline")).hasSize(3);
    }

    @Test
    void aStrongPlainHuntIsWonByTheEngine(@TempDir Path temp) throws Exception {
        StringWriter out = new StringWriter();
        Path svg = temp.resolve("sweep.svg");
        int code = new CommandLine(new SweepCommand())
                .setCaseInsensitiveEnumValuesAllowed(true)
                .setOut(new PrintWriter(out))
                .execute("--rounds", "1", "--kind", "PLAIN", "--watts", "0.2", "--svg", svg.toString());
        assertThat(code).isZero();
        assertThat(out.toString()).contains("0.2", "engine");
        assertThat(Files.readString(svg)).contains("</svg>");
    }
}
