package ohmoscope.trials.hunt;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.formats.layout.GenericBoards;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Moments of real hunts told on a board of the device's class: the answer stays where it is a rail, a port or a chip. */
class GenericPointsTest {
    /**
     * @param lines the entries
     * @param found findings that must be there, as {@code rail-shorted VSYS}; with a minus those that must not
     * @param first what may lead; empty for any
     * @param next one of these must be among the next steps; with a minus those that must not
     */
    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "port-portable|charger J1 4.2V 4.1A collapse; VBUS d .541; CHG_IN d .002; VSYS d .361; look C16 discoloured|rail-shorted CHG_IN, -rail-shorted VSYS, -rail-shorted VBUS|C16|remove C16, -power",
                "jack-portable|charger J1 7.6V 4.3A collapse battery in; unplugged battery; bench J1 19V .5A; VSYS v 19 bench; VBATT v 18.9 bench|rail-backfed VBATT, -rail-shorted VBATT||",
                "jack-portable|charger J1 19.5V .02A; VSYS v 19.5 charger; V5_ALW v 0 charger; inj V5_ALW 1V 1.5A 128mV 1.5A leads 45mohm; inj V3_ALW 1V 1.5A 1V 2mA leads 45mohm|rail-shorted V5_ALW, -rail-shorted V3_ALW, -rail-shorted VSYS||image V5_ALW, inject V5_ALW, -replace U2, -remove U2",
                "port-portable|look J1 pins touching||J1|remove J1, -power, -inject",
                "port-portable|look J1 pins touching; CC2 c .3; removed U4; CC2 c .3; removed J1; CC2 c OL; CC2 d .702|short-cleared CC2, -short-remains CC2|J1|replace J1, replace U4",
                "port-portable|VSYS ohm .35; inj VSYS 1V 5A 225mV 5A leads 45mohm|rail-shorted VSYS, -short-cleared VSYS||inject VSYS, read VSYS, -power",
                "port-portable|VSYS ohm 26000; V3_ALW ohm 640; VCORE ohm 3.6; VMEM ohm 31|reading-by-design VCORE, -rail-shorted VCORE, -rail-low VCORE||-inject VCORE, -remove U8",
                "telephone|VSYS d .002; warm C6 7.4K; removed C6; VSYS d .441|short-cleared VSYS, -rail-shorted VSYS|C6|leave-off C6",
                "jack-portable|look J1 pins touching; unplugged battery; unplugged J5; replaced J1; DC_IN v 19.6 charger; plugged battery; charger J1 19.4V .74A battery in; dead|-rail-shorted VSYS, -draw-excessive||check-fitted J5",
                "port-portable|VSYS ohm .7; bench J1 20V 2.4A burst|rail-shorted VSYS, -rail-good VSYS||inject VSYS, -power",
                "jack-portable|charger J1 19.5V 0A; DC_IN v 19.5 charger; DC_F v 0 charger; DC_F ohm 38000|draw-none, -rail-absent DC_IN|F1|read F1, look F1, replace F1, -replace J1"
            })
    void theAnswerStays(String slug, String lines, String found, String first, String next) throws IOException {
        Board board = GenericBoards.named(slug).board();
        Advice advice = new Advisor(board).advise(Optional.empty(), "", entries(board, lines));
        List<String> findings = advice.findings().stream()
                .map(f -> word(f.code()) + f.place().map(p -> " " + p).orElse(""))
                .toList();
        List<String> steps = advice.next().stream()
                .map(s -> word(s.action()) + s.target().map(t -> " " + t).orElse(""))
                .toList();
        for (String wanted : words(found)) {
            if (wanted.startsWith("-")) {
                assertThat(findings).noneMatch(f -> f.startsWith(wanted.substring(1)));
            } else {
                assertThat(findings).anyMatch(f -> f.startsWith(wanted));
            }
        }
        if (first != null) {
            assertThat(advice.leading().orElseThrow().target()).isEqualTo(first);
        }
        List<String> may = words(next).stream().filter(n -> !n.startsWith("-")).toList();
        if (!may.isEmpty()) {
            assertThat(steps).anyMatch(may::contains);
        }
        words(next).stream()
                .filter(n -> n.startsWith("-"))
                .forEach(n -> assertThat(steps).noneMatch(s -> s.startsWith(n.substring(1))));
    }

    private static List<String> words(String text) {
        return text == null ? List.of() : List.of(text.split(",\\s*"));
    }

    private static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static List<Observation> entries(Board board, String lines) {
        List<Observation> entries = new ArrayList<>();
        for (String line : lines.split(";\\s*")) {
            EntryLine.Parsed parsed = new EntryLine(board).parse(line.strip(), entries.size() + 1);
            assertThat(parsed).as(line).isInstanceOf(EntryLine.Parsed.Entry.class);
            entries.add(((EntryLine.Parsed.Entry) parsed).observation());
        }
        return entries;
    }
}
