package ohmoscope.instruments;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.Supply;
import ohmoscope.core.instrument.SupplySetting;

/**
 * A supply whose output is on only while a watchdog stands beside it and somebody gives signs of life. Who holds the key
 * calls {@link #alive} at least every quarter of a second; when he does not, the watchdog switches off.
 */
public final class GuardedSupply implements Supply {
    /** From the last sign of life to the word that switches off. */
    public static final Duration SILENCE = Duration.ofMillis(350);

    private static final Duration ARMING = Duration.ofSeconds(10);

    private final Supply supply;
    private final Address address;
    private final Dialect dialect;
    private final Duration limit;
    private Optional<Process> dog = Optional.empty();

    /** @param limit the longest that the output may be on at a stretch, whatever happens */
    public GuardedSupply(Supply supply, Address address, Dialect dialect, Duration limit) {
        this.supply = supply;
        this.address = address;
        this.dialect = dialect;
        this.limit = limit;
    }

    @Override
    public String identity() throws InstrumentException {
        return supply.identity();
    }

    @Override
    public SupplySetting set(SupplySetting setting) throws InstrumentException {
        return supply.set(setting);
    }

    /** @throws InstrumentException where no watchdog can be had: then nothing is switched on */
    @Override
    public synchronized void on() throws InstrumentException {
        if (!watched()) {
            dog = Optional.of(armed());
        }
        alive();
        supply.on();
    }

    /** A sign of life of the one who holds the key. Says whether the watchdog still stands there. */
    public synchronized boolean alive() {
        return watched() && said(Watchdog.ALIVE);
    }

    private boolean watched() {
        return dog.map(Process::isAlive).orElse(false);
    }

    private boolean said(int sign) {
        try {
            OutputStream ears = dog.orElseThrow().getOutputStream();
            ears.write(sign);
            ears.flush();
            return true;
        } catch (IOException gone) {
            return false;
        }
    }

    /** The dog stays until the output is known to be off. */
    @Override
    public synchronized void off() throws InstrumentException {
        supply.off();
        if (watched()) {
            said(Watchdog.STAND_DOWN);
        }
        dog = Optional.empty();
    }

    @Override
    public Shown shown() throws InstrumentException {
        return supply.shown();
    }

    /** The pipe ends with it: the dog switches off too. */
    @Override
    public synchronized void close() {
        supply.close();
        dog.ifPresent(process -> {
            try {
                process.getOutputStream().close();
            } catch (IOException gone) {
                // It has gone already.
            }
        });
        dog = Optional.empty();
    }

    private Process armed() throws InstrumentException {
        List<String> command = List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx32m",
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                Watchdog.class.getName(),
                address.toString(),
                dialect.line("off"),
                String.valueOf(SILENCE.toMillis()),
                String.valueOf(limit.toMillis()));
        try {
            Process process = new ProcessBuilder(command)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            BufferedReader says =
                    new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
            long until = System.nanoTime() + ARMING.toNanos();
            while (process.isAlive() && System.nanoTime() < until) {
                // Silence counts from its first moment: signs are given while it wakes up.
                process.getOutputStream().write(Watchdog.ALIVE);
                process.getOutputStream().flush();
                if (says.ready()) {
                    String line = says.readLine();
                    if (Watchdog.ARMED.equals(line)) {
                        return process;
                    }
                    process.destroyForcibly();
                    throw new InstrumentException(Trouble.REFUSED, "no watchdog, so nothing is switched on: " + line);
                }
                Thread.sleep(10);
            }
            process.destroyForcibly();
            throw new InstrumentException(
                    Trouble.REFUSED,
                    "no watchdog, so nothing is switched on: it did not wake within " + ARMING.toSeconds() + " s");
        } catch (InstrumentException refused) {
            throw refused;
        } catch (IOException impossible) {
            throw new InstrumentException(
                    Trouble.REFUSED, "no watchdog, so nothing is switched on: " + impossible.getMessage());
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new InstrumentException(Trouble.LOST, "interrupted while the watchdog woke up");
        }
    }
}
