package ohmoscope.core.locate.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Outline;
import ohmoscope.core.heat.ProjectedKernel;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TimeKernel;
import ohmoscope.core.heat.Waveform;
import org.junit.jupiter.api.Test;

class SpotTest {
    private static final double[] TIMES = {1, 2, 4, 8};
    private static final double[][] EACH = {{1, 0, 0, 0}, {0, 1, 0, 0}, {0, 0, 1, 0}, {0, 0, 0, 1}};

    private final Outline outline = Fixtures.rectangle(60, 40);
    private final SlabParameters slab = SlabParameters.expected(Fixtures.board());
    private final RadialTable table = new RadialTable(
            slab, true, 0.4, ProjectedKernel.of(EACH, new TimeKernel(Waveform.stepAt(0), TIMES, 0, 0.1)), 50);

    /** {@code [place · times + time]}. */
    private float[] at(double sourceXMm, double sourceYMm, float... places) {
        int count = places.length / 2;
        float[] xMm = new float[count];
        float[] yMm = new float[count];
        for (int i = 0; i < count; i++) {
            xMm[i] = places[2 * i];
            yMm[i] = places[2 * i + 1];
        }
        float[] out = new float[count * TIMES.length];
        new Spot(table, sourceXMm, sourceYMm, outline).addTo(new Places(xMm, yMm, count), out, new Spot.Scratch(count));
        float[] byPlace = new float[out.length];
        for (int i = 0; i < count; i++) {
            for (int j = 0; j < TIMES.length; j++) {
                byPlace[i * TIMES.length + j] = out[j * count + i];
            }
        }
        return byPlace;
    }

    @Test
    void aPlaceWarmsOverTimeAndLessFartherOff() {
        float[] out = at(30, 20, 30, 20, 33, 20, 30, 26);
        for (int j = 1; j < TIMES.length; j++) {
            for (int i = 0; i < 3; i++) {
                assertThat(out[i * 4 + j]).isGreaterThan(out[i * 4 + j - 1]);
            }
            assertThat(out[j]).isGreaterThan(out[4 + j]);
            assertThat(out[4 + j]).isGreaterThan(out[8 + j]);
        }
    }

    @Test
    void equalDistancesAreEquallyWarm() {
        float[] out = at(30, 20, 27, 20, 33, 20, 30, 23, 30, 17);
        for (int i = 1; i < 4; i++) {
            for (int j = 0; j < 4; j++) {
                assertThat(out[i * 4 + j]).isCloseTo(out[j], within(1e-3f * out[3]));
            }
        }
    }

    @Test
    void onTheEdgeOneWattDoesTheWorkOfTwo() {
        float[] middle = at(30, 20, 30, 22);
        float[] edge = at(0, 20, 0, 22);
        for (int j = 0; j < 3; j++) {
            assertThat(edge[j]).isCloseTo(2 * middle[j], within(0.05f * middle[j]));
        }
    }

    @Test
    void aSourceOutsideTheBoardIsTakenToItsEdge() {
        assertThat(at(-5, 20, 2, 20)).containsExactly(at(0, 20, 2, 20), within(1e-6f));
    }

    @Test
    void whatIsThereAlreadyStays() {
        float[] xMm = {31};
        float[] yMm = {20};
        float[] out = {7, 7, 7, 7};
        new Spot(table, 30, 20, outline).addTo(new Places(xMm, yMm, 1), out, new Spot.Scratch(1));
        float[] alone = at(30, 20, 31, 20);
        for (int j = 0; j < 4; j++) {
            assertThat(out[j]).isCloseTo(7 + alone[j], within(1e-5f));
        }
    }

    @Test
    void aPlaceAloneIsAsWarmAsAmongOthers() {
        // Alone, most mirror images are out of reach; among others that lie far apart, none is.
        float[] together = at(8, 6, 1, 1, 58, 38, 30, 20, 8, 39);
        float[][] alone = {at(8, 6, 1, 1), at(8, 6, 58, 38), at(8, 6, 30, 20), at(8, 6, 8, 39)};
        for (int i = 0; i < alone.length; i++) {
            for (int j = 0; j < 4; j++) {
                assertThat(alone[i][j]).isCloseTo(together[i * 4 + j], within(1e-6f));
            }
        }
    }
}
