package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Trace;
import ohmoscope.core.inject.ShownLevels.Level;
import org.junit.jupiter.api.Test;

class ShownLevelsTest {
    private final Random random = new Random(4);
    private final List<double[]> samples = new ArrayList<>();

    /** Ten samples a second, a millivolt and a milliampere of noise. */
    private ShownLevelsTest held(double seconds, double volts, double amps) {
        for (int i = 0; i < seconds * 10; i++) {
            samples.add(new double[] {volts + 0.001 * random.nextGaussian(), amps + 0.001 * random.nextGaussian()});
        }
        return this;
    }

    private Trace trace() {
        return new Trace(
                IntStream.range(0, samples.size()).mapToDouble(i -> 0.1 * i).toArray(),
                Optional.of(samples.stream().mapToDouble(s -> s[0]).toArray()),
                Optional.of(samples.stream().mapToDouble(s -> s[1]).toArray()));
    }

    @Test
    void aLadderIsItsSteps() {
        Trace trace = held(2, 0, 0)
                .held(3, 0.031, 0.5)
                .held(1, 0, 0)
                .held(4, 0.062, 1)
                .held(4, 0.125, 2)
                .trace();
        List<Level> levels = ShownLevels.of(trace);
        assertThat(levels).hasSize(3).allMatch(l -> l.shape() == TraceShape.FLAT);
        assertThat(levels.get(0).volts()).isCloseTo(0.031, within(0.001));
        assertThat(levels.get(0).fromS()).isCloseTo(2, within(0.11));
        assertThat(levels.get(0).toS()).isCloseTo(5, within(0.11));
        assertThat(levels).extracting(Level::amps).satisfies(a -> {
            assertThat(a.get(1)).isCloseTo(1, within(0.002));
            assertThat(a.get(2)).isCloseTo(2, within(0.002));
        });
    }

    @Test
    void aShortThatWarmsIsOneLevelAndCountsAsItSettled() {
        for (int i = 0; i < 100; i++) {
            samples.add(new double[] {0.1 + 0.0006 * i, 2});
        }
        List<Level> levels = ShownLevels.of(trace());
        assertThat(levels).hasSize(1);
        assertThat(levels.get(0).volts()).isBetween(0.14, 0.16);
    }

    @Test
    void pulsesOfOneSettingAreOne() {
        for (int i = 0; i < 5; i++) {
            held(1, 0.2, 1.5).held(1, 0, 0);
        }
        List<Level> levels = ShownLevels.of(trace());
        assertThat(levels).hasSize(1);
        assertThat(levels.get(0).toS()).isCloseTo(9, within(0.2));
    }

    @Test
    void aSupplyThatRestartsIsSaidToPulse() {
        for (int i = 0; i < 12; i++) {
            held(0.2, 1.2, 3).held(0.8, 0, 0);
        }
        List<Level> levels = ShownLevels.of(trace());
        assertThat(levels).hasSize(1);
        assertThat(levels.get(0).shape()).isEqualTo(TraceShape.PULSING);
        assertThat(levels.get(0).amps()).isCloseTo(3, within(0.1));
    }

    @Test
    void aLostContactIsALevelWithoutCurrent() {
        List<Level> levels = ShownLevels.of(held(2, 0.1, 1).held(3, 1, 0).trace());
        assertThat(levels).hasSize(2);
        assertThat(levels.get(1).volts()).isCloseTo(1, within(0.002));
        assertThat(levels.get(1).amps()).isCloseTo(0, within(0.002));
    }

    @Test
    void whatSaysNothingIsRefusedWithAReason() {
        Trace off = held(5, 0, 0).trace();
        assertThatThrownBy(() -> ShownLevels.of(off))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("half a second");
        Trace noAmps = new Trace(off.timesS(), off.volts(), Optional.empty());
        assertThatThrownBy(() -> ShownLevels.of(noAmps)).hasMessageContaining("amps");
        samples.clear();
        for (int i = 0; i < 50; i++) {
            held(1, 0.1 + 0.05 * (i % 7), 1 + i % 7);
        }
        assertThatThrownBy(() -> ShownLevels.of(trace())).hasMessageContaining("50 levels");
    }
}
