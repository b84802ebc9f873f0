package ohmoscope.core.locate;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.Waveform;

/**
 * One capture's compressed movie as a weighted regression: pixels on the board with their places, components and
 * weights, and predicted columns for sources. What is common to a row or a column of the picture (the camera's drift,
 * its stripes) is projected out of data and predictions alike.
 */
final class CaptureModel {
    /**
     * The pixels that are kept: places on the board and in the picture, and what their weights are made of.
     *
     * @param patch pixels on the body that covers it, which warm and cool together; 0 on bare board
     * @param modelVariance how far the slab model may be off there, kelvin²
     * @param lid which large body covers it, counted from 0; −1 on bare board and small parts
     * @param still pictures of what stands still: in what is left of them when the camera moves or the room's mirror
     *     image changes, nothing of a source shows
     */
    record Pixels(
            float[] xMm,
            float[] yMm,
            int[] row,
            int[] column,
            int rows,
            int columns,
            float[] patch,
            float[] modelVariance,
            int[] lid,
            float[][] still) {
        Pixels(int count, int rows, int columns, int stills) {
            this(
                    new float[count],
                    new float[count],
                    new int[count],
                    new int[count],
                    rows,
                    columns,
                    new float[count],
                    new float[count],
                    noLids(count),
                    new float[stills][count]);
        }

        private static int[] noLids(int count) {
            int[] none = new int[count];
            Arrays.fill(none, -1);
            return none;
        }

        int count() {
            return xMm.length;
        }

        Pixels only(int[] kept) {
            Pixels few = new Pixels(kept.length, rows, columns, still.length);
            for (int i = 0; i < kept.length; i++) {
                few.xMm[i] = xMm[kept[i]];
                few.yMm[i] = yMm[kept[i]];
                few.row[i] = row[kept[i]];
                few.column[i] = column[kept[i]];
                few.patch[i] = patch[kept[i]];
                few.modelVariance[i] = modelVariance[kept[i]];
                few.lid[i] = lid[kept[i]];
                for (int m = 0; m < still.length; m++) {
                    few.still[m][i] = still[m][kept[i]];
                }
            }
            return few;
        }
    }

    /** How the movie was compressed. */
    record Time(Waveform waveform, double[] timesS, double[][] basis) {}

    private final Side side;
    private final int k;
    private final Pixels pixels;
    private final float[] data;
    private final float[] weight;
    private final float[] rowWeight;
    private final float[] columnWeight;
    private final float[] cleaned;
    private final StillBasis still;
    private final int[][] lids;
    private final Time time;
    private final double pitchMm;
    private final Outline outline;

    private final double noiseK;

    /**
     * @param data {@code [pixel · k + component]}, kelvin; kept
     * @param weight inverse variances, same shape; kept
     */
    private CaptureModel(
            Side side,
            Pixels pixels,
            float[] data,
            float[] weight,
            double noiseK,
            Time time,
            double pitchMm,
            Outline outline) {
        this.noiseK = noiseK;
        this.side = side;
        this.k = time.basis().length;
        this.pixels = pixels;
        this.data = data;
        this.weight = weight;
        this.time = time;
        this.pitchMm = pitchMm;
        this.outline = outline;
        rowWeight = new float[pixels.rows() * k];
        columnWeight = new float[pixels.columns() * k];
        for (int p = 0; p < pixels.count(); p++) {
            for (int j = 0; j < k; j++) {
                rowWeight[pixels.row()[p] * k + j] += weight[p * k + j];
                columnWeight[pixels.column()[p] * k + j] += weight[p * k + j];
            }
        }
        int count = Arrays.stream(pixels.lid()).max().orElse(-1) + 1;
        lids = IntStream.range(0, count)
                .mapToObj(l -> IntStream.range(0, pixels.count())
                        .filter(p -> pixels.lid()[p] == l)
                        .toArray())
                .toArray(int[][]::new);
        still = new StillBasis(pixels, weight, k, this::unstripe);
        cleaned = data.clone();
        clean(cleaned);
    }

    /** Takes out what no source can be told from: stripes, and the still pictures. */
    private void clean(float[] values) {
        unstripe(values);
        still.takeOut(values);
    }

    /** A capture weighed by its noise and the model's error alone, before anything has been fitted. */
    static CaptureModel of(
            Side side, Pixels pixels, float[] data, double noiseK, Time time, double pitchMm, Outline outline) {
        int k = time.basis().length;
        float[] weight = weights(pixels, Spreads.none(noiseK, k), k);
        return new CaptureModel(side, pixels, data, weight, noiseK, time, pitchMm, outline);
    }

    /** Weighed again by what is left when sources are taken off. */
    CaptureModel reweighed(List<Column> columns, double[] watts) {
        float[] residual = data.clone();
        for (int c = 0; c < columns.size(); c++) {
            float a = (float) watts[c];
            float[] column = columns.get(c).values();
            for (int i = 0; i < residual.length && a > 0; i++) {
                residual[i] -= a * column[i];
            }
        }
        clean(residual);
        float[] fresh = weights(pixels, Spreads.of(residual, k, pixels, noiseK), k);
        return new CaptureModel(side, pixels, data, fresh, noiseK, time, pitchMm, outline);
    }

    private static float[] weights(Pixels pixels, Spreads spreads, int k) {
        float[] weight = new float[pixels.count() * k];
        for (int p = 0; p < pixels.count(); p++) {
            for (int j = 0; j < k; j++) {
                weight[p * k + j] = (float) (1 / (spreads.variance(j, pixels.patch()[p]) + pixels.modelVariance()[p]));
            }
        }
        return weight;
    }

    Side side() {
        return side;
    }

    int count() {
        return pixels.count();
    }

    ResponseTables tables(HeatModel model) {
        double w = outline.maxXMm() - outline.minXMm();
        double h = outline.maxYMm() - outline.minYMm();
        return new ResponseTables(model, time.waveform(), time.timesS(), time.basis(), pitchMm, Math.hypot(w, h));
    }

    /** Every so many rows and columns, so that at most about {@code most} pixels are left; weights stand for the rest. */
    CaptureModel thinned(int most) {
        int stride = Math.max(1, (int) Math.ceil(Math.sqrt(count() / (double) most)));
        int[] kept = IntStream.range(0, count())
                .filter(p -> pixels.row()[p] % stride == 0 && pixels.column()[p] % stride == 0)
                .toArray();
        float[] d = new float[kept.length * k];
        float[] w = new float[kept.length * k];
        for (int i = 0; i < kept.length; i++) {
            for (int j = 0; j < k; j++) {
                d[i * k + j] = data[kept[i] * k + j];
                w[i * k + j] = weight[kept[i] * k + j] * stride * stride;
            }
        }
        return new CaptureModel(side, pixels.only(kept), d, w, noiseK, time, pitchMm, outline);
    }

    /**
     * A prediction free of stripes.
     *
     * @param values {@code [pixel · k + component]}, kelvin
     * @param still how much of each still picture it holds; products allow for that
     */
    record Column(float[] values, float[] still) {}

    /** A column times the weights, for products. */
    record Weighted(float[] values, float[] still) {
        double with(Column column) {
            return product(values, column.values()) - product(still, column.still());
        }
    }

    /** Predicted components of one watt shared evenly by the sources; edges of the board mirror them. */
    Column column(List<HeatSource> sources, ResponseTables tables) {
        float[] values = new float[data.length];
        for (HeatSource source : sources) {
            add(source, tables, values);
        }
        for (int i = 0; i < values.length && sources.size() > 1; i++) {
            values[i] /= sources.size();
        }
        evenOut(values);
        unstripe(values);
        return new Column(values, still.shares(values));
    }

    /** A large body's lid is of one temperature: that of the board under it, on the whole. */
    private void evenOut(float[] values) {
        float[] mean = new float[lids.length * k];
        for (int l = 0; l < lids.length; l++) {
            for (int p : lids[l]) {
                for (int j = 0; j < k; j++) {
                    mean[l * k + j] += values[p * k + j] / lids[l].length;
                }
            }
            for (int p : lids[l]) {
                System.arraycopy(mean, l * k, values, p * k, k);
            }
        }
    }

    private void add(HeatSource source, ResponseTables tables, float[] column) {
        RadialTable table = tables.of(source, source.side() == side);
        double reach = tables.reachMm();
        double[] xs = images(source.xMm(), outline.minXMm(), outline.maxXMm(), reach);
        double[] ys = images(source.yMm(), outline.minYMm(), outline.maxYMm(), reach);
        float reach2 = (float) (reach * reach);
        for (double sx : xs) {
            for (double sy : ys) {
                float fx = (float) sx;
                float fy = (float) sy;
                for (int p = 0; p < pixels.count(); p++) {
                    float dx = pixels.xMm()[p] - fx;
                    float dy = pixels.yMm()[p] - fy;
                    float r2 = dx * dx + dy * dy;
                    if (r2 < reach2) {
                        table.addTo(Math.sqrt(r2), column, p * k);
                    }
                }
            }
        }
    }

    private static double[] images(double at, double low, double high, double reach) {
        double clamped = Math.max(low, Math.min(high, at));
        double left = 2 * low - clamped;
        double right = 2 * high - clamped;
        double[] images = {clamped, left, right};
        int n = 1;
        if (clamped - low < reach / 2) {
            images[n++] = left;
        }
        if (high - clamped < reach / 2) {
            images[n++] = right;
        }
        return Arrays.copyOf(images, n);
    }

    /** Weighted product with the data. */
    double withData(Weighted column) {
        return product(column.values(), cleaned);
    }

    /** The column times the weights. */
    Weighted weighted(Column column) {
        float[] out = new float[column.values().length];
        for (int i = 0; i < out.length; i++) {
            out[i] = weight[i] * column.values()[i];
        }
        return new Weighted(out, column.still());
    }

    private static double product(float[] a, float[] b) {
        // Four sums: a single one would wait for itself.
        double s0 = 0;
        double s1 = 0;
        double s2 = 0;
        double s3 = 0;
        int i = 0;
        for (; i + 3 < a.length; i += 4) {
            s0 += a[i] * b[i];
            s1 += a[i + 1] * b[i + 1];
            s2 += a[i + 2] * b[i + 2];
            s3 += a[i + 3] * b[i + 3];
        }
        for (; i < a.length; i++) {
            s0 += a[i] * b[i];
        }
        return s0 + s1 + s2 + s3;
    }

    /** Takes the weighted mean of each row, then of each column, out of every component. */
    private void unstripe(float[] values) {
        unstripe(values, pixels.row(), rowWeight);
        unstripe(values, pixels.column(), columnWeight);
    }

    private void unstripe(float[] values, int[] line, float[] lineWeight) {
        float[] mean = new float[lineWeight.length];
        for (int p = 0; p < line.length; p++) {
            for (int j = 0; j < k; j++) {
                mean[line[p] * k + j] += weight[p * k + j] * values[p * k + j];
            }
        }
        for (int i = 0; i < mean.length; i++) {
            mean[i] = lineWeight[i] > 0 ? mean[i] / lineWeight[i] : 0;
        }
        for (int p = 0; p < line.length; p++) {
            for (int j = 0; j < k; j++) {
                values[p * k + j] -= mean[line[p] * k + j];
            }
        }
    }
}
