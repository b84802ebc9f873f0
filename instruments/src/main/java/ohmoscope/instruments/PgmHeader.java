package ohmoscope.instruments;

import java.io.IOException;
import java.io.InputStream;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.InstrumentException.Trouble;
import ohmoscope.core.instrument.ThermalCamera;

/**
 * The header of one binary PGM image of 16 bits, with what its comments say.
 *
 * @param stampS the word {@code t_s} with a number, in a comment
 * @param number the word {@code frame}, likewise
 */
record PgmHeader(
        int width, int height, OptionalDouble stampS, OptionalLong number, OptionalDouble perCount, double atZero) {
    private static final int LONGEST = 2_000;
    private static final int SIXTEEN_BIT = 65_535;
    private static final String NUMBER = "\\s*[=:]?\\s*(-?[0-9.]+(?:[eE][-+]?[0-9]+)?)";
    private static final Pattern STAMP = Pattern.compile("\\bt_s" + NUMBER);
    private static final Pattern FRAME = Pattern.compile("\\bframe\\s*[=:]?\\s*([0-9]{1,18})");
    private static final Pattern PER_COUNT = Pattern.compile("\\bkelvin_per_count" + NUMBER);
    private static final Pattern AT_ZERO = Pattern.compile("\\bkelvin_at_zero" + NUMBER);

    int bytes() {
        return 2 * width * height;
    }

    /** @throws IOException GARBLED where it is no such header, or the stream ends */
    static PgmHeader read(InputStream in) throws IOException {
        Reader reader = new Reader(in);
        if (reader.next() != 'P' || reader.next() != '5') {
            throw garbled("where P5 was expected");
        }
        int width = reader.number();
        int height = reader.number();
        int most = reader.number();
        if (width < ThermalCamera.LEAST_SIDE
                || height < ThermalCamera.LEAST_SIDE
                || width > ThermalCamera.MOST_SIDE
                || height > ThermalCamera.MOST_SIDE) {
            throw garbled("with pictures of " + width + "×" + height);
        }
        if (most != SIXTEEN_BIT) {
            throw garbled("with " + most + " grey steps, where 65535 (two bytes a pixel) were expected");
        }
        String comments = reader.comments.toString();
        Matcher number = FRAME.matcher(comments);
        return new PgmHeader(
                width,
                height,
                value(STAMP, comments),
                number.find() ? OptionalLong.of(Long.parseLong(number.group(1))) : OptionalLong.empty(),
                value(PER_COUNT, comments),
                value(AT_ZERO, comments).orElse(0));
    }

    private static OptionalDouble value(Pattern pattern, String comments) {
        Matcher found = pattern.matcher(comments);
        try {
            return found.find() ? OptionalDouble.of(Double.parseDouble(found.group(1))) : OptionalDouble.empty();
        } catch (NumberFormatException dots) {
            return OptionalDouble.empty();
        }
    }

    private static InstrumentException garbled(String how) {
        return new InstrumentException(
                Trouble.GARBLED,
                "it sends something " + how + ": it must send binary PGM images of 16 bits, one after another");
    }

    /** Not for several threads. */
    private static final class Reader {
        private final InputStream in;
        private final StringBuilder comments = new StringBuilder();
        private int read;

        Reader(InputStream in) {
            this.in = in;
        }

        int next() throws IOException {
            if (read++ > LONGEST) {
                throw garbled("with a header that does not end");
            }
            int c = in.read();
            if (c < 0) {
                throw new IOException("it hung up");
            }
            return c;
        }

        /** The next number, comments before it put aside; the one character after it is taken too. */
        int number() throws IOException {
            int c = next();
            while (Character.isWhitespace(c) || c == '#') {
                if (c == '#') {
                    for (c = next(); c != '\n'; c = next()) {
                        comments.append((char) c);
                    }
                    comments.append(' ');
                }
                c = next();
            }
            int value = 0;
            int digits = 0;
            for (; c >= '0' && c <= '9' && digits < 6; digits++) {
                value = 10 * value + c - '0';
                c = next();
            }
            if (digits == 0 || !Character.isWhitespace(c)) {
                throw garbled("with a header that is none");
            }
            return value;
        }
    }
}
