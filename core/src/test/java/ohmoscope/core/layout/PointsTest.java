package ohmoscope.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.layout.Points.Met;
import org.junit.jupiter.api.Test;

class PointsTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Met met(String name, String net, String other) {
        return new Met(name, PartKind.CAPACITOR, net, Optional.of(other), false);
    }

    @Test
    void aPointKeepsItsWordsAndHangsOnItsNet() {
        Board more = Points.with(BOARD, met("cap left of U3", "VMAIN", "GND"));
        Part part = more.part("cap-left-of-U3").orElseThrow();
        assertThat(more.role(part)).isEqualTo(Role.BYPASS);
        assertThat(more.parts()).hasSize(BOARD.parts().size() + 1).containsAll(BOARD.parts());
        assertThat(BOARD.parts())
                .noneMatch(p -> p.side() == part.side() && p.covers(part.xMm(), part.yMm(), part.wMm() / 2));
    }

    @Test
    void aNetThatIsNewSaysWhatItIsByItsName() {
        Board more = Points.with(BOARD, met("c1 by the fan", "5V fan", "GND"));
        Net net = more.net("5V-fan").orElseThrow();
        assertThat(net.kind()).isEqualTo(NetKind.POWER);
        assertThat(net.nominalVolts()).isEqualTo(OptionalDouble.of(5));
        Board line = Points.with(BOARD, new Met("pad 3", PartKind.OTHER, "mystery", Optional.of(" "), false));
        assertThat(line.net("mystery").orElseThrow().kind()).isEqualTo(NetKind.SIGNAL);
        Board rail = Points.with(BOARD, new Met("pad 3", PartKind.OTHER, "mystery", Optional.empty(), true));
        assertThat(rail.net("mystery").orElseThrow().kind()).isEqualTo(NetKind.POWER);
    }

    @Test
    void manyPointsFindEachAFreePlace() {
        Board board = BOARD;
        for (int i = 0; i < 30; i++) {
            board = Points.with(board, met("p" + i, "VMAIN", "GND"));
        }
        assertThat(board.parts().stream()
                        .filter(p -> p.ref().startsWith("p"))
                        .map(p -> p.xMm() + " " + p.yMm())
                        .distinct())
                .hasSize(30);
    }

    @Test
    void aNameIsTakenOnceAndMustBeAWord() {
        Board more = Points.with(BOARD, met("x1", "VMAIN", "GND"));
        assertThatThrownBy(() -> Points.with(more, met("x1", "VMAIN", "GND")))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("has already");
        assertThatThrownBy(() -> Points.with(more, met("VMAIN", "VMAIN", "GND")))
                .hasMessageContaining("has already");
        assertThatThrownBy(() -> met("a;b", "VMAIN", "GND")).hasMessageContaining("1 to 40 letters");
        assertThatThrownBy(() -> met("", "VMAIN", "GND")).isInstanceOf(InvalidMember.class);
    }

    @Test
    void aPointGetsAnotherNameOrTurnsOutToBeAPartThatIsThere() {
        Board more = Points.with(BOARD, met("cap left of U3", "VMAIN", "GND"));
        Board named = Points.renamed(more, "cap-left-of-U3", "C214");
        assertThat(named.part("C214").orElseThrow().pins())
                .isEqualTo(more.part("cap-left-of-U3").orElseThrow().pins());
        assertThat(named.part("cap-left-of-U3")).isEmpty();
        Board merged = Points.renamed(more, "cap-left-of-U3", "U1");
        assertThat(merged.part("cap-left-of-U3")).isEmpty();
        assertThat(merged.part("U1").orElseThrow().touches("VMAIN")).isTrue();
        assertThat(merged.parts()).hasSize(BOARD.parts().size());
        assertThatThrownBy(() -> Points.renamed(more, "nowhere", "C1")).isInstanceOf(InvalidMember.class);
        assertThatThrownBy(() -> Points.renamed(more, "cap-left-of-U3", "VMAIN"))
                .isInstanceOf(InvalidMember.class);
    }
}
