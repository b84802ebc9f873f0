package ohmoscope.instruments;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/** A line to a supply that a {@link Watchdog} holds. What is said goes through it; signs of life go beside it. */
final class GuardedWire implements Wire {
    private static final Duration ARMING = Duration.ofSeconds(10);

    private final Process dog;
    private final BufferedReader says;

    private GuardedWire(Process dog, BufferedReader says) {
        this.dog = dog;
        this.says = says;
    }

    /**
     * Has a watchdog open the line.
     *
     * @param silence without a sign of life, after which it switches off
     * @param limit the longest that an output may be on at a stretch
     * @throws InstrumentException where no watchdog, or no supply, can be had
     */
    static GuardedWire open(Place place, Dialect dialect, Duration silence, Duration limit) throws InstrumentException {
        List<String> command = List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx32m",
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                Watchdog.class.getName(),
                place.toString(),
                dialect.line("off"),
                dialect.line("is_on"),
                String.valueOf(silence.toMillis()),
                String.valueOf(limit.toMillis()),
                String.valueOf(dialect.answerMillis()),
                String.valueOf(dialect.paceMillis()));
        try {
            Process process = new ProcessBuilder(command)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            BufferedReader says =
                    new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
            long until = System.nanoTime() + ARMING.toNanos();
            while (process.isAlive() && System.nanoTime() < until && !says.ready()) {
                Thread.sleep(10);
            }
            String line = says.ready() ? says.readLine() : "it did not wake within " + ARMING.toSeconds() + " s";
            if (Watchdog.ARMED.equals(line)) {
                return new GuardedWire(process, says);
            }
            process.destroyForcibly();
            throw unarmed(line);
        } catch (InstrumentException refused) {
            throw refused;
        } catch (IOException impossible) {
            throw unarmed(String.valueOf(impossible.getMessage()));
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new InstrumentException(Trouble.LOST, "interrupted while the watchdog woke up");
        }
    }

    private static InstrumentException unarmed(String why) {
        String[] words = why.startsWith(Watchdog.TROUBLE) ? why.split(" ", 3) : new String[] {"", "", why};
        Trouble trouble = words[1].isEmpty() ? Trouble.REFUSED : Trouble.valueOf(words[1]);
        return new InstrumentException(trouble, "no watchdog, so nothing is switched on: " + words[2]);
    }

    boolean watched() {
        return dog.isAlive();
    }

    /** @return whether the watchdog still stands there */
    boolean alive() {
        return watched() && said(Watchdog.ALIVE);
    }

    void rest() {
        said(Watchdog.REST);
    }

    private boolean said(String line) {
        OutputStream ears = dog.getOutputStream();
        synchronized (dog) {
            try {
                ears.write((line + "\n").getBytes(StandardCharsets.US_ASCII));
                ears.flush();
                return true;
            } catch (IOException gone) {
                return false;
            }
        }
    }

    @Override
    public synchronized void tell(String line) throws InstrumentException {
        through(Watchdog.TELL + line);
    }

    @Override
    public synchronized String ask(String line) throws InstrumentException {
        return through(Watchdog.ASK + line).substring(Watchdog.ANSWER.length());
    }

    private String through(String line) throws InstrumentException {
        try {
            String answer = said(line) ? says.readLine() : null;
            if (answer == null) {
                throw new InstrumentException(
                        Trouble.LOST, "the watchdog has gone: whether the output is off has to be looked at, now");
            }
            if (answer.startsWith(Watchdog.TROUBLE)) {
                String[] words = answer.split(" ", 3);
                throw new InstrumentException(Trouble.valueOf(words[1]), words[2]);
            }
            return answer;
        } catch (InstrumentException own) {
            throw own;
        } catch (IOException gone) {
            throw new InstrumentException(Trouble.LOST, "the watchdog does not answer: " + gone.getMessage());
        }
    }

    /** The pipe ends with it: unless it rests, the watchdog switches off. */
    @Override
    public void close() {
        LineWire.quietly(dog.getOutputStream());
    }
}
