package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Hypothesis.Code;
import org.junit.jupiter.api.Test;

class PosteriorTest {
    private static Posterior of(double none, double shorts, double open) {
        return Posterior.of(
                        none, List.of(new Hypothesis(Code.SHORT, "C1", shorts), new Hypothesis(Code.OPEN, "F1", open)))
                .orElseThrow();
    }

    @Test
    void allOfItIsOne() {
        Random random = new Random(8);
        for (int i = 0; i < 100; i++) {
            double none = random.nextDouble();
            double shorts = random.nextDouble();
            Posterior posterior = of(none, shorts, 1 - shorts);
            double frames = posterior.frames() * (1 - none);
            double others = posterior.others() * (1 - shorts);
            assertThat(frames).isCloseTo(posterior.warm(), within(1e-9));
            assertThat(frames + others).isLessThan(1 + 1e-9);
            if (shorts < 0.98) {
                assertThat(frames + others).isCloseTo(1, within(1e-9));
            }
        }
    }

    /** Where the frames only repeat their own prior, the meter stands as it was. */
    @Test
    void framesThatTellNothingChangeNothing() {
        assertThat(of(0.08, 0.7, 0.3).warm()).isCloseTo(0.7, within(1e-9));
    }

    @Test
    void framesThatShowWarmthOutweighAMeterInDoubtAndTheOtherWayRound() {
        assertThat(of(0.001, 0.4, 0.6).warm()).isGreaterThan(0.98);
        assertThat(of(0.95, 0.6, 0.4).warm()).isLessThan(0.02);
        assertThat(of(0.001, 0.5, 0.5).warm()).isGreaterThan(of(0.01, 0.5, 0.5).warm());
    }

    /** As counted: boards drawn by the meter's word, frames that call wrongly as often as they say. */
    @Test
    void theShareIsWhatComesOfIt() {
        Random random = new Random(5);
        int called = 0;
        int right = 0;
        for (int i = 0; i < 400_000; i++) {
            boolean warm = random.nextDouble() < 0.3;
            // Such frames come nine times as often from a warm rail as from a cold one.
            boolean frames = random.nextDouble() < (warm ? 0.45 : 0.05);
            if (frames) {
                called++;
                right += warm ? 1 : 0;
            }
        }
        double none = 0.08 / (0.08 + 9 * 0.92);
        assertThat(of(none, 0.3, 0.7).warm()).isCloseTo((double) right / called, within(0.01));
    }

    @Test
    void withoutAMeterTheFramesStand() {
        assertThat(Posterior.of(0.1, List.of())).isEmpty();
        assertThat(Posterior.of(0.5, List.of(new Hypothesis(Code.SHORT, "C1", 1)))
                        .orElseThrow()
                        .warm())
                .as("a lead may have slipped all the same")
                .isBetween(0.7, 0.9);
        assertThat(of(0.001, 1, 0).warm()).isGreaterThan(0.999);
    }
}
