package ohmoscope.core.circuit;

/**
 * What a reading may be on boards that differ only within what is usual. Infinite ends mean over-range.
 *
 * @param low not above {@code high}
 */
public record Band(double low, double high) {
    public Band {
        if (!(low <= high)) {
            throw new IllegalArgumentException("low must not be above high, were " + low + " and " + high);
        }
    }

    static Band of(double a, double b) {
        return new Band(Math.min(a, b), Math.max(a, b));
    }

    /** Geometric for positive ends, as resistances spread. */
    public double middle() {
        return low > 0 && Double.isFinite(high) ? Math.sqrt(low * high) : (low + high) / 2;
    }
}
