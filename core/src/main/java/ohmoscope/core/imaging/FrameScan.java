package ohmoscope.core.imaging;

import java.io.IOException;
import java.util.Arrays;
import java.util.List;

/**
 * What the camera did while it looked, from one pass over the frames: repeated frames, re-zeroing, shake, drift and
 * noise. O(frames × pixels) time, a handful of frames in memory.
 *
 * @param segment for each frame, the camera segment it belongs to; −1 for a repeated frame that is left out
 * @param shiftXPx for each frame, how far the picture has moved to the right against the first frames
 * @param shiftYPx the same, down
 * @param commonK for each frame, its median against the first frame's, kelvin
 * @param noiseK one standard deviation of a pixel in a frame, measured from successive frames
 * @param dead pixels that stand still or blink, row-major places; their neighbours speak for them
 * @param baseline the reference picture that the shifts refer to, kelvin, row-major
 */
public record FrameScan(
        List<Integer> segment,
        List<Double> shiftXPx,
        List<Double> shiftYPx,
        List<Double> commonK,
        double noiseK,
        double saturatedShare,
        int[] dead,
        float[] baseline) {
    /** Repeats in a row after which the camera is taken to have re-zeroed itself. */
    private static final int REZERO_REPEATS = 2;
    /** A jump of the whole picture between two frames that no board makes, kelvin. */
    private static final double JUMP_K = 0.12;
    /** Shake below this is left alone: resampling would cost more than it mends. */
    private static final double STILL_PX = 0.06;

    /** Of so few pictures, taken one by one, each has a level of its own; splitting them there would leave nothing. */
    private static final int FEW_FRAMES = 6;

    private static final int REFERENCE_FRAMES = 6;
    /** Pixels from which a frame's level and noise are taken. */
    private static final int SAMPLE = 1501;

    /** A shift that comes at once and stays: the board or the camera was nudged. */
    private static final double NUDGE_PX = 0.3;

    private static final int NUDGE_WINDOW = 3;

    public FrameScan {
        segment = List.copyOf(segment);
        shiftXPx = List.copyOf(shiftXPx);
        shiftYPx = List.copyOf(shiftYPx);
        commonK = List.copyOf(commonK);
        dead = dead.clone();
        baseline = baseline.clone();
    }

    @Override
    public int[] dead() {
        return dead.clone();
    }

    /** Puts the mean of the living neighbours where a pixel is dead, in place. */
    void mend(float[] picture, int width) {
        for (int i : dead) {
            float sum = 0;
            int n = 0;
            for (int dy = -1; dy <= 1; dy++) {
                for (int dx = -1; dx <= 1; dx++) {
                    int x = i % width + dx;
                    int at = i + dy * width + dx;
                    if (x >= 0 && x < width && at >= 0 && at < picture.length && Arrays.binarySearch(dead, at) < 0) {
                        sum += picture[at];
                        n++;
                    }
                }
            }
            picture[i] = n > 0 ? sum / n : picture[i];
        }
    }

    public int segments() {
        return segment.stream().mapToInt(Integer::intValue).max().orElse(-1) + 1;
    }

    public int repeatedFrames() {
        return (int) segment.stream().filter(s -> s < 0).count();
    }

    /** Root mean square of the shake, pixels. */
    public double shakePx() {
        double sum = 0;
        for (int i = 0; i < shiftXPx.size(); i++) {
            sum += Math.pow(shiftXPx.get(i), 2) + Math.pow(shiftYPx.get(i), 2);
        }
        return Math.sqrt(sum / Math.max(1, shiftXPx.size()));
    }

    public boolean steady() {
        return shakePx() < STILL_PX;
    }

    /** Range of the common level, kelvin: the camera's drift and its re-zeroing steps. */
    public double driftK() {
        double high = commonK.stream().mapToDouble(Double::doubleValue).max().orElse(0);
        double low = commonK.stream().mapToDouble(Double::doubleValue).min().orElse(0);
        return high - low;
    }

    @Override
    public float[] baseline() {
        return baseline.clone();
    }

    /**
     * The mean of the first frames, each laid over the first: what the camera sees of a cold board.
     *
     * @return kelvin, row-major
     * @throws IOException when the frames cannot be read
     */
    public static float[] baseline(CaptureSpec spec, FrameSource source) throws IOException {
        return new Pass(spec).reference(source);
    }

    /** @throws IOException when the frames cannot be read */
    public static FrameScan of(CaptureSpec spec, FrameSource source) throws IOException {
        return new Pass(spec).over(source);
    }

    /** One pass. Not for several threads. */
    private static final class Pass {
        private final CaptureSpec spec;
        private final int frames;
        private final Integer[] segment;
        private final Double[] shiftX;
        private final Double[] shiftY;
        private final Double[] common;
        private final float[] noise;
        private final Unrest unrest;
        private int noiseCount;
        private double saturated;

        Pass(CaptureSpec spec) {
            this.spec = spec;
            frames = spec.frameCount();
            segment = new Integer[frames];
            shiftX = new Double[frames];
            shiftY = new Double[frames];
            common = new Double[frames];
            noise = new float[frames];
            unrest = new Unrest(spec.width(), spec.height());
        }

        FrameScan over(FrameSource source) throws IOException {
            float[] reference = reference(source);
            ShiftEstimator estimator = new ShiftEstimator(reference, spec.width(), spec.height());
            char[] counts = new char[spec.pixels()];
            char[] before = new char[spec.pixels()];
            float[] kelvin = new float[spec.pixels()];
            float[] sample = new float[Math.min(spec.pixels(), SAMPLE)];
            int repeats = 0;
            int current = 0;
            double previousCommon = 0;
            try (FrameSource.Cursor cursor = source.open()) {
                for (int f = 0; f < frames && cursor.next(counts); f++) {
                    boolean repeated = f > 0 && Arrays.equals(counts, before);
                    if (repeated) {
                        repeats++;
                        segment[f] = -1;
                        shiftX[f] = shiftX[f - 1];
                        shiftY[f] = shiftY[f - 1];
                        common[f] = common[f - 1];
                        continue;
                    }
                    toKelvin(counts, kelvin);
                    double level = median(kelvin, reference, sample);
                    boolean jumped = frames > FEW_FRAMES && Math.abs(level - previousCommon) > JUMP_K;
                    if (f > 0 && (repeats >= REZERO_REPEATS || jumped)) {
                        current++;
                    } else if (f > 0 && repeats == 0) {
                        noise[noiseCount++] = (float) spreadOfChange(counts, before, sample);
                        unrest.add(counts, before);
                    }
                    repeats = 0;
                    segment[f] = current;
                    common[f] = level;
                    previousCommon = level;
                    double[] shift = estimator.shift(kelvin);
                    shiftX[f] = shift[0];
                    shiftY[f] = shift[1];
                    char[] swap = before;
                    before = counts;
                    counts = swap;
                }
            }
            splitAtNudges();
            float[] spreads = Arrays.copyOf(noise, noiseCount);
            Arrays.sort(spreads);
            double sigma = noiseCount == 0 ? spec.netdK().orElse(0.08) : spreads[noiseCount / 2] / Math.sqrt(2);
            double kept = Math.max(sigma, spec.kelvinPerCount() / 4);
            int[] dead = unrest.dead(kept / spec.kelvinPerCount());
            return new FrameScan(
                    Arrays.asList(segment),
                    Arrays.asList(shiftX),
                    Arrays.asList(shiftY),
                    Arrays.asList(common),
                    kept,
                    saturated / frames,
                    dead,
                    reference);
        }

        /** A picture that jumps and stays is looked at by other pixels from then on: a new segment. */
        private void splitAtNudges() {
            int added = 0;
            int last = -NUDGE_WINDOW;
            for (int f = 0; f < frames; f++) {
                boolean jumped = f >= NUDGE_WINDOW
                        && f + NUDGE_WINDOW <= frames
                        && f - last >= NUDGE_WINDOW
                        && jump(f) > NUDGE_PX
                        && jump(f) > 3 * Math.max(unrest(f - NUDGE_WINDOW), unrest(f));
                if (jumped) {
                    added++;
                    last = f;
                }
                if (segment[f] >= 0) {
                    segment[f] += added;
                }
            }
        }

        private double jump(int f) {
            return Math.hypot(
                    mean(shiftX, f) - mean(shiftX, f - NUDGE_WINDOW), mean(shiftY, f) - mean(shiftY, f - NUDGE_WINDOW));
        }

        private double unrest(int from) {
            double most = 0;
            for (int f = from; f < from + NUDGE_WINDOW; f++) {
                most = Math.max(most, Math.hypot(shiftX[f] - mean(shiftX, from), shiftY[f] - mean(shiftY, from)));
            }
            return most;
        }

        private static double mean(Double[] values, int from) {
            double sum = 0;
            for (int f = from; f < from + NUDGE_WINDOW; f++) {
                sum += values[f];
            }
            return sum / NUDGE_WINDOW;
        }

        private void toKelvin(char[] counts, float[] kelvin) {
            int full = 0;
            for (int i = 0; i < counts.length; i++) {
                kelvin[i] = (float) spec.kelvin(counts[i]);
                full += counts[i] == 65535 ? 1 : 0;
            }
            saturated += full / (double) counts.length;
        }

        /** Mean of the first frames, each laid over the first. */
        private float[] reference(FrameSource source) throws IOException {
            char[] counts = new char[spec.pixels()];
            float[] kelvin = new float[spec.pixels()];
            float[] sum = new float[spec.pixels()];
            float[] moved = new float[spec.pixels()];
            int taken = 0;
            try (FrameSource.Cursor cursor = source.open()) {
                ShiftEstimator first = null;
                while (taken < Math.min(REFERENCE_FRAMES, frames) && cursor.next(counts)) {
                    toKelvin(counts, kelvin);
                    if (first == null) {
                        first = new ShiftEstimator(kelvin, spec.width(), spec.height());
                        System.arraycopy(kelvin, 0, moved, 0, kelvin.length);
                    } else {
                        double[] shift = first.shift(kelvin);
                        Resampler.shifted(kelvin, spec.width(), spec.height(), shift[0], shift[1], moved);
                    }
                    for (int i = 0; i < sum.length; i++) {
                        sum[i] += moved[i];
                    }
                    taken++;
                }
            }
            saturated = 0;
            for (int i = 0; i < sum.length; i++) {
                sum[i] /= Math.max(1, taken);
            }
            return sum;
        }

        private double spreadOfChange(char[] counts, char[] before, float[] sample) {
            int stride = Math.max(1, counts.length / sample.length);
            int n = 0;
            for (int i = 0; i < counts.length && n < sample.length; i += stride) {
                sample[n++] = counts[i] - before[i];
            }
            float middle = Median.of(sample, n);
            for (int i = 0; i < n; i++) {
                sample[i] = Math.abs(sample[i] - middle);
            }
            return 1.4826 * Median.of(sample, n) * spec.kelvinPerCount();
        }

        private static double median(float[] kelvin, float[] reference, float[] sample) {
            int stride = Math.max(1, kelvin.length / sample.length);
            int n = 0;
            for (int i = 0; i < kelvin.length && n < sample.length; i += stride) {
                sample[n++] = kelvin[i] - reference[i];
            }
            return Median.of(sample, n);
        }
    }
}
