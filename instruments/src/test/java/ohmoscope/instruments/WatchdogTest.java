package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import ohmoscope.bench.standin.LineServer;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(120)
class WatchdogTest {
    private static final int KILLS = 20;
    private static final long OFF_WITHIN_MILLIS = 500;
    /** What a sleep of 2 ms may take on a machine that runs its threads. */
    private static final long DUE_NANOS = 10_000_000;
    /** Of a process that a busy machine was too slow to start: none is judged by it. */
    private static final int STARTS = 5;

    private static Process injecting(OnBench bench, String fate) throws Exception {
        for (int i = 0; i < STARTS; i++) {
            Process process = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-Xmx64m",
                            "-XX:TieredStopAtLevel=1",
                            "-cp",
                            System.getProperty("java.class.path"),
                            Injector.class.getName(),
                            bench.supplyAddress().toString(),
                            fate)
                    .redirectError(ProcessBuilder.Redirect.INHERIT)
                    .start();
            String line = new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))
                    .readLine();
            if ("on".equals(line) && bench.supply.on()) {
                return process;
            }
            process.destroyForcibly().waitFor();
        }
        throw new AssertionError("nobody could inject, " + STARTS + " times");
    }

    /**
     * Milliseconds until the output was off. Time in which this machine ran nobody is no time of the watchdog's: what a
     * short sleep takes beyond its due is left out.
     */
    private static long off(OnBench bench, long fromNanos) throws Exception {
        long stoodStill = 0;
        while (bench.supply.on()) {
            long asleep = System.nanoTime();
            Thread.sleep(2);
            stoodStill += Math.max(0, System.nanoTime() - asleep - DUE_NANOS);
        }
        return (System.nanoTime() - fromNanos - stoodStill) / 1_000_000;
    }

    /**
     * Twenty times: SIGKILL, and the output is off, within half a second each. A machine on which others run may keep the
     * watchdog itself waiting: two of the twenty may take longer, none may stay on.
     */
    @Test
    void killedOutrightTheOutputGoesOff() throws Exception {
        List<Long> late = new ArrayList<>();
        for (int i = 0; i < KILLS; i++) {
            try (OnBench bench = new OnBench()) {
                Process process = injecting(bench, "is killed");
                long from = System.nanoTime();
                process.destroyForcibly();
                long millis = off(bench, from);
                assertThat(millis).isLessThan(3_000);
                assertThat(bench.log).anyMatch(l -> l.endsWith("< OUTP OFF"));
                if (millis >= OFF_WITHIN_MILLIS) {
                    late.add(millis);
                }
            }
        }
        assertThat(late).as("milliseconds of those that took longer").hasSizeLessThanOrEqualTo(2);
    }

    @Test
    void whoHangsIsSwitchedOffThoughHisProcessLives() throws Exception {
        try (OnBench bench = new OnBench()) {
            Process process = injecting(bench, "hangs");
            assertThat(off(bench, System.nanoTime())).isLessThan(5_000);
            assertThat(process.isAlive()).isTrue();
            process.destroyForcibly();
        }
    }

    @Test
    void theHardLimitHoldsWhateverIsSaid() throws Exception {
        try (OnBench bench = new OnBench()) {
            Process process = injecting(bench, "forgets");
            assertThat(off(bench, System.nanoTime())).isLessThan(5_000);
            process.destroyForcibly();
        }
    }

    @Test
    void withoutAWatchdogNothingIsSwitchedOn() throws Exception {
        try (OnBench gone = new OnBench();
                GuardedSupply supply = gone.guarded(Duration.ofSeconds(5))) {
            gone.close();
            assertThatThrownBy(supply::on)
                    .isInstanceOf(InstrumentException.class)
                    .hasMessageContaining("no watchdog, so nothing is switched on")
                    .hasMessageContaining("look at its cable");
            assertThat(gone.log).noneMatch(l -> l.endsWith("< OUTP ON"));
        }
    }

    /** All goes through its one line: a supply that takes one caller only is watched too. */
    @Test
    void nobodyButTheWatchdogCallsTheSupply() throws Exception {
        try (OnBench bench = new OnBench();
                GuardedSupply supply = bench.guarded(Duration.ofSeconds(3), Duration.ofSeconds(30))) {
            assertThat(supply.identity()).contains("Stand-in supply");
            supply.set(new SupplySetting(0.3, 1));
            supply.on();
            assertThat(supply.shown().amps()).isGreaterThan(0.5);
            assertThat(bench.supplyServer.callers()).isEqualTo(1);
            supply.off();
        }
    }

    /** The cable is pulled in the middle: the loss is heard, and the watchdog's own tries switch off. */
    @Test
    void aPulledCableEndsInOff() throws Exception {
        try (OnBench bench = new OnBench();
                GuardedSupply supply = bench.guarded(Duration.ofSeconds(3), Duration.ofSeconds(30))) {
            supply.set(new SupplySetting(0.3, 1));
            supply.on();
            bench.supplyServer.hangUp();
            assertThatThrownBy(supply::shown).isInstanceOf(InstrumentException.class);
            assertThat(off(bench, System.nanoTime())).isLessThan(5_000);
        }
    }

    /** A line that was sent may not have been heard, as on a port that was closed too soon: it asks, and says it again. */
    @Test
    void aWordThatWasLostIsSaidAgain() throws Exception {
        AtomicInteger lost = new AtomicInteger(3);
        try (OnBench bench = new OnBench();
                LineServer hardOfHearing = new LineServer(
                        "hard of hearing",
                        0,
                        line -> line.equals("OUTP OFF") && lost.getAndDecrement() > 0
                                ? Optional.empty()
                                : bench.supply.apply(line),
                        OnBench.NONE,
                        bench.log::add);
                GuardedSupply supply = new GuardedSupply(
                        new Place.Tcp(new Address("127.0.0.1", hardOfHearing.port())),
                        OnBench.dialect(Dialect.Kind.SUPPLY),
                        System::nanoTime,
                        GuardedSupply.SILENCE,
                        Duration.ofSeconds(30))) {
            supply.set(new SupplySetting(1, 1));
            supply.on();
            assertThat(off(bench, System.nanoTime())).isLessThan(5_000);
            assertThat(bench.log.stream().filter(l -> l.endsWith("< OUTP OFF"))).hasSizeGreaterThan(3);
        }
    }

    /** With a silence that a machine which stands still for a second does not use up. */
    @Test
    void betweenTwoInjectionsItRestsAndLeavesTheSupplyAlone() throws Exception {
        Duration silence = Duration.ofSeconds(3);
        try (OnBench bench = new OnBench();
                GuardedSupply supply = bench.guarded(silence, Duration.ofSeconds(60))) {
            supply.set(new SupplySetting(1, 1));
            supply.on();
            assertThat(supply.alive()).isTrue();
            supply.off();
            long said = bench.log.stream().filter(l -> l.endsWith("< OUTP OFF")).count();
            Thread.sleep(2 * silence.toMillis());
            assertThat(bench.log.stream().filter(l -> l.endsWith("< OUTP OFF"))).hasSize((int) said);
            supply.on();
            assertThat(bench.supply.on()).isTrue();
            assertThat(off(bench, System.nanoTime()))
                    .as("the same watchdog, awake again")
                    .isLessThan(20_000);
        }
    }
}
