package ohmoscope.instruments;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.time.Duration;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.LongSupplier;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.ThermalCamera;

/**
 * Frames as binary PGM images of 16 bits, one after another over a raw socket. A comment line of each may say
 * {@code t_s} (the camera's clock), {@code frame} (its number, by which lost ones are counted), {@code kelvin_per_count}
 * and {@code kelvin_at_zero}.
 */
public final class StreamCamera implements ThermalCamera {
    private static final int BUFFER = 1 << 20;

    private final Address address;
    private final Duration patience;
    private final LongSupplier clock;
    private Optional<Socket> socket = Optional.empty();
    private InputStream in = InputStream.nullInputStream();
    private OptionalLong before = OptionalLong.empty();
    private volatile Scale scale;

    /**
     * @param patience how long a frame may be away
     * @param entered for a camera that does not say what its counts are
     * @param clock the bench's one clock, nanoseconds
     */
    public StreamCamera(Address address, Duration patience, Scale entered, LongSupplier clock) {
        this.address = address;
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
        try {
            connect();
            PgmHeader header = PgmHeader.read(in);
            byte[] bytes = in.readNBytes(header.bytes());
            if (bytes.length < header.bytes()) {
                throw new IOException("it hung up within a frame");
            }
            long at = clock.getAsLong();
            if (header.perCount().isPresent()) {
                scale = new Scale(header.perCount().getAsDouble(), header.atZero());
            }
            int lost = header.number().isPresent() && before.isPresent()
                    ? (int) Math.max(0, Math.min(1_000_000, header.number().getAsLong() - before.getAsLong() - 1))
                    : 0;
            before = header.number();
            return new Frame(header.width(), header.height(), counts(bytes), header.stampS(), at, lost);
        } catch (SocketTimeoutException late) {
            close();
            throw new InstrumentException(
                    Trouble.SLOW,
                    "the camera at " + address + " sent no frame within " + patience.toMillis()
                            + " ms: look whether it runs");
        } catch (InstrumentException garbled) {
            close();
            throw new InstrumentException(garbled.trouble(), "the camera at " + address + ": " + garbled.getMessage());
        } catch (IOException lost) {
            close();
            throw new InstrumentException(
                    Trouble.LOST,
                    "the camera at " + address + " is not there (" + lost.getMessage()
                            + "): look at its cable and address");
        }
    }

    static char[] counts(byte[] bytes) {
        char[] counts = new char[bytes.length / 2];
        for (int i = 0; i < counts.length; i++) {
            counts[i] = (char) ((bytes[2 * i] & 0xff) << 8 | bytes[2 * i + 1] & 0xff);
        }
        return counts;
    }

    private void connect() throws IOException {
        if (socket.isPresent()) {
            return;
        }
        Socket fresh = new Socket();
        try {
            fresh.setReceiveBufferSize(BUFFER);
            fresh.connect(new InetSocketAddress(address.host(), address.port()), (int) patience.toMillis());
            fresh.setSoTimeout((int) patience.toMillis());
            in = new BufferedInputStream(fresh.getInputStream(), BUFFER);
        } catch (IOException nobody) {
            fresh.close();
            throw nobody;
        }
        before = OptionalLong.empty();
        socket = Optional.of(fresh);
    }

    @Override
    public void close() {
        // Not under the lock: closing is what ends a wait for the next frame.
        Optional<Socket> open = socket;
        socket = Optional.empty();
        open.ifPresent(LineWire::quietly);
    }
}
