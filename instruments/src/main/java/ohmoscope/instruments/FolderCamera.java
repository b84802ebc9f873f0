package ohmoscope.instruments;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;
import java.util.stream.Stream;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.ThermalCamera;

/**
 * A folder that another program fills with frames, one binary PGM image of 16 bits a file ({@code *.pgm}), in the order of
 * their names. What lies there when it is first asked is old and left out; a file that is still being written is waited for.
 */
public final class FolderCamera implements ThermalCamera {
    private static final long LOOK_MS = 15;
    private static final int TRIES = 20;

    private final Path folder;
    private final Duration patience;
    private final LongSupplier clock;
    private final Set<String> seen = new HashSet<>();
    private final Deque<Path> waiting = new ArrayDeque<>();
    private boolean begun;
    private volatile boolean closed;
    private volatile Scale scale;

    /** As {@link StreamCamera}'s. */
    public FolderCamera(Path folder, Duration patience, Scale entered, LongSupplier clock) {
        this.folder = folder;
        this.patience = patience;
        this.scale = entered;
        this.clock = clock;
    }

    @Override
    public Scale scale() {
        return scale;
    }

    @Override
    public synchronized Frame next() throws InstrumentException {
        long until = System.nanoTime() + patience.toNanos();
        if (!begun) {
            look();
            waiting.clear();
            begun = true;
        }
        while (waiting.isEmpty()) {
            if (closed || System.nanoTime() > until) {
                throw new InstrumentException(
                        Trouble.SLOW,
                        "no new frame in " + folder + " within " + patience.toMillis()
                                + " ms: look whether the camera's program writes .pgm files there");
            }
            pause();
            look();
        }
        return read(waiting.poll());
    }

    private void look() throws InstrumentException {
        try (Stream<Path> files = Files.list(folder)) {
            List<Path> fresh = files.filter(f -> f.getFileName().toString().endsWith(".pgm"))
                    .filter(f -> seen.add(f.getFileName().toString()))
                    .sorted(Comparator.comparing(f -> f.getFileName().toString()))
                    .toList();
            waiting.addAll(fresh);
        } catch (IOException gone) {
            throw new InstrumentException(
                    Trouble.LOST, "the folder " + folder + " cannot be read: look whether it is there");
        }
    }

    private void pause() throws InstrumentException {
        try {
            TimeUnit.MILLISECONDS.sleep(LOOK_MS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new InstrumentException(Trouble.LOST, folder + ": interrupted");
        }
    }

    /** Whole only when all its bytes are there. */
    private Frame read(Path file) throws InstrumentException {
        for (int i = 0; i < TRIES; i++) {
            try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
                PgmHeader header = PgmHeader.read(in);
                byte[] bytes = in.readNBytes(header.bytes());
                if (bytes.length == header.bytes()) {
                    if (header.perCount().isPresent()) {
                        scale = new Scale(header.perCount().getAsDouble(), header.atZero());
                    }
                    return new Frame(
                            header.width(),
                            header.height(),
                            StreamCamera.counts(bytes),
                            header.stampS(),
                            clock.getAsLong(),
                            0);
                }
            } catch (InstrumentException garbled) {
                throw new InstrumentException(garbled.trouble(), file + ": " + garbled.getMessage());
            } catch (IOException unfinished) {
                // Its header is not whole yet.
            }
            pause();
        }
        throw new InstrumentException(Trouble.GARBLED, file + " is cut off, or is never finished");
    }

    @Override
    public void close() {
        closed = true;
    }
}
