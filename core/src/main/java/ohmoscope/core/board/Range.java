package ohmoscope.core.board;

/** A closed interval of readings, in the unit of whatever carries it. */
public record Range(double low, double high) {
    public Range {
        Check.finite("low", low);
        Check.finite("high", high);
        if (low > high) {
            throw new InvalidMember("low", "must not be above the high end, was " + low + " against " + high);
        }
    }

    public boolean contains(double value) {
        return value >= low && value <= high;
    }
}
