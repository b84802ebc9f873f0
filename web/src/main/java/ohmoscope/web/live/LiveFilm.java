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
 * The movie that is being taken: kept a second at a time by one thread, looked into by another. While current flows each look
 * searches anew; once it is off, looks go on from the newest one, so that at the movie's end next to nothing is left to be done.
 */
final class LiveFilm implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(LiveFilm.class);
    private static final int POWERED_FRAMES = 6;
    private static final int SHOWN_SUSPECTS = 5;
    private static final int LONGEST_LOOK_S = 30;
    private static final int REHEARSALS = 2;
    private static final int LOOK_EVERY_MS = 1000;
    private static final int WAIT_MS = 5;

    /** So much longer than the one before a look may take and still be done before the movie's end. */
    private static final double SLOWER = 1.2;

    /** Of a look so much must be done at the movie's end for it to be worth waiting for. */
    private static final double MOSTLY = 0.5;

    /** How long a look that goes on from another takes, before one has been timed, seconds. */
    private static final double FOLLOW_S = 0.5;

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
        private volatile long coolUntilNanos;
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
        return share -> breakOff(unwanted.getAsBoolean());
    }

    private static void breakOff(boolean unwanted) {
        if (unwanted) {
            throw new CancellationException();
        }
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

    /** No more current flows into it. @param forS how much longer it is taken */
    void cooling(double forS) {
        filming.ifPresent(f -> {
            f.coolUntilNanos = System.nanoTime() + (long) (forS * 1e9);
            f.cooling = true;
        });
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

    /** Again and again while it grows, and once when it is whole. */
    private void lookInto(Filming f) {
        Looking looking;
        try {
            looking = new Looking(f);
        } catch (IOException | RuntimeException unreadable) {
            LOG.warn("{} could not be read for its growing movie", number, unreadable);
            return;
        }
        boolean last = false;
        while (!last) {
            last = f.over;
            try {
                if (looking.worthIt()) {
                    if (last) {
                        looking.conclude();
                    } else {
                        looking.look();
                    }
                }
                if (!last) {
                    looking.waitForMore();
                }
            } catch (CancellationException overtaken) {
                LOG.debug("a look into the growing movie of {} was overtaken", number);
            } catch (IOException | RuntimeException failed) {
                LOG.warn("the growing movie of {} could not be looked into", number, failed);
                last = true;
            }
        }
    }

    /** The looks into one movie; used by the looking thread only. */
    private final class Looking {
        private final Filming f;
        /** The job as it is before this movie: at the end it may hold it already. */
        private final LocateInput before;

        private final MovieFollower follower = new MovieFollower();
        private double followS = FOLLOW_S;
        private boolean looked;

        Looking(Filming f) throws IOException {
            this.f = f;
            before = LiveKeeper.before(keeper.job(number), f.injection);
            for (Capture earlier : before.captures()) {
                follower.know(earlier);
            }
        }

        boolean worthIt() {
            long powered = f.movie.rows().stream().filter(SupplyLog.Row::output).count();
            return f.movie.count() > POWERED_FRAMES && powered > POWERED_FRAMES;
        }

        /** Without the movies before it: with each of them a look takes longer, and the hold does not. */
        private LocateInput alone() {
            return LiveKeeper.alone(before, f.movie.capture(), f.movie.rows());
        }

        void look() throws IOException {
            long from = System.nanoTime();
            // Nobody has to watch the current any more, so this one need not leave them a processor.
            Optional<LocateResult> followed =
                    f.cooling ? follower.follow(alone(), until(() -> f.over)) : Optional.empty();
            if (followed.isPresent()) {
                followS = (System.nanoTime() - from) / 1e9;
                tell(followed.get(), from);
            } else {
                boolean cooled = f.cooling;
                tell(keeper.look(follower, alone(), share -> breakOff(unwanted(cooled, share))), from);
                looked = true;
            }
        }

        /**
         * What is known of half a movie is wanted no more once current is off and the look before it can be gone on from, or
         * the movie is whole; but where there is nothing else to go on from, one that is mostly done is.
         *
         * @param begunCool whether it began when the current was off
         * @param share of it that is done
         */
        private boolean unwanted(boolean begunCool, double share) {
            return f.over && (looked || share < MOSTLY) || f.cooling && !begunCool && follower.leads();
        }

        /**
         * Once current flows anew, the machine belongs to those who watch it; the stored analysis says the rest.
         *
         * <p>What the movie says by itself is told at once, what it says together with those before it when that is known.
         */
        void conclude() throws IOException {
            long from = System.nanoTime();
            Optional<LocateResult> atOnce = follower.conclude(alone());
            atOnce.ifPresent(result -> tell(result, from));
            log(atOnce.isPresent() ? "by what was found before" : "not at once", from);
            if (atOnce.isEmpty() || !before.captures().isEmpty()) {
                LocateInput all = LiveKeeper.with(before, f.movie.capture(), f.movie.rows());
                tell(follower.look(all, until(() -> f.superseded)), from);
                log("searched anew", from);
            }
        }

        private void tell(LocateResult result, long fromNanos) {
            named = named(result, (System.nanoTime() - fromNanos) / 1e9);
            changed.run();
        }

        private void log(String how, long fromNanos) {
            LOG.info(
                    "the whole movie of {}, {}: {} s, {} s after its end",
                    number,
                    how,
                    Eng.fixed((System.nanoTime() - fromNanos) / 1e9, 2),
                    Eng.fixed((System.nanoTime() - f.overNanos) / 1e9, 2));
        }

        /** Until there is more to be seen, or the movie's end where no look would be done before. */
        void waitForMore() {
            try {
                long until = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(LOOK_EVERY_MS);
                while (!f.over && !beginsNow(until)) {
                    TimeUnit.MILLISECONDS.sleep(WAIT_MS);
                }
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                f.end();
            }
        }

        private boolean beginsNow(long untilNanos) {
            long now = System.nanoTime();
            return f.cooling ? now + SLOWER * followS * 1e9 < f.coolUntilNanos : now > untilNanos;
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
