package ohmoscope.core.locate;

import java.util.Arrays;
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
     */
    record Pixels(
            float[] xMm,
            float[] yMm,
            int[] row,
            int[] column,
            int rows,
            int columns,
            float[] patch,
            float[] modelVariance) {
        Pixels(int count, int rows, int columns) {
            this(
                    new float[count],
                    new float[count],
                    new int[count],
                    new int[count],
                    rows,
                    columns,
                    new float[count],
                    new float[count]);
        }

        int count() {
            return xMm.length;
        }

        Pixels only(int[] kept) {
            Pixels few = new Pixels(kept.length, rows, columns);
            for (int i = 0; i < kept.length; i++) {
                few.xMm[i] = xMm[kept[i]];
                few.yMm[i] = yMm[kept[i]];
                few.row[i] = row[kept[i]];
                few.column[i] = column[kept[i]];
                few.patch[i] = patch[kept[i]];
                few.modelVariance[i] = modelVariance[kept[i]];
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
    private final float[] weightedData;
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
        float[] unstriped = data.clone();
        unstripe(unstriped);
        weightedData = weighted(unstriped);
    }

    /** A capture weighed by its noise and the model's error alone, before anything has been fitted. */
    static CaptureModel of(
            Side side, Pixels pixels, float[] data, double noiseK, Time time, double pitchMm, Outline outline) {
        int k = time.basis().length;
        float[] weight = weights(pixels, Spreads.none(noiseK, k), k);
        return new CaptureModel(side, pixels, data, weight, noiseK, time, pitchMm, outline);
    }

    /** Weighed again by what is left when sources are taken off. */
    CaptureModel reweighed(float[][] columns, double[] watts) {
        float[] residual = data.clone();
        for (int c = 0; c < columns.length; c++) {
            float a = (float) watts[c];
            for (int i = 0; i < residual.length && a > 0; i++) {
                residual[i] -= a * columns[c][i];
            }
        }
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

    /** Predicted components of one watt in the source; edges of the board mirror it. */
    float[] column(HeatSource source, ResponseTables tables) {
        float[] column = new float[data.length];
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
        unstripe(column);
        return column;
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
    double withData(float[] column) {
        return product(weightedData, column);
    }

    /** The column times the weights. */
    float[] weighted(float[] column) {
        float[] out = new float[column.length];
        for (int i = 0; i < column.length; i++) {
            out[i] = weight[i] * column[i];
        }
        return out;
    }

    static double product(float[] weighted, float[] column) {
        double sum = 0;
        for (int i = 0; i < column.length; i++) {
            sum += weighted[i] * column[i];
        }
        return sum;
    }

    double square(float[] column) {
        double sum = 0;
        for (int i = 0; i < column.length; i++) {
            sum += (double) weight[i] * column[i] * column[i];
        }
        return sum;
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
