package ohmoscope.core.locate.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.Grids;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.Pixels;
import org.junit.jupiter.api.Test;

class ModelErrorTest {
    private static final int SIDE = 40;
    private static final int K = 3;
    private static final double NOISE = 0.05;
    private static final double PITCH = 0.5;

    private final Random random = new Random(9);
    private final float[] cleaned = new float[K * SIDE * SIDE];

    private static Pixels pixels() {
        Pixels pixels = Grids.of(SIDE, SIDE, PITCH, 0);
        Arrays.fill(pixels.boardError(), 0.1f);
        return pixels;
    }

    private static int at(int x, int y) {
        return y * SIDE + x;
    }

    private void noise() {
        for (int i = 0; i < cleaned.length; i++) {
            cleaned[i] = (float) (NOISE * random.nextGaussian());
        }
    }

    private Pixels filled(Pixels pixels, int stride) {
        ModelError.fill(pixels, cleaned, K, NOISE, PITCH, stride, LocateSettings.DEFAULT);
        return pixels;
    }

    @Test
    void whereNothingIsWarmTheModelIsNotDoubted() {
        noise();
        Pixels pixels = filled(pixels(), 1);
        float[] sorted = pixels.modelVariance().clone();
        Arrays.sort(sorted);
        assertThat(sorted[sorted.length / 2]).isLessThan((float) (0.1 * NOISE * NOISE));
    }

    @Test
    void theVarianceGrowsWithTheSquareOfTheHeat() {
        spot(1);
        float one = filled(pixels(), 1).modelVariance()[at(20, 20)];
        spot(3);
        float three = filled(pixels(), 1).modelVariance()[at(20, 20)];
        assertThat(three / one).isBetween(8.5f, 9.5f);
        // A tenth of a kelvin a kelvin, as often as the 25 pixels in reach are off together.
        assertThat(one).isBetween(0.1f, 0.3f);
        assertThat(filled(pixels(), 1).modelVariance()[at(2, 2)]).isLessThan(1e-3f);
    }

    /** A square of seven pixels, warm in one component. */
    private void spot(float kelvin) {
        Arrays.fill(cleaned, 0);
        for (int y = 17; y <= 23; y++) {
            for (int x = 17; x <= 23; x++) {
                cleaned[at(x, y)] = kelvin;
            }
        }
    }

    @Test
    void bodiesAreDoubtedMoreThanTheBoard() {
        spot(1);
        Pixels pixels = pixels();
        pixels.patch()[at(20, 20)] = 12;
        filled(pixels, 1);
        assertThat(pixels.modelVariance()[at(20, 20)]).isGreaterThan(3 * pixels.modelVariance()[at(21, 20)]);
    }

    @Test
    void whatWasTakenOutIsTrustedALittleLessInTheComponentItWasTakenFrom() {
        float[] removed = new float[K * SIDE * SIDE];
        for (int y = 0; y < SIDE; y++) {
            for (int x = 0; x < SIDE / 4; x++) {
                removed[at(x, y)] = 2;
            }
        }
        float[] left = ModelError.leftIn(pixels(), removed, 0.02, K, NOISE, PITCH, 1);
        assertThat(left[at(4, 20)]).isGreaterThan(20 * (float) (NOISE * NOISE));
        assertThat(left[at(30, 20)]).isZero();
        assertThat(left[SIDE * SIDE + at(4, 20)]).isZero();
    }

    @Test
    void theFartherFromTheSourceTheLessIsTheModelBelieved() {
        Pixels pixels = pixels();
        Arrays.fill(pixels.modelVariance(), 1);
        double x = pixels.xMm()[at(1, 20)];
        double y = pixels.yMm()[at(1, 20)];
        float[] round = ModelError.round(pixels, new HeatSource(x, y, Side.TOP, 0.1, 0.1));
        assertThat(round[at(1, 20)]).isEqualTo(0.1f);
        // 16 pixels of half a millimetre are 8 mm, where the error is as large as said; squared, it grows as the
        // square.
        assertThat(round[at(17, 20)]).isCloseTo(1, within(1e-4f));
        assertThat(round[at(33, 20)]).isCloseTo(4, within(1e-3f));
        assertThat(pixels.modelVariance()[at(1, 20)]).isEqualTo(1);
    }

    @Test
    void fewerPixelsShareTheErrorWhereTheyAreLarger() {
        spot(1);
        Pixels fine = pixels();
        ModelError.fill(fine, cleaned, K, NOISE, 0.25, 1, LocateSettings.DEFAULT);
        Pixels coarse = pixels();
        ModelError.fill(coarse, cleaned, K, NOISE, 0.5, 2, LocateSettings.DEFAULT);
        assertThat(fine.modelVariance()[at(20, 20)] / coarse.modelVariance()[at(20, 20)])
                .isBetween(3.5f, 4.5f);
    }
}
