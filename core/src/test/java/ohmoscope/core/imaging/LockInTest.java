package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class LockInTest {
    private static final int WIDTH = 40;
    private static final int PIXELS = WIDTH * 30;
    private static final double HALF_S = 1;
    private static final int PROMPT = 5 * WIDTH + 8;
    private static final int LATE = 20 * WIDTH + 30;
    private static final double LATE_S = 0.21;

    /** Swings of 60 and 30 mK, the second late, over drift and noise of 50 mK; frames at odd times. */
    private static LockIn after(int pulses, double driftKPerS, long seed) {
        Random random = new Random(seed);
        LockIn lock = new LockIn(PIXELS, HALF_S);
        double t = 3.7;
        for (int p = 0; p < 2 * pulses; p++) {
            double from = t;
            lock.switched(p % 2 == 0, from);
            while (t < from + HALF_S) {
                float[] rises = new float[PIXELS];
                double phase = Math.PI * (p % 2 + (t - from) / HALF_S);
                for (int i = 0; i < PIXELS; i++) {
                    rises[i] = (float) (0.05 * random.nextGaussian() + driftKPerS * t);
                }
                rises[PROMPT] += 0.06 * Math.sin(phase - 0.3);
                rises[LATE] += 0.03 * Math.sin(phase - 0.3 - Math.PI * LATE_S / HALF_S);
                lock.add(rises, t);
                t += 0.03 + 0.02 * random.nextDouble();
            }
            t = from + HALF_S;
        }
        return lock;
    }

    @Test
    void swingAndLagComeOutOfNoiseAndDrift() {
        LockIn.Picture picture = after(40, 0.02, 3).picture().orElseThrow();
        assertThat(picture.swingK()[PROMPT]).isCloseTo(0.06f, within(0.006f));
        assertThat(picture.swingK()[LATE]).isCloseTo(0.03f, within(0.006f));
        assertThat(picture.lagS()[LATE] - picture.lagS()[PROMPT]).isCloseTo((float) LATE_S, within(0.05f));
    }

    @Test
    void whatOnlyMakesNoiseHasNoLag() {
        LockIn.Picture picture = after(40, 0.02, 4).picture().orElseThrow();
        int clear = 0;
        for (float lag : picture.lagS()) {
            clear += Float.isNaN(lag) ? 0 : 1;
        }
        assertThat(clear).isBetween(2, 5);
        // 50 mK over some two thousand frames, twice.
        assertThat(picture.unrestK()).isBetween(0.001, 0.003);
    }

    @Test
    void nothingIsSaidBeforeTwoPulses() {
        assertThat(after(1, 0, 5).picture()).isEmpty();
        LockIn lock = new LockIn(PIXELS, HALF_S);
        lock.add(new float[PIXELS], 0);
        assertThat(lock.picture()).isEmpty();
        assertThat(after(2, 0, 5).pulses()).isEqualTo(2);
    }
}
