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
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.PowerTree;
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

    @Test
    void theTreeIsPutRight() {
        Board made = Edits.making(BOARD, "U3", new Supply("VIN", "VBAT", Optional.of("BEN"), OptionalDouble.of(7.4)));
        assertThat(PowerTree.of(made).feeds().get("VBAT"))
                .anyMatch(f -> f.part().ref().equals("U3") && f.from().equals("VIN"));
        assertThat(PowerTree.of(Edits.notMaking(made, "U3", "VBAT")).feeds())
                .isEqualTo(PowerTree.of(BOARD).feeds());
        Board other = Edits.making(BOARD, "U1", new Supply("VMAIN", "V3", Optional.empty(), OptionalDouble.of(3.3)));
        assertThat(other.part("U1").orElseThrow().supplies())
                .singleElement()
                .satisfies(s -> assertThat(s.enable()).isEmpty());
        assertThatThrownBy(() ->
                        Edits.making(BOARD, "U3", new Supply("VIN", "NO", Optional.empty(), OptionalDouble.empty())))
                .hasMessageContaining("NO");
        assertThatThrownBy(() ->
                        Edits.making(BOARD, "U3", new Supply("VIN", "VIN", Optional.empty(), OptionalDouble.empty())))
                .hasMessageContaining("another net");
        assertThatThrownBy(() ->
                        Edits.making(BOARD, "U3", new Supply("VMAIN", "V3", Optional.empty(), OptionalDouble.empty())))
                .hasMessageContaining("no pin");
        assertThatThrownBy(() -> Edits.notMaking(BOARD, "U3", "V3")).hasMessageContaining("does not make");
    }

    @Test
    void aBoardsPortsDrawAsTheirClassDoes() {
        PortExpectation usual = new PortExpectation(
                Optional.of(new Range(5, 20)),
                Optional.of(new Range(0, 0.03)),
                Optional.of(new Range(0.4, 2)),
                Optional.of(new Range(1, 3)),
                true);
        Board like = Edits.drawing(BOARD, "J1", usual);
        PortExpectation before = new PortExpectation(
                Optional.of(new Range(11, 13)), Optional.empty(), Optional.empty(), Optional.empty(), false);
        PortExpectation after = Edits.drawingAs(Edits.drawing(BOARD, "J1", before), like)
                .part("J1")
                .orElseThrow()
                .expects()
                .orElseThrow();
        assertThat(after.chargeAmps()).isEqualTo(usual.chargeAmps());
        assertThat(after.volts()).isEqualTo(before.volts());
        assertThat(after.reversible()).isEqualTo(before.reversible());
        Board portless = BOARD.withParts(BOARD.parts().stream()
                .filter(p -> p.kind() != PartKind.CONNECTOR)
                .toList());
        assertThatThrownBy(() -> Edits.drawingAs(portless, like)).isInstanceOf(InvalidMember.class);
        assertThatThrownBy(() -> Edits.drawing(BOARD, "J404", usual)).hasMessageContaining("J404");
    }
}
