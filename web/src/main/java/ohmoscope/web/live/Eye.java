package ohmoscope.web.live;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.TimeUnit;
import java.util.function.LongToDoubleFunction;
import ohmoscope.core.imaging.LockIn;
import ohmoscope.core.imaging.WarmWatch;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.core.instrument.ThermalCamera.Frame;

/**
 * The camera's thread: takes frames as they come, watches for what warms, and gives them to the movie that is being taken. A
 * frame costs a few milliseconds; what the others see is the newest, and nothing is queued.
 */
final class Eye implements AutoCloseable {
    /** Frames before the current that a movie begins with. */
    private static final double BEFORE_S = 2.5;

    private static final long AGAIN_MS = 300;
    private static final int RATE_FRAMES = 20;

    private final ThermalCamera camera;
    private final LongToDoubleFunction bundleS;
    private final Deque<Taken> before = new ArrayDeque<>();
    private final Deque<Long> arrivals = new ArrayDeque<>();
    private Optional<WarmWatch> watch = Optional.empty();
    private Optional<LiveMovie> movie = Optional.empty();
    private Optional<LockIn> lock = Optional.empty();
    private OptionalDouble stampOffsetS = OptionalDouble.empty();
    private volatile boolean powered;
    private volatile boolean closed;
    private volatile Optional<View> view = Optional.empty();
    private volatile String says = "no frame yet";
    private volatile boolean there;
    private long lost;
    private long dropouts;

    private record Taken(char[] counts, double tS) {}

    /**
     * The newest picture.
     *
     * @param number counts up
     * @param tS seconds on the bundle's clock
     * @param seen what the watch says of it
     */
    record View(long number, int width, int height, double tS, WarmWatch.Seen seen) {}

    /** @param bundleS from the bench's nanoseconds to seconds on the bundle's clock */
    Eye(ThermalCamera camera, LongToDoubleFunction bundleS) {
        this.camera = camera;
        this.bundleS = bundleS;
    }

    void start() {
        Thread thread = new Thread(this::look, "live camera");
        thread.setDaemon(true);
        thread.start();
    }

    private void look() {
        while (!closed) {
            try {
                take(camera.next());
                there = true;
            } catch (InstrumentException trouble) {
                there = false;
                says = trouble.getMessage();
                dropouts++;
                pause();
            } catch (RuntimeException odd) {
                there = false;
                says = "a frame could not be read: " + odd.getMessage();
                pause();
            }
        }
    }

    private void pause() {
        try {
            TimeUnit.MILLISECONDS.sleep(AGAIN_MS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            closed = true;
        }
    }

    private synchronized void take(Frame frame) {
        lost += frame.lost();
        boolean fits = view.map(v -> v.width() == frame.width() && v.height() == frame.height())
                .orElse(false);
        if (!fits) {
            watch = Optional.of(
                    new WarmWatch(frame.width(), frame.height(), camera.scale().kelvinPerCount()));
            before.clear();
            movie = Optional.empty();
            lock = Optional.empty();
            stampOffsetS = OptionalDouble.empty();
        }
        double tS = time(frame);
        WarmWatch.Seen seen = watch.orElseThrow().next(frame.counts(), tS, powered);
        before.addLast(new Taken(frame.counts(), tS));
        while (before.getFirst().tS < tS - BEFORE_S) {
            before.removeFirst();
        }
        movie.ifPresent(m -> m.add(frame.counts(), tS));
        lock.filter(l -> seen.risesK().length > 0).ifPresent(l -> l.add(seen.risesK(), tS));
        long number = view.map(View::number).orElse(0L) + 1;
        if (!seen.repeated() || view.isEmpty() || !fits) {
            view = Optional.of(new View(number, frame.width(), frame.height(), tS, seen));
        }
        arrivals.addLast(frame.atNanos());
        if (arrivals.size() > RATE_FRAMES) {
            arrivals.removeFirst();
        }
    }

    /** By the camera's own clock where it has one: what arrives late was not taken late. The quickest frame sets them together. */
    private double time(Frame frame) {
        double arrived = bundleS.applyAsDouble(frame.atNanos());
        if (frame.stampS().isEmpty()) {
            return arrived;
        }
        double offset = arrived - frame.stampS().getAsDouble();
        boolean reset = stampOffsetS.isPresent() && Math.abs(offset - stampOffsetS.getAsDouble()) > 2;
        stampOffsetS = OptionalDouble.of(
                stampOffsetS.isEmpty() || reset ? offset : Math.min(offset, stampOffsetS.getAsDouble()));
        return frame.stampS().getAsDouble() + stampOffsetS.getAsDouble();
    }

    Optional<View> view() {
        return view;
    }

    boolean there() {
        return there;
    }

    /** How it goes, in words. */
    synchronized String words() {
        if (!there) {
            return says;
        }
        double span = arrivals.size() > 1 ? (arrivals.getLast() - arrivals.getFirst()) / 1e9 : 0;
        String rate = span > 0
                ? String.format(java.util.Locale.ROOT, "%.0f frames a second", (arrivals.size() - 1) / span)
                : "";
        String size = view.map(v -> v.width() + "×" + v.height() + ", ").orElse("");
        return size
                + rate
                + (lost > 0 ? ", " + lost + " lost" : "")
                + (dropouts > 0 ? ", was gone " + dropouts + "×" : "");
    }

    ThermalCamera.Scale scale() {
        return camera.scale();
    }

    /** The cold picture is learnt anew. */
    synchronized void begin() {
        lock = Optional.empty();
        watch.ifPresent(WarmWatch::begin);
    }

    synchronized int coldFrames() {
        return watch.map(WarmWatch::coldFrames).orElse(0);
    }

    /** The cold picture, kelvin; empty where there is none yet. */
    synchronized float[] coldPicture() {
        return watch.map(WarmWatch::coldPicture).orElse(new float[0]);
    }

    void powered(boolean on) {
        powered = on;
    }

    /** Pulses follow: each pixel's swing and lag are summed up from now on. @param halfS how long a pulse, and a rest, is */
    synchronized void pulses(double halfS) {
        lock = view.map(v -> new LockIn(v.width() * v.height(), halfS));
    }

    /** A pulse has begun, or ended. @param nanos by the bench's clock */
    synchronized void switched(boolean on, long nanos) {
        lock.ifPresent(l -> l.switched(on, bundleS.applyAsDouble(nanos)));
    }

    /** What the pulses show so far; empty where there are none. */
    synchronized Optional<LockIn.Picture> locked() {
        return lock.flatMap(LockIn::picture);
    }

    /** Takes a movie from now on, beginning with the frames just before. */
    synchronized void film(LiveMovie fresh) {
        recent(fresh);
        movie = Optional.of(fresh);
    }

    /** Gives a movie the newest frames and no more. */
    synchronized void recent(LiveMovie fresh) {
        before.forEach(t -> fresh.add(t.counts, t.tS));
    }

    synchronized void cut() {
        movie = Optional.empty();
    }

    @Override
    public void close() {
        closed = true;
        camera.close();
    }
}
