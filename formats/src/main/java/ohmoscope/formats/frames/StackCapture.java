package ohmoscope.formats.frames;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import java.util.stream.DoubleStream;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.formats.BundleException;

/** Makes a capture of a stack: numbers to kelvin to counts, turned, timed. */
public final class StackCapture {
    private static final int MOST_COUNT = 65_000;
    private static final double FINEST_KELVIN = 0.001;

    private StackCapture() {}

    /**
     * How a camera's files are to be read.
     *
     * @param framesPerSecond used where the stack has no times of its own
     * @param startS when the first frame was taken, on the supply log's clock
     */
    public record Reading(Scale scale, Turn turn, double framesPerSecond, double startS, OptionalDouble netdK) {
        public Reading {
            Check.within("frames_per_second", framesPerSecond, 0.001, 10_000);
            Check.within("start_s", startS, -1e6, 1e6);
            Check.positive("netd_k", netdK);
        }
    }

    /**
     * Reads the stack once for its range; frames are converted when they are read.
     *
     * @throws InvalidMember when the scale makes no temperatures of it
     */
    public static Capture of(FrameStack stack, Reading reading, String id, Side side, List<RegistrationPair> pairs)
            throws IOException {
        double[] range = range(stack);
        double low = reading.scale().kelvin(range[0]);
        double high = reading.scale().kelvin(range[1]);
        if (!(low > 0) || high > CaptureSpec.MAX_KELVIN) {
            throw new InvalidMember(
                    "scale",
                    String.format(
                            java.util.Locale.ROOT,
                            "makes %.0f to %.0f kelvin of the numbers %.0f to %.0f: check it",
                            low,
                            high,
                            range[0],
                            range[1]));
        }
        double perCount = Math.max(FINEST_KELVIN, (high - low) / MOST_COUNT);
        int w = reading.turn().width(stack.width(), stack.height());
        int h = reading.turn().height(stack.width(), stack.height());
        CaptureSpec spec = new CaptureSpec(
                id, side, w, h, perCount, low, reading.netdK(), OptionalDouble.empty(), pairs, times(stack, reading));
        return new Capture(spec, counts(stack, reading, low, perCount));
    }

    /**
     * One frame as it lies when turned.
     *
     * @param index from 0; the last frame when there are fewer
     */
    public static float[] picture(FrameStack stack, Turn turn, int index) throws IOException {
        float[] values = new float[stack.width() * stack.height()];
        try (FloatFrames.Cursor cursor = stack.frames().open()) {
            for (int f = 0; f <= index && cursor.next(values); f++) {
                // The frame before is overwritten.
            }
        }
        float[] turned = new float[values.length];
        int w = turn.width(stack.width(), stack.height());
        for (int i = 0; i < turned.length; i++) {
            turned[i] = values[turn.from(i % w, i / w, stack.width(), stack.height())];
        }
        return turned;
    }

    private static double[] range(FrameStack stack) throws IOException {
        float[] values = new float[stack.width() * stack.height()];
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        int read = 0;
        try (FloatFrames.Cursor cursor = stack.frames().open()) {
            while (cursor.next(values)) {
                read++;
                for (float v : values) {
                    if (!Float.isFinite(v)) {
                        throw new BundleException(
                                "frames", "frame " + read, "has a pixel that is no number: replace it before export");
                    }
                    low = Math.min(low, v);
                    high = Math.max(high, v);
                }
            }
        }
        if (read != stack.count()) {
            throw new BundleException("frames", "", "end after " + read + " of " + stack.count());
        }
        return new double[] {low, high};
    }

    private static List<Double> times(FrameStack stack, Reading reading) {
        double first = stack.timesS().map(t -> t.get(0)).orElse(0.0);
        List<Double> own = stack.timesS()
                .orElseGet(() -> DoubleStream.iterate(0, i -> i + 1)
                        .limit(stack.count())
                        .map(i -> i / reading.framesPerSecond())
                        .boxed()
                        .toList());
        List<Double> times = new ArrayList<>();
        for (double t : own) {
            times.add(t - first + reading.startS());
        }
        return times;
    }

    private static FrameSource counts(FrameStack stack, Reading reading, double low, double perCount) {
        return () -> new FrameSource.Cursor() {
            private final FloatFrames.Cursor cursor = stack.frames().open();
            private final float[] values = new float[stack.width() * stack.height()];

            @Override
            public boolean next(char[] counts) throws IOException {
                if (!cursor.next(values)) {
                    return false;
                }
                Turn turn = reading.turn();
                int w = turn.width(stack.width(), stack.height());
                for (int i = 0; i < counts.length; i++) {
                    float value = values[turn.from(i % w, i / w, stack.width(), stack.height())];
                    counts[i] = (char) Math.round((reading.scale().kelvin(value) - low) / perCount);
                }
                return true;
            }

            @Override
            public void close() throws IOException {
                cursor.close();
            }
        };
    }
}
