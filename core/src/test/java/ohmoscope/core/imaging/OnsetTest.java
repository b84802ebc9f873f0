package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import org.junit.jupiter.api.Test;

class OnsetTest {
    private static final int W = 92;
    private static final int H = 72;
    private static final int FRAMES = 60;
    private static final double FRAME_S = 0.1;
    private static final double ON_S = 1.05;

    private final CaptureSpec spec = Fixtures.capture(W, H, FRAMES, Fixtures.corners(40, 30, 2.2));
    private final Homography map = Registration.fit(spec.registration()).homography();

    /** A place that warms at once and one that warms late, both by the same in the end. */
    private List<char[]> frames(double kelvin) {
        return frames(kelvin, 0.5);
    }

    private List<char[]> frames(double kelvin, double quickS) {
        Random random = new Random(5);
        List<char[]> frames = new ArrayList<>();
        for (int f = 0; f < FRAMES; f++) {
            char[] frame = new char[W * H];
            double t = spec.timesS().get(f) - ON_S;
            for (int p = 0; p < frame.length; p++) {
                double x = map.xMm(p % W, p / W);
                double y = map.yMm(p % W, p / W);
                double quick = t > 0 ? 1 - Math.exp(-t / quickS) : 0;
                double slow = t > 0 ? 1 - Math.exp(-Math.pow(t / 2.5, 2)) : 0;
                double rise = kelvin
                        * (quick * Math.exp(-(Math.pow(x - 10, 2) + Math.pow(y - 15, 2)) / 18)
                                + slow * Math.exp(-(Math.pow(x - 30, 2) + Math.pow(y - 15, 2)) / 18));
                frame[p] = (char) Math.round((295 + rise + 0.04 * random.nextGaussian()) / spec.kelvinPerCount());
            }
            frames.add(frame);
        }
        return frames;
    }

    private BoardField onset(double kelvin) throws Exception {
        return onset(frames(kelvin));
    }

    private BoardField onset(List<char[]> frames) throws Exception {
        FrameSource source = Fixtures.frames(frames);
        return Onset.of(
                spec,
                source,
                FrameScan.of(spec, source),
                map,
                Fixtures.rectangle(40, 30),
                new OnSpan(ON_S, 0.05, 100, 0.05, 1, 1));
    }

    private static float at(BoardField field, double xMm, double yMm) {
        int column = (int) Math.round((xMm - field.x0Mm()) / field.stepMm());
        int row = (int) Math.round((yMm - field.y0Mm()) / field.stepMm());
        return field.values()[row * field.columns() + column];
    }

    @Test
    void heatArrivesFirstWhereItStarts() throws Exception {
        BoardField field = onset(2);
        assertThat(spec.timesS().get(1)).isCloseTo(FRAME_S, within(1e-9));
        assertThat((double) at(field, 10, 15)).isCloseTo(0.5 * Math.log(2), within(0.12));
        assertThat((double) at(field, 30, 15)).isBetween(1.2, 2.6);
    }

    @Test
    void whatIsWarmInTheFirstFrameAfterPowerWasHalfWarmBeforeIt() throws Exception {
        double firstFrameS =
                spec.timesS().stream().filter(t -> t > ON_S).findFirst().orElseThrow() - ON_S;
        BoardField field = onset(frames(2, 1e-3));
        assertThat((double) at(field, 10, 15)).isCloseTo(firstFrameS / 2, within(0.2 * firstFrameS));
    }

    @Test
    void whereNothingWarmsThereIsNoTime() throws Exception {
        assertThat(at(onset(2), 20, 28)).isNaN();
        BoardField cold = onset(0);
        int told = 0;
        for (float v : cold.values()) {
            told += Float.isNaN(v) ? 0 : 1;
        }
        assertThat(told).isLessThan(cold.values().length / 100);
    }
}
