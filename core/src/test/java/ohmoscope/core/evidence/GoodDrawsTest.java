package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.Typed;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.GoodDraws.Good;
import ohmoscope.core.evidence.GoodDraws.Phase;
import org.junit.jupiter.api.Test;

class GoodDrawsTest {
    private static final Board BOARD = PowerFixtures.board();
    private static final List<String> PORTS = List.of("J1");

    @Test
    void onlyWhatWasDrawnSteadilySinceTheRepairCounts() {
        List<Observation> entries = Typed.entries(
                BOARD,
                "charger J1 12V 1.9A flat",
                "replaced C3",
                "charger J1 12V 0.02A flat off battery out",
                "charger J1 12V 0.9A flat on battery out",
                "charger J1 12V 0.4A pulsing",
                "charger 12V 1.6A battery in",
                "charges");
        assertThat(GoodDraws.after(PORTS, entries, 2))
                .containsExactlyInAnyOrder(
                        new Good("J1", Phase.STANDBY, 0.02),
                        new Good("J1", Phase.RUN, 0.9),
                        new Good("J1", Phase.CHARGE, 1.6));
        assertThat(GoodDraws.after(List.of(), entries, 2)).isEmpty();
    }

    @Test
    void whatWasMeasuredTakesThePlaceOfTheClassAndTheRestStays() {
        PortExpectation before = new PortExpectation(
                Optional.of(new Range(11, 13)),
                Optional.of(new Range(0, 0.05)),
                Optional.of(new Range(0.1, 3)),
                Optional.empty(),
                false);
        Board said = BOARD.withParts(BOARD.parts().stream()
                .map(p -> p.ref().equals("J1") ? Fixtures.expecting(p, before) : p)
                .toList());
        Board measured = GoodDraws.onto(said, List.of(new Good("J1", Phase.RUN, 0.8), new Good("J1", Phase.RUN, 1.0)));
        PortExpectation after = measured.part("J1").orElseThrow().expects().orElseThrow();
        assertThat(after.runAmps()).contains(new Range(0.8 - 0.8 * 0.2, 1.0 + 1.0 * 0.2));
        assertThat(after.standbyAmps()).isEqualTo(before.standbyAmps());
        assertThat(after.volts()).isEqualTo(before.volts());
        assertThat(GoodDraws.onto(BOARD, List.of())).isSameAs(BOARD);
    }

    @Test
    void oneDeviceAloneLeavesMoreRoom() {
        Range alone = GoodDraws.range(List.of(new Good("J1", Phase.RUN, 1)), Phase.RUN)
                .orElseThrow();
        Range two = GoodDraws.range(List.of(new Good("J1", Phase.RUN, 1), new Good("J1", Phase.RUN, 1)), Phase.RUN)
                .orElseThrow();
        assertThat(alone.high()).isGreaterThan(two.high());
        assertThat(GoodDraws.range(List.of(new Good("J1", Phase.STANDBY, 0.001)), Phase.STANDBY)
                        .orElseThrow())
                .satisfies(r -> assertThat(r.contains(0)).isTrue())
                .satisfies(r -> assertThat(r.contains(0.006)).isTrue());
        assertThat(GoodDraws.range(List.of(), Phase.RUN)).isEmpty();
    }
}
