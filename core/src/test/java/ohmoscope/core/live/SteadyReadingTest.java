package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SteadyReadingTest {
    private final SteadyReading steady = new SteadyReading();
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
}
