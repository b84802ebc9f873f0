package ohmoscope.core.locate.fit;

/** Least squares with non-negative amplitudes from normal equations, by cyclic descent. For a handful of unknowns. */
public final class NonNegativeFit {
    private static final int MAX_ROUNDS = 400;
    private static final double RELATIVE_CHANGE = 1e-9;

    private NonNegativeFit() {}

    /**
     * @param gram symmetric, positive on the diagonal where the column counts; not modified
     * @param rhs not modified
     * @param amplitudes start and result
     * @return the gain 2bᵀa − aᵀGa
     */
    public static double solve(double[][] gram, double[] rhs, double[] amplitudes) {
        int n = rhs.length;
        for (int round = 0; round < MAX_ROUNDS; round++) {
            double change = 0;
            double size = 0;
            for (int i = 0; i < n; i++) {
                if (!(gram[i][i] > 0)) {
                    continue;
                }
                double rest = rhs[i];
                for (int j = 0; j < n; j++) {
                    rest -= gram[i][j] * amplitudes[j];
                }
                double next = Math.max(0, amplitudes[i] + rest / gram[i][i]);
                change = Math.max(change, Math.abs(next - amplitudes[i]) * Math.sqrt(gram[i][i]));
                size = Math.max(size, next * Math.sqrt(gram[i][i]));
                amplitudes[i] = next;
            }
            if (change <= RELATIVE_CHANGE * size) {
                break;
            }
        }
        double gain = 0;
        for (int i = 0; i < n; i++) {
            double row = 2 * rhs[i];
            for (int j = 0; j < n; j++) {
                row -= gram[i][j] * amplitudes[j];
            }
            gain += amplitudes[i] * row;
        }
        return gain;
    }
}
