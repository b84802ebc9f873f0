package ohmoscope.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import org.junit.jupiter.api.Test;

class EditsTest {
    private static final Board BOARD = PowerFixtures.board();

    @Test
    void partsGetAnotherKindAndKeepTheRest() {
        Board edited = Edits.parts(BOARD, List.of("U3", "J3"), Optional.of(PartKind.OTHER), Optional.empty());
        Part before = BOARD.part("U3").orElseThrow();
        Part after = edited.part("U3").orElseThrow();
        assertThat(after.kind()).isEqualTo(PartKind.OTHER);
        assertThat(after.pins()).isEqualTo(before.pins());
        assertThat(after.statedRole()).isEqualTo(before.statedRole());
        assertThat(edited.part("U1")).isEqualTo(BOARD.part("U1"));
        Board role = Edits.parts(BOARD, List.of("U3"), Optional.empty(), Optional.of(Role.CHARGER));
        assertThat(role.role(role.part("U3").orElseThrow())).isEqualTo(Role.CHARGER);
        assertThatThrownBy(() -> Edits.parts(BOARD, List.of("Q404"), Optional.empty(), Optional.empty()))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("Q404");
    }

    @Test
    void aNetIsPutRight() {
        Board edited = Edits.net(BOARD, "EN3", NetKind.POWER, OptionalDouble.of(3.3));
        assertThat(edited.net("EN3").orElseThrow().kind()).isEqualTo(NetKind.POWER);
        assertThat(edited.net("EN3").orElseThrow().nominalVolts()).hasValue(3.3);
        assertThat(edited.net("VMAIN")).isEqualTo(BOARD.net("VMAIN"));
        assertThatThrownBy(() -> Edits.net(BOARD, "NO", NetKind.POWER, OptionalDouble.empty()))
                .hasMessageContaining("NO");
        assertThatThrownBy(() -> Edits.net(BOARD, "EN3", NetKind.POWER, OptionalDouble.of(1e9)))
                .isInstanceOf(InvalidMember.class);
    }
}
