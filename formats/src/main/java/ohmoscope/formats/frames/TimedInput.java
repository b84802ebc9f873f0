package ohmoscope.formats.frames;

import java.io.File;
import java.io.IOException;
import java.util.concurrent.TimeUnit;
import javax.imageio.stream.FileImageInputStream;
import ohmoscope.formats.BundleException;

/** A picture file that ends a reader which goes on for ever: after its time it gives nothing more. */
final class TimedInput extends FileImageInputStream {
    /** One file of the largest size, read page by page, takes a small part of this. */
    private static final long MOST_SECONDS = 600;

    /** Without moving on to another place: a reader that goes in a circle. */
    private static final long MOST_READS_OF_NOTHING = 5_000_000;

    private final String name;
    private final long endsAt = System.nanoTime() + TimeUnit.SECONDS.toNanos(MOST_SECONDS);
    private long reads;

    TimedInput(File file, String name) throws IOException {
        super(file);
        this.name = name;
    }

    @Override
    public int read() throws IOException {
        check(1);
        return super.read();
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        check(length);
        return super.read(into, from, length);
    }

    private void check(int bytes) throws IOException {
        reads = bytes > 64 ? 0 : reads + 1;
        if (reads > MOST_READS_OF_NOTHING || System.nanoTime() > endsAt) {
            throw new BundleException(name, "", "leads its reader in circles: export it again");
        }
    }
}
