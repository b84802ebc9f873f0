package ohmoscope.core.board;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BoardTest {
    private final Board board = Fixtures.board();

    private Board with(List<Part> parts) {
        return new Board("x", "", board.outline(), 1, 4, 18, board.nets(), parts, List.of(), List.of());
    }

    @Test
    void findsPartsNetsAndTestPoints() {
        assertThat(board.part("C3")).map(Part::xMm).contains(20.0);
        assertThat(board.part("C99")).isEmpty();
        assertThat(board.net("VSYS")).map(Net::kind).contains(NetKind.POWER);
        assertThat(board.testPoint("TP1")).map(TestPoint::net).contains("VSYS");
        assertThat(board.partsOn("VSYS").map(Part::ref))
                .containsExactly("L1", "C1", "C2", "C3", "C4", "C5", "C6", "U1");
    }

    @Test
    void refusesTwoPartsOfOneName() {
        List<Part> parts = new ArrayList<>(board.parts());
        parts.add(board.parts().get(3));
        assertThatThrownBy(() -> with(parts))
                .isInstanceOfSatisfying(
                        InvalidMember.class, e -> assertThat(e.member()).isEqualTo("parts[11] (C2).ref"))
                .hasMessageContaining("stands twice");
    }

    @Test
    void refusesANetThatDoesNotExist() {
        List<Part> parts = List.of(Fixtures.twoPin("C1", PartKind.CAPACITOR, 5, 5, "VSYS", "NOWHERE"));
        assertThatThrownBy(() -> with(parts))
                .hasMessage("parts[0] (C1).pins[1].net names the net NOWHERE, which is not in nets");
    }

    @Test
    void refusesSuppliesAndGatesOnUnknownNets() {
        Part chip = new Part(
                "U9",
                PartKind.IC,
                Optional.of(Role.REGULATOR),
                "",
                OptionalDouble.empty(),
                "",
                Side.TOP,
                5,
                5,
                0,
                3,
                3,
                OptionalDouble.empty(),
                List.of(),
                OptionalDouble.empty(),
                false,
                List.of(new Supply("VSYS", "V9", Optional.empty(), OptionalDouble.empty())),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
        assertThatThrownBy(() -> with(List.of(chip))).hasMessageContaining("supplies[0].out names the net V9");
    }

    @Test
    void impliesRolesFromKindAndNets() {
        assertThat(board.role(board.part("C1").orElseThrow())).isEqualTo(Role.BYPASS);
        assertThat(board.role(board.part("F1").orElseThrow())).isEqualTo(Role.SERIES);
        assertThat(board.role(board.part("L1").orElseThrow())).isEqualTo(Role.SERIES);
        assertThat(board.role(board.part("U1").orElseThrow())).isEqualTo(Role.LOAD);
        assertThat(board.role(board.part("R1").orElseThrow())).isEqualTo(Role.OTHER);
    }

    @ParameterizedTest
    @ValueSource(doubles = {Double.NaN, 0, -1, 1e9, Double.POSITIVE_INFINITY})
    void refusesImpossibleThickness(double mm) {
        assertThatThrownBy(() ->
                        new Board("x", "", board.outline(), mm, 4, 18, board.nets(), List.of(), List.of(), List.of()))
                .hasMessageContaining("thickness_mm");
    }

    @ParameterizedTest
    @ValueSource(doubles = {Double.NaN, 1e9, Double.NEGATIVE_INFINITY})
    void refusesImpossiblePlaces(double mm) {
        assertThatThrownBy(() -> new PointMm(mm, 0)).hasMessageContaining("x_mm");
        assertThatThrownBy(() -> new Pin("1", "GND", 0, mm)).hasMessageContaining("y_mm");
    }

    @Test
    void refusesBodiesWithoutSize() {
        assertThatThrownBy(() -> Part.of("C1", PartKind.CAPACITOR, Side.TOP, 0, 0, 0, 1, List.of()))
                .hasMessageContaining("w_mm");
    }

    @Test
    void turnedBodiesCoverWhatTheyCover() {
        Part straight = Fixtures.twoPin("C1", PartKind.CAPACITOR, 10, 10, "VSYS", "GND");
        assertThat(straight.covers(10.7, 10, 0)).isTrue();
        assertThat(straight.covers(10, 10.7, 0)).isFalse();
        Part turned = new Part(
                "C1",
                PartKind.CAPACITOR,
                Optional.empty(),
                "",
                OptionalDouble.empty(),
                "",
                Side.TOP,
                10,
                10,
                90,
                1.6,
                0.8,
                OptionalDouble.empty(),
                List.of(),
                OptionalDouble.empty(),
                false,
                List.of(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
        assertThat(turned.covers(10, 10.7, 0)).isTrue();
        assertThat(turned.covers(10.7, 10, 0)).isFalse();
        assertThat(turned.covers(10.7, 10, 0.4)).isTrue();
    }

    @Test
    void rangesHoldTheirEnds() {
        Range range = new Range(0.38, 0.46);
        assertThat(range.contains(0.38)).isTrue();
        assertThat(range.contains(0.47)).isFalse();
        assertThatThrownBy(() -> new Range(2, 1)).isInstanceOf(InvalidMember.class);
    }
}
