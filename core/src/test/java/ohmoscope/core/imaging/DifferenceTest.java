package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import org.junit.jupiter.api.Test;

class DifferenceTest {
    private static final CaptureSpec SPEC = new CaptureSpec(
            "c",
            Side.TOP,
            10,
            8,
            0.01,
            0,
            OptionalDouble.empty(),
            OptionalDouble.empty(),
            List.of(
                    new RegistrationPair(0, 0, 0, 7),
                    new RegistrationPair(9, 0, 9, 7),
                    new RegistrationPair(9, 7, 9, 0),
                    new RegistrationPair(0, 7, 0, 0)),
            List.of(0d, 1d, 2d, 3d, 4d, 5d, 6d));

    /** Pixel 13 warms by 50 counts a frame from the fourth on. */
    private static FrameSource.Cursor frames() {
        return new FrameSource.Cursor() {
            private int f;

            @Override
            public boolean next(char[] counts) {
                java.util.Arrays.fill(counts, (char) 29_500);
                counts[13] += (char) (50 * Math.max(0, f - 2));
                return f++ < 7;
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
    }

    private static OnSpan on(double from, double to) {
        return new OnSpan(from, 0, to, 0, 1, 1);
    }

    @Test
    void theLastWarmSecondLessWhatWasBefore() throws Exception {
        float[] change = Difference.of(SPEC, DifferenceTest::frames, on(2.5, 5.5));
        // Frame 5 alone lies in the last second: three steps of half a kelvin.
        assertThat(change[13]).isCloseTo(1.5f, within(1e-3f));
        assertThat(change[12]).isCloseTo(0, within(1e-3f));
    }

    @Test
    void withoutFramesOnBothSidesOfTheSwitchingNothingHasChanged() throws Exception {
        assertThat(Difference.of(SPEC, DifferenceTest::frames, on(-1, 5))).containsOnly(0);
        assertThat(Difference.of(SPEC, DifferenceTest::frames, on(9, 12))).containsOnly(0);
    }
}
