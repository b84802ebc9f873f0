package ohmoscope.core.imaging;

import java.io.IOException;
import ohmoscope.core.evidence.SupplyLog.OnSpan;

/** What has changed in the camera's own picture: the last warm second less everything before the power. */
public final class Difference {
    private static final double WARM_SECONDS = 1;

    private Difference() {}

    /**
     * @param on the first span of power
     * @return kelvin, row-major; all zero when there is no frame on one side of the switching
     */
    public static float[] of(CaptureSpec spec, FrameSource frames, OnSpan on) throws IOException {
        double end = Math.min(on.toS(), spec.timesS().get(spec.frameCount() - 1));
        int cold = 0;
        int warm = 0;
        for (double t : spec.timesS()) {
            cold += before(t, on) ? 1 : 0;
            warm += warm(t, on, end) ? 1 : 0;
        }
        float[] change = new float[spec.pixels()];
        if (cold == 0 || warm == 0) {
            return change;
        }
        char[] counts = new char[spec.pixels()];
        try (FrameSource.Cursor cursor = frames.open()) {
            for (int f = 0; f < spec.frameCount() && cursor.next(counts); f++) {
                double t = spec.timesS().get(f);
                float weight = before(t, on) ? -1f / cold : warm(t, on, end) ? 1f / warm : 0;
                for (int i = 0; i < change.length && weight != 0; i++) {
                    change[i] += weight * (float) (counts[i] * spec.kelvinPerCount());
                }
            }
        }
        return change;
    }

    private static boolean before(double tS, OnSpan on) {
        return tS < on.fromS();
    }

    private static boolean warm(double tS, OnSpan on, double end) {
        return tS >= on.fromS() && tS <= end && tS >= end - WARM_SECONDS;
    }
}
