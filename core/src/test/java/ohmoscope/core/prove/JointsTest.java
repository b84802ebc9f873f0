package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.prove.Joints.Joint;
import ohmoscope.core.prove.Joints.Kind;
import ohmoscope.core.prove.Joints.State;
import org.junit.jupiter.api.Test;

class JointsTest {
    private static final Board BOARD = Fixtures.board();

    private static Joints of(String ref, String... lines) {
        return Joints.of(BOARD, BOARD.part(ref).orElseThrow(), Typed.entries(BOARD, lines));
    }

    private static State state(Joints joints, Kind kind, String pin) {
        return joints.joints().stream()
                .filter(j -> j.kind() == kind && j.pin().equals(pin))
                .map(Joint::state)
                .findFirst()
                .orElseThrow(() -> new AssertionError(kind + " " + pin + " is not in " + joints));
    }

    @Test
    void aCapacitorHoldsAtBothEndsAndIsNotBridged() {
        Joints joints = of("C3");
        assertThat(joints.in()).isFalse();
        assertThat(joints.joints()).extracting(Joint::kind).containsExactly(Kind.HOLDS, Kind.HOLDS, Kind.APART);
        assertThat(joints.joints()).allMatch(j -> j.state() == State.WANTED);
    }

    @Test
    void onlyWhatTheBeeperSaidSinceItWasPutInCounts() {
        String[] early = {"C3.1 to VSYS beep", "removed C3", "replaced C3"};
        assertThat(of("C3", early).joints()).allMatch(j -> j.state() == State.WANTED);
        Joints asked =
                of("C3", "removed C3", "replaced C3", "C3.1 to VSYS beep", "C3.2 to GND no beep", "C3.1 to GND beep");
        assertThat(asked.in()).isTrue();
        assertThat(state(asked, Kind.HOLDS, "1")).isEqualTo(State.RIGHT);
        assertThat(state(asked, Kind.HOLDS, "2")).isEqualTo(State.WRONG);
        assertThat(state(asked, Kind.APART, "1")).isEqualTo(State.WRONG);
        assertThat(asked.wrong()).hasSize(2);
        assertThat(of("C3", "replaced C3", "C3.1 to VSYS beep", "removed C3").in())
                .isFalse();
    }

    @Test
    void ohmsAndDiodeModeTellAsWell() {
        Joints asked = of("C3", "replaced C3", "C3.1 to VSYS ohm .2", "C3.1 to GND d .44");
        assertThat(state(asked, Kind.HOLDS, "1")).isEqualTo(State.RIGHT);
        assertThat(state(asked, Kind.APART, "1")).isEqualTo(State.RIGHT);
    }

    /** No probe gets under a body, and nobody goes round a hundred legs. */
    @Test
    void legsUnderTheBodyAreNotAskedForAndManyAreCounted() {
        List<Pin> balls =
                List.of(new Pin("A1", "VSYS", 20, 20), new Pin("A2", "GND", 20.5, 20), new Pin("A3", "S1", 21, 20));
        Part grid = Part.of("U9", PartKind.IC, Side.TOP, 20.5, 20, 6, 6, balls);
        assertThat(Joints.of(BOARD, grid, List.of()).joints()).isEmpty();
        List<Pin> legs = IntStream.range(0, 40)
                .mapToObj(i -> new Pin(String.valueOf(i), i % 2 == 0 ? "VSYS" : "GND", 10 + 0.5 * i, 10))
                .toList();
        Part row = Part.of("J9", PartKind.CONNECTOR, Side.TOP, 20, 8, 20, 3, legs);
        Joints joints = Joints.of(BOARD, row, List.of());
        assertThat(joints.joints()).hasSize(18);
        assertThat(joints.more()).isEqualTo(40 + 39 - 18);
    }

    /** What is asked of a joint says nothing of the circuit, and stops no advice. */
    @Test
    void aLegAndItsOwnNetAreNoReadingOfTheRail() {
        Advisor advisor = new Advisor(BOARD);
        String[] before = {"VSYS d .003", "replaced C3", "VSYS d .42"};
        String[] then = {"VSYS d .003", "replaced C3", "VSYS d .42", "C3.1 to VSYS beep"};
        var without = advisor.advise(Optional.empty(), "", Typed.entries(BOARD, before));
        var with = advisor.advise(Optional.empty(), "", Typed.entries(BOARD, then));
        assertThat(with.hypotheses()).isEqualTo(without.hypotheses());
        assertThat(with.findings()).isEqualTo(without.findings());
    }
}
