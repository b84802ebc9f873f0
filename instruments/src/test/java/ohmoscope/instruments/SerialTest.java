package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.SupplySetting;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Instruments on serial ports: pseudo-terminals with the stand-ins' sockets behind them. */
@Timeout(60)
class SerialTest {
    /** A serial port that leads to a socket. */
    private static Process leading(Path device, Address to) throws Exception {
        Process process = new ProcessBuilder(
                        "socat", "pty,raw,echo=0,link=" + device, "tcp:" + to.host() + ":" + to.port())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        for (int i = 0; i < 200 && !Files.exists(device); i++) {
            Thread.sleep(20);
        }
        return process;
    }

    private static Place port(Path device) {
        return Place.of("serial:" + device + "@115200");
    }

    @Test
    void aMeterIsReadOverASerialPort(@TempDir Path folder) throws Exception {
        Path device = folder.resolve("meter");
        try (OnBench bench = new OnBench()) {
            Process cable = leading(device, bench.meterAddress());
            try (ScpiMeter meter = new ScpiMeter(
                    new LineWire(port(device), Duration.ofSeconds(3), Duration.ZERO),
                    OnBench.dialect(Dialect.Kind.METER),
                    System::nanoTime)) {
                assertThat(meter.identity()).contains("Stand-in meter");
                assertThat(meter.read(ReadMode.OHMS).value().getAsDouble()).isBetween(0.03, 0.07);
            } finally {
                cable.destroyForcibly();
            }
        }
    }

    /** A serial port has one holder: the watchdog. Killed or not, what hangs on it goes off. */
    @Test
    void aSupplyOnASerialPortIsWatched(@TempDir Path folder) throws Exception {
        Path device = folder.resolve("supply");
        try (OnBench bench = new OnBench()) {
            Process cable = leading(device, bench.supplyAddress());
            // A port stays though nobody has it open; a pseudo-terminal only while somebody has.
            try (InputStream held = Files.newInputStream(device);
                    GuardedSupply supply = new GuardedSupply(
                            port(device),
                            OnBench.dialect(Dialect.Kind.SUPPLY),
                            System::nanoTime,
                            Duration.ofSeconds(2),
                            Duration.ofSeconds(20))) {
                supply.set(new SupplySetting(0.3, 1));
                supply.on();
                assertThat(bench.supply.on()).isTrue();
                // How soon is asked of twenty in WatchdogTest; here, that it goes off over this line too.
                long silent = System.nanoTime();
                while (bench.supply.on() && System.nanoTime() - silent < 10e9) {
                    Thread.sleep(5);
                }
                assertThat(bench.supply.on()).isFalse();
            } finally {
                cable.destroyForcibly();
            }
        }
    }

    @Test
    void whatIsNoPortIsSaidToBeNone() {
        try (LineWire wire = new LineWire(Place.of("serial:/dev/nowhere"), Duration.ofMillis(200), Duration.ZERO)) {
            assertThatThrownBy(() -> wire.ask("*IDN?"))
                    .isInstanceOf(InstrumentException.class)
                    .hasMessageContaining("/dev/nowhere");
        }
        assertThatThrownBy(() -> Place.of("serial:/dev/ttyS0@fast"))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("baud");
        assertThatThrownBy(() -> Place.of("disk:frames")).isInstanceOf(InvalidMember.class);
        assertThat(Place.of("disk:/tmp/frames").here()).isTrue();
        assertThat(Place.of("serial:/dev/ttyUSB0")).hasToString("serial:/dev/ttyUSB0@9600");
        assertThat(Place.of("192.0.2.7:5025").here()).isFalse();
    }
}
