package ohmoscope.core.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class ClimbTest {
    private static double hill(double[] p) {
        return 5 - Math.pow(p[0] - 2, 2) - 3 * Math.pow(p[1] + 1, 2);
    }

    @Test
    void theTopOfAHillIsFound() {
        double[] top = Climb.up(ClimbTest::hill, new double[] {0, 0}, new double[] {0.5, 0.5}, 300, 1e-9);
        assertThat(top[0]).isCloseTo(2, within(1e-3));
        assertThat(top[1]).isCloseTo(-1, within(1e-3));
    }

    @Test
    void theBudgetIsKeptAndTheBestSoFarComesBack() {
        AtomicInteger asked = new AtomicInteger();
        double[] from = {0, 0};
        double[] best = Climb.up(
                p -> {
                    asked.incrementAndGet();
                    return hill(p);
                },
                from,
                new double[] {0.5, 0.5},
                9,
                1e-9);
        assertThat(asked.get()).isLessThanOrEqualTo(10);
        assertThat(hill(best)).isGreaterThan(hill(from));
        assertThat(from).containsExactly(0, 0);
    }
}
