package ohmoscope.core.imaging;

import java.io.IOException;
import ohmoscope.core.board.Outline;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.numeric.Median;

/**
 * How far the board's face has warmed since before the power, laid over the board.
 *
 * @param xMinMm place of the first cell's centre
 * @param stepMm distance between cells
 * @param kelvin rise for each cell, row-major from the lowest y, NaN off the board or out of the picture; common drift
 *     is taken out by the colder half of the board
 * @param secondsAfterPower mean time of the warm frames after power came on
 * @param noiseK one standard deviation of a cell
 */
public record WarmthMap(
        double xMinMm,
        double yMinMm,
        double stepMm,
        int columns,
        int rows,
        float[] kelvin,
        double secondsAfterPower,
        double noiseK) {
    private static final double WARM_SECONDS = 0.8;
    private static final double SETTLE_SECONDS = 0.15;
    private static final double SMOOTH_PX = 1.1;
    private static final double FINEST_MM = 0.35;

    public WarmthMap {
        kelvin = kelvin.clone();
    }

    @Override
    public float[] kelvin() {
        return kelvin.clone();
    }

    public double at(int column, int row) {
        return kelvin[row * columns + column];
    }

    public double hottestK() {
        double most = 0;
        for (float k : kelvin) {
            most = Math.max(most, Float.isNaN(k) ? 0 : k);
        }
        return most;
    }

    /** @param on the first span of power; frames before it are the baseline */
    public static WarmthMap of(
            CaptureSpec spec, FrameSource frames, FrameScan scan, Registration registration, Outline outline, OnSpan on)
            throws IOException {
        double end = Math.min(on.toS(), spec.timesS().get(spec.frameCount() - 1));
        double[] weights = new double[spec.frameCount()];
        int cold = 0;
        int warm = 0;
        for (int f = 0; f < weights.length; f++) {
            double t = spec.timesS().get(f);
            if (scan.segment().get(f) >= 0 && t < on.fromS() - SETTLE_SECONDS) {
                weights[f] = -1;
                cold++;
            } else if (scan.segment().get(f) >= 0 && t > end - WARM_SECONDS && t <= end + SETTLE_SECONDS) {
                weights[f] = 1;
                warm++;
            }
        }
        if (cold == 0) {
            weights[0] = -1;
            cold = 1;
        }
        float[] change = change(spec, frames, scan, weights, cold, Math.max(1, warm));
        float[] smooth = Blur.gaussian(change, spec.width(), spec.height(), SMOOTH_PX);
        double noise =
                scan.noiseK() * Math.sqrt(1.0 / cold + 1.0 / Math.max(1, warm)) / (2 * SMOOTH_PX * Math.sqrt(Math.PI));
        return placed(spec, smooth, registration.homography(), outline, end - WARM_SECONDS / 2 - on.fromS(), noise);
    }

    private static float[] change(
            CaptureSpec spec, FrameSource frames, FrameScan scan, double[] weights, int cold, int warm)
            throws IOException {
        float[] sum = new float[spec.pixels()];
        char[] counts = new char[spec.pixels()];
        float[] kelvin = new float[spec.pixels()];
        float[] moved = new float[spec.pixels()];
        try (FrameSource.Cursor cursor = frames.open()) {
            for (int f = 0; f < weights.length && cursor.next(counts); f++) {
                if (weights[f] == 0) {
                    continue;
                }
                for (int i = 0; i < counts.length; i++) {
                    kelvin[i] = (float) ((counts[i] - 32768) * spec.kelvinPerCount());
                }
                float[] still = scan.stilled(spec, f, kelvin, moved);
                float weight = (float) (weights[f] / (weights[f] > 0 ? warm : cold));
                for (int i = 0; i < sum.length; i++) {
                    sum[i] += weight * still[i];
                }
            }
        }
        return sum;
    }

    private static WarmthMap placed(
            CaptureSpec spec, float[] picture, Homography map, Outline outline, double seconds, double noise) {
        double step = Math.max(FINEST_MM, map.pitchMm(spec.width() / 2.0, spec.height() / 2.0));
        BoardField grid = BoardField.over(outline, step);
        Outline.Inside inside = outline.inside();
        float[] kelvin = grid.values();
        float[] seen = new float[kelvin.length];
        int n = 0;
        for (int c = 0; c < kelvin.length; c++) {
            double x = grid.xMm(c);
            double y = grid.yMm(c);
            double px = map.xPx(x, y);
            double py = map.yPx(x, y);
            boolean pictured = px >= 0 && py >= 0 && px <= spec.width() - 1 && py <= spec.height() - 1;
            kelvin[c] = pictured && inside.test(x, y)
                    ? Resampler.bilinear(picture, spec.width(), spec.height(), px, py)
                    : Float.NaN;
            if (!Float.isNaN(kelvin[c])) {
                seen[n++] = kelvin[c];
            }
        }
        float level = n == 0 ? 0 : Median.ranked(seen, n, n / 4);
        for (int c = 0; c < kelvin.length; c++) {
            kelvin[c] -= level;
        }
        return new WarmthMap(grid.x0Mm(), grid.y0Mm(), step, grid.columns(), grid.rows(), kelvin, seconds, noise);
    }
}
