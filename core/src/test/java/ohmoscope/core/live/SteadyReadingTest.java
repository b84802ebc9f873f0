package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SteadyReadingTest {
    private final SteadyReading steady = new SteadyReading(SteadyReading.MILLIVOLTS);
    private final List<Double> taken = new ArrayList<>();

    private void read(double volts, int times, double noise) {
        Random random = new Random(4);
        for (int i = 0; i < times; i++) {
            steady.next(volts + noise * random.nextGaussian()).ifPresent(taken::add);
        }
    }

    @Test
    void aPointIsTakenOnceHoweverLongTheProbeRests() {
        read(0, 3, 1e-4);
        read(0.0165, 60, 1e-4);
        assertThat(taken).hasSize(1);
        assertThat(taken.get(0)).isCloseTo(0.0165, within(1e-4));
    }

    @Test
    void theNextOneNeedsALiftedProbe() {
        read(0, 3, 1e-4);
        read(0.0165, 10, 1e-4);
        // Slid along to the neighbour without being lifted: not taken for the next point.
        read(0.0170, 20, 1e-4);
        assertThat(taken).hasSize(1);
        read(0, 3, 1e-4);
        read(0.0170, 10, 1e-4);
        assertThat(taken).hasSize(2);
    }

    /** Where it lay before the walk began it was not asked to lie. */
    @Test
    void theFirstOneNeedsItToo() {
        read(0.0165, 30, 1e-4);
        assertThat(taken).isEmpty();
    }

    @Test
    void aProbeThatSlidesOrHangsInTheAirIsNone() {
        for (int i = 0; i < 40; i++) {
            steady.next(0.01 + 0.002 * (i % 3)).ifPresent(taken::add);
        }
        read(0, 40, 1e-4);
        assertThat(taken).isEmpty();
    }

    /** On a dead rail the meter shows what it shows in the air: only the hand can say which it is. */
    @Test
    void whatIsNothingIsTakenWhenTheHandSaysSo() {
        SteadyReading rails = new SteadyReading(SteadyReading.RAILS);
        for (int i = 0; i < 20; i++) {
            assertThat(rails.next(0.002)).isEmpty();
        }
        assertThat(rails.resting()).isPresent();
        assertThat(rails.take()).hasValue(0.002);
        // Once.
        assertThat(rails.take()).isEmpty();
    }

    @Test
    void aRailIsTakenByItselfAndTheNextAfterALift() {
        SteadyReading rails = new SteadyReading(SteadyReading.RAILS);
        double[] shown = {
            0, 0, 3.31, 3.30, 3.31, 3.31, 3.30, 3.31, 5.02, 5.02, 5.02, 5.02, 5.02, 0.01, 5.02, 5.01, 5.02, 5.02, 5.02
        };
        for (double volts : shown) {
            rails.next(volts).ifPresent(taken::add);
        }
        assertThat(taken).hasSize(2);
        assertThat(taken.get(0)).isCloseTo(3.306, within(0.01));
        assertThat(taken.get(1)).isCloseTo(5.018, within(0.01));
    }

    @Test
    void aProbeThatMovesHasNothingToTake() {
        SteadyReading rails = new SteadyReading(SteadyReading.RAILS);
        for (int i = 0; i < 20; i++) {
            rails.next(i % 2 == 0 ? 0 : 3.3);
        }
        assertThat(rails.resting()).isEmpty();
        assertThat(rails.take()).isEmpty();
    }
}
