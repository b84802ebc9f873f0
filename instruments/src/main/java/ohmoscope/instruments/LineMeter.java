package ohmoscope.instruments;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongSupplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.instrument.InlineMeter;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;

/**
 * Volts and amperes in lines that come by themselves: over a socket, from a serial port, or in a file that grows. Two
 * numbers are volts and amperes; of three the first is a time and left alone; words and units between them do not matter.
 */
public final class LineMeter implements InlineMeter {
    private static final Pattern NUMBER = Pattern.compile("[-+]?(?:[0-9]+\\.?[0-9]*|\\.[0-9]+)(?:[eE][-+]?[0-9]+)?");
    private static final int LONGEST_LINE = 500;
    private static final int MANY = 20;
    private static final int AT_ONCE = 1 << 16;

    private final Opening opening;
    private final String name;
    private final LongSupplier clock;
    private final StringBuilder line = new StringBuilder();
    private Optional<InputStream> open = Optional.empty();
    private final Duration silence;
    private int strange;
    private long heardNanos;

    /** Opens what is read, from its present end on. */
    @FunctionalInterface
    public interface Opening {
        InputStream open() throws IOException;
    }

    /**
     * @param name of the place, for errors
     * @param silence how long it may say nothing; then it counts as lost, as a socket does not say that its cable is out
     * @param clock the bench's one clock, nanoseconds
     */
    public LineMeter(String name, Opening opening, Duration silence, LongSupplier clock) {
        this.silence = silence;
        this.name = name;
        this.opening = opening;
        this.clock = clock;
    }

    /** What a socket or serial port says from now on. @throws IOException where nobody is there */
    public static InputStream from(Place place, Duration patience) throws IOException {
        Link link = Link.to(place, patience);
        return new FilterInputStream(link.in()) {
            @Override
            public void close() throws IOException {
                link.close();
            }
        };
    }

    @Override
    public synchronized List<Sample> since() throws InstrumentException {
        List<Sample> samples = new ArrayList<>();
        try {
            if (open.isEmpty()) {
                open = Optional.of(opening.open());
                line.setLength(0);
                heardNanos = clock.getAsLong();
            }
            InputStream in = open.get();
            int there = Math.min(AT_ONCE, in.available());
            heardNanos = there > 0 ? clock.getAsLong() : heardNanos;
            if (clock.getAsLong() - heardNanos > silence.toNanos()) {
                throw new IOException("it has been silent for " + silence.toSeconds() + " s");
            }
            for (byte b : in.readNBytes(there)) {
                if (b == '\n' || b == '\r') {
                    take(samples);
                } else if (line.length() < LONGEST_LINE) {
                    line.append((char) (b & 0x7f));
                }
            }
        } catch (IOException lost) {
            close();
            throw new InstrumentException(
                    Trouble.LOST, "the inline meter at " + name + " is not there (" + lost.getMessage() + ")");
        }
        if (strange > MANY) {
            strange = 0;
            throw new InstrumentException(
                    Trouble.GARBLED,
                    "the inline meter at " + name
                            + " writes lines without volts and amperes: look at its speed and at what it logs");
        }
        return samples;
    }

    private void take(List<Sample> samples) {
        String said = line.toString().strip();
        line.setLength(0);
        if (said.isEmpty()) {
            return;
        }
        List<Double> numbers = new ArrayList<>();
        Matcher found = NUMBER.matcher(said);
        while (found.find()) {
            numbers.add(Double.parseDouble(found.group()));
        }
        if (numbers.size() < 2) {
            strange++;
            return;
        }
        strange = 0;
        int first = numbers.size() > 2 ? 1 : 0;
        samples.add(new Sample(numbers.get(first), numbers.get(first + 1), clock.getAsLong()));
    }

    @Override
    public synchronized void close() {
        open.ifPresent(LineWire::quietly);
        open = Optional.empty();
    }
}
