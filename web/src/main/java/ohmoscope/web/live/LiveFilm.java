package ohmoscope.web.live;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.MovieFollower;
import ohmoscope.formats.Texts;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.kit.Eng;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The movie that is being taken: kept a second at a time by one thread, looked into by another while it grows and once when it
 * is whole.
 */
final class LiveFilm implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(LiveFilm.class);
    private static final int POWERED_FRAMES = 6;
    private static final int SHOWN_SUSPECTS = 5;
    private static final int LONGEST_LOOK_S = 30;
    private static final int REHEARSALS = 2;

    private final String number;
    private final String by;
    private final LiveKeeper keeper;
    private final Runnable changed;
    private final ScheduledExecutorService storing = Executors.newSingleThreadScheduledExecutor(LiveFilm::daemon);
    private final ExecutorService looking = Executors.newSingleThreadExecutor(LiveFilm::daemon);
    private volatile Optional<Filming> filming = Optional.empty();
    /** The newest, over or not; used by the bench's thread. */
    private Optional<Filming> latest = Optional.empty();

    private volatile LiveState.Named named = LiveState.Named.NOBODY;

    /** A movie that is being taken. Its members are used by the storing thread only, but for the first. */
    private static final class Filming {
        private final LiveMovie movie;
        private final Injection injection;
        private Optional<Long> row = Optional.empty();
        private int frames;
        private int rows;
        private volatile boolean worth;
        private volatile boolean cooling;
        private volatile boolean over;
        private volatile long overNanos;
        private volatile boolean superseded;
        /** The last look is done. */
        private final CountDownLatch told = new CountDownLatch(1);

        Filming(LiveMovie movie, Injection injection, boolean worth) {
            this.movie = movie;
            this.injection = injection;
            this.worth = worth;
        }

        void end() {
            overNanos = System.nanoTime();
            over = true;
        }
    }

    private static Thread daemon(Runnable work) {
        Thread thread = new Thread(work, "live film");
        thread.setDaemon(true);
        return thread;
    }

    /** @param changed is told when there is something new to be shown */
    LiveFilm(String number, String by, LiveKeeper keeper, Runnable changed) {
        this.number = number;
        this.by = by;
        this.keeper = keeper;
        this.changed = changed;
    }

    /** Who it may be, by the newest look. */
    LiveState.Named named() {
        return named;
    }

    /** What was seen before is no longer said. */
    void forget() {
        named = LiveState.Named.NOBODY;
    }

    /** What the supply shows belongs to the movie. */
    void row(SupplyLog.Row row) {
        filming.ifPresent(f -> f.movie.add(row));
    }

    /** Something warms: whatever was thought of the step, its movie is kept. */
    void worthKeeping() {
        filming.ifPresent(f -> f.worth = true);
    }

    /** Looks into frames in which nothing warms, and says nothing of it: the first look that counts finds the engine warm. */
    void rehearse(LiveMovie cold, Injection injection) {
        looking.execute(() -> {
            try {
                LocateInput before = LiveKeeper.before(keeper.job(number), injection);
                MovieFollower follower = new MovieFollower();
                for (int i = 0; i < REHEARSALS; i++) {
                    keeper.look(
                            follower,
                            LiveKeeper.alone(before, cold.capture(), cold.rows()),
                            until(() -> filming.isPresent()));
                }
            } catch (CancellationException | IOException odd) {
                LOG.debug("not rehearsed", odd);
            } catch (RuntimeException odd) {
                // What fails here fails in the look that counts as well, and is told there.
                LOG.info("not rehearsed", odd);
            }
        });
    }

    /** Breaks a look off once its answer is not wanted any more. */
    private static Progress until(BooleanSupplier unwanted) {
        return share -> {
            if (unwanted.getAsBoolean()) {
                throw new CancellationException();
            }
        };
    }

    /** @param worth whether it is kept from the start */
    void begin(LiveMovie movie, Injection injection, boolean worth) {
        latest.ifPresent(f -> f.superseded = true);
        Filming fresh = new Filming(movie, injection, worth);
        latest = Optional.of(fresh);
        filming = Optional.of(fresh);
        storing.scheduleWithFixedDelay(() -> store(fresh), 1, 1, TimeUnit.SECONDS);
        looking.execute(() -> {
            try {
                lookInto(fresh);
            } finally {
                fresh.told.countDown();
            }
        });
    }

    /** No more current flows into it: the next look is the last. */
    void cooling() {
        filming.ifPresent(f -> f.cooling = true);
    }

    /** The movie is over: the rest is kept, and looked into once more. */
    void cut() {
        filming.ifPresent(f -> {
            f.end();
            storing.execute(() -> finish(f));
        });
        filming = Optional.empty();
    }

    private void store(Filming f) {
        int there = f.movie.count();
        if (!f.worth || there == 0 || f.over && f.row.isPresent() && f.frames == there) {
            return;
        }
        try {
            if (f.row.isEmpty()) {
                Capture capture = f.movie.capture();
                f.row = Optional.of(keeper.begin(keeper.job(number), f.injection, capture, by));
                f.frames = capture.spec().frameCount();
            }
            LiveMovie.Stretch stretch = f.movie.from(f.frames);
            List<SupplyLog.Row> rows = f.movie.rows();
            keeper.more(f.row.get(), f.frames, f.movie.width(), stretch, rows.subList(f.rows, rows.size()));
            f.frames += stretch.frames().size();
            f.rows = rows.size();
        } catch (IOException | RuntimeException failed) {
            // The next second tries again: nothing that came is let go of before it is kept.
            LOG.warn("frames of {} could not be kept yet", number, failed);
        }
    }

    private void finish(Filming f) {
        store(f);
        if (f.row.isPresent()) {
            try {
                // Taken, it is analysed by the same computation: not both at once, while somebody waits for the answer.
                if (!f.told.await(LONGEST_LOOK_S, TimeUnit.SECONDS)) {
                    LOG.info("the last look into the movie of {} takes long; it is analysed meanwhile", number);
                }
                JobFile.Stored job = keeper.job(number);
                keeper.taken(job.row().id(), job.row().hunt(), f.row.get());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
            } catch (IOException | RuntimeException failed) {
                LOG.warn("the movie of {} could not be finished; the next start takes it up", number, failed);
            }
        }
        changed.run();
    }

    /** Once a second while it grows, and once when it is whole. */
    private void lookInto(Filming f) {
        LocateInput before;
        MovieFollower follower = new MovieFollower();
        try {
            // As it is before this movie: at the end the job may hold it already.
            before = LiveKeeper.before(keeper.job(number), f.injection);
            for (Capture earlier : before.captures()) {
                follower.know(earlier);
            }
        } catch (IOException | RuntimeException unreadable) {
            LOG.warn("{} could not be read for its growing movie", number, unreadable);
            return;
        }
        boolean last = false;
        while (!last) {
            last = f.over;
            try {
                List<SupplyLog.Row> rows = f.movie.rows();
                long powered = rows.stream().filter(SupplyLog.Row::output).count();
                if (f.movie.count() > POWERED_FRAMES && powered > POWERED_FRAMES) {
                    long from = System.nanoTime();
                    Capture movie = f.movie.capture();
                    // Once current flows anew, the machine belongs to those who watch it; the stored analysis says the
                    // rest. Once the movie is whole, what is known of half of it is wanted no more.
                    LocateResult result = last
                            ? follower.conclude(LiveKeeper.with(before, movie, rows), until(() -> f.superseded))
                            : keeper.look(follower, LiveKeeper.alone(before, movie, rows), until(() -> f.over));
                    named = named(result, (System.nanoTime() - from) / 1e9);
                    changed.run();
                    if (last) {
                        LOG.info(
                                "the whole movie of {} took {} s to look into, and was told {} s after its end",
                                number,
                                Eng.fixed(named.seconds(), 2),
                                Eng.fixed((System.nanoTime() - f.overNanos) / 1e9, 2));
                    }
                }
                if (!last) {
                    waitFor(f);
                }
            } catch (CancellationException overtaken) {
                LOG.debug("a look into the growing movie of {} was overtaken by its end", number);
            } catch (IOException | RuntimeException failed) {
                LOG.warn("the growing movie of {} could not be looked into", number, failed);
                last = true;
            }
        }
    }

    private static void waitFor(Filming f) {
        try {
            for (int i = 0; (i < 50 || f.cooling) && !f.over; i++) {
                TimeUnit.MILLISECONDS.sleep(20);
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            f.end();
        }
    }

    private static LiveState.Named named(LocateResult result, double seconds) {
        return new LiveState.Named(
                result.suspects().stream()
                        .limit(SHOWN_SUSPECTS)
                        .map(s -> new LiveState.Suspect(s.part().ref(), s.probability()))
                        .toList(),
                result.noneProbability(),
                result.elsewhereProbability(),
                Texts.of("live.calls", result.verdict()),
                seconds);
    }

    @Override
    public void close() {
        filming.ifPresent(Filming::end);
        storing.shutdown();
        looking.shutdown();
    }
}
