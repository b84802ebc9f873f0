package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class MainTest {
    @TempDir
    Path temp;

    /** What a command left behind. */
    private record Ran(int exit, String out, String err) {}

    private static Ran run(String... args) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        PrintStream oldOut = System.out;
        PrintStream oldErr = System.err;
        System.setOut(new PrintStream(out, true, StandardCharsets.UTF_8));
        System.setErr(new PrintStream(err, true, StandardCharsets.UTF_8));
        try {
            int exit = Main.run(args);
            return new Ran(exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
        } finally {
            System.setOut(oldOut);
            System.setErr(oldErr);
        }
    }

    private Ran simulate(String name, String... more) {
        String[] base = {
            "simulate",
            "--board",
            "beck",
            "--size",
            "80x60",
            "--fps",
            "8",
            "--seconds",
            "4",
            "--baseline",
            "1.5",
            "--out",
            temp.resolve(name).toString()
        };
        String[] all = java.util.Arrays.copyOf(base, base.length + more.length);
        System.arraycopy(more, 0, all, base.length, more.length);
        return run(all);
    }

    @Test
    void simulatesLocatesAndEvaluates() throws IOException {
        Path truth = temp.resolve("truth.json");
        assertThat(simulate("one.zip", "--fault", "C68=0.08", "--truth", truth.toString(), "--kind", "plain")
                        .exit())
                .isZero();
        assertThat(simulate("two", "--rail", "VBAT", "--truth", truth.toString(), "--kind", "nothing")
                        .exit())
                .isZero();
        assertThat(temp.resolve("two/bundle.json")).exists();

        Ran located = run("locate", temp.resolve("one.zip").toString());
        assertThat(located.exit()).isZero();
        assertThat(located.err()).isEmpty();
        assertThat(located.out().lines()).hasSize(1);
        JsonNode json = JsonMapper.builder().build().readTree(located.out());
        assertThat(json.get("suspects").get(0).get("ref").asString()).isEqualTo("C68");
        assertThat(json.get("short").get("ohms").asDouble()).isCloseTo(0.08, within(0.03));

        Path report = temp.resolve("report.json");
        Ran evaluated = run("evaluate", temp.toString(), "--json", report.toString());
        assertThat(evaluated.exit()).isZero();
        assertThat(evaluated.out()).contains("plain", "nothing", "none called: right 1 of 1, wrong 0 of 1");
        JsonNode cases =
                JsonMapper.builder().build().readTree(Files.readString(report)).get("cases");
        assertThat(cases.size()).isEqualTo(2);
        assertThat(cases.get(0).get("rank").asInt()).isEqualTo(1);
    }

    @Test
    void saysHowAPartComesOffWithWhatTheBenchHas() throws IOException {
        simulate("one.zip", "--fault", "C68=0.08");
        String bundle = temp.resolve("one.zip").toString();
        JsonMapper mapper = JsonMapper.builder().build();
        Ran usual = run("rework", bundle, "C68");
        assertThat(usual.exit()).isZero();
        JsonNode plan = mapper.readTree(usual.out());
        assertThat(plan.get("ref").asString()).isEqualTo("C68");
        assertThat(plan.get("ways").get(0).get("safe").asBoolean()).isTrue();
        JsonNode peak = plan.get("ways").get(0).get("peaks").get(0);
        assertThat(peak.get("peak_c").asDouble()).isLessThan(peak.get("limit_c").asDouble());

        Path kit = temp.resolve("kit.json");
        Files.writeString(kit, "{\"air\": {\"nozzles_mm\": [5], \"most_c\": 450, \"litres_per_min\": 30}}");
        JsonNode ways = mapper.readTree(
                        run("rework", bundle, "C68", "--kit", kit.toString()).out())
                .get("ways");
        assertThat(ways.valueStream().map(w -> w.get("method").asString()))
                .containsExactlyInAnyOrder("air", "cold-lever");

        Files.writeString(kit, "{\"air\": {\"nozzles_mm\": [500], \"most_c\": 450, \"litres_per_min\": 30}}");
        Ran refused = run("rework", bundle, "C68", "--kit", kit.toString());
        assertThat(refused.exit()).isEqualTo(Main.UNUSABLE);
        assertThat(refused.err()).contains("kit.json", "air.nozzles_mm");
        assertThat(run("rework", bundle, "X9").err()).contains("X9", "not on this board");
    }

    @Test
    void aLargeChipsSourceIsMeasuredToItsHotSpot() throws IOException {
        Path truth = temp.resolve("truth.json");
        simulate("one.zip", "--fault", "U4=0.08", "--truth", truth.toString(), "--kind", "chip");
        JsonMapper mapper = JsonMapper.builder().build();
        JsonNode told = mapper.readTree(Files.readString(truth)).get("one");
        assertThat(told.get("heat_spot").size()).isEqualTo(2);

        Path report = temp.resolve("report.json");
        run("evaluate", temp.toString(), "--json", report.toString());
        double toSpot = offMm(report);
        JsonNode source = mapper.readTree(
                        run("locate", temp.resolve("one.zip").toString()).out())
                .get("source");
        JsonNode spot = told.get("heat_spot");
        assertThat(toSpot)
                .isCloseTo(apartMm(source, spot.get(0).asDouble(), spot.get(1).asDouble()), within(0.02));

        Files.writeString(truth, Files.readString(truth).replace("heat_spot", "no_spot"));
        run("evaluate", temp.toString(), "--json", report.toString());
        double toMiddle =
                apartMm(source, told.get("x_mm").asDouble(), told.get("y_mm").asDouble());
        assertThat(offMm(report)).isCloseTo(toMiddle, within(0.02));
        assertThat(toMiddle).isNotCloseTo(toSpot, within(0.02));
    }

    private static double apartMm(JsonNode source, double xMm, double yMm) {
        return Math.hypot(
                source.get("x_mm").asDouble() - xMm, source.get("y_mm").asDouble() - yMm);
    }

    private static double offMm(Path report) throws IOException {
        JsonNode cases =
                JsonMapper.builder().build().readTree(Files.readString(report)).get("cases");
        return cases.get(0).get("off_mm").asDouble();
    }

    @Test
    void theSameSeedGivesTheSameFile() throws IOException {
        simulate("a.zip", "--fault", "C68=0.08", "--seed", "7");
        simulate("b.zip", "--fault", "C68=0.08", "--seed", "7");
        assertThat(Files.readAllBytes(temp.resolve("a.zip"))).isEqualTo(Files.readAllBytes(temp.resolve("b.zip")));
    }

    @Test
    void aBundleThatCannotBeUsedIsOneSentenceAndExitTwo() throws IOException {
        Path empty = Files.write(temp.resolve("empty.zip"), new byte[0]);
        Ran ran = run("locate", empty.toString());
        assertThat(ran.exit()).isEqualTo(2);
        assertThat(ran.out()).isEmpty();
        assertThat(ran.err().lines()).hasSize(1);
        assertThat(ran.err()).contains("empty.zip", "is empty");
        assertThat(run("locate", temp.resolve("nowhere").toString()).err()).contains("does not exist");
    }

    @Test
    void mistakesInASimulationAreNamed() {
        assertThat(simulate("x.zip", "--fault", "C999=0.1").err()).contains("C999");
        assertThat(simulate("x.zip").err()).contains("rail", "missing");
        assertThat(simulate("x.zip", "--fault", "C68=0.1", "--size", "big").err())
                .contains("size");
        assertThat(run("evaluate", temp.toString()).err()).contains("truth.json", "missing");
    }

    @Test
    void decisionPointsAreNotMixedWithWhatIsThere() throws IOException {
        Path folder = temp.resolve("points");
        assertThat(run("decisions", folder.toString()).exit()).isZero();
        Ran again = run("decisions", folder.toString());
        assertThat(again.exit()).isEqualTo(2);
        assertThat(again.err()).contains("folder", "holds something already");
    }

    @Test
    void liveTrialsSayHowFastAndHowNearTheFinalAnswerIs() {
        Ran ran = run(
                "live-trials",
                "--seed",
                "2",
                "--rounds",
                "1",
                "--kind",
                "plain,nothing",
                "--width",
                "160",
                "--height",
                "120");
        assertThat(ran.exit()).isZero();
        assertThat(ran.out()).containsPattern("plain-2 +\\d+\\.\\d\\d s +stored \\d+\\.\\d\\d s +apart 0\\.00");
        assertThat(ran.out())
                .contains("nobody stands out")
                .contains("at once in 1 of 2")
                .contains("in 1 of 1");
    }

    @Test
    void trialsAreHuntsWithTheirTruth() throws IOException {
        Path folder = temp.resolve("trials");
        Ran ran = run("trials", folder.toString(), "--seed", "3", "--rounds", "1", "--kind", "nothing,shielded");
        assertThat(ran.exit()).as(ran.err()).isZero();
        String truth = Files.readString(folder.resolve("truth.json"));
        assertThat(truth).contains("\"nothing-3\"", "\"shielded-3\"", "\"ref\" : null");
        assertThat(folder.resolve("nothing-3.zip")).isNotEmptyFile();
        assertThat(folder.resolve("shielded-3.zip")).isNotEmptyFile();
        assertThat(run("trials", folder.toString(), "--kind", "purple").exit()).isEqualTo(2);
        Ran flat = run("trials", folder.toString(), "--kind", "plain", "--layers", "1");
        assertThat(flat.exit()).isEqualTo(2);
        assertThat(flat.err()).contains("layers", "2", "12");
    }
}
