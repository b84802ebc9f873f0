package ohmoscope.core.locate.fit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CaptureModel.Column;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.model.OwnWarmth;
import ohmoscope.core.locate.model.Places;
import ohmoscope.core.locate.model.ResponseTables;
import ohmoscope.core.locate.model.SourceProducts;
import ohmoscope.core.locate.model.Spot;
import ohmoscope.core.numeric.Blocks;
import ohmoscope.core.numeric.Dot;
import ohmoscope.core.numeric.Lanes;

/**
 * Many sources' products with one capture, worked out together: every inner loop runs over the sources, and the still
 * pictures are read once for all of them. One pass over the picture's rows. The columns' means need not be taken out of
 * what is multiplied with something that has none; only a source's own square and its body need them.
 *
 * <p>O(pixels × components × (images + still pictures)) a source; memory O(sources × components × (a row + the picture's
 * columns + still pictures)) floats.
 */
public final class SourceBatch {
    /** Sources at a time: enough for long inner loops, few enough for the second cache. */
    public static final int MOST = 128;

    private final CaptureModel capture;
    private final Pixels pixels;
    private final int n;
    private final int k;
    private final List<float[]> fields = new ArrayList<>();
    private final int sources;
    private final List<Spot> spots = new ArrayList<>();
    private final List<Optional<OwnWarmth>> own;
    private final int[] rowStart;
    private final float[][] value;
    private final float[][] weighted;
    private final float[][] columnSum;
    private final float[][] shares;
    private final float[][] withField;
    private final float[] square;
    private final double[] ownSource;
    private final float[][] lidMean;

    private SourceBatch(CaptureModel capture, List<HeatSource> sources, ResponseTables tables, List<Column> nuisances) {
        this.capture = capture;
        this.sources = sources.size();
        pixels = capture.pixels();
        n = pixels.count();
        k = capture.components();
        fields.add(capture.cleaned());
        nuisances.forEach(nuisance -> fields.add(nuisance.values()));
        for (HeatSource source : sources) {
            spots.add(capture.spot(source, tables));
        }
        own = sources.stream().map(s -> capture.ownWarmth(s, tables)).toList();
        rowStart = pixels.rowStarts();
        int longest = 0;
        for (int r = 0; r + 1 < rowStart.length; r++) {
            longest = Math.max(longest, rowStart[r + 1] - rowStart[r]);
        }
        value = new float[longest][this.sources];
        weighted = new float[longest][this.sources];
        columnSum = new float[k * pixels.columns()][this.sources];
        shares = new float[capture.still().shares()][this.sources];
        withField = new float[fields.size()][this.sources];
        square = new float[this.sources];
        ownSource = new double[this.sources];
        lidMean = lidMeans();
    }

    /**
     * @param nuisances columns of the same capture
     * @return one a source, in their order
     */
    public static List<SourceProducts> of(
            CaptureModel capture, List<HeatSource> sources, ResponseTables tables, List<Column> nuisances) {
        SourceBatch batch = new SourceBatch(capture, sources, tables, nuisances);
        batch.overRows();
        batch.takeOutColumns();
        List<SourceProducts> products = new ArrayList<>();
        for (int c = 0; c < sources.size(); c++) {
            products.add(batch.products(c, nuisances));
        }
        return products;
    }

    /** {@code [lid · k + component][source]}: a large body's lid is of one temperature. */
    private float[][] lidMeans() {
        List<CaptureModel.Lid> lids = capture.lids();
        float[][] means = new float[lids.size() * k][sources];
        for (int l = 0; l < lids.size(); l++) {
            CaptureModel.Lid lid = lids.get(l);
            int count = lid.pixels().length;
            Spot.Scratch scratch = new Spot.Scratch(count);
            for (int c = 0; c < sources; c++) {
                float[] under = new float[k * count];
                spots.get(c).addTo(lid.places(), under, scratch);
                for (int j = 0; j < k; j++) {
                    means[l * k + j][c] = lid.mean(under, j * count);
                }
            }
        }
        return means;
    }

    private void overRows() {
        int longest = value.length;
        float[] xMm = new float[longest];
        float[] yMm = new float[longest];
        Spot.Scratch scratch = new Spot.Scratch(longest);
        float[][] raw = new float[sources][k * longest];
        for (int r = 0; r + 1 < rowStart.length; r++) {
            int from = rowStart[r];
            int count = rowStart[r + 1] - from;
            System.arraycopy(pixels.xMm(), from, xMm, 0, count);
            System.arraycopy(pixels.yMm(), from, yMm, 0, count);
            Places row = new Places(xMm, yMm, count);
            for (int c = 0; c < sources; c++) {
                Arrays.fill(raw[c], 0, k * count, 0);
                spots.get(c).addTo(row, raw[c], scratch);
            }
            for (int j = 0; j < k; j++) {
                turn(raw, j, from, count);
                if (takeOutRow(j, r, from, count)) {
                    addUp(j, from, count);
                }
            }
        }
    }

    /** From a row of pixels for each source to all sources for each pixel. */
    private void turn(float[][] raw, int j, int from, int count) {
        for (int i = 0; i < count; i++) {
            float[] lane = value[i];
            int lid = pixels.lid()[from + i];
            if (lid >= 0) {
                System.arraycopy(lidMean[lid * k + j], 0, lane, 0, sources);
            } else {
                int at = j * count + i;
                for (int c = 0; c < sources; c++) {
                    lane[c] = raw[c][at];
                }
            }
        }
    }

    /** @return false when the row has no weight */
    private boolean takeOutRow(int j, int row, int from, int count) {
        float sum = capture.stripes().rowWeight(j, row);
        if (!(sum > 0)) {
            return false;
        }
        float[] mean = new float[sources];
        float[] weight = capture.weight();
        int w = j * n + from;
        for (int i = 0; i < count; i++) {
            Blocks.add(mean, weight[w + i] / sum, value[i]);
        }
        for (int i = 0; i < count; i++) {
            Lanes.lessWeighed(value[i], mean, weight[w + i], weighted[i]);
        }
        return true;
    }

    private void addUp(int j, int from, int count) {
        int at = j * n + from;
        for (int i = 0; i < count; i++) {
            Blocks.addProduct(square, value[i], weighted[i]);
            Lanes.add(columnSum[j * pixels.columns() + pixels.column()[from + i]], weighted[i]);
        }
        for (int f = 0; f < fields.size(); f++) {
            Lanes.addWeighed(withField[f], fields.get(f), at, weighted, count);
        }
        float[] picture = new float[count];
        for (int s = j; s < shares.length; s += k) {
            capture.still().copy(s, from, count, picture);
            Lanes.addWeighed(shares[s], picture, 0, weighted, count);
        }
        addOwn(j, from, count);
    }

    /** The bodies' pixels in this row. */
    private void addOwn(int j, int from, int count) {
        for (int c = 0; c < sources; c++) {
            if (own.get(c).isPresent()) {
                OwnWarmth body = own.get(c).get();
                int[] at = body.pixels();
                int found = Arrays.binarySearch(at, from);
                for (int i = found < 0 ? -found - 1 : found; i < at.length && at[i] < from + count; i++) {
                    ownSource[c] += body.values()[j * at.length + i] * weighted[at[i] - from][c];
                }
            }
        }
    }

    private void takeOutColumns() {
        int columns = pixels.columns();
        for (int j = 0; j < k; j++) {
            for (int x = 0; x < columns; x++) {
                float sum = capture.stripes().columnWeight(j, x);
                if (sum > 0) {
                    float[] lane = columnSum[j * columns + x];
                    for (int c = 0; c < sources; c++) {
                        square[c] -= lane[c] * lane[c] / sum;
                    }
                }
            }
        }
        for (int c = 0; c < sources; c++) {
            if (own.get(c).isPresent()) {
                OwnWarmth body = own.get(c).get();
                int[] at = body.pixels();
                for (int j = 0; j < k; j++) {
                    for (int i = 0; i < at.length; i++) {
                        int x = pixels.column()[at[i]];
                        float sum = capture.stripes().columnWeight(j, x);
                        if (sum > 0) {
                            ownSource[c] -= body.weighted()[j * at.length + i] * columnSum[j * columns + x][c] / sum;
                        }
                    }
                }
            }
        }
    }

    private SourceProducts products(int c, List<Column> nuisances) {
        float[] still = new float[shares.length];
        for (int s = 0; s < still.length; s++) {
            still[s] = shares[s][c];
        }
        double[] with = new double[nuisances.size()];
        for (int i = 0; i < with.length; i++) {
            with[i] = withField[i + 1][c] - Dot.of(still, nuisances.get(i).still());
        }
        Optional<SourceProducts.Own> body = own.get(c)
                .map(warmth -> capture.ownProducts(warmth, ownSource[c] - Dot.of(warmth.still(), still), nuisances));
        return new SourceProducts(square[c] - Dot.of(still, still), withField[0][c], with, body);
    }
}
