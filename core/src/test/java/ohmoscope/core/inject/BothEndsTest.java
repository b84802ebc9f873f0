package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.inject.BothEnds.Fed;
import ohmoscope.core.inject.BothEnds.Side;
import org.junit.jupiter.api.Test;

class BothEndsTest {
    private static final OptionalDouble UNKNOWN = OptionalDouble.empty();
    private static final OptionalDouble TEN_MILLIOHMS = OptionalDouble.of(0.01);

    private static Fed drop(double amps, double volts) {
        return new Fed(amps, OptionalDouble.of(volts), OptionalDouble.empty());
    }

    private static Fed warmth(double amps, double kelvin) {
        return new Fed(amps, OptionalDouble.empty(), OptionalDouble.of(kelvin));
    }

    @Test
    void noDropWhereItIsFedAndADropFromTheOtherEndIsTheFirstSide() {
        BothEnds found = BothEnds.of(TEN_MILLIOHMS, drop(2, 0.00005), drop(2, 0.0204));

        assertThat(found.side()).isEqualTo(Side.FIRST);
        assertThat(found.first() + found.second() + found.both()).isCloseTo(1, within(1e-9));
    }

    @Test
    void theSignOfTheDropIsTheProbesHandNotTheFaults() {
        assertThat(BothEnds.of(UNKNOWN, drop(2, -0.04), drop(2.2, 0.0001)).side())
                .isEqualTo(Side.SECOND);
    }

    @Test
    void warmFromOneEndOnlyTellsWithoutAMeter() {
        assertThat(BothEnds.of(TEN_MILLIOHMS, warmth(3, 5.1), warmth(3, 0.3)).side())
                .isEqualTo(Side.SECOND);
    }

    @Test
    void aPartThatTheShortWarmsAlikeFromBothEndsTellsNothing() {
        assertThat(BothEnds.of(UNKNOWN, warmth(2, 1.9), warmth(2, 2.0)).side()).isEqualTo(Side.UNTOLD);
    }

    @Test
    void aDropFromBothEndsIsAShortOnBothSides() {
        assertThat(BothEnds.of(TEN_MILLIOHMS, drop(2, 0.0098), drop(2, 0.0104)).side())
                .isEqualTo(Side.BOTH);
    }

    @Test
    void tooLittleCurrentTellsNothing() {
        assertThat(BothEnds.of(UNKNOWN, drop(0.01, 0.0001), drop(0.01, -0.0001)).side())
                .isEqualTo(Side.UNTOLD);
    }

    @Test
    void anEndThatTookNothingIsRefused() {
        assertThatThrownBy(() -> drop(0, 0.1)).isInstanceOf(InvalidMember.class);
    }

    /** Parts, tips, meters and spilt heat by other rules than the ones it reckons with. */
    @Test
    void namesTheSideOnNumbersMadeByOtherRules() {
        Random random = new Random(77);
        int told = 0;
        int wrong = 0;
        int hunts = 600;
        for (int i = 0; i < hunts; i++) {
            boolean first = random.nextBoolean();
            double ohms = 0.004 + 0.08 * random.nextDouble() * random.nextDouble();
            OptionalDouble says = random.nextInt(3) == 0
                    ? OptionalDouble.empty()
                    : OptionalDouble.of(ohms * (0.8 + 0.3 * random.nextDouble()));
            double spill = 0.6 * random.nextDouble() * random.nextDouble();
            double warms = 20 + 90 * random.nextDouble();
            boolean meter = random.nextInt(4) > 0;
            boolean camera = !meter || random.nextBoolean();
            BothEnds found = BothEnds.of(
                    says,
                    fed(random, first ? 0 : 1, ohms, warms, spill, meter, camera),
                    fed(random, first ? 1 : 0, ohms, warms, spill, meter, camera));
            boolean named = found.side() == Side.FIRST || found.side() == Side.SECOND;
            told += named ? 1 : 0;
            wrong += named && (found.side() == Side.FIRST) != first || found.side() == Side.BOTH ? 1 : 0;
        }
        assertThat(wrong).isLessThanOrEqualTo(hunts / 100);
        assertThat(told).isGreaterThan(hunts * 9 / 10);
    }

    /** A thermal voltage of the tips that keeps its sign, a last digit that is cut off, a camera that reads a share too low. */
    private static Fed fed(
            Random random, double share, double ohms, double warms, double spill, boolean meter, boolean camera) {
        double amps = 0.8 + 2.4 * random.nextDouble();
        double volts = share * amps * ohms * (0.97 + 0.06 * random.nextDouble()) + 6e-5 * random.nextDouble();
        double kelvin = (0.75 + 0.25 * random.nextDouble()) * amps * amps * (share * ohms * warms + spill)
                + 0.2 * (random.nextDouble() - 0.5);
        return new Fed(
                amps,
                meter ? OptionalDouble.of(Math.floor(volts * 1e4) / 1e4) : OptionalDouble.empty(),
                camera ? OptionalDouble.of(kelvin) : OptionalDouble.empty());
    }
}
