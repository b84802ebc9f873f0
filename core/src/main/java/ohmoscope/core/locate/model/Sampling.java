package ohmoscope.core.locate.model;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.Projection;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.capture.GrownBasis;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.numeric.Blocks;

/**
 * Where the pixels of a capture's model lie in its frames, and running sums of those: what a movie that has got some more
 * frames goes on from. Memory: a picture of the model's pixels for each {@value #BLOCK_S} s.
 *
 * @param binPx side of the square of camera pixels that make one pixel of the movie
 * @param kept which of the movie's pixels are on the board, in their order
 * @param bins which of those make one of the model's
 * @param block each frame's, counted from 0; −1 where it is left out
 * @param sums of each block's frames, kelvin
 */
record Sampling(int binPx, int[] kept, Pixels.Bins bins, int[] block, List<float[]> sums) {
    /** Successive frames of so long a time are taken together: no heat on a board changes its course faster. */
    private static final double BLOCK_S = 0.1;

    Sampling {
        sums = List.copyOf(sums);
    }

    /** Of the movie's frames so far. */
    static Sampling of(Capture capture, FrameScan scan, int binPx, int[] kept, Pixels.Bins bins) throws IOException {
        Sampling none = new Sampling(binPx, kept, bins, new int[0], List.of());
        return none.with(none.later(capture, scan, new double[0][]));
    }

    /** The blocks of all frames: those that there are stay. */
    private int[] blocks(Capture capture, FrameScan scan) {
        List<Integer> segment = scan.segment();
        double[] times = capture.spec().times();
        int[] of = Arrays.copyOf(block, times.length);
        int number = sums.size() - 1;
        int begun = -1;
        for (int f = block.length; f < of.length; f++) {
            if (segment.get(f) < 0) {
                of[f] = -1;
                continue;
            }
            if (begun < 0 || !segment.get(f).equals(segment.get(begun)) || times[f] - times[begun] >= BLOCK_S) {
                number++;
                begun = f;
            }
            of[f] = number;
        }
        return of;
    }

    /**
     * The frames that have come since.
     *
     * @param sums them in the components of some rows, and behind those the sum of each of their blocks
     * @param rows how many those are
     * @param block all frames', those before included
     */
    record Later(Projection sums, int rows, int[] block) {}

    /** @param rows over all frames */
    Later later(Capture capture, FrameScan scan, double[][] rows) throws IOException {
        int[] of = blocks(capture, scan);
        int fresh = 1 + Arrays.stream(of).max().orElse(-1) - sums.size();
        double[][] all = new double[rows.length + fresh][of.length];
        for (int f = block.length; f < of.length; f++) {
            for (int j = 0; j < rows.length; j++) {
                all[j][f] = rows[j][f];
            }
            if (of[f] >= 0) {
                all[rows.length + of[f] - sums.size()][f] = 1;
            }
        }
        return new Later(Projection.of(capture.spec(), capture.frames(), scan, all, binPx), rows.length, of);
    }

    /** With the frames that have come since. */
    Sampling with(Later later) {
        List<float[]> all = new ArrayList<>(sums);
        for (int j = later.rows(); j < later.sums().components(); j++) {
            all.add(sampled(later.sums(), j));
        }
        return new Sampling(binPx, kept, bins, later.block(), all);
    }

    /** All frames in a basis' components, {@code [component · pixels + pixel]}, kelvin. */
    float[] in(GrownBasis basis, Later later) {
        int n = bins.count();
        float[] data = new float[basis.rows().length * n];
        for (int j = 0; j < basis.rows().length; j++) {
            float[] own = sampled(later.sums(), j);
            for (int b = 0; b < sums.size(); b++) {
                Blocks.add(own, (float) basis.ofBlocks()[j][b], sums.get(b));
            }
            System.arraycopy(own, 0, data, j * n, n);
        }
        return data;
    }

    /** A movie's component at the model's pixels. */
    private float[] sampled(Projection movie, int component) {
        float[] values = new float[kept.length];
        for (int i = 0; i < values.length; i++) {
            values[i] = movie.values()[kept[i] * movie.components() + component];
        }
        return bins.mean(values, 0);
    }
}
