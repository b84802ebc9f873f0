package ohmoscope.instruments;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/**
 * Where an instrument is reached, as somebody entered it: {@code host:port}, {@code serial:/dev/ttyUSB0@9600}, or
 * {@code disk:/path}, a folder that fills with frames or a file that grows.
 */
public sealed interface Place {
    /** A raw socket. */
    record Tcp(Address address) implements Place {
        @Override
        public boolean here() {
            return address.loopback();
        }

        @Override
        public String toString() {
            return address.toString();
        }
    }

    /** A serial port, eight bits, no parity, one stop bit. @param baud 300 to 4,000,000 */
    record Serial(String device, int baud) implements Place {
        static final int USUAL_BAUD = 9_600;

        public Serial {
            Check.text("device", device);
            Check.within("baud", baud, 300, 4_000_000);
        }

        @Override
        public boolean here() {
            return true;
        }

        @Override
        public String toString() {
            return SERIAL + device + "@" + baud;
        }
    }

    /** A folder or file. */
    record Disk(Path path) implements Place {
        @Override
        public boolean here() {
            return true;
        }

        @Override
        public String toString() {
            return DISK + path;
        }
    }

    String SERIAL = "serial:";
    String DISK = "disk:";

    /** Whether it is this machine: what is not is asked for once. */
    boolean here();

    /** @throws InvalidMember for anything that is none of the three */
    static Place of(String text) {
        String given = text.strip();
        if (given.startsWith(SERIAL)) {
            String rest = given.substring(SERIAL.length());
            int at = rest.lastIndexOf('@');
            if (at >= 0 && !rest.substring(at + 1).matches("\\d{3,7}")) {
                throw new InvalidMember(
                        "address",
                        "must name the speed in baud after @, such as serial:/dev/ttyUSB0@9600, was " + text);
            }
            return at < 0
                    ? new Serial(rest, Serial.USUAL_BAUD)
                    : new Serial(rest.substring(0, at), Integer.parseInt(rest.substring(at + 1)));
        }
        if (given.startsWith(DISK)) {
            try {
                Path path = Path.of(given.substring(DISK.length()));
                if (path.isAbsolute()) {
                    return new Disk(path);
                }
            } catch (InvalidPathException none) {
                // As a relative one.
            }
            throw new InvalidMember("address", "must be a whole path, such as disk:/home/bench/frames, was " + text);
        }
        return new Tcp(Address.of(given));
    }
}
