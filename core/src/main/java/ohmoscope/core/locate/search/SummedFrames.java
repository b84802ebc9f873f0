package ohmoscope.core.locate.search;

import java.io.IOException;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.locate.LocateInput.Capture;

/** A capture's frames in one picture, as the baselines look at them. */
final class SummedFrames {
    private SummedFrames() {}

    /**
     * @param factors one a frame
     * @return counts times factors, added up, a pixel each
     * @throws IOException when frames cannot be read
     */
    static double[] of(Capture capture, double[] factors) throws IOException {
        double[] sum = new double[capture.spec().pixels()];
        char[] counts = new char[sum.length];
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            for (int f = 0; f < factors.length && cursor.next(counts); f++) {
                for (int i = 0; i < sum.length && factors[f] != 0; i++) {
                    sum[i] += factors[f] * counts[i];
                }
            }
        }
        return sum;
    }
}
