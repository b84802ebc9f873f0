package ohmoscope.web.store;

import com.github.luben.zstd.Zstd;

/**
 * Frames as stored: differences along the rows, high and low bytes apart, then Zstandard. Noise in the low byte hardly
 * compresses; the high plane nearly vanishes.
 */
public final class FrameCodec {
    private static final int LEVEL = 1;

    private FrameCodec() {}

    /** @param counts row-major; not modified */
    public static byte[] packed(char[] counts, int width) {
        int n = counts.length;
        byte[] planes = new byte[2 * n];
        for (int i = 0; i < n; i++) {
            int before = i % width == 0 ? (i == 0 ? 0 : counts[i - width]) : counts[i - 1];
            short difference = (short) (counts[i] - before);
            int folded = (difference << 1) ^ (difference >> 15);
            planes[i] = (byte) folded;
            planes[n + i] = (byte) (folded >> 8);
        }
        return Zstd.compress(planes, LEVEL);
    }

    /** @param counts overwritten */
    public static void unpack(byte[] packed, int width, char[] counts) {
        int n = counts.length;
        byte[] planes = Zstd.decompress(packed, 2 * n);
        if (planes.length != 2 * n) {
            throw new IllegalStateException("a stored frame has " + planes.length / 2 + " cells, its capture " + n);
        }
        for (int i = 0; i < n; i++) {
            int folded = planes[i] & 0xff | (planes[n + i] & 0xff) << 8;
            int difference = (folded >>> 1) ^ -(folded & 1);
            int before = i % width == 0 ? (i == 0 ? 0 : counts[i - width]) : counts[i - 1];
            counts[i] = (char) (before + difference);
        }
    }
}
