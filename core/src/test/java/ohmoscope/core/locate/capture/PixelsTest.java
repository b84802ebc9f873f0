package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import org.junit.jupiter.api.Test;

class PixelsTest {
    private static final int W = 12;
    private static final int H = 9;

    /** A picture with a small body over columns 4 and 5 of rows 0 to 3, and a large one over the last three rows. */
    private static Pixels pixels() {
        Pixels pixels = new Pixels(W * H, H, W, 1);
        for (int p = 0; p < W * H; p++) {
            int row = p / W;
            int column = p % W;
            pixels.row()[p] = row;
            pixels.column()[p] = column;
            pixels.xMm()[p] = 0.5f * column;
            pixels.yMm()[p] = 0.5f * row;
            pixels.still()[0][p] = row * column;
            pixels.modelVariance()[p] = 0.8f;
            if (row < 4 && (column == 4 || column == 5)) {
                pixels.patch()[p] = 8;
            }
            if (row >= 6) {
                pixels.patch()[p] = 36;
                pixels.lid()[p] = 0;
            }
        }
        return pixels;
    }

    @Test
    void rowsAreRunsOfPixels() {
        assertThat(pixels().rowStarts()).hasSize(H + 1).startsWith(0, W, 2 * W).endsWith(W * H);
    }

    @Test
    void aBodyAndTheBoardBesideItAreNotMixed() {
        Pixels fine = pixels();
        Pixels.Bins bins = fine.bins(20);
        assertThat(bins.stride()).isEqualTo(3);
        assertThat(Arrays.stream(bins.size()).sum()).isEqualTo(W * H);
        for (int p = 0; p < W * H; p++) {
            for (int q = 0; q < p; q++) {
                if (bins.of()[p] == bins.of()[q]) {
                    assertThat(fine.lid()[p]).isEqualTo(fine.lid()[q]);
                    assertThat(fine.patch()[p] > 0).isEqualTo(fine.patch()[q] > 0);
                    assertThat(fine.row()[p] / 3).isEqualTo(fine.row()[q] / 3);
                }
            }
        }
    }

    @Test
    void binsKeepMeansSharesAndOrder() {
        Pixels fine = pixels();
        Pixels.Bins bins = fine.bins(20);
        Pixels coarse = fine.binned(bins);
        double area = 0;
        for (int b = 0; b < coarse.count(); b++) {
            assertThat(coarse.share()[b]).isCloseTo(bins.size()[b] / 9f, within(1e-5f));
            assertThat(coarse.modelVariance()[b]).isCloseTo(0.8f / 9, within(1e-5f));
            area += coarse.share()[b];
        }
        assertThat(area).isCloseTo(W * H / 9.0, within(1e-4));
        assertThat(coarse.row()).isSorted();
        assertThat(coarse.rowStarts()[coarse.rows()]).isEqualTo(coarse.count());
        assertThat(coarse.lids()).isEqualTo(1);
        // The first square is bare board: columns and rows 0 to 2.
        assertThat(coarse.xMm()[0]).isCloseTo(0.5f, within(1e-6f));
        assertThat(coarse.still()[0][0]).isCloseTo(1f, within(1e-6f));
    }

    @Test
    void asManyAsAskedForAreLeftAsTheyAre() {
        Pixels.Bins bins = pixels().bins(W * H);
        assertThat(bins.stride()).isEqualTo(1);
        assertThat(bins.count()).isEqualTo(W * H);
    }

    @Test
    void stripesAreTakenOutWhole() {
        Pixels pixels = pixels();
        int k = 2;
        float[] weight = new float[W * H * k];
        Arrays.fill(weight, 2);
        float[] values = new float[W * H * k];
        for (int i = 0; i < values.length; i++) {
            int p = i % (W * H);
            values[i] = 0.3f * (p / W) - 0.7f * (p % W) + i / (W * H);
        }
        new Stripes(pixels, weight, k).takeOut(values);
        for (float v : values) {
            assertThat(v).isCloseTo(0, within(1e-4f));
        }
    }
}
