package ohmoscope.core.numeric;

/** Keeps numbers near zero. */
public final class Limit {
    private Limit() {}

    /** @return the value, or what lies {@code most} to its side of zero where it is farther off */
    public static double within(double value, double most) {
        return Math.max(-most, Math.min(most, value));
    }
}
