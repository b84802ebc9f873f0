package ohmoscope.core.locate.capture;

import java.util.Arrays;
import java.util.Optional;
import org.ejml.simple.SimpleEVD;
import org.ejml.simple.SimpleMatrix;
import org.ejml.simple.SimpleSVD;

/**
 * The temporal components of a movie that has got some more frames, where of the earlier ones only the sums of a few
 * successive frames are at hand. As near to the components before as orthonormal rows can be (Procrustes; Schönemann 1966),
 * so that weights made for those hold for these.
 *
 * @param rows orthonormal, over all frames; the same within a block
 * @param ofBlocks what each row gives a block's frames, {@code [row][block]}
 */
public record GrownBasis(double[][] rows, double[][] ofBlocks) {
    /** Of a wanted row's energy at least this share must be left when it is the same within each block. */
    private static final double KEPT = 0.05;

    /**
     * @param had orthonormal rows over the earlier frames
     * @param wanted likewise over all frames, at least as many
     * @param block of each earlier frame, counted from 0; −1 where it is left out
     * @return empty when blocks are too coarse for what is wanted
     */
    public static Optional<GrownBasis> of(double[][] had, double[][] wanted, int[] block) {
        if (wanted.length < had.length) {
            return Optional.empty();
        }
        double[][] means = means(wanted, block);
        SimpleMatrix made = new SimpleMatrix(spread(wanted, means, block));
        SimpleEVD<SimpleMatrix> energy = made.mult(made.transpose()).eig();
        SimpleMatrix whitened = new SimpleMatrix(wanted.length, wanted.length);
        for (int i = 0; i < wanted.length; i++) {
            double share = energy.getEigenvalue(i).getReal();
            if (share < KEPT) {
                return Optional.empty();
            }
            SimpleMatrix axis = energy.getEigenVector(i);
            whitened = whitened.plus(axis.mult(axis.transpose()).scale(1 / Math.sqrt(share)));
        }
        SimpleMatrix earlier = made.extractMatrix(0, SimpleMatrix.END, 0, block.length);
        SimpleSVD<SimpleMatrix> nearest =
                new SimpleMatrix(had).mult(earlier.transpose()).mult(whitened).svd(true);
        SimpleMatrix turn = nearest.getU().mult(nearest.getV().transpose()).mult(whitened);
        return Optional.of(new GrownBasis(rows(turn.mult(made)), rows(turn.mult(new SimpleMatrix(means)))));
    }

    /** Mean of each row over the frames of each block. */
    private static double[][] means(double[][] rows, int[] block) {
        int blocks = 1 + Arrays.stream(block).max().orElse(-1);
        int[] count = new int[blocks];
        double[][] means = new double[rows.length][blocks];
        for (int f = 0; f < block.length; f++) {
            if (block[f] >= 0) {
                count[block[f]]++;
                for (int j = 0; j < rows.length; j++) {
                    means[j][block[f]] += rows[j][f];
                }
            }
        }
        for (double[] mean : means) {
            for (int b = 0; b < blocks; b++) {
                mean[b] /= Math.max(1, count[b]);
            }
        }
        return means;
    }

    private static double[][] spread(double[][] rows, double[][] means, int[] block) {
        double[][] spread = Arrays.stream(rows).map(double[]::clone).toArray(double[][]::new);
        for (int j = 0; j < rows.length; j++) {
            for (int f = 0; f < block.length; f++) {
                spread[j][f] = block[f] < 0 ? 0 : means[j][block[f]];
            }
        }
        return spread;
    }

    private static double[][] rows(SimpleMatrix matrix) {
        double[][] rows = new double[matrix.getNumRows()][matrix.getNumCols()];
        for (int r = 0; r < rows.length; r++) {
            for (int c = 0; c < rows[r].length; c++) {
                rows[r][c] = matrix.get(r, c);
            }
        }
        return rows;
    }
}
