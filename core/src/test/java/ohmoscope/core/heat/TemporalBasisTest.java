package ohmoscope.core.heat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class TemporalBasisTest {
    private static final int FRAMES = 80;
    private final double[] times = new double[FRAMES];
    private final List<Integer> segment = new ArrayList<>();
    private final SlabParameters slab = SlabParameters.expected(Fixtures.board());

    TemporalBasisTest() {
        for (int f = 0; f < FRAMES; f++) {
            times[f] = f * 0.1;
            segment.add(f < 30 ? 0 : f < 33 ? -1 : 1);
        }
    }

    private double[][] basis() {
        return TemporalBasis.of(slab, Waveform.stepAt(2), times, segment);
    }

    @Test
    void rowsAreOrthonormal() {
        double[][] b = basis();
        assertThat(b.length).isBetween(4, 9);
        for (int i = 0; i < b.length; i++) {
            for (int j = 0; j <= i; j++) {
                double dot = 0;
                for (int f = 0; f < FRAMES; f++) {
                    dot += b[i][f] * b[j][f];
                }
                assertThat(dot).isCloseTo(i == j ? 1 : 0, within(1e-6));
            }
        }
    }

    @Test
    void offsetsOfASegmentLeaveNoTrace() {
        for (double[] row : basis()) {
            double first = 0;
            double second = 0;
            for (int f = 0; f < FRAMES; f++) {
                first += segment.get(f) == 0 ? row[f] : 0;
                second += segment.get(f) == 1 ? row[f] : 0;
                if (segment.get(f) < 0) {
                    assertThat(row[f]).isZero();
                }
            }
            assertThat(first).isCloseTo(0, within(1e-9));
            assertThat(second).isCloseTo(0, within(1e-9));
        }
    }

    @Test
    void aSteadyTrendStaysInTheLastRow() {
        double[][] b = basis();
        for (int i = 0; i < b.length; i++) {
            double dot = 0;
            for (int f = 0; f < FRAMES; f++) {
                dot += b[i][f] * (0.3 * times[f] + 5);
            }
            if (i < b.length - 1) {
                assertThat(dot).isCloseTo(0, within(1e-6));
            } else {
                assertThat(Math.abs(dot)).isGreaterThan(0.5);
            }
        }
    }

    @Test
    void holdsNearlyAllOfAnyResponse() {
        double[][] b = basis();
        double[] course = new double[FRAMES];
        for (int f = 0; f < FRAMES; f++) {
            course[f] = SlabResponse.step(slab, true, 2.2, times[f] - 2, 0.5);
        }
        TemporalBasis.removeSegmentMeans(course, segment);
        double all = 0;
        double kept = 0;
        for (int f = 0; f < FRAMES; f++) {
            all += course[f] * course[f];
        }
        for (double[] row : b) {
            double dot = 0;
            for (int f = 0; f < FRAMES; f++) {
                dot += row[f] * course[f];
            }
            kept += dot * dot;
        }
        assertThat(kept / all).isGreaterThan(0.999);
    }

    @Test
    void withoutPowerThereIsNothingToProjectOn() {
        assertThat(TemporalBasis.of(slab, Waveform.stepAt(100), times, segment)).isEmpty();
    }

    @Test
    void waveformsComeFromTheSquareOfTheCurrent() {
        Waveform waveform = Waveform.resistive(Fixtures.log(1, 3, 5, 0.5, 2));
        assertThat(waveform.at(2)).isCloseTo(1, within(1e-9));
        assertThat(waveform.at(4)).isCloseTo(0, within(1e-9));
        assertThat(waveform.firstOnS()).isCloseTo(0.95, within(0.06));
        assertThat(Waveform.resistive(Fixtures.log(9, 9, 5, 0, 0)).silent()).isTrue();
    }
}
