package ohmoscope.core.port;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.port.PortDamage.Mark;
import ohmoscope.core.port.PortDamage.Way;
import ohmoscope.core.port.PortDamage.What;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PortDamageTest {
    private static final Part PORT = Part.of(
            "J90",
            PartKind.CONNECTOR,
            Side.TOP,
            5,
            5,
            9,
            7,
            List.of(
                    new Pin("A1", "GND", 1, 1),
                    new Pin("A4", "VBUS", 2, 1),
                    new Pin("A5", "CC_1", 3, 1),
                    new Pin("B5", "CC_2", 4, 1),
                    new Pin("A6", "USBP", 5, 1)));

    private static BoardIndex board() {
        Board plain = PowerFixtures.board();
        List<Net> nets = new java.util.ArrayList<>(plain.nets());
        for (String name : List.of("CC_1", "CC_2", "USBP")) {
            nets.add(new Net(name, NetKind.SIGNAL, java.util.OptionalDouble.empty(), java.util.Optional.empty()));
        }
        List<Part> parts = new java.util.ArrayList<>(plain.parts());
        parts.add(PORT);
        parts.add(Part.of(
                "U90",
                PartKind.IC,
                Side.TOP,
                15,
                5,
                4,
                4,
                List.of(new Pin("1", "CC_1", 14, 5), new Pin("2", "CC_2", 16, 5), new Pin("3", "V3", 15, 4))));
        return new BoardIndex(plain.withNets(nets).withParts(parts));
    }

    private static PortDamage of(Map<String, Mark> marks) {
        return PortDamage.of(board(), PORT, marks);
    }

    @ParameterizedTest
    @CsvSource({
        "A4, POWER_TO_LINE",
        "A1, LINE_TO_GROUND",
        "A6, LINE_TO_LINE",
        "A8, POWER_TO_LINE",
        "A11, LINE_TO_GROUND",
        "B5, POWER_TO_LINE"
    })
    void neighboursThatTouch(String pin, What what) {
        assertThat(of(Map.of(pin, Mark.TOUCHES_NEXT)).effects())
                .singleElement()
                .matches(e -> e.what() == what && e.other().isPresent());
    }

    @Test
    void powerOnALineKillsThatWayAndWhatHangsOnIt() {
        PortDamage damage = of(Map.of("A4", Mark.TOUCHES_NEXT));
        assertThat(damage.dead()).containsExactly(Way.A);
        assertThat(damage.behind()).containsExactly(Map.entry("U90", "CC_1"));
        assertThat(damage.after()).containsExactly("VBUS", "CC_1", "V3");
        assertThat(damage.portAlone()).isFalse();
        // Power on a line is no short to ground.
        assertThat(damage.explains("VBUS", true)).isFalse();
    }

    @Test
    void aLineOnGroundExplainsItsReadingAndHarmsNothing() {
        PortDamage damage = of(Map.of("A1", Mark.TOUCHES_NEXT, "B5", Mark.MISSING));
        assertThat(damage.portAlone()).isTrue();
        assertThat(damage.dead()).containsExactly(Way.B);
        assertThat(damage.explains("CC_2", false)).isTrue();
        assertThat(damage.explains("CC_2", true)).isFalse();
    }

    @Test
    void aBarrelHasThreeAndPowerOnGroundStopsIt() {
        Part jack = Part.of(
                "J91",
                PartKind.CONNECTOR,
                Side.TOP,
                5,
                5,
                9,
                7,
                List.of(new Pin("1", "VBUS", 1, 1), new Pin("2", "GND", 2, 1)));
        assertThat(PortKind.of(jack)).isEqualTo(PortKind.BARREL);
        PortDamage damage = PortDamage.of(board(), jack, Map.of("1", Mark.BENT));
        assertThat(damage.effects()).singleElement().matches(e -> e.what() == What.OPEN_POWER);
    }

    @Test
    void aPinThatItDoesNotHaveIsRefused() {
        assertThatThrownBy(() -> of(Map.of("C7", Mark.BENT)))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("C7");
        assertThatThrownBy(() -> of(Map.of("A12", Mark.TOUCHES_NEXT))).hasMessageContaining("last of its row");
    }

    @Test
    void everyPinOfEveryKindCanBeMarked() {
        for (PortKind kind : PortKind.values()) {
            assertThat(kind.rows().stream().flatMap(List::stream).map(PortPin::name))
                    .doesNotHaveDuplicates()
                    .allMatch(n -> kind.pin(n).isPresent());
        }
        for (List<PortPin> row : PortKind.REVERSIBLE_24.rows()) {
            for (PortPin pin : row) {
                assertThat(of(Map.of(pin.name(), Mark.MISSING)).effects()).hasSize(1);
            }
        }
    }
}
