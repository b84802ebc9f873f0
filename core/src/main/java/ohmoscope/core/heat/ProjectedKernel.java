package ohmoscope.core.heat;

/**
 * A waveform seen through temporal components: component = Σₙ weights[component][n]·impulse(delays[n]). O(components ×
 * times × {@link TimeKernel#NODES}) to make; memory components × nodes.
 *
 * @param delaysS of the nodes, rising; not to be modified
 * @param weights likewise
 */
public record ProjectedKernel(double[] delaysS, double[][] weights) {
    /** @param basis row j: weights of the kernel's times in component j */
    public static ProjectedKernel of(double[][] basis, TimeKernel kernel) {
        double[] delays = new double[TimeKernel.NODES];
        for (int n = 0; n < delays.length; n++) {
            delays[n] = kernel.delayS(n);
        }
        double[][] weights = new double[basis.length][TimeKernel.NODES];
        for (int j = 0; j < basis.length; j++) {
            for (int f = 0; f < kernel.times(); f++) {
                add(weights[j], basis[j][f], kernel.row(f));
            }
        }
        return new ProjectedKernel(delays, weights);
    }

    private static void add(double[] sum, double by, double[] row) {
        for (int n = 0; n < sum.length; n++) {
            sum[n] += by * row[n];
        }
    }
}
