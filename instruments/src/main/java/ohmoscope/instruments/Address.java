package ohmoscope.instruments;

import java.net.InetAddress;
import java.net.UnknownHostException;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;

/** Where an instrument is reached, as somebody entered it: nothing is ever sent anywhere else. */
public record Address(String host, int port) {
    private static final int MOST_PORT = 65_535;

    public Address {
        Check.text("host", host);
        if (port < 1 || port > MOST_PORT) {
            throw new InvalidMember("port", "must be from 1 to " + MOST_PORT + ", was " + port);
        }
    }

    /** @throws InvalidMember for anything but {@code host:port} */
    public static Address of(String text) {
        int colon = text.lastIndexOf(':');
        if (colon < 1 || !text.substring(colon + 1).matches("\\d{1,5}")) {
            throw new InvalidMember("address", "must be host:port, such as 127.0.0.1:5025, was " + text);
        }
        return new Address(text.substring(0, colon), Integer.parseInt(text.substring(colon + 1)));
    }

    /** Whether it is this machine: what is not is asked for once. */
    public boolean loopback() {
        try {
            return InetAddress.getByName(host).isLoopbackAddress();
        } catch (UnknownHostException nowhere) {
            return false;
        }
    }

    @Override
    public String toString() {
        return host + ":" + port;
    }
}
