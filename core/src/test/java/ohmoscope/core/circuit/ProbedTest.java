package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
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
            Probed probed = twin.between(net, "GND", BoardState.WHOLE);
            for (List<Fault> some : faults()) {
                Band again = probed.read(mode, true, some);
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
    void aBridgeToWhatTheProbeDidNotReachIsFollowed() {
        BoardState apart = BoardState.WHOLE.without("F1");
        Probed probed = twin.between("VBUS", "GND", apart);
        assertThat(twin.island("VBUS", apart)).containsExactly("VBUS");
        List<Fault> across = List.of(new Bridge("C3", "VBUS", "VMAIN", 0.1), new Bridge("C4", "VMAIN", "GND", 0.1));
        assertThat(probed.read(Mode.OHMS, true, across).high()).isCloseTo(0.2, within(0.01));
        assertThat(probed.read(Mode.OHMS, true, List.of()).low()).isGreaterThan(1e3);
    }
}
