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
        try (OnBench bench = new OnBench();
                OnBench gone = new OnBench()) {
            Address nowhere = gone.supplyAddress();
            gone.close();
            GuardedSupply supply = new GuardedSupply(
                    bench.supply(Duration.ofSeconds(5)),
                    nowhere,
                    OnBench.dialect(Dialect.Kind.SUPPLY),
                    Duration.ofSeconds(5));
            supply.set(new SupplySetting(1, 1));
            assertThatThrownBy(supply::on)
                    .isInstanceOf(InstrumentException.class)
                    .hasMessageContaining("no watchdog, so nothing is switched on");
            assertThat(bench.log).noneMatch(l -> l.endsWith("< OUTP ON"));
        }
    }

    @Test
    void stoodDownItLeavesTheSupplyAlone() throws Exception {
        try (OnBench bench = new OnBench()) {
            GuardedSupply supply = new GuardedSupply(
                    bench.supply(Duration.ofSeconds(5)),
                    bench.supplyAddress(),
                    OnBench.dialect(Dialect.Kind.SUPPLY),
                    Duration.ofSeconds(20));
            supply.set(new SupplySetting(1, 1));
            supply.on();
            assertThat(supply.alive()).isTrue();
            supply.off();
            assertThat(supply.alive()).isFalse();
            long said = bench.log.stream().filter(l -> l.endsWith("< OUTP OFF")).count();
            Thread.sleep(2 * GuardedSupply.SILENCE.toMillis());
            assertThat(bench.log.stream().filter(l -> l.endsWith("< OUTP OFF"))).hasSize((int) said);
        }
    }
}
