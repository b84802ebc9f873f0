package ohmoscope.formats.frames;

import java.io.EOFException;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.util.HashSet;
import java.util.OptionalInt;
import java.util.Set;
import ohmoscope.formats.BundleException;

/** The chain of directories of a TIFF (revision 6.0), one a page, followed with every step remembered. */
final class TiffPages {
    private static final int ENTRY_BYTES = 12;
    private static final int MAGIC = 42;

    private TiffPages() {}

    /**
     * @return how many pages the file has; empty when it is no TIFF
     * @throws BundleException when the chain leads into itself, out of the file, or on for ever
     */
    static OptionalInt count(FrameFile file) throws IOException {
        try (RandomAccessFile in = new RandomAccessFile(file.path().toFile(), "r")) {
            int order = in.length() < 8 ? 0 : in.readUnsignedShort();
            boolean little = order == 0x4949;
            if (!little && order != 0x4d4d || u16(in, little) != MAGIC) {
                return OptionalInt.empty();
            }
            Set<Long> seen = new HashSet<>();
            for (long at = u32(in, little); at != 0; at = next(in, little, at)) {
                if (!seen.add(at)) {
                    throw new BundleException(
                            file.name(), "page " + seen.size(), "is followed by a page before it: export it again");
                }
                if (seen.size() > FrameStack.MOST_FRAMES) {
                    throw new BundleException(file.name(), "", "has more than " + FrameStack.MOST_FRAMES + " pages");
                }
            }
            return OptionalInt.of(seen.size());
        } catch (EOFException cut) {
            throw new BundleException(file.name(), "", "is cut off: a page is said to lie behind the end of the file");
        }
    }

    private static long next(RandomAccessFile in, boolean little, long directory) throws IOException {
        in.seek(directory);
        long entries = u16(in, little);
        in.seek(directory + 2 + entries * ENTRY_BYTES);
        return u32(in, little);
    }

    private static int u16(RandomAccessFile in, boolean little) throws IOException {
        int value = in.readUnsignedShort();
        return little ? Short.toUnsignedInt(Short.reverseBytes((short) value)) : value;
    }

    private static long u32(RandomAccessFile in, boolean little) throws IOException {
        int value = in.readInt();
        return Integer.toUnsignedLong(little ? Integer.reverseBytes(value) : value);
    }
}
