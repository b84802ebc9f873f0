package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import org.junit.jupiter.api.Test;

class NamedTest {
    private static final Board BOARD = PowerFixtures.board();

    @Test
    void entriesNameNetsPartsAndPoints() {
        List<Observation> entries = new ArrayList<>();
        for (String line : List.of(
                "dead",
                "unplugged battery",
                "charger J1 12V .1A",
                "C3 d .4",
                "across R1 ohm 1",
                "inj V3 1V 2A 1V 1A",
                "warm U1 2K",
                "look J3 clean",
                "removed U2")) {
            EntryLine.Parsed parsed = new EntryLine(BOARD).parse(line, entries.size() + 1);
            assertThat(parsed).as(line).isInstanceOf(EntryLine.Parsed.Entry.class);
            entries.add(((EntryLine.Parsed.Entry) parsed).observation());
        }
        assertThat(Named.of(entries))
                .contains("J1", "C3", "R1", "V3", "U1", "J3", "U2")
                .doesNotContain("battery");
        assertThat(Named.unknownOn(BOARD, entries)).isEmpty();
        // Every kind of entry follows a part to its other name and keeps all else.
        List<Observation> renamed = entries.stream()
                .map(e -> Named.renamed(e, n -> n.equals("U1") || n.equals("C3") || n.equals("J1") ? n + "x" : n))
                .toList();
        assertThat(Named.of(renamed))
                .contains("J1x", "C3x", "R1", "V3", "U1x", "J3", "U2")
                .doesNotContain("U1", "J1");
        List<Observation> back = renamed.stream()
                .map(e -> Named.renamed(e, n -> n.replaceAll("x$", "")))
                .toList();
        assertThat(back).isEqualTo(entries);
        Board less = BOARD.withParts(
                BOARD.parts().stream().filter(p -> !p.ref().equals("U1")).toList());
        assertThat(Named.unknownOn(less, entries)).containsExactly("U1");
    }
}
