package ohmoscope.core.locate.posterior;

import java.util.OptionalDouble;
import java.util.stream.IntStream;
import ohmoscope.core.board.Part;
import ohmoscope.core.imaging.Blur;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.numeric.Median;

/**
 * What stands out of one capture without any model of the board: each pixel's course matched to the measured power
 * (a matched filter, North 1943), and of that what rises above its surroundings, in units of how far the picture does so
 * anywhere. Linear in pixels times the reach of the smoothing.
 */
public final class PlainPicture {
    /** What is near a source follows the power behind lags like these, seconds, by shares like these. */
    private static final double[] LAGS_S = {0.4, 2};

    private static final double[] SHARES = {0.5, 1};

    /** σ of what is taken for a spot, and of what is taken for its surroundings, mm. */
    private static final double SPOT_MM = 0.8;

    private static final double ROUND_MM = 3;

    /** No spot is sharper than the lens. */
    private static final double LEAST_SPOT_PX = 0.7;

    /** The surroundings reach at least so many times as far as the spot. */
    private static final double LEAST_ROUND = 1.8;

    /** A large body is looked at in nine places, as its die may lie in any: what the choice costs, times the scatter. */
    private static final double CHOICE = 0.66;

    private final CaptureModel capture;
    private final float[] rise;
    private final double scatter;

    public PlainPicture(CaptureModel capture) {
        this.capture = capture;
        float[] amplitude = capture.matched(capture.time().template(LAGS_S, SHARES));
        double spot = Math.max(LEAST_SPOT_PX, SPOT_MM / capture.pixelMm());
        float[] near = smoothed(amplitude, spot);
        float[] round = smoothed(amplitude, Math.max(LEAST_ROUND * spot, ROUND_MM / capture.pixelMm()));
        rise = new float[amplitude.length];
        for (int p = 0; p < rise.length; p++) {
            rise[p] = near[p] - round[p];
        }
        scatter = Math.max(Double.MIN_NORMAL, Median.spread(rise.clone(), rise.length));
    }

    /**
     * How far a part stands out, times the scatter.
     *
     * @return empty where the camera does not see it
     */
    public OptionalDouble of(Part part) {
        if (!capture.sees(part)) {
            return OptionalDouble.empty();
        }
        if (Math.max(part.wMm(), part.hMm()) <= Candidate.WHOLE_MM) {
            return OptionalDouble.of(at(part.xMm(), part.yMm()) / scatter);
        }
        double angle = Math.toRadians(part.rotDeg());
        double most = IntStream.range(0, 9)
                .mapToDouble(i -> {
                    double u = (i % 3 - 1) * Candidate.DIE_SHARE / 2 * part.wMm();
                    double v = (i / 3 - 1) * Candidate.DIE_SHARE / 2 * part.hMm();
                    return at(
                            part.xMm() + u * Math.cos(angle) - v * Math.sin(angle),
                            part.yMm() + u * Math.sin(angle) + v * Math.cos(angle));
                })
                .max()
                .orElseThrow();
        return OptionalDouble.of(most / scatter - CHOICE);
    }

    /** The rise of the pixel nearest to a place; 0 where none is near. */
    private double at(double xMm, double yMm) {
        Pixels pixels = capture.pixels();
        double nearest = capture.pixelMm() * capture.pixelMm();
        double value = 0;
        for (int p = 0; p < rise.length; p++) {
            double dx = pixels.xMm()[p] - xMm;
            double dy = pixels.yMm()[p] - yMm;
            if (dx * dx + dy * dy < nearest) {
                nearest = dx * dx + dy * dy;
                value = rise[p];
            }
        }
        return value;
    }

    /** Weighed means over the pixels that are kept. */
    private float[] smoothed(float[] values, double sigmaPx) {
        Pixels pixels = capture.pixels();
        int w = pixels.columns();
        float[] sum = new float[w * pixels.rows()];
        float[] weight = new float[sum.length];
        for (int p = 0; p < values.length; p++) {
            int i = pixels.row()[p] * w + pixels.column()[p];
            sum[i] += values[p];
            weight[i]++;
        }
        float[] sums = Blur.gaussian(sum, w, pixels.rows(), sigmaPx);
        float[] weights = Blur.gaussian(weight, w, pixels.rows(), sigmaPx);
        float[] out = new float[values.length];
        for (int p = 0; p < out.length; p++) {
            int i = pixels.row()[p] * w + pixels.column()[p];
            out[p] = sums[i] / weights[i];
        }
        return out;
    }
}
