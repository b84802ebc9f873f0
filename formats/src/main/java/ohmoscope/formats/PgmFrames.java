package ohmoscope.formats;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;

/** A stream of binary PGM images, two bytes a pixel, most significant first. */
public final class PgmFrames {
    private static final int MAX_HEADER_TOKEN = 10;

    private PgmFrames() {}

    /** Opens the stream that a source reads; called once for each pass. */
    @FunctionalInterface
    public interface Opener {
        InputStream open() throws IOException;
    }

    /**
     * Frames of a capture, checked as they are read: size, depth, count and range of temperatures.
     *
     * @param file the name that errors give
     */
    public static FrameSource source(CaptureSpec spec, String file, Opener opener) {
        return () -> new Cursor(spec, file, opener.open());
    }

    /** Appends one image. */
    public static void write(OutputStream out, int width, int height, char[] counts) throws IOException {
        out.write(("P5\n" + width + " " + height + "\n65535\n").getBytes(StandardCharsets.US_ASCII));
        byte[] bytes = new byte[counts.length * 2];
        for (int i = 0; i < counts.length; i++) {
            bytes[2 * i] = (byte) (counts[i] >> 8);
            bytes[2 * i + 1] = (byte) counts[i];
        }
        out.write(bytes);
    }

    private static final class Cursor implements FrameSource.Cursor {
        private final CaptureSpec spec;
        private final String file;
        private final InputStream in;
        private final byte[] bytes;
        private int frame;

        Cursor(CaptureSpec spec, String file, InputStream in) {
            this.spec = spec;
            this.file = file;
            this.in = in;
            this.bytes = new byte[spec.pixels() * 2];
        }

        @Override
        public boolean next(char[] counts) throws IOException {
            if (counts.length != spec.pixels()) {
                throw new IllegalArgumentException("a frame needs " + spec.pixels() + " cells, got " + counts.length);
            }
            if (frame == spec.frameCount()) {
                return false;
            }
            header();
            int got = in.readNBytes(bytes, 0, bytes.length);
            if (got < bytes.length) {
                throw fault("is cut off: has " + got + " of " + bytes.length + " bytes. Copy the capture again");
            }
            int highest = 0;
            for (int i = 0; i < counts.length; i++) {
                int value = (bytes[2 * i] & 0xff) << 8 | bytes[2 * i + 1] & 0xff;
                counts[i] = (char) value;
                highest = Math.max(highest, value);
            }
            if (spec.kelvin(highest) > CaptureSpec.MAX_KELVIN) {
                throw fault("reaches " + Math.round(spec.kelvin(highest))
                        + " K, which no board does: check kelvin_per_count and kelvin_at_zero");
            }
            frame++;
            if (frame == spec.frameCount()) {
                requireEnd();
            }
            return true;
        }

        private void header() throws IOException {
            int first = read();
            if (first < 0) {
                throw new BundleException(
                        file,
                        "",
                        "has " + frame + " frames, but times.csv has " + spec.frameCount()
                                + " rows: remove the rows without a frame, or copy the capture again");
            }
            if (first != 'P' || read() != '5') {
                throw fault("does not start with P5: frames must be binary PGM images, one after another");
            }
            int width = number();
            int height = number();
            int depth = number();
            if (width != spec.width() || height != spec.height()) {
                throw fault("is " + width + "×" + height + " pixels, the capture is " + spec.width() + "×"
                        + spec.height() + ". Record all frames in one camera mode");
            }
            if (depth != 65535) {
                throw fault("has maxval " + depth + "; two bytes a pixel need 65535");
            }
        }

        /** A decimal number with the white space (and comments) before it and the one character after it. */
        private int number() throws IOException {
            int c = read();
            while (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '#') {
                if (c == '#') {
                    while (c != '\n' && c >= 0) {
                        c = read();
                    }
                } else {
                    c = read();
                }
            }
            int value = 0;
            int digits = 0;
            while (c >= '0' && c <= '9' && digits < MAX_HEADER_TOKEN - 1) {
                value = value * 10 + (c - '0');
                digits++;
                c = read();
            }
            if (digits == 0 || c >= '0' && c <= '9') {
                throw c < 0 ? fault("is cut off in its header") : fault("has a header that is no PGM header");
            }
            return value;
        }

        private int read() throws IOException {
            try {
                return in.read();
            } catch (EOFException cut) {
                return -1;
            }
        }

        private void requireEnd() throws IOException {
            if (in.read() >= 0) {
                throw new BundleException(
                        file,
                        "",
                        "has more frames than times.csv has rows (" + spec.frameCount() + "): add the missing rows");
            }
        }

        private BundleException fault(String what) {
            return new BundleException(file, "frame " + frame, what);
        }

        @Override
        public void close() throws IOException {
            in.close();
        }
    }
}
