package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

class CameraOpticsTest {
    private static final int W = 41;
    private static final int H = 31;

    private static float[] spot(int x, int y) {
        float[] scene = new float[W * H];
        scene[y * W + x] = 1;
        return scene;
    }

    /** @return the middle of what is bright: x, y */
    private static double[] middle(float[] picture) {
        double sum = 0;
        double x = 0;
        double y = 0;
        for (int i = 0; i < picture.length; i++) {
            sum += picture[i];
            x += picture[i] * (i % W);
            y += picture[i] * (i / W);
        }
        return new double[] {x / sum, y / sum};
    }

    @Test
    void withoutATurnBothAreTheSame() {
        float[] moved = CameraOptics.blurredAndMoved(spot(12, 9), W, H, 0.8, 1.3, -0.4);
        float[] turned = CameraOptics.blurredAndTurned(spot(12, 9), W, H, 0.8, 1.3, -0.4, 0);
        for (int i = 0; i < moved.length; i++) {
            assertThat(turned[i]).isCloseTo(moved[i], within(1e-5f));
        }
    }

    @Test
    void aTurnIsClockwiseAboutTheMiddle() {
        // Ten pixels to the right of the middle: a tenth of a radian takes it one pixel down.
        double[] right = middle(CameraOptics.blurredAndTurned(spot(30, 15), W, H, 0.8, 0, 0, 0.1));
        assertThat(right[0]).isCloseTo(20 + 10 * Math.cos(0.1), within(0.02));
        assertThat(right[1]).isCloseTo(15 + 10 * Math.sin(0.1), within(0.02));
        double[] centre = middle(CameraOptics.blurredAndTurned(spot(20, 15), W, H, 0.8, 2, 1, 0.1));
        assertThat(centre[0]).isCloseTo(22, within(0.02));
        assertThat(centre[1]).isCloseTo(16, within(0.02));
    }
}
