package ohmoscope.instruments;

import com.fazecast.jSerialComm.SerialPort;
import com.fazecast.jSerialComm.SerialPortInvalidPortException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.time.Duration;

/** An open socket or serial port. */
interface Link extends AutoCloseable {
    /** How long what was said to a serial port is given to leave it. */
    Duration LEAVING = Duration.ofMillis(250);
    /** What a port's chip may hold that nobody can ask for. */
    int CHIP_CHARACTERS = 32;

    int BITS_PER_CHARACTER = 10;

    /** Gives up waiting after the patience it was opened with, by an {@code InterruptedIOException}. */
    InputStream in() throws IOException;

    OutputStream out() throws IOException;

    @Override
    void close() throws IOException;

    /** @throws IOException where nobody is there, or it is no place for lines */
    static Link to(Place place, Duration patience) throws IOException {
        if (place instanceof Place.Tcp tcp) {
            return socket(tcp.address(), patience);
        }
        if (place instanceof Place.Serial serial) {
            return port(serial, patience);
        }
        throw new IOException(place + " is on a disk, where nobody answers");
    }

    private static Link socket(Address address, Duration patience) throws IOException {
        Socket socket = new Socket();
        try {
            socket.setTcpNoDelay(true);
            socket.connect(new InetSocketAddress(address.host(), address.port()), (int) patience.toMillis());
            socket.setSoTimeout((int) patience.toMillis());
        } catch (IOException nobody) {
            socket.close();
            throw nobody;
        }
        return new Link() {
            @Override
            public InputStream in() throws IOException {
                return socket.getInputStream();
            }

            @Override
            public OutputStream out() throws IOException {
                return socket.getOutputStream();
            }

            @Override
            public void close() throws IOException {
                socket.close();
            }
        };
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    private static Link port(Place.Serial serial, Duration patience) throws IOException {
        SerialPort port;
        try {
            port = SerialPort.getCommPort(serial.device());
        } catch (SerialPortInvalidPortException nowhere) {
            throw new IOException("there is no serial port " + serial.device(), nowhere);
        }
        port.setComPortParameters(serial.baud(), 8, SerialPort.ONE_STOP_BIT, SerialPort.NO_PARITY);
        port.setComPortTimeouts(SerialPort.TIMEOUT_READ_SEMI_BLOCKING, (int) patience.toMillis(), 0);
        if (!port.openPort()) {
            throw new IOException("the serial port " + serial.device()
                    + " cannot be opened: look whether it is there, free, and yours to use (group dialout)");
        }
        return new Link() {
            @Override
            public InputStream in() {
                return port.getInputStream();
            }

            @Override
            public OutputStream out() {
                return port.getOutputStream();
            }

            /** Closing throws away what has not left yet, and the last word is the one that switches off. */
            @Override
            public void close() {
                long until = System.nanoTime() + LEAVING.toNanos();
                while (port.bytesAwaitingWrite() > 0 && System.nanoTime() < until) {
                    pause(1);
                }
                pause(CHIP_CHARACTERS * BITS_PER_CHARACTER * 1_000 / serial.baud() + 1);
                port.closePort();
            }
        };
    }
}
