package ohmoscope.core.circuit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Meter.Mode;
import org.junit.jupiter.api.Test;

class TwinTest {
    private final Twin twin = new Twin(PowerFixtures.board());

    private Band read(Mode mode, String net, Fault... faults) {
        return twin.read(new Meter(mode, net, "GND", true), BoardState.WHOLE, List.of(faults));
    }

    @Test
    void goodBoardReadsWhatItsBoardFileSays() {
        Band ohms = read(Mode.OHMS, "V3");
        assertThat(ohms.low()).isBetween(140.0, 160.0);
        assertThat(ohms.high()).isBetween(14_000.0, 16_000.0);
        Band diode = read(Mode.DIODE_VOLTS, "V3");
        assertThat(diode.low()).isBetween(0.13, 0.31);
        assertThat(diode.high()).isCloseTo(0.55, within(0.01));
    }

    @Test
    void coreReadsAFewOhmsAndMillivolts() {
        Band core = read(Mode.DIODE_VOLTS, "VCORE");
        assertThat(core.low()).isCloseTo(0.002, within(0.0005));
        assertThat(core.high()).isCloseTo(0.020, within(0.001));
    }

    @Test
    void netsJoinedByAFuseReadAlike() {
        assertThat(read(Mode.OHMS, "VBUS").middle())
                .isCloseTo(read(Mode.OHMS, "VIN").middle(), within(1.0));
    }

    @Test
    void shortReadsItsOwnOhms() {
        Band shorted = read(Mode.OHMS, "VMAIN", new Bridge("C3", "VMAIN", "GND", 0.35));
        assertThat(shorted.low()).isCloseTo(0.35, within(1e-3));
        assertThat(shorted.high()).isCloseTo(0.35, within(1e-3));
        assertThat(read(Mode.DIODE_VOLTS, "VMAIN", new Bridge("C3", "VMAIN", "GND", 40))
                        .low())
                .isCloseTo(0.040, within(0.002));
    }

    @Test
    void shortGoesWithItsPart() {
        Bridge fault = new Bridge("C3", "VMAIN", "GND", 0.02);
        Meter meter = new Meter(Mode.OHMS, "VMAIN", "GND", true);
        assertThat(twin.read(meter, BoardState.WHOLE, List.of(fault)).high()).isLessThan(0.1);
        assertThat(twin.read(meter, BoardState.WHOLE.without("C3"), List.of(fault))
                        .low())
                .isGreaterThan(500);
        assertThat(twin.read(meter, BoardState.WHOLE.with("C3", true), List.of(fault))
                        .low())
                .isGreaterThan(500);
        assertThat(twin.read(meter, BoardState.WHOLE.without("C4"), List.of(fault))
                        .high())
                .isLessThan(0.1);
    }

    @Test
    void openFuseTakesTheFarSidesLoadAway() {
        Meter across = new Meter(Mode.OHMS, "VBUS", "VIN", true);
        assertThat(twin.read(across, BoardState.WHOLE, List.of()).high()).isCloseTo(0.02, within(1e-3));
        assertThat(twin.read(across, BoardState.WHOLE, List.of(new Open("F1"))).low())
                .isGreaterThan(4_000);
    }

    @Test
    void switchShowsItsBodyDiodeOneWay() {
        Band forward = twin.read(new Meter(Mode.DIODE_VOLTS, "VIN", "VMAIN", false), BoardState.WHOLE, List.of());
        assertThat(forward.low()).isBetween(0.3, 0.6);
    }

    @Test
    void injectionIntoAShortIsLimitedAndShowsLeadsPlusShort() {
        Twin.Injected in =
                twin.inject("VMAIN", 1, 2, 0.05, BoardState.WHOLE, List.of(new Bridge("C3", "VMAIN", "GND", 0.03)));
        assertThat(in.amps()).isCloseTo(2, within(1e-6));
        assertThat(in.volts()).isCloseTo(2 * 0.08, within(1e-3));
    }

    @Test
    void injectionIntoGroundMeetsTheLeadsAlone() {
        Twin.Injected in = twin.inject("GND", 1, 2, 0.05, BoardState.WHOLE, List.of());
        assertThat(in.volts() / in.amps()).isCloseTo(0.05, within(1e-9));
    }

    @Test
    void belowTheKneeAGoodRailTakesNothing() {
        Twin.Injected in = twin.inject("VMAIN", 0.25, 2, 0.05, BoardState.WHOLE, List.of());
        assertThat(in.amps()).isLessThan(0.001);
    }

    @Test
    void islandIsWhatConducts() {
        assertThat(twin.island("VBUS", BoardState.WHOLE))
                .contains("VIN", "VMAIN", "VBAT")
                .doesNotContain("V3");
        assertThat(twin.island("VBUS", BoardState.WHOLE.without("F1"))).containsExactly("VBUS");
    }
}
