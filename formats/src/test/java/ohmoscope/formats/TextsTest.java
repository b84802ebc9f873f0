package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.MissingResourceException;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.diagnose.Acceptance;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.LookFirst;
import ohmoscope.core.diagnose.LookTour;
import ohmoscope.core.diagnose.Precaution;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.live.ContactCheck;
import ohmoscope.core.live.Ending;
import ohmoscope.core.live.WarmPlace;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.reading.Says;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class TextsTest {
    static Stream<String> codes() {
        return Stream.of(
                        named("fault", Hypothesis.Code.values()),
                        named("finding", Finding.Code.values()),
                        named("sign", Says.values()),
                        named("step", Step.Action.values()),
                        named("why", Step.Reason.values()),
                        named("tour", LookFirst.Because.values()),
                        named("place", LookTour.Why.values()),
                        named("accept", Acceptance.What.values()),
                        named("precaution", Precaution.Code.values()),
                        named("contact", ContactCheck.Outcome.values()),
                        named("ending", Ending.values()),
                        named("warm", WarmPlace.What.values()),
                        named("live.calls", Verdict.values()))
                .flatMap(s -> s);
    }

    private static Stream<String> named(String group, Enum<?>[] codes) {
        return Stream.of(codes)
                .map(c -> group + "."
                        + c.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'));
    }

    @ParameterizedTest
    @MethodSource("codes")
    void everyCodeHasAText(String key) {
        assertThat(Texts.of(key, "C3", "7", "2"))
                .isNotBlank()
                .doesNotContain("{")
                .doesNotContain("''");
    }

    @Test
    void placesAreFilledAndApostrophesStay() {
        assertThat(Texts.of("why.shorted-inject-low", "VMAIN"))
                .isEqualTo(
                        "VMAIN is shorted: low volts first, below a junction's knee nothing but the short conducts.");
        assertThat(Texts.of("next.nothing.why")).contains("a good board's");
        assertThat(Texts.of("charged", "VIN", "19")).startsWith("The capacitors of VIN hold up to 19 V");
    }

    @Test
    void listsHaveAllTheirLines() {
        assertThat(Texts.all("hot-air")).hasSize(4).allMatch(l -> l.endsWith("."));
        assertThat(Texts.all("no such list")).isEmpty();
        assertThatThrownBy(() -> Texts.of("no.such.text")).isInstanceOf(MissingResourceException.class);
    }

    /** A text that no code names is dead: it is one of a closed set's, or stands in quotes in some class. */
    @Test
    void noTextIsLeftOver() throws IOException {
        StringBuilder code = new StringBuilder();
        for (String module : List.of("formats", "web")) {
            try (Stream<Path> files = Files.walk(Path.of("..", module, "src", "main", "java"))) {
                for (Path file :
                        files.filter(f -> f.toString().endsWith(".java")).toList()) {
                    code.append(Files.readString(file));
                }
            }
        }
        Set<String> known = codes().collect(Collectors.toSet());
        assertThat(Texts.keys()).filteredOn(k -> !known.contains(k)).allSatisfy(key -> {
            String list = key.replaceFirst("\\.\\d+$", "");
            boolean ofAStop = key.startsWith("stop.") || key.startsWith("seen.");
            assertThat(ofAStop || code.indexOf('"' + key + '"') >= 0 || code.indexOf('"' + list + '"') >= 0)
                    .as(key)
                    .isTrue();
        });
    }
}
