package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.DynamicTest.dynamicTest;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.formats.AdviceJson;
import ohmoscope.formats.BundleReader;
import ohmoscope.trials.decision.DecisionPoints;
import ohmoscope.trials.decision.DecisionPoints.Half;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;

/** Every decision point of both halves: its advice is whole, and right where a right answer is written beside it. */
class DecisionHalvesTest {
    @TempDir
    static Path folder;

    @TestFactory
    Stream<DynamicTest> open() throws IOException {
        return points(Half.OPEN);
    }

    @TestFactory
    Stream<DynamicTest> aside() throws IOException {
        return points(Half.ASIDE);
    }

    private static Stream<DynamicTest> points(Half half) throws IOException {
        Path dir = folder.resolve(half.name());
        int written = DecisionPoints.write(dir, half);
        List<Path> all;
        try (Stream<Path> found = Files.list(dir)) {
            all = found.sorted().toList();
        }
        assertThat(all).hasSize(written).hasSizeGreaterThanOrEqualTo(36);
        return all.stream().map(p -> dynamicTest(p.getFileName().toString(), () -> right(p)));
    }

    private static void right(Path point) throws IOException {
        Advice advice = new BundleReader().read(point).advise();
        double sum =
                advice.hypotheses().stream().mapToDouble(h -> h.probability()).sum();
        assertThat(sum).isBetween(0.0, 1 + 1e-9);
        assertThat(advice.next()).as("there is always a way on").isNotEmpty();
        JsonMapper mapper = JsonMapper.builder().build();
        DecisionEvaluation.Outcome judged = DecisionEvaluation.judge(
                point.getFileName().toString(),
                mapper.readTree(Files.readString(point.resolve("expect.json"))),
                mapper.readTree(AdviceJson.write(advice)),
                1);
        assertThat(judged.wrong()).isEmpty();
        assertThat(judged.findingsRight()).as("findings").isTrue();
        assertThat(judged.stopsRight()).as("stops").isTrue();
        assertThat(judged.nextRight()).as("next").isTrue();
    }
}
