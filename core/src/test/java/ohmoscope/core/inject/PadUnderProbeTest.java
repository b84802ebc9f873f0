package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;
import org.junit.jupiter.api.Test;

class PadUnderProbeTest {
    private final Board board = Fixtures.board();

    private double on(String net, Optional<ProbePlace> at) {
        return PadUnderProbe.groundOverNet(board, injection(net, at));
    }

    private static Injection injection(String net, Optional<ProbePlace> at) {
        return new Injection(
                net,
                at,
                Optional.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty());
    }

    private ProbePlace pad(String ref, String net) {
        Pin pin = board.part(ref).orElseThrow().pins().stream()
                .filter(p -> p.net().equals(net))
                .findFirst()
                .orElseThrow();
        return new ProbePlace(pin.xMm(), pin.yMm(), Side.TOP, Optional.of(ref));
    }

    @Test
    void aPlaceOnAGroundPadSpeaksForGround() {
        // The capacitor's pads are 1.2 mm apart.
        assertThat(on("VSYS", Optional.of(pad("C3", "GND")))).isCloseTo(Math.exp(1.2 * 1.2 / 2), within(1e-9));
    }

    @Test
    void aPlaceOnTheNetsPadSaysLittleAgainstIt() {
        assertThat(on("VSYS", Optional.of(pad("C3", "VSYS")))).isEqualTo(0.7);
    }

    @Test
    void farFromAnyPadOrUnmarkedItSaysNothing() {
        assertThat(on("VSYS", Optional.of(new ProbePlace(-50, -50, Side.TOP, Optional.empty()))))
                .isEqualTo(1);
        assertThat(on("VSYS", Optional.empty())).isEqualTo(1);
    }

    @Test
    void onlyAPlaceClearlyOnGroundIsWorthAWord() {
        assertThat(PadUnderProbe.nearerToGround(board, at("C3", "GND"))).isTrue();
        assertThat(PadUnderProbe.nearerToGround(board, at("C3", "VSYS"))).isFalse();
    }

    private Injection at(String ref, String net) {
        return injection("VSYS", Optional.of(pad(ref, net)));
    }

    @Test
    void groundWrittenDownIsNearlyCertain() {
        assertThat(on("GND", Optional.empty())).isGreaterThan(100);
    }
}
