package ohmoscope.formats.frames;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.util.List;
import ohmoscope.formats.BundleException;

/** Binary PGM, one image a file or many in a row, one or two bytes a pixel. */
final class PgmSequence {
    private static final int MOST_DIGITS = 6;

    private PgmSequence() {}

    /** One image's header. */
    private record Header(int width, int height, int most) {
        int bytes() {
            return width * height * (most > 255 ? 2 : 1);
        }
    }

    static FrameStack stack(List<FrameFile> files) throws IOException {
        Header first = null;
        int count = 0;
        for (FrameFile file : files) {
            try (InputStream in = new BufferedInputStream(Files.newInputStream(file.path()))) {
                int before = count;
                Header header = header(file, in, count);
                while (header != null) {
                    if (first == null) {
                        first = header;
                    } else if (!header.equals(first)) {
                        throw new BundleException(
                                file.name(),
                                "image " + (count - before + 1),
                                "is " + header.width() + "×" + header.height() + " of " + header.most()
                                        + " grey steps, the first is " + first.width() + "×" + first.height() + " of "
                                        + first.most());
                    }
                    in.skipNBytes(header.bytes());
                    count++;
                    header = header(file, in, count);
                }
            } catch (java.io.EOFException cut) {
                throw new BundleException(file.name(), "image " + (count + 1), "is cut off: export it again");
            }
        }
        if (first == null) {
            throw new BundleException(files.get(0).name(), "", "holds no image");
        }
        Header size = first;
        return new FrameStack(
                "PGM",
                size.width(),
                size.height(),
                count,
                size.most() > 255 ? Depth.SIXTEEN_BIT : Depth.EIGHT_BIT,
                () -> new Cursor(files, size),
                java.util.Optional.empty());
    }

    /** @return null at the end of the file */
    private static @org.jspecify.annotations.Nullable Header header(FrameFile file, InputStream in, int index)
            throws IOException {
        String magic = token(in);
        if (magic.isEmpty()) {
            return null;
        }
        if (!magic.equals("P5")) {
            throw new BundleException(
                    file.name(), "image " + (index + 1), "does not begin with P5: only binary grey PGM is read");
        }
        try {
            int width = Integer.parseInt(token(in));
            int height = Integer.parseInt(token(in));
            int most = Integer.parseInt(token(in));
            FrameStack.requireSize(file.name(), width, height);
            if (width > 0 && height > 0 && most > 0 && most < 65536 && (long) width * height < 1 << 26) {
                return new Header(width, height, most);
            }
        } catch (NumberFormatException noNumber) {
            throw new BundleException(
                    file.name(), "image " + (index + 1), "has a header without width, height and grey steps");
        }
        throw new BundleException(file.name(), "image " + (index + 1), "has a header with impossible numbers");
    }

    /** The next word, comments left out; empty at the end. */
    private static String token(InputStream in) throws IOException {
        StringBuilder word = new StringBuilder();
        int c = in.read();
        while (c >= 0 && (Character.isWhitespace(c) || c == '#')) {
            // A comment reaches to the end of its line.
            boolean comment = c == '#';
            do {
                c = in.read();
            } while (comment && c >= 0 && c != '\n');
        }
        while (c >= 0 && !Character.isWhitespace(c) && word.length() < MOST_DIGITS) {
            word.append((char) c);
            c = in.read();
        }
        return word.toString();
    }

    private static final class Cursor implements FloatFrames.Cursor {
        private final List<FrameFile> files;
        private final Header size;
        private int file;
        private @org.jspecify.annotations.Nullable InputStream in;

        Cursor(List<FrameFile> files, Header size) {
            this.files = files;
            this.size = size;
        }

        @Override
        public boolean next(float[] values) throws IOException {
            while (file < files.size()) {
                InputStream open = in;
                if (open == null) {
                    open = new BufferedInputStream(
                            Files.newInputStream(files.get(file).path()), 1 << 16);
                    in = open;
                }
                if (header(files.get(file), open, 0) != null) {
                    read(open, values);
                    return true;
                }
                open.close();
                in = null;
                file++;
            }
            return false;
        }

        private void read(InputStream open, float[] values) throws IOException {
            byte[] bytes = open.readNBytes(size.bytes());
            boolean wide = size.most() > 255;
            for (int i = 0; i < values.length; i++) {
                values[i] = wide ? (bytes[2 * i] & 255) << 8 | bytes[2 * i + 1] & 255 : bytes[i] & 255;
            }
        }

        @Override
        public void close() throws IOException {
            if (in != null) {
                in.close();
            }
        }
    }
}
