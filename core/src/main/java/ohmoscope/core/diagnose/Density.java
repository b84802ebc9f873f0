package ohmoscope.core.diagnose;

/** Densities of what a meter shows. */
final class Density {
    private Density() {}

    /** A density with a chance {@code wrong} that the entry is anything at all within {@code span}. */
    static double mixed(double density, double wrong, double span) {
        return (1 - wrong) * density + wrong / span;
    }

    static double normal(double x, double mean, double sigma) {
        double z = (x - mean) / sigma;
        return Math.exp(-0.5 * z * z) / (sigma * Math.sqrt(2 * Math.PI));
    }

    /** What {@link #normal} and {@link #smeared} have at most. */
    static double peak(double sigma) {
        // The logistic approximation's error over the narrowest band is 1.4 % of it.
        return 1.02 / (sigma * Math.sqrt(2 * Math.PI));
    }

    /**
     * What a value's density has at most whatever is expected there, when sigma is a floor and a share of what is expected:
     * that is half of the value at least, or the value is far from it.
     */
    static double peak(double value, double floor, double share) {
        double half = Math.abs(value) / 2;
        double sigma = floor + share * half;
        double z = half / sigma;
        return Math.max(peak(sigma), peak(floor) * Math.exp(-0.5 * z * z));
    }

    /** A uniform band with Gaussian edges. */
    static double smeared(double x, double low, double high, double sigma) {
        double width = high - low;
        if (width < 0.05 * sigma) {
            return normal(x, (low + high) / 2, sigma);
        }
        return (phi((x - low) / sigma) - phi((x - high) / sigma)) / width;
    }

    /** The normal distribution, by the logistic approximation of Bowling et al. 2009; within 1.4e-4. */
    private static double phi(double z) {
        return 1 / (1 + Math.exp(-0.07056 * z * z * z - 1.5976 * z));
    }
}
