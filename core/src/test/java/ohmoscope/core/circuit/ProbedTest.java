package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Meter.Mode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class ProbedTest {
    private final Board board = PowerFixtures.board();
    private final Twin twin = new Twin(board);

    private List<List<Fault>> faults() {
        List<String> nets = board.nets().stream().map(n -> n.name()).toList();
        Random random = new Random(5);
        List<List<Fault>> faults = new ArrayList<>();
        faults.add(List.of());
        board.parts().forEach(p -> faults.add(List.of(new Open(p.ref()))));
        board.parts().forEach(p -> faults.add(List.of(new Open(p.ref(), Math.exp(random.nextDouble(0, 10))))));
        for (int i = 0; i < 120; i++) {
            List<Fault> some = new ArrayList<>();
            for (int k = 0; k <= i % 3; k++) {
                String a = nets.get(random.nextInt(nets.size()));
                String b = i % 2 == 0 ? "GND" : nets.get(random.nextInt(nets.size()));
                if (!a.equals(b)) {
                    some.add(new Bridge("C3", a, b, Math.exp(random.nextDouble(-4, 11))));
                }
            }
            faults.add(some);
        }
        Collections.shuffle(faults, random);
        return faults;
    }

    /** What was asked before does not show: a fault is read as on a board laid out for it alone. */
    @ParameterizedTest
    @EnumSource(Mode.class)
    void oneFaultAfterAnotherIsReadAsEachAlone(Mode mode) {
        for (String net : List.of("VMAIN", "VBUS", "VIN")) {
            Probed probed = twin.between(net, "GND", mode, BoardState.WHOLE);
            for (List<Fault> some : faults()) {
                Band again = probed.read(true, some);
                Band alone = twin.read(new Meter(mode, net, "GND", true), BoardState.WHOLE, some);
                assertThat(again.low())
                        .as("%s %s", net, some)
                        .isCloseTo(alone.low(), within(1e-5 * alone.low() + 1e-6));
                if (Double.isInfinite(alone.high())) {
                    assertThat(again.high()).isInfinite();
                } else {
                    assertThat(again.high())
                            .as("%s %s", net, some)
                            .isCloseTo(alone.high(), within(1e-5 * alone.high() + 1e-6));
                }
            }
        }
    }

    @Test
    void aPartThatIsOpenTwiceOverIsOpenOnce() {
        Probed across = twin.between("VBUS", "VIN", Mode.OHMS, BoardState.WHOLE);
        Band once = across.read(true, List.of(new Open("F1")));
        assertThat(across.read(true, List.of(new Open("F1"), new Open("F1", 300))))
                .isEqualTo(once);
        assertThat(once.low()).isGreaterThan(100);
        assertThat(across.read(true, List.of(new Open("F1", 300))).low()).isBetween(100.0, 301.0);
    }

    @Test
    void aBridgeToWhatTheProbeDidNotReachIsFollowed() {
        BoardState apart = BoardState.WHOLE.without("F1");
        Probed probed = twin.between("VBUS", "GND", Mode.OHMS, apart);
        assertThat(twin.island("VBUS", apart)).containsExactly("VBUS");
        List<Fault> across = List.of(new Bridge("C3", "VBUS", "VMAIN", 0.1), new Bridge("C4", "VMAIN", "GND", 0.1));
        assertThat(probed.read(true, across).high()).isCloseTo(0.2, within(0.01));
        assertThat(probed.read(true, List.of()).low()).isGreaterThan(1e3);
    }

    /** @param spreadOhms by which each pull-up is more than the one before: with any, none stands for another */
    private static Twin pulledUp(double spreadOhms) {
        Board board = PowerFixtures.board();
        List<Net> nets = new ArrayList<>(board.nets());
        List<Part> parts = new ArrayList<>(board.parts());
        List<Pin> pins = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            String line = "L" + i;
            nets.add(new Net(line, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty()));
            parts.add(Fixtures.withOhms(
                    Fixtures.twoPin("RL" + i, PartKind.RESISTOR, 10, 10, "VMAIN", line), 2_000 + i * spreadOhms));
            pins.add(new Pin("P" + i, line, 12, 10));
        }
        parts.add(Part.of("UL", PartKind.IC, Side.TOP, 12, 10, 5, 5, pins));
        return new Twin(board.withNets(nets).withParts(parts));
    }

    /** Forty lines of which each has volts of its own, and forty of which one stands for all; all nodes leak a little. */
    @ParameterizedTest
    @EnumSource(Mode.class)
    void fortyPullUpsReadAsOneOfEach(Mode mode) {
        Twin folded = pulledUp(0);
        Twin each = pulledUp(1e-6);
        List<List<Fault>> faults = List.of(
                List.of(),
                List.of(new Bridge("UL", "L7", "GND", 100)),
                List.of(new Bridge("UL", "L7", "GND", 1), new Bridge("UL", "L8", "GND", 50_000)),
                List.of(new Bridge("UL", "L3", "L7", 1), new Open("RL3")),
                List.of(new Open("RL7")),
                List.of(new Bridge("C3", "VMAIN", "GND", 0.05)));
        List<BoardState> states =
                List.of(BoardState.WHOLE, BoardState.WHOLE.without("RL9"), BoardState.WHOLE.without("UL"));
        for (String net : List.of("VMAIN", "L7", "L9", "L20")) {
            for (BoardState state : states) {
                for (List<Fault> some : faults) {
                    Band of = folded.read(new Meter(mode, net, "GND", true), state, some);
                    Band expected = each.read(new Meter(mode, net, "GND", true), state, some);
                    assertThat(of.low()).as("%s %s", net, some).isCloseTo(expected.low(), withinPercentage(0.5));
                    if (Double.isFinite(expected.high()) || Double.isFinite(of.high())) {
                        assertThat(of.high()).as("%s %s", net, some).isCloseTo(expected.high(), withinPercentage(0.5));
                    }
                }
            }
        }
    }
}
