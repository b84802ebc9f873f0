package ohmoscope.web.phone;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import java.net.Inet4Address;
import java.net.InetAddress;
import java.net.NetworkInterface;
import java.net.SocketException;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;

/** Secret addresses under which a telephone may do one thing for one job, for half an hour. */
@Service
public class PhoneLinks {
    private static final Duration VALID = Duration.ofMinutes(30);
    private static final int SECRET_BYTES = 16;
    private static final int MODULE = 4;

    private final Clock clock;
    private final SecureRandom random = new SecureRandom();
    private final Map<String, Link> links = new ConcurrentHashMap<>();

    public PhoneLinks(Clock clock) {
        this.clock = clock;
    }

    /** What an address is good for; one that brings pictures must not be able to let current flow. */
    public enum Purpose {
        PICTURES,
        REMOTE
    }

    private record Link(String number, Purpose purpose, Instant until) {}

    /** A new secret for a job; those that have run out are forgotten. */
    public String open(String number, Purpose purpose) {
        Instant now = clock.instant();
        links.values().removeIf(l -> l.until().isBefore(now));
        byte[] secret = new byte[SECRET_BYTES];
        random.nextBytes(secret);
        String token = HexFormat.of().formatHex(secret);
        links.put(token, new Link(number, purpose, now.plus(VALID)));
        return token;
    }

    /** Whose address it is; empty where it has run out, or is for something else. */
    public Optional<String> job(String token, Purpose purpose) {
        return Optional.ofNullable(links.get(token))
                .filter(l -> l.purpose() == purpose)
                .filter(l -> l.until().isAfter(clock.instant()))
                .map(Link::number);
    }

    /** This machine's address on the local network; loopback when it has none. */
    private static String host() {
        String any = "127.0.0.1";
        try {
            for (NetworkInterface network : Collections.list(NetworkInterface.getNetworkInterfaces())) {
                if (!network.isUp() || network.isLoopback()) {
                    continue;
                }
                for (InetAddress address : Collections.list(network.getInetAddresses())) {
                    if (address instanceof Inet4Address && address.isSiteLocalAddress()) {
                        return address.getHostAddress();
                    }
                    if (address instanceof Inet4Address && !address.isLinkLocalAddress()) {
                        any = address.getHostAddress();
                    }
                }
            }
        } catch (SocketException none) {
            return any;
        }
        return any;
    }

    /** A new address of this machine as a code for a telephone to read. @param path before the secret, such as {@code /phone/} */
    public String code(String number, Purpose purpose, int port, String path) {
        return svg("http://" + host() + ":" + port + path + open(number, purpose));
    }

    /** The address as a two-dimensional code, one path on white. */
    public static String svg(String address) {
        try {
            BitMatrix bits =
                    new QRCodeWriter().encode(address, BarcodeFormat.QR_CODE, 0, 0, Map.of(EncodeHintType.MARGIN, 3));
            StringBuilder path = new StringBuilder();
            for (int y = 0; y < bits.getHeight(); y++) {
                for (int x = 0; x < bits.getWidth(); x++) {
                    if (bits.get(x, y)) {
                        path.append("M").append(x).append(' ').append(y).append("h1v1h-1z");
                    }
                }
            }
            int size = bits.getWidth();
            return "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 " + size + " " + size + "\" width=\""
                    + MODULE * size + "\" height=\"" + MODULE * size + "\"><path fill=\"#fff\" d=\"M0 0h" + size + "v"
                    + size + "h-" + size + "z\"/><path d=\"" + path + "\"/></svg>";
        } catch (WriterException impossible) {
            throw new IllegalStateException("an address of this length always fits", impossible);
        }
    }
}
