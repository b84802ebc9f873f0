package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import org.junit.jupiter.api.Test;

class PictureTest {
    @Property(tries = 50)
    void movingARampMovesItsValues(
            @ForAll @DoubleRange(min = -3, max = 3) double dx, @ForAll @DoubleRange(min = -3, max = 3) double dy) {
        float[] in = new float[40 * 30];
        for (int i = 0; i < in.length; i++) {
            in[i] = 2f * (i % 40) + 5f * (i / 40);
        }
        float[] out = new float[in.length];
        Resampler.shifted(in, 40, 30, dx, dy, out);
        for (int y = 6; y < 24; y++) {
            for (int x = 6; x < 34; x++) {
                assertThat((double) out[y * 40 + x]).isCloseTo(2 * (x + dx) + 5 * (y + dy), within(2e-4));
            }
        }
    }

    @Test
    void noShiftChangesNothing() {
        Random random = new Random(1);
        float[] in = new float[17 * 11];
        for (int i = 0; i < in.length; i++) {
            in[i] = random.nextFloat();
        }
        float[] out = new float[in.length];
        Resampler.shifted(in, 17, 11, 0, 0, out);
        assertThat(out).containsExactly(in, within(1e-6f));
    }

    private static WarmthMap hill() {
        int n = 81;
        float[] kelvin = new float[n * n];
        for (int c = 0; c < kelvin.length; c++) {
            double x = (c % n) * 0.5 - 20;
            double y = (c / n) * 0.5 - 20;
            kelvin[c] = (float) (10 * Math.exp(-(x * x + y * y) / 50));
        }
        return new WarmthMap(-20, -20, 0.5, n, n, kelvin, 4, 0.02);
    }

    @Test
    void aContourOfARoundHillIsACircle() {
        List<Contours.Contour> contours = Contours.of(hill(), 5);
        assertThat(contours).hasSize(1);
        double radius = Math.sqrt(50 * Math.log(2));
        for (PointMm point : contours.get(0).points()) {
            assertThat(Math.hypot(point.xMm(), point.yMm())).isCloseTo(radius, within(0.03));
        }
        assertThat(contours.get(0).lengthMm()).isCloseTo(2 * Math.PI * radius, within(0.4));
        assertThat(contours.get(0).points().get(0))
                .isEqualTo(contours.get(0).points().get(contours.get(0).points().size() - 1));
    }

    @Test
    void levelsAreRoundAndClearOfTheNoise() {
        List<Double> levels = Contours.levels(hill());
        assertThat(levels).containsExactly(1.0, 2.0, 4.0, 6.0, 8.0);
        WarmthMap noisy = new WarmthMap(0, 0, 1, 2, 2, new float[] {0, 0.1f, 0, 0}, 1, 0.5);
        assertThat(Contours.levels(noisy)).isEmpty();
    }

    @Test
    void contoursStopAtTheBoardsEdge() {
        WarmthMap hill = hill();
        float[] cut = hill.kelvin();
        for (int c = 0; c < cut.length; c++) {
            cut[c] = c % 81 < 40 ? Float.NaN : cut[c];
        }
        WarmthMap half = new WarmthMap(-20, -20, 0.5, 81, 81, cut, 4, 0.02);
        assertThat(Contours.of(half, 5).get(0).points())
                .allSatisfy(p -> assertThat(p.xMm()).isGreaterThanOrEqualTo(0));
    }

    @Test
    void warmthIsTheRiseSinceBeforePower() throws IOException {
        CaptureSpec spec = Fixtures.capture(92, 72, 40, Fixtures.corners(40, 30, 2.2));
        Random random = new Random(3);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < 40; f++) {
            char[] frame = new char[spec.pixels()];
            for (int p = 0; p < frame.length; p++) {
                // Board place (20, 15) is at pixel (46, 35).
                double r2 = Math.pow(p % 92 - 46, 2) + Math.pow(p / 92 - 35, 2);
                double rise = f * 0.1 < 1 ? 0 : 3 * Math.exp(-r2 / 120);
                frame[p] = (char) Math.round((295 + 0.2 * Math.sin(f) + rise + 0.05 * random.nextGaussian()) / 0.01);
            }
            frames.add(frame);
        }
        FrameScan scan = FrameScan.of(spec, Fixtures.frames(frames));
        WarmthMap map = WarmthMap.of(
                spec,
                Fixtures.frames(frames),
                scan,
                Registration.fit(spec.registration()),
                Fixtures.rectangle(40, 30),
                new OnSpan(0.95, 0.05, 100, 0, 1, 1));
        assertThat(map.hottestK()).isCloseTo(3, within(0.35));
        int best = 0;
        float[] kelvin = map.kelvin();
        for (int c = 0; c < kelvin.length; c++) {
            best = kelvin[c] > kelvin[best] ? c : best;
        }
        assertThat(map.xMinMm() + (best % map.columns()) * map.stepMm()).isCloseTo(20, within(0.8));
        assertThat(map.yMinMm() + (best / map.columns()) * map.stepMm()).isCloseTo(15, within(0.8));
    }
}
