package ohmoscope.core.imaging;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ohmoscope.core.numeric.Median;

/**
 * What the camera did while it looked, from one pass over the frames: repeated frames, re-zeroing, shake, drift and
 * noise. O(frames × pixels) time, a handful of frames in memory.
 *
 * @param segment for each frame, the camera segment it belongs to; −1 for a repeated frame that is left out
 * @param motion for each frame, how the picture has moved against the first frames
 * @param commonK for each frame, its median against the first frame's, kelvin
 * @param noiseK one standard deviation of a pixel in a frame, measured from successive frames
 * @param dead pixels that stand still or blink, row-major places; their neighbours speak for them
 * @param width pixels in a row of the baseline
 * @param baseline the reference picture that the motions refer to, kelvin, row-major
 */
public record FrameScan(
        List<Integer> segment,
        List<Motion> motion,
        List<Double> commonK,
        double noiseK,
        double saturatedShare,
        int[] dead,
        int width,
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
    /** Frames looked at together. */
    private static final int BATCH = 16;

    /** Pixels from which a frame's level and noise are taken. */
    private static final int SAMPLE = 1501;

    /** A shift that comes at once and stays: the board or the camera was nudged. */
    private static final double NUDGE_PX = 0.3;

    private static final int NUDGE_WINDOW = 3;

    public FrameScan {
        segment = List.copyOf(segment);
        motion = List.copyOf(motion);
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

    /**
     * A frame with its dead pixels mended and its motion undone.
     *
     * @param kelvin row-major; mended in place, and returned itself when the camera stood still
     * @param still as large; returned, overwritten, when it did not
     */
    float[] stilled(CaptureSpec spec, int frame, float[] kelvin, float[] still) {
        mend(kelvin, spec.width());
        if (steady()) {
            return kelvin;
        }
        Resampler.undone(kelvin, spec.width(), spec.height(), motion.get(frame), still);
        return still;
    }

    public int segments() {
        return segment.stream().mapToInt(Integer::intValue).max().orElse(-1) + 1;
    }

    public int repeatedFrames() {
        return (int) segment.stream().filter(s -> s < 0).count();
    }

    /** Root mean square of the shake over picture and frames, pixels. */
    public double shakePx() {
        double sum = 0;
        for (Motion m : motion) {
            sum += Math.pow(m.sizePx(width, baseline.length / width), 2);
        }
        return Math.sqrt(sum / Math.max(1, motion.size()));
    }

    /** Root mean square of how far the camera turned, radians. */
    public double turn() {
        return Math.sqrt(
                motion.stream().mapToDouble(m -> m.turn() * m.turn()).average().orElse(0));
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
        return new Growing().of(spec, source);
    }

    /**
     * The scan of a movie that grows: of each frame only what it takes once. O(new frames × pixels) time a scan, a batch of
     * frames in memory. Not for several threads.
     */
    public static final class Growing {
        private Optional<Pass> pass = Optional.empty();

        /**
         * The same as {@link FrameScan#of} of the movie as it is now.
         *
         * @param spec that of the scan before, with more frames
         * @param source the same frames as before and those that have come since
         * @throws IOException when the frames cannot be read; the next scan begins anew
         */
        public FrameScan of(CaptureSpec spec, FrameSource source) throws IOException {
            Pass now = pass.filter(p -> p.grownTo(spec)).orElseGet(() -> new Pass(spec));
            pass = Optional.empty();
            FrameScan scan = now.over(spec, source);
            pass = Optional.of(now);
            return scan;
        }
    }

    /** One pass, which may go on when further frames have come. Not for several threads. */
    private static final class Pass {
        private final CaptureSpec spec;
        private final List<Integer> segment = new ArrayList<>();
        private final List<Motion> motion = new ArrayList<>();
        private final List<Double> common = new ArrayList<>();
        private final List<Float> noise = new ArrayList<>();
        private final FrameActivity activity;
        private Optional<Start> start = Optional.empty();
        private int frames;
        private double saturated;
        private int repeats;
        private int current;
        private double levelBeforeK;

        /** What frames are held against, and where they are read into. */
        private record Start(float[] reference, MotionEstimator estimator, FrameBatch batch) {}

        Pass(CaptureSpec spec) {
            this.spec = spec;
            frames = spec.frameCount();
            activity = new FrameActivity(spec.width(), spec.height());
        }

        /** Whether what was found so far holds for a movie: it has the first frames, and they were not few. */
        boolean grownTo(CaptureSpec now) {
            return frames > FEW_FRAMES
                    && now.frameCount() >= frames
                    && now.width() == spec.width()
                    && now.height() == spec.height();
        }

        /** @param now the pass's own, maybe with further frames */
        FrameScan over(CaptureSpec now, FrameSource source) throws IOException {
            frames = now.frameCount();
            if (start.isEmpty()) {
                float[] first = reference(source);
                start = Optional.of(new Start(
                        first, new MotionEstimator(first, spec.width(), spec.height()), new FrameBatch(spec, BATCH)));
            }
            float[] reference = start.get().reference();
            MotionEstimator estimator = start.get().estimator();
            FrameBatch batch = start.get().batch();
            try (FrameSource.Cursor cursor = source.open()) {
                batch.skipTo(cursor);
                while (batch.read(cursor, frames)) {
                    boolean still = estimator.still();
                    List<Look> looks = batch.places()
                            .parallel()
                            .mapToObj(i -> look(batch, i, reference, estimator, still))
                            .toList();
                    activity.add(looks.stream()
                            .flatMap(look -> follow(look, estimator))
                            .toList());
                }
            }
            float[] spreads = new float[noise.size()];
            for (int i = 0; i < spreads.length; i++) {
                spreads[i] = noise.get(i);
            }
            double sigma =
                    spreads.length == 0 ? spec.netdK().orElse(0.08) : Median.of(spreads, spreads.length) / Math.sqrt(2);
            double kept = Math.max(sigma, spec.kelvinPerCount() / 4);
            int[] dead = activity.dead(kept / spec.kelvinPerCount());
            return new FrameScan(
                    splitAtNudges(), motion, common, kept, saturated / frames, dead, spec.width(), reference);
        }

        /**
         * What a frame says by itself and beside the one before it.
         *
         * @param fromStill its motion, should the camera have stood still until then
         */
        private record Look(
                int frame,
                boolean repeated,
                FrameActivity.Pair pair,
                float[] kelvin,
                double full,
                double levelK,
                double changeK,
                Optional<MotionEstimator.Settled> fromStill) {}

        private Look look(FrameBatch batch, int place, float[] reference, MotionEstimator estimator, boolean still) {
            int f = batch.frame(place);
            FrameActivity.Pair pair = new FrameActivity.Pair(batch.before(place), batch.counts(place));
            if (f > 0 && Arrays.equals(pair.before(), pair.after())) {
                return new Look(f, true, pair, new float[0], 0, 0, 0, Optional.empty());
            }
            float[] kelvin = batch.kelvin(place);
            double full = toKelvin(pair.after(), kelvin);
            float[] sample = new float[Math.min(spec.pixels(), SAMPLE)];
            double level = median(kelvin, reference, sample);
            double change = f == 0 ? 0 : spreadOfChange(pair.after(), pair.before(), sample);
            Optional<MotionEstimator.Settled> settled =
                    still ? Optional.of(estimator.fromStill(kelvin)) : Optional.empty();
            return new Look(f, false, pair, kelvin, full, level, change, settled);
        }

        /** Puts a frame in its place among those before it. @return the pair, where nothing but time lies between */
        private Stream<FrameActivity.Pair> follow(Look look, MotionEstimator estimator) {
            int f = look.frame();
            if (look.repeated()) {
                repeats++;
                segment.add(-1);
                motion.add(motion.get(f - 1));
                common.add(common.get(f - 1));
                return Stream.empty();
            }
            boolean jumped = frames > FEW_FRAMES && Math.abs(look.levelK() - levelBeforeK) > JUMP_K;
            boolean rezeroed = f > 0 && (repeats >= REZERO_REPEATS || jumped);
            boolean paired = f > 0 && repeats == 0 && !rezeroed;
            if (rezeroed) {
                current++;
            } else if (paired) {
                noise.add((float) look.changeK());
            }
            repeats = 0;
            segment.add(current);
            common.add(look.levelK());
            levelBeforeK = look.levelK();
            saturated += look.full();
            motion.add(estimator.motion(
                    look.kelvin(), () -> look.fromStill().orElseGet(() -> estimator.fromStill(look.kelvin()))));
            return paired ? Stream.of(look.pair()) : Stream.empty();
        }

        /** A picture that jumps and stays is looked at by other pixels from then on: a new segment. */
        private List<Integer> splitAtNudges() {
            List<Integer> split = new ArrayList<>(segment);
            int added = 0;
            int last = -NUDGE_WINDOW;
            for (int f = 0; f < frames; f++) {
                boolean jumped = f >= NUDGE_WINDOW
                        && f + NUDGE_WINDOW <= frames
                        && f - last >= NUDGE_WINDOW
                        && jump(f) > NUDGE_PX
                        && jump(f) > 3 * Math.max(wanderPx(f - NUDGE_WINDOW), wanderPx(f));
                if (jumped) {
                    added++;
                    last = f;
                }
                if (split.get(f) >= 0) {
                    split.set(f, split.get(f) + added);
                }
            }
            return split;
        }

        private double jump(int f) {
            return apartPx(mean(f), mean(f - NUDGE_WINDOW));
        }

        private double wanderPx(int from) {
            Motion mean = mean(from);
            double most = 0;
            for (int f = from; f < from + NUDGE_WINDOW; f++) {
                most = Math.max(most, apartPx(motion.get(f), mean));
            }
            return most;
        }

        private double apartPx(Motion one, Motion other) {
            return one.less(other).sizePx(spec.width(), spec.height());
        }

        private Motion mean(int from) {
            Motion sum = Motion.NONE;
            for (int f = from; f < from + NUDGE_WINDOW; f++) {
                sum = sum.plus(motion.get(f));
            }
            return new Motion(sum.xPx() / NUDGE_WINDOW, sum.yPx() / NUDGE_WINDOW, sum.turn() / NUDGE_WINDOW);
        }

        /** @return the share of pixels at the end of the scale */
        private double toKelvin(char[] counts, float[] kelvin) {
            float perCount = (float) spec.kelvinPerCount();
            float zero = (float) spec.kelvinAtZero();
            for (int i = 0; i < counts.length; i++) {
                kelvin[i] = counts[i] * perCount + zero;
            }
            int full = 0;
            for (char count : counts) {
                full += count == 65535 ? 1 : 0;
            }
            return full / (double) counts.length;
        }

        /** Mean of the first frames, each laid over the first. */
        private float[] reference(FrameSource source) throws IOException {
            char[] counts = new char[spec.pixels()];
            float[] kelvin = new float[spec.pixels()];
            float[] sum = new float[spec.pixels()];
            float[] moved = new float[spec.pixels()];
            int taken = 0;
            try (FrameSource.Cursor cursor = source.open()) {
                MotionEstimator first = null;
                while (taken < Math.min(REFERENCE_FRAMES, frames) && cursor.next(counts)) {
                    toKelvin(counts, kelvin);
                    if (first == null) {
                        first = new MotionEstimator(kelvin, spec.width(), spec.height());
                        System.arraycopy(kelvin, 0, moved, 0, kelvin.length);
                    } else {
                        Resampler.undone(kelvin, spec.width(), spec.height(), first.motion(kelvin), moved);
                    }
                    for (int i = 0; i < sum.length; i++) {
                        sum[i] += moved[i];
                    }
                    taken++;
                }
            }
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
            return Median.spread(sample, n) * spec.kelvinPerCount();
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
