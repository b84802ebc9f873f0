package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.web.LiveBoard;
import ohmoscope.web.Server;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.BenchStore;
import ohmoscope.web.store.BenchStore.Role;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;

/**
 * Whatever the hand, the page and the cables do: the output is never on but while a key is held, and half a second after.
 * How many sequences can be said by {@code -Dohmoscope.sequences=1000}.
 */
@ExtendWith(Server.class)
@Timeout(value = 40, unit = TimeUnit.MINUTES)
class HandSequencesTest {
    private static final int SEQUENCES = Integer.getInteger("ohmoscope.sequences", 20);
    private static final int A_SESSION = 20;
    private static final int EVENTS = 14;
    private static final long LONGEST_AFTER_NANOS = 500_000_000L;
    private static final String NUMBER = "S-1";

    /** When a key was held, nanoseconds; the end grows with each sign of life. */
    private static final class Held {
        private final long from;
        private volatile long to;

        Held(long from) {
            this.from = from;
            this.to = from;
        }
    }

    private final List<Held> held = new CopyOnWriteArrayList<>();
    private final List<Long> onAt = new CopyOnWriteArrayList<>();
    private final List<String> told = new CopyOnWriteArrayList<>();
    private volatile boolean over;

    private StandInBench bench() {
        StandInBench.Laid laid = LiveJob.laid();
        return new StandInBench(laid, Mishaps.NONE, Vices.NONE, 0, StandInBench.Ports.ANY, line -> {
            if (line.endsWith("< OUTP ON")) {
                told.add(line);
            }
        });
    }

    private long entered(Server.Running server, StandInBench standIn) throws Exception {
        LiveBoard.job(server, NUMBER);
        return LiveBoard.bench(server, "bench of sequences", standIn.ports(), Role.SUPPLY, Role.METER);
    }

    /** With the silence that ships, whatever the other tests allow the browser. */
    private static LiveBenches atItsOwnPace(Server.Running server) {
        Settings all = server.bean(Settings.class);
        return new LiveBenches(
                server.bean(BenchStore.class),
                server.bean(LiveKeeper.class),
                server.bean(LivePlans.class),
                new Settings(all.workFolder(), all.dialects(), all.demo(), all.phone(), Duration.ofMillis(350)));
    }

    private Thread watching(StandInBench standIn) {
        Thread thread = new Thread(() -> {
            while (!over) {
                if (standIn.outputOn()) {
                    onAt.add(System.nanoTime());
                }
                try {
                    Thread.sleep(4);
                } catch (InterruptedException stopped) {
                    return;
                }
            }
        });
        thread.start();
        return thread;
    }

    @Test
    void noOutputIsOnThatNoHeldKeyAskedFor(Server.Running server) throws Exception {
        Random random = new Random(20);
        try (StandInBench standIn = bench()) {
            long id = entered(server, standIn);
            Thread watch = watching(standIn);
            LiveBenches benches = atItsOwnPace(server);
            int done = 0;
            while (done < SEQUENCES) {
                LiveBenches.Session session = benches.open(id, NUMBER, "bench");
                Thread.sleep(300);
                for (int i = 0; i < A_SESSION && done < SEQUENCES; i++, done++) {
                    sequence(random, session, standIn);
                }
                benches.close(session);
                Thread.sleep(600);
            }
            over = true;
            watch.join();
        }
        List<Long> alone = new ArrayList<>();
        for (long at : onAt) {
            boolean asked = held.stream().anyMatch(h -> at >= h.from && at <= h.to + LONGEST_AFTER_NANOS);
            if (!asked) {
                alone.add(at);
            }
        }
        assertThat(alone)
                .as("%d looks found it on, of %d sequences", onAt.size(), SEQUENCES)
                .isEmpty();
        // It is no proof where nothing ever flowed.
        assertThat(told.size()).isGreaterThan(SEQUENCES / 4);
    }

    /** A key that is pressed, given signs of life or forgotten, let go or not; cables that are pulled. */
    private void sequence(Random random, LiveBenches.Session session, StandInBench standIn) throws Exception {
        LiveBench live = session.live();
        Optional<Held> now = Optional.empty();
        for (int e = 0; e < EVENTS; e++) {
            switch (random.nextInt(12)) {
                case 0, 1 -> {
                    if (now.isEmpty()) {
                        now = Optional.of(pressed());
                        live.pressCheck();
                    }
                }
                case 2, 3 -> {
                    if (now.isEmpty()) {
                        now = Optional.of(pressed());
                        live.press(random.nextInt(3));
                    }
                }
                case 4 -> {
                    now.ifPresent(h -> h.to = System.nanoTime());
                    now = Optional.empty();
                    live.release();
                }
                case 5 -> standIn.pullCables();
                case 6 -> Thread.sleep(random.nextInt(500));
                default -> {
                    // The page's sign of life comes while a key is held, and only then.
                    for (int i = 0; i < 4 && now.isPresent(); i++) {
                        live.alive();
                        now.get().to = System.nanoTime();
                        Thread.sleep(40);
                    }
                }
            }
        }
        now.ifPresent(h -> h.to = System.nanoTime());
        live.release();
        Thread.sleep(120);
    }

    private Held pressed() {
        Held fresh = new Held(System.nanoTime());
        held.add(fresh);
        return fresh;
    }
}
