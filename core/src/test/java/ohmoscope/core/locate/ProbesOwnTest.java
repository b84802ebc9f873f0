package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;

class ProbesOwnTest {
    private static HeatSource at(double xMm, Side side) {
        return new HeatSource(xMm, 10, side, 0.25, 0.1);
    }

    /** A contact of {@code contactWatts} at 10 mm. */
    private static double ofOneWatt(double xMm, double contactWatts) {
        return ProbesOwn.at(at(xMm, Side.TOP), 1, at(10, Side.TOP), contactWatts);
    }

    @Test
    void allOfItAtTheProbeAndNoneFarOffOrOnTheOtherSide() {
        assertThat(ofOneWatt(10, 0.1)).isEqualTo(1);
        assertThat(ofOneWatt(11, 0.1)).isBetween(0.6, 0.8);
        assertThat(ofOneWatt(16, 0.1)).isLessThan(1e-4);
        assertThat(ProbesOwn.at(at(10, Side.BOTTOM), 1, at(10, Side.TOP), 1)).isZero();
    }

    @Test
    void aContactOfThreeTimesTheWattsReachesTwiceAsFar() {
        assertThat(ofOneWatt(14, 3)).isCloseTo(ofOneWatt(12, 0), within(1e-9));
    }

    @Test
    void faintHeatIsNotTheProbesAllOverTheBoard() {
        assertThat(ofOneWatt(25, 1e6)).isEqualTo(ofOneWatt(25, 8)).isLessThan(0.001);
        assertThat(ProbesOwn.at(at(20, Side.TOP), 0, at(10, Side.TOP), 1)).isLessThan(0.001);
    }
}
