package ohmoscope.core.locate;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.RadialTable;
import ohmoscope.core.heat.Waveform;

/**
 * One capture's compressed movie as a weighted regression: pixels on the board with their places, components and
 * weights, and predicted columns for sources. What is common to a row or a column of the picture (the camera's drift,
 * its stripes) is projected out of data and predictions alike.
 */
final class CaptureModel {
    /** σ of a square's side of one. */
    static final double PIXEL_SIGMA = 0.29;

    /** How the movie was compressed. */
    record Time(Waveform waveform, double[] timesS, double[][] basis) {}

    private final Side side;
    private final int k;
    private final int n;
    private final Pixels pixels;
    private final float[] data;
    private final float[] weight;
    private final Stripes stripes;
    private final StillBasis still;
    private final float[] cleaned;
    private final int[][] lids;
    private final Time time;
    private final Grain grain;
    private final Outline outline;
    private final Map<String, BodyMask> masks;

    /**
     * How fine the picture is.
     *
     * @param pitchMm of the movie's pixels
     * @param stride how many of them are taken together, along each side
     * @param noiseK of such a square
     */
    private record Grain(double pitchMm, int stride, double noiseK) {
        Grain coarser(int by) {
            return new Grain(pitchMm, stride * by, noiseK / by);
        }
    }

    /**
     * @param data {@code [component · pixels + pixel]}, kelvin; kept
     * @param weight inverse variances, same shape; kept
     */
    private CaptureModel(
            Side side,
            Pixels pixels,
            float[] data,
            float[] weight,
            Time time,
            Grain grain,
            Outline outline,
            Map<String, BodyMask> masks) {
        this.side = side;
        this.masks = masks;
        this.k = time.basis().length;
        this.n = pixels.count();
        this.pixels = pixels;
        this.data = data;
        this.weight = weight;
        this.time = time;
        this.grain = grain;
        this.outline = outline;
        lids = IntStream.range(0, pixels.lids())
                .mapToObj(l ->
                        IntStream.range(0, n).filter(p -> pixels.lid()[p] == l).toArray())
                .toArray(int[][]::new);
        stripes = new Stripes(pixels, weight, k);
        still = new StillBasis(pixels.still(), weight, k, stripes::takeOut);
        cleaned = data.clone();
        clean(cleaned);
    }

    /** Takes out what no source can be told from: stripes, and the still pictures. */
    private void clean(float[] values) {
        stripes.takeOut(values);
        still.takeOut(values);
    }

    /**
     * A capture weighed by its noise and the model's error alone, before anything has been fitted.
     *
     * @param data {@code [component · pixels + pixel]}, kelvin
     * @param noiseK of a pixel
     * @param most about how many pixels are kept; finer pictures are binned
     */
    static CaptureModel of(
            Side side,
            Pixels pixels,
            float[] data,
            double noiseK,
            Time time,
            double pitchMm,
            Outline outline,
            LocateSettings settings,
            int most) {
        int k = time.basis().length;
        Pixels.Bins bins = pixels.bins(most);
        Grain grain = new Grain(pitchMm, 1, noiseK).coarser(bins.stride());
        Pixels kept = bins.stride() == 1 ? pixels : pixels.binned(bins);
        float[] values = bins.stride() == 1 ? data : binned(data, bins, k);
        Spreads noise = Spreads.none(grain.noiseK(), k);
        CaptureModel plain = new CaptureModel(
                side, kept, values, weights(kept, noise, k), time, grain, outline, new ConcurrentHashMap<>());
        ModelError.fill(
                kept, values, plain.cleaned, k, grain.noiseK(), pitchMm * grain.stride(), grain.stride(), settings);
        return new CaptureModel(side, kept, values, weights(kept, noise, k), time, grain, outline, plain.masks);
    }

    private static float[] binned(float[] values, Pixels.Bins bins, int k) {
        float[] means = new float[bins.count() * k];
        for (int j = 0; j < k; j++) {
            System.arraycopy(bins.mean(values, j * bins.of().length), 0, means, j * bins.count(), bins.count());
        }
        return means;
    }

    /** Weighed again by what is left when that which has been explained is taken off. */
    CaptureModel reweighed(Column explained) {
        float[] residual = data.clone();
        addTo(residual, explained.values(), -1);
        clean(residual);
        Spreads spreads = Spreads.of(residual, k, pixels, grain.noiseK(), grain.stride());
        return new CaptureModel(side, pixels, data, weights(pixels, spreads, k), time, grain, outline, masks);
    }

    private static float[] weights(Pixels pixels, Spreads spreads, int k) {
        int n = pixels.count();
        float[] weight = new float[n * k];
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < n; p++) {
                double variance = spreads.variance(j, pixels.patch()[p]) + pixels.modelVariance()[p];
                weight[j * n + p] = (float) (pixels.share()[p] / variance);
            }
        }
        return weight;
    }

    Side side() {
        return side;
    }

    int count() {
        return n;
    }

    ResponseTables tables(HeatModel model) {
        double w = outline.maxXMm() - outline.minXMm();
        double h = outline.maxYMm() - outline.minYMm();
        return new ResponseTables(
                model,
                time.waveform(),
                time.timesS(),
                time.basis(),
                grain.pitchMm(),
                grain.stride() * grain.pitchMm(),
                Math.hypot(w, h));
    }

    /** Squares of pixels taken together, so that about {@code most} are left; nothing of the heat is thrown away. */
    CaptureModel binned(int most) {
        Pixels.Bins bins = pixels.bins(most);
        if (bins.stride() == 1) {
            return this;
        }
        return new CaptureModel(
                side,
                pixels.binned(bins),
                binned(data, bins, k),
                summedWeights(bins),
                time,
                grain.coarser(bins.stride()),
                outline,
                new ConcurrentHashMap<>());
    }

    private float[] summedWeights(Pixels.Bins bins) {
        float[] sums = new float[bins.count() * k];
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < n; p++) {
                sums[j * bins.count() + bins.of()[p]] += weight[j * n + p];
            }
        }
        return sums;
    }

    /**
     * A prediction free of stripes.
     *
     * @param values {@code [component · pixels + pixel]}, kelvin
     * @param weighted the same times the weights
     * @param still how much of each still picture it holds; products allow for that
     */
    record Column(float[] values, float[] weighted, float[] still) {
        /** The weighted product. */
        double with(Column other) {
            return Dot.of(weighted, other.values) - Dot.of(still, other.still);
        }

        /** How it changes on the way to another one, by the step taken. */
        Column slope(Column other, double step) {
            return new Column(
                    slope(values, other.values, step),
                    slope(weighted, other.weighted, step),
                    slope(still, other.still, step));
        }

        private static float[] slope(float[] from, float[] to, double step) {
            float[] slope = new float[from.length];
            float by = (float) (1 / step);
            for (int i = 0; i < slope.length; i++) {
                slope[i] = by * (to[i] - from[i]);
            }
            return slope;
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
        stripes.takeOut(values);
        float[] weighted = new float[values.length];
        for (int i = 0; i < values.length; i++) {
            weighted[i] = weight[i] * values[i];
        }
        return new Column(values, weighted, still.shares(weighted));
    }

    /**
     * Columns times their amplitudes, and the body's share: what the fit believes.
     *
     * @param amplitudes one a column
     */
    Column together(List<Column> columns, double[] amplitudes, Optional<OwnWarmth> own, double bodyK) {
        float[] values = new float[k * n];
        float[] weighted = new float[k * n];
        float[] shares = new float[still.shares()];
        for (int c = 0; c < columns.size(); c++) {
            float a = (float) amplitudes[c];
            if (a > 0) {
                addTo(values, columns.get(c).values(), a);
                addTo(weighted, columns.get(c).weighted(), a);
                addTo(shares, columns.get(c).still(), a);
            }
        }
        own.ifPresent(w -> {
            w.addTo(values, w.values(), n, (float) bodyK);
            w.addTo(weighted, w.weighted(), n, (float) bodyK);
            addTo(shares, w.still(), (float) bodyK);
        });
        return new Column(values, weighted, shares);
    }

    private static void addTo(float[] sum, float[] values, float by) {
        for (int i = 0; i < sum.length; i++) {
            sum[i] += by * values[i];
        }
    }

    /** What the source's own body stands above the board; empty when this camera does not see it. */
    Optional<OwnWarmth> ownWarmth(HeatSource source, ResponseTables tables) {
        if (source.side() != side || source.body().isEmpty()) {
            return Optional.empty();
        }
        Part body = source.body().get();
        BodyMask mask = masks.computeIfAbsent(
                body.ref(),
                ref -> BodyMask.of(
                        body,
                        pixels,
                        grain.pitchMm() * Math.hypot(HeatModel.USUAL_BLUR_PX, grain.stride() * PIXEL_SIGMA)));
        int count = mask.pixels().length;
        if (count == 0) {
            return Optional.empty();
        }
        double[] flow = tables.flow(source);
        float[] values = new float[k * count];
        float[] weighted = new float[values.length];
        for (int j = 0; j < k; j++) {
            for (int i = 0; i < count; i++) {
                values[j * count + i] = (float) flow[j] * mask.shares()[i];
                weighted[j * count + i] = weight[j * n + mask.pixels()[i]] * values[j * count + i];
            }
        }
        return Optional.of(new OwnWarmth(mask.pixels(), values, weighted, still.shares(mask.pixels(), weighted)));
    }

    /** Weighted product with the data. */
    double withData(OwnWarmth own) {
        return own.with(cleaned, n, own.weighted());
    }

    /** Weighted product with a column. */
    double product(OwnWarmth own, Column column) {
        return own.with(column.weighted(), n, own.values()) - Dot.of(column.still(), own.still());
    }

    /** Its weighted square, the still pictures' share off. Stripes take little of so small a patch. */
    double square(OwnWarmth own) {
        return Math.max(0, Dot.of(own.weighted(), own.values()) - Dot.of(own.still(), own.still()));
    }

    /** A large body's lid is of one temperature: that of the board under it, on the whole. */
    private void evenOut(float[] values) {
        for (int[] lid : lids) {
            for (int j = 0; j < k; j++) {
                float mean = 0;
                float area = 0;
                for (int p : lid) {
                    mean += pixels.share()[p] * values[j * n + p];
                    area += pixels.share()[p];
                }
                mean /= area;
                for (int p : lid) {
                    values[j * n + p] = mean;
                }
            }
        }
    }

    private void add(HeatSource source, ResponseTables tables, float[] column) {
        RadialTable table = tables.of(source, source.side() == side);
        double reach = tables.reachMm();
        double[] xs = Mirrors.images(source.xMm(), outline.minXMm(), outline.maxXMm(), reach);
        double[] ys = Mirrors.images(source.yMm(), outline.minYMm(), outline.maxYMm(), reach);
        int[] nodes = new int[n];
        float[] parts = new float[n];
        for (double sx : xs) {
            for (double sy : ys) {
                float fx = (float) sx;
                float fy = (float) sy;
                for (int p = 0; p < n; p++) {
                    float dx = pixels.xMm()[p] - fx;
                    float dy = pixels.yMm()[p] - fy;
                    float position = table.position(Math.sqrt(dx * dx + dy * dy));
                    nodes[p] = (int) position;
                    parts[p] = position - nodes[p];
                }
                for (int j = 0; j < k; j++) {
                    table.addTo(j, nodes, parts, column, j * n);
                }
            }
        }
    }

    /** Weighted product with the data. */
    double withData(Column column) {
        return Dot.of(column.weighted(), cleaned);
    }
}
