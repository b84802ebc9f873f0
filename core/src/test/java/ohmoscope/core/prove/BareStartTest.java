package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.prove.BareStart.Item;
import ohmoscope.core.prove.BareStart.What;
import org.junit.jupiter.api.Test;

class BareStartTest {
    private static Part plug(String ref, String name) {
        Part plain = Part.of(ref, PartKind.CONNECTOR, Side.TOP, 70, 40, 4, 2, List.of(new Pin("1", "V3", 70, 40)));
        return PartEdit.of(plain).value(name).role(Optional.of(Role.CONNECTOR)).done();
    }

    private static BareStart with(BoardState state, Part... more) {
        Board board = PowerFixtures.board();
        List<Part> parts = new ArrayList<>(board.parts());
        parts.addAll(List.of(more));
        return BareStart.of(board.withParts(parts), state);
    }

    private static What what(BareStart start, String ref) {
        return start.items().stream()
                .filter(i -> i.ref().equals(ref))
                .map(Item::what)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void fromOutsideTheBatteryIsLeftOut() {
        BareStart start = with(BoardState.WHOLE);
        assertThat(start.items().get(0).ref()).isEqualTo("J1");
        assertThat(what(start, "J1")).isEqualTo(What.POWER);
        assertThat(what(start, "J2")).isEqualTo(What.BATTERY);
        assertThat(what(start, "J3")).isEqualTo(What.PICTURE);
        assertThat(start.missing()).isEmpty();
    }

    @Test
    void memoryThatIsOutIsAskedForBeforeAPartIsSuspected() {
        BareStart start = with(
                BoardState.WHOLE.unplug("J8"),
                plug("J8", "memory socket"),
                plug("J9", "drive"),
                plug("J10", "backup cell"),
                plug("J11", "fan"),
                plug("J12", "parameter port"));
        assertThat(start.missing()).extracting(Item::ref).containsExactly("J8");
        assertThat(what(start, "J9")).isEqualTo(What.STORAGE);
        assertThat(what(start, "J10")).isEqualTo(What.BACKUP_CELL);
        assertThat(what(start, "J11")).isEqualTo(What.COOLING);
        assertThat(what(start, "J12")).as("no part of a word is a word").isNotEqualTo(What.MEMORY);
    }
}
