package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(120)
class WatchdogTest {
    private static final long OFF_WITHIN_MILLIS = 500;

    private static Process injecting(OnBench bench, String fate) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx64m",
                        "-XX:TieredStopAtLevel=1",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Injector.class.getName(),
                        bench.supplyAddress().toString(),
                        fate)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        String line =
                new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8)).readLine();
        assertThat(line).isEqualTo("on");
        assertThat(bench.supply.on()).isTrue();
        return process;
    }

    /** Milliseconds until the output was off. */
    private static long off(OnBench bench, long fromNanos) throws Exception {
        while (bench.supply.on()) {
            Thread.sleep(2);
        }
        return (System.nanoTime() - fromNanos) / 1_000_000;
    }

    /** Twenty times: SIGKILL, and the output is off within half a second. */
    @RepeatedTest(20)
    void killedOutrightTheOutputGoesOff() throws Exception {
        try (OnBench bench = new OnBench()) {
            Process process = injecting(bench, "is killed");
            long from = System.nanoTime();
            process.destroyForcibly();
            assertThat(off(bench, from)).isLessThan(OFF_WITHIN_MILLIS);
            assertThat(bench.log).anyMatch(l -> l.endsWith("< OUTP OFF"));
        }
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
                GuardedSupply supply = bench.guarded(Duration.ofSeconds(5))) {
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
                GuardedSupply supply = bench.guarded(Duration.ofSeconds(5))) {
            supply.set(new SupplySetting(0.3, 1));
            supply.on();
            bench.supplyServer.hangUp();
            assertThatThrownBy(supply::shown).isInstanceOf(InstrumentException.class);
            assertThat(off(bench, System.nanoTime())).isLessThan(1_000);
        }
    }

    @Test
    void betweenTwoInjectionsItRestsAndLeavesTheSupplyAlone() throws Exception {
        try (OnBench bench = new OnBench();
                GuardedSupply supply = bench.guarded(Duration.ofSeconds(20))) {
            supply.set(new SupplySetting(1, 1));
            supply.on();
            assertThat(supply.alive()).isTrue();
            supply.off();
            long said = bench.log.stream().filter(l -> l.endsWith("< OUTP OFF")).count();
            Thread.sleep(2 * GuardedSupply.SILENCE.toMillis());
            assertThat(bench.log.stream().filter(l -> l.endsWith("< OUTP OFF"))).hasSize((int) said);
            supply.on();
            assertThat(bench.supply.on()).isTrue();
            Thread.sleep(3 * GuardedSupply.SILENCE.toMillis());
            assertThat(bench.supply.on()).as("the same watchdog, awake again").isFalse();
        }
    }
}
