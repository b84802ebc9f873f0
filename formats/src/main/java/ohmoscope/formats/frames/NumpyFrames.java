package ohmoscope.formats.frames;

import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import ohmoscope.formats.BundleException;

/** NumPy arrays (the NPY format, versions 1 to 3): frames × rows × columns; in an NPZ the first such array, and its times. */
final class NumpyFrames {
    private static final byte[] MAGIC = {(byte) 0x93, 'N', 'U', 'M', 'P', 'Y'};
    private static final Pattern TYPE = Pattern.compile("'descr'\\s*:\\s*'([<>|=])([uif])([1248])'");
    private static final Pattern ORDER = Pattern.compile("'fortran_order'\\s*:\\s*(True|False)");
    private static final Pattern SHAPE = Pattern.compile("'shape'\\s*:\\s*\\(([0-9,\\s]*)\\)");
    private static final int MOST_HEADER = 1 << 16;
    private static final int MOST_TIMES = 1_000_000;

    private NumpyFrames() {}

    /** What an array's header says. */
    private record Header(ByteOrder order, char type, int bytes, List<Integer> shape) {
        boolean stack() {
            return shape.size() == 3;
        }

        int size(int axis) {
            return shape.get(axis);
        }

        float value(ByteBuffer from) {
            return switch (type) {
                case 'f' -> bytes == 8 ? (float) from.getDouble() : from.getFloat();
                case 'u' -> bytes == 1 ? from.get() & 255 : bytes == 2 ? from.getChar() : from.getInt() & 0xffffffffL;
                default -> bytes == 1 ? from.get() : bytes == 2 ? from.getShort() : from.getInt();
            };
        }
    }

    static FrameStack stack(FrameFile file) throws IOException {
        Optional<List<Double>> times = Optional.empty();
        Header found = null;
        String entry = "";
        if (file.endsIn(".npy")) {
            try (DataInputStream in = open(file, "")) {
                found = header(file, "", in);
            }
        } else {
            try (ZipInputStream zip = new ZipInputStream(Files.newInputStream(file.path()))) {
                for (ZipEntry next = zip.getNextEntry(); next != null; next = zip.getNextEntry()) {
                    Header header = header(file, next.getName(), new DataInputStream(zip));
                    if (header.stack() && found == null) {
                        found = header;
                        entry = next.getName();
                    } else if (header.shape().size() == 1 && header.size(0) <= MOST_TIMES) {
                        times = Optional.of(values(header, zip));
                    }
                }
            }
        }
        if (found == null || !found.stack()) {
            throw new BundleException(
                    file.name(),
                    "shape",
                    "is " + (found == null ? "nowhere of three axes" : found.shape())
                            + ": frames × rows × columns was expected");
        }
        Header header = found;
        FrameStack.requireSize(file.name(), header.size(2), header.size(1));
        String name = entry;
        Optional<List<Double>> fitting = times.filter(t -> t.size() == header.size(0));
        return new FrameStack(
                "NumPy array",
                header.size(2),
                header.size(1),
                header.size(0),
                header.type() == 'f' ? Depth.FLOAT : header.bytes() == 1 ? Depth.EIGHT_BIT : Depth.SIXTEEN_BIT,
                () -> new Cursor(file, header, open(file, name)),
                fitting);
    }

    private static List<Double> values(Header header, InputStream in) throws IOException {
        ByteBuffer bytes =
                ByteBuffer.wrap(in.readNBytes(header.size(0) * header.bytes())).order(header.order());
        List<Double> values = new ArrayList<>();
        while (bytes.remaining() >= header.bytes()) {
            values.add(header.type() == 'f' && header.bytes() == 8 ? bytes.getDouble() : (double) header.value(bytes));
        }
        return values;
    }

    /** At the array's header; for an NPZ, that of the named entry. */
    private static DataInputStream open(FrameFile file, String entry) throws IOException {
        InputStream in = new BufferedInputStream(Files.newInputStream(file.path()), 1 << 16);
        if (entry.isEmpty()) {
            return new DataInputStream(in);
        }
        ZipInputStream zip = new ZipInputStream(in);
        ZipEntry next = zip.getNextEntry();
        while (next != null && !next.getName().equals(entry)) {
            next = zip.getNextEntry();
        }
        return new DataInputStream(new BufferedInputStream(zip, 1 << 16));
    }

    private static Header header(FrameFile file, String entry, DataInputStream in) throws IOException {
        String where = entry.isEmpty() ? "header" : entry;
        try {
            byte[] magic = in.readNBytes(MAGIC.length);
            if (!java.util.Arrays.equals(magic, MAGIC)) {
                throw new BundleException(file.name(), where, "is not a NumPy array");
            }
            int version = in.readUnsignedByte();
            in.readUnsignedByte();
            int length = version == 1
                    ? Short.toUnsignedInt(Short.reverseBytes(in.readShort()))
                    : Integer.reverseBytes(in.readInt());
            if (length < 0 || length > MOST_HEADER) {
                throw new BundleException(file.name(), where, "says its header has " + length + " bytes");
            }
            return parsed(file, where, new String(in.readNBytes(length), StandardCharsets.ISO_8859_1));
        } catch (EOFException cut) {
            throw new BundleException(file.name(), where, "is cut off: save it again");
        }
    }

    private static Header parsed(FrameFile file, String where, String text) throws BundleException {
        Matcher type = TYPE.matcher(text);
        Matcher order = ORDER.matcher(text);
        Matcher shape = SHAPE.matcher(text);
        if (!type.find() || !order.find() || !shape.find()) {
            throw new BundleException(
                    file.name(), where, "has a type that is not read here: use uint8, uint16, int16, int32 or float");
        }
        if (order.group(1).equals("True")) {
            throw new BundleException(
                    file.name(), where, "is stored column by column: save numpy.ascontiguousarray(it) instead");
        }
        int bytes = Integer.parseInt(type.group(3));
        char kind = type.group(2).charAt(0);
        boolean unread = kind == 'f' ? bytes < 4 : bytes > 4;
        if (unread) {
            throw new BundleException(
                    file.name(), where, "has numbers of " + bytes + " bytes: save float32 or uint16 instead");
        }
        List<Integer> axes = new ArrayList<>();
        for (String axis : shape.group(1).split(",")) {
            if (!axis.isBlank()) {
                try {
                    axes.add(Integer.parseInt(axis.strip()));
                } catch (NumberFormatException tooLong) {
                    throw new BundleException(file.name(), where, "has an axis of " + axis.strip());
                }
            }
        }
        ByteOrder endian = type.group(1).equals(">") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN;
        return new Header(endian, kind, bytes, List.copyOf(axes));
    }

    private static final class Cursor implements FloatFrames.Cursor {
        private final FrameFile file;
        private final Header header;
        private final DataInputStream in;
        private final byte[] bytes;
        private int at;

        Cursor(FrameFile file, Header header, DataInputStream in) throws IOException {
            this.file = file;
            this.header = header;
            this.in = in;
            bytes = new byte[header.size(1) * header.size(2) * header.bytes()];
            header(file, "", in);
        }

        @Override
        public boolean next(float[] values) throws IOException {
            if (at == header.size(0)) {
                return false;
            }
            if (in.readNBytes(bytes, 0, bytes.length) < bytes.length) {
                throw new BundleException(file.name(), "frame " + (at + 1), "is cut off: save it again");
            }
            ByteBuffer from = ByteBuffer.wrap(bytes).order(header.order());
            for (int i = 0; i < values.length; i++) {
                values[i] = header.value(from);
            }
            at++;
            return true;
        }

        @Override
        public void close() throws IOException {
            in.close();
        }
    }
}
