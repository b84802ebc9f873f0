package ohmoscope.web.live;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.core.locate.LocateInput.Capture;

/**
 * The frames of one injection while they come, and what the supply showed. Safe for several threads. Holds at most
 * {@value #MOST_BYTES} bytes of frames: of a longer movie every other frame is left out from then on.
 */
final class LiveMovie {
    private static final long MOST_BYTES = 160L << 20;

    private final String name;
    private final Side side;
    private final int width;
    private final int height;
    private final ThermalCamera.Scale scale;
    private final List<RegistrationPair> pairs;
    private final List<char[]> frames = new ArrayList<>();
    private final List<Double> timesS = new ArrayList<>();
    private final List<SupplyLog.Row> rows = new ArrayList<>();
    private int skipped;

    LiveMovie(String name, Side side, int width, int height, ThermalCamera.Scale scale, List<RegistrationPair> pairs) {
        this.name = name;
        this.side = side;
        this.width = width;
        this.height = height;
        this.scale = scale;
        this.pairs = List.copyOf(pairs);
    }

    int width() {
        return width;
    }

    /** @param tS seconds on the bundle's clock, not before the last one's */
    synchronized void add(char[] counts, double tS) {
        boolean full = 2L * counts.length * frames.size() > MOST_BYTES;
        if (full && skipped++ % 2 == 0) {
            return;
        }
        frames.add(counts);
        timesS.add(timesS.isEmpty() ? tS : Math.max(tS, timesS.get(timesS.size() - 1)));
    }

    synchronized void add(SupplyLog.Row row) {
        rows.add(row);
    }

    synchronized int count() {
        return frames.size();
    }

    synchronized List<SupplyLog.Row> rows() {
        return List.copyOf(rows);
    }

    /** Those of a stretch, by number. */
    record Stretch(List<char[]> frames, List<Double> timesS) {}

    synchronized Stretch from(int first) {
        return new Stretch(
                List.copyOf(frames.subList(first, frames.size())), List.copyOf(timesS.subList(first, timesS.size())));
    }

    /** As a capture of what is there by now; at least one frame. */
    synchronized Capture capture() {
        List<char[]> now = List.copyOf(frames);
        CaptureSpec spec = new CaptureSpec(
                name,
                side,
                width,
                height,
                scale.kelvinPerCount(),
                scale.kelvinAtZero(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                pairs,
                List.copyOf(timesS));
        return new Capture(spec, () -> new InMemory(now));
    }

    private static final class InMemory implements FrameSource.Cursor {
        private final List<char[]> frames;
        private int at;

        InMemory(List<char[]> frames) {
            this.frames = frames;
        }

        @Override
        public boolean next(char[] counts) {
            if (at == frames.size()) {
                return false;
            }
            System.arraycopy(frames.get(at++), 0, counts, 0, counts.length);
            return true;
        }

        @Override
        public void close() {
            // Nothing is held open.
        }
    }
}
