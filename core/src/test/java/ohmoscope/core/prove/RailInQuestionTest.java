package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.prove.RailInQuestion.Known;
import org.junit.jupiter.api.Test;

class RailInQuestionTest {
    private static final Board BOARD = PowerFixtures.board();

    private static RailInQuestion of(Optional<String> stated, String... lines) {
        List<Observation> entries = new ArrayList<>();
        for (String line : lines) {
            entries.add(((EntryLine.Parsed.Entry) new EntryLine(BOARD).parse(line, entries.size() + 1)).observation());
        }
        return RailInQuestion.of(BOARD, stated, entries);
    }

    @Test
    void whatSomebodySaidStands() {
        assertThat(of(Optional.of("V3"), "VMAIN d .002")).isEqualTo(new RailInQuestion("V3", Known.STATED));
    }

    @Test
    void untilThenItIsWhatReadsShorted() {
        assertThat(of(Optional.empty())).isEqualTo(new RailInQuestion("VMAIN", Known.NOT_YET));
        assertThat(of(Optional.empty(), "VMAIN d .42", "V3 d .43"))
                .isEqualTo(new RailInQuestion("VMAIN", Known.NOT_YET));
        assertThat(of(Optional.empty(), "VMAIN d .42", "V3 d .002")).isEqualTo(new RailInQuestion("V3", Known.FOUND));
        assertThat(of(Optional.empty(), "V3 d .002", "VMAIN d .002"))
                .isEqualTo(new RailInQuestion("VMAIN", Known.FOUND));
    }

    @Test
    void orWhatWasFed() {
        assertThat(of(Optional.empty(), "inj V3 1V 2A .9V .1A")).isEqualTo(new RailInQuestion("V3", Known.FED));
    }
}
