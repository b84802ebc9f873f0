package ohmoscope.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;

/** Typed lines as evidence. */
public final class Typed {
    private Typed() {}

    public static List<Observation> entries(Board board, String... lines) {
        EntryLine entryLine = new EntryLine(board);
        List<Observation> entries = new ArrayList<>();
        for (String line : lines) {
            EntryLine.Parsed parsed = entryLine.parse(line, entries.size() + 1);
            assertThat(parsed).as(line).isInstanceOf(EntryLine.Parsed.Entry.class);
            entries.add(((EntryLine.Parsed.Entry) parsed).observation());
        }
        return entries;
    }
}
