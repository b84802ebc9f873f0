package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import ohmoscope.core.imaging.Projection;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.capture.Reflections;
import ohmoscope.core.locate.capture.Scales;
import ohmoscope.core.locate.capture.Spreads;
import ohmoscope.core.locate.capture.WireFinder;
import org.junit.jupiter.api.Test;

/** The lead, the reflections and the scatter, each in pictures made for it. */
class PictureFindingsTest {
    private static final int W = 80;
    private static final int H = 60;
    private static final int K = 4;
    private static final double NOISE = 0.05;
    private final Random random = new Random(8);

    private float[] noise() {
        float[] values = new float[W * H * K];
        for (int i = 0; i < values.length; i++) {
            values[i] = (float) (NOISE * random.nextGaussian());
        }
        return values;
    }

    private static Projection movie(float[] values) {
        return new Projection(W, H, 1, K, values, NOISE);
    }

    @Test
    void theLeadIsFoundAndHidden() {
        float[] values = noise();
        double angle = Math.toRadians(30);
        for (int p = 0; p < W * H; p++) {
            double dx = p % W - 30;
            double dy = p / W - 20;
            double along = dx * Math.cos(angle) + dy * Math.sin(angle);
            double across = Math.abs(dx * Math.sin(angle) - dy * Math.cos(angle));
            if (along > 0 && across < 1.2) {
                values[p * K + K - 1] += 1.5f;
            }
        }
        Optional<WireFinder.Wire> wire = new WireFinder(movie(values)).from(30, 20, 0.6);
        assertThat(wire).isPresent();
        assertThat(wire.get().riseK()).isGreaterThan(1);
        assertThat(Math.toDegrees(Math.atan2(wire.get().dy(), wire.get().dx()))).isCloseTo(30, within(3.0));
        assertThat(wire.get().hides(30 + 20 * Math.cos(angle), 20 + 20 * Math.sin(angle)))
                .isTrue();
        assertThat(wire.get().hides(30 - 20 * Math.cos(angle), 20 - 20 * Math.sin(angle)))
                .isFalse();
    }

    /** A cold lead in front of a warm place is as dark as the place is warm: what it hides is not taken for cold board. */
    @Test
    void aColdLeadBeforeAWarmPlaceIsHiddenToo() {
        float[] values = noise();
        for (int p = 0; p < W * H; p++) {
            double r2 = Math.pow(p % W - 60, 2) + Math.pow(p / W - 30, 2);
            boolean lead = p % W > 20 && Math.abs(p / W - 30) <= 1;
            values[p * K + K - 1] += lead ? 0 : (float) (3 * Math.exp(-r2 / 600));
        }
        Optional<WireFinder.Wire> wire = new WireFinder(movie(values)).from(20, 30, 0.6);
        assertThat(wire).isPresent();
        assertThat(wire.get().riseK()).isNegative();
        assertThat(wire.get().hides(60, 30)).isTrue();
        assertThat(wire.get().hides(60, 36)).isFalse();
    }

    @Test
    void noiseAndARoundSpotAreNoLead() {
        assertThat(new WireFinder(movie(noise())).from(30, 20, 0.6)).isEmpty();
        float[] values = noise();
        for (int p = 0; p < W * H; p++) {
            double r2 = Math.pow(p % W - 30, 2) + Math.pow(p / W - 20, 2);
            values[p * K + K - 1] += (float) (2 * Math.exp(-r2 / 80));
        }
        assertThat(new WireFinder(movie(values)).from(30, 20, 0.6)).isEmpty();
    }

    @Test
    void aCommonReflectionIsTurnedIntoOneComponent() {
        float[] values = noise();
        float[] patch = new float[W * H];
        double[] course = {0.5, -0.5, 0.5, 0.5};
        for (int b = 0; b < 20; b++) {
            int x0 = 5 + 15 * (b % 5);
            int y0 = 5 + 14 * (b / 5);
            double strength = 2 * random.nextDouble();
            for (int y = y0; y < y0 + 5; y++) {
                for (int x = x0; x < x0 + 6; x++) {
                    patch[y * W + x] = 30;
                    for (int j = 0; j < K; j++) {
                        values[(y * W + x) * K + j] += (float) (strength * course[j]);
                    }
                }
            }
        }
        double[][] basis = new double[K][6];
        for (int j = 0; j < K; j++) {
            basis[j][j] = 1;
        }
        Reflections.Turned turned = Reflections.turn(movie(values), basis, patch);
        double[] energy = new double[K];
        for (int p = 0; p < W * H; p++) {
            for (int j = 0; j < K && patch[p] > 0; j++) {
                energy[j] += Math.pow(turned.movie().values()[p * K + j], 2);
            }
        }
        double most = java.util.Arrays.stream(energy).max().orElseThrow();
        double all = java.util.Arrays.stream(energy).sum();
        assertThat(most / all).isGreaterThan(0.97);
        for (int i = 0; i < K; i++) {
            for (int j = 0; j <= i; j++) {
                double dot = 0;
                for (int f = 0; f < 6; f++) {
                    dot += turned.basis()[i][f] * turned.basis()[j][f];
                }
                assertThat(dot).isCloseTo(i == j ? 1 : 0, within(1e-6));
            }
        }
    }

    @Test
    void withoutBodiesNothingIsTurned() {
        Projection movie = movie(noise());
        assertThat(Reflections.turn(movie, new double[K][6], new float[W * H]).movie())
                .isSameAs(movie);
    }

    private static Pixels pixels(float patch) {
        Pixels pixels = Grids.of(H, W, 1, 0);
        Arrays.fill(pixels.patch(), patch);
        return pixels;
    }

    @Test
    void whiteNoiseHasNoExtraScatter() {
        Spreads spreads = Spreads.of(noise(), K, pixels(0), NOISE, Scales.of(pixels(0), 1), new float[K * W * H]);
        for (int j = 0; j < K; j++) {
            assertThat(spreads.variance(j, 0)).isCloseTo(NOISE * NOISE, within(1.4 * NOISE * NOISE));
        }
        assertThat(Spreads.none(NOISE, K).variance(2, 50)).isCloseTo(NOISE * NOISE, within(1e-12));
    }

    /** What the heat model may be off by is counted with its error; counted again as scatter it would drown the heat. */
    @Test
    void whatTheModelMayBeOffByIsNoScatter() {
        float[] values = noise();
        float[] allowed = new float[K * W * H];
        for (int p = 0; p < W * H; p++) {
            double wave = 0.3 * Math.sin(p % W / 9.0) * Math.sin(p / W / 7.0);
            values[p] += (float) wave;
            allowed[p] = (float) (wave * wave * 400);
        }
        Scales scales = Scales.of(pixels(0), 1);
        double counted = Spreads.of(values, K, pixels(0), NOISE, scales, new float[K * W * H])
                .variance(0, 0);
        double besides =
                Spreads.of(values, K, pixels(0), NOISE, scales, allowed).variance(0, 0);
        assertThat(counted).isGreaterThan(50 * NOISE * NOISE);
        assertThat(besides).isLessThan(0.2 * counted);
    }

    @Test
    void bodiesScatterOnTheirOwn() {
        float[] values = noise();
        for (int p = 0; p < W * H; p++) {
            values[p] += (float) (0.4 * random.nextGaussian());
        }
        Spreads spreads = Spreads.of(values, K, pixels(20), NOISE, Scales.of(pixels(20), 1), new float[K * W * H]);
        assertThat(spreads.variance(0, 20)).isGreaterThan(15 * 0.4 * 0.4);
        assertThat(spreads.variance(0, 0)).isLessThan(2 * NOISE * NOISE);
        assertThat(spreads.variance(1, 20)).isLessThan(10 * NOISE * NOISE);
    }
}
