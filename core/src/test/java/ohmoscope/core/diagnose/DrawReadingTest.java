package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import org.junit.jupiter.api.Test;

class DrawReadingTest {
    private static final Range STANDBY = new Range(0.005, 0.02);
    private static final Range RUN = new Range(0.3, 0.8);
    private final BoardIndex board = new BoardIndex(expecting(PowerFixtures.board()));
    private final PowerTree tree = PowerTree.of(board);

    private static Board expecting(Board board) {
        return expecting(
                board,
                new PortExpectation(
                        Optional.of(new Range(11.5, 12.5)),
                        Optional.of(STANDBY),
                        Optional.of(RUN),
                        Optional.empty(),
                        false));
    }

    private static Board expecting(Board board, PortExpectation expects) {
        return Fixtures.with(
                board,
                board.nets(),
                board.parts().stream()
                        .map(p -> p.ref().equals("J1") ? Fixtures.expecting(p, expects) : p)
                        .toList());
    }

    private DrawReading draw(Optional<String> net, DeviceState state, double volts, double amps) {
        return DrawReading.of(
                        board,
                        tree,
                        new Power(
                                1,
                                PowerSource.BENCH,
                                net.isPresent() ? Optional.empty() : Optional.of("J1"),
                                net,
                                Optional.empty(),
                                Optional.empty(),
                                OptionalDouble.of(volts),
                                OptionalDouble.of(amps),
                                state,
                                Optional.empty(),
                                Optional.empty()))
                .orElseThrow();
    }

    @Test
    void overStandbyItIsALeakOnWhatIsFedWithoutAConverter() {
        DrawReading leak = draw(Optional.empty(), DeviceState.OFF, 12, 0.365);
        assertThat(leak.leakOhms().orElseThrow()).isCloseTo(12 / (0.365 - 1.2 * 0.02), within(1e-9));
        assertThat(leak.carriers()).contains("VBUS", "VIN", "VMAIN").doesNotContain("V3", "VCORE");
    }

    @Test
    void whatAGoodOneTakesLeavesNothingOver() {
        assertThat(draw(Optional.empty(), DeviceState.OFF, 12, 0.018).leakOhms())
                .isEmpty();
        assertThat(draw(Optional.empty(), DeviceState.ON, 12, 0.7).leakOhms()).isEmpty();
    }

    @Test
    void whatChargesACellIsNoLeakUnlessTheCellIsOut() {
        PortExpectation charging = new PortExpectation(
                Optional.of(new Range(11.5, 12.5)),
                Optional.of(STANDBY),
                Optional.of(RUN),
                Optional.of(new Range(0.8, 1.5)),
                false);
        assertThat(plugged(charging, BatteryState.IN).leakOhms()).isEmpty();
        assertThat(plugged(charging, BatteryState.OUT).leakOhms().orElseThrow())
                .isCloseTo(12 / (1.2 - 1.2 * 0.02), within(1e-9));
    }

    /** 1.2 A into the port of a device that is off. */
    private static DrawReading plugged(PortExpectation expects, BatteryState battery) {
        BoardIndex board = new BoardIndex(expecting(PowerFixtures.board(), expects));
        return DrawReading.of(
                        board,
                        PowerTree.of(board),
                        new Power(
                                1,
                                PowerSource.CHARGER,
                                Optional.of("J1"),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.of(battery),
                                OptionalDouble.of(12),
                                OptionalDouble.of(1.2),
                                DeviceState.OFF,
                                Optional.empty(),
                                Optional.empty()))
                .orElseThrow();
    }

    @Test
    void runningItMayBeBehindAConverterToo() {
        assertThat(draw(Optional.empty(), DeviceState.ON, 12, 2.4).carriers()).contains("V3", "VCORE");
    }

    @Test
    void aHeldRailTakesNoMoreWattsThanTheDevice() {
        double mostAmps = 1.2 * 1.15 * 12.5 * 0.8 / 3.3;
        DrawReading held = draw(Optional.of("V3"), DeviceState.ON, 3.3, mostAmps + 1);
        assertThat(held.mostAmps()).isCloseTo(mostAmps, within(1e-9));
        assertThat(held.leakOhms().orElseThrow()).isCloseTo(3.3, within(1e-6));
        assertThat(held.carriers()).containsExactly("V3");
    }
}
