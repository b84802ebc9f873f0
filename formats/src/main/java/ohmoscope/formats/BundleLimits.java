package ohmoscope.formats;

/**
 * What a ZIP may hold at most. A job needs far less; a ZIP made to exhaust a disk needs far more.
 *
 * @param entries files and folders
 * @param bytes unpacked, all files together
 * @param ratio unpacked against packed size of one file above {@code ratioFromBytes}
 */
public record BundleLimits(int entries, long bytes, double ratio, long ratioFromBytes) {
    public static final BundleLimits DEFAULT = new BundleLimits(4_000, 16L << 30, 250, 4L << 20);
}
