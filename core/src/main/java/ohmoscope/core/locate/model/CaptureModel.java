package ohmoscope.core.locate.model;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.BodyMask;
import ohmoscope.core.locate.capture.MovieTime;
import ohmoscope.core.locate.capture.Pixels;
import ohmoscope.core.locate.capture.Scales;
import ohmoscope.core.locate.capture.Spreads;
import ohmoscope.core.locate.capture.StillBasis;
import ohmoscope.core.locate.capture.StillPictures;
import ohmoscope.core.locate.capture.Stripes;
import ohmoscope.core.locate.capture.TemporalRotation;
import ohmoscope.core.numeric.Blocks;
import ohmoscope.core.numeric.Dot;

/**
 * One capture's compressed movie as a weighted regression: pixels on the board with their places, components and
 * weights, and predicted columns for sources. What is common to a row or a column of the picture (the camera's drift,
 * its stripes) is projected out of data and predictions alike.
 */
public final class CaptureModel {
    /** σ of a square's side of one. */
    public static final double PIXEL_SIGMA = 0.29;

    /** So near to a part a pixel sees it. */
    private static final double BESIDE_PX = 1.5;

    private final Side side;
    private final int k;
    private final int n;
    private final Pixels pixels;
    private final Places places;
    private final float[] data;
    private final float[] weight;
    private final Stripes stripes;
    private final StillBasis still;
    private final float[] cleaned;
    private final List<Lid> lids;
    private final MovieTime time;
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
            MovieTime time,
            Grain grain,
            Outline outline,
            Map<String, BodyMask> masks) {
        this.side = side;
        this.masks = masks;
        this.k = time.components();
        this.n = pixels.count();
        this.pixels = pixels;
        places = new Places(pixels.xMm(), pixels.yMm(), n);
        this.data = data;
        this.weight = weight;
        this.time = time;
        this.grain = grain;
        this.outline = outline;
        lids = IntStream.range(0, pixels.lids())
                .mapToObj(l -> Lid.of(pixels, l))
                .toList();
        stripes = new Stripes(pixels, weight, k);
        double[] sigma = StillPictures.sigma(pixels.still().length, time.frames());
        still = new StillBasis(pixels.still(), sigma, weight, k, stripes::takeOut);
        cleaned = data.clone();
        clean(cleaned);
    }

    private CaptureModel(CaptureModel like, float[] data, MovieTime time) {
        side = like.side;
        k = like.k;
        n = like.n;
        pixels = like.pixels;
        places = like.places;
        this.data = data;
        weight = like.weight;
        stripes = like.stripes;
        still = like.still;
        lids = like.lids;
        this.time = time;
        grain = like.grain;
        outline = like.outline;
        masks = like.masks;
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
    public static CaptureModel of(
            Side side,
            Pixels pixels,
            float[] data,
            double noiseK,
            MovieTime time,
            double pitchMm,
            Outline outline,
            LocateSettings settings,
            int most) {
        int k = time.components();
        Pixels.Bins bins = pixels.bins(most);
        Grain grain = new Grain(pitchMm, 1, noiseK).coarser(bins.stride());
        Pixels kept = bins.stride() == 1 ? pixels : pixels.binned(bins);
        float[] values = bins.stride() == 1 ? data : binned(data, bins, k);
        return unexplained(side, kept, values, time, grain, outline, settings);
    }

    /** Weighed by noise and the model's error alone. Fills in the pixels' variances. */
    private static CaptureModel unexplained(
            Side side,
            Pixels pixels,
            float[] data,
            MovieTime time,
            Grain grain,
            Outline outline,
            LocateSettings settings) {
        int k = time.components();
        Spreads noise = Spreads.none(grain.noiseK(), k);
        CaptureModel plain = new CaptureModel(
                side,
                pixels,
                data,
                weights(pixels, pixels.modelVariance(), noise, new float[data.length], k),
                time,
                grain,
                outline,
                new ConcurrentHashMap<>());
        double pixelMm = grain.pitchMm() * grain.stride();
        ModelError.fill(pixels, plain.cleaned, k, grain.noiseK(), pixelMm, grain.stride(), settings);
        float[] left = ModelError.leftIn(
                pixels,
                difference(data, plain.cleaned),
                ModelError.LEFT_IN_AT_FIRST,
                k,
                grain.noiseK(),
                pixelMm,
                grain.stride());
        return new CaptureModel(
                side,
                pixels,
                data,
                weights(pixels, pixels.modelVariance(), noise, left, k),
                time,
                grain,
                outline,
                plain.masks);
    }

    private static float[] difference(float[] from, float[] less) {
        float[] difference = from.clone();
        Blocks.add(difference, -1, less);
        return difference;
    }

    private static float[] binned(float[] values, Pixels.Bins bins, int k) {
        float[] means = new float[bins.count() * k];
        for (int j = 0; j < k; j++) {
            System.arraycopy(bins.mean(values, j * bins.of().length), 0, means, j * bins.count(), bins.count());
        }
        return means;
    }

    /**
     * Weighed again by what is left when that which has been explained is taken off, in components turned to the courses
     * in which that moves.
     *
     * @param source where most of that starts
     */
    public CaptureModel reweighed(Column explained, HeatSource source) {
        float[] unexplained = data.clone();
        Blocks.add(unexplained, -1, explained.values());
        float[] residual = unexplained.clone();
        clean(residual);
        // The explained heat's own stripes among it: little, and clear heat can bear the doubt.
        float[] removed = difference(unexplained, residual);
        Scales scales = Scales.of(pixels, grain.stride());
        double[][] axes = TemporalRotation.of(residual, k, pixels, scales);
        float[] left = ModelError.leftIn(
                pixels,
                TemporalRotation.turned(axes, removed),
                ModelError.LEFT_IN,
                k,
                grain.noiseK(),
                grain.pitchMm() * grain.stride(),
                grain.stride());
        float[] model = ModelError.round(pixels, source);
        Spreads spreads = Spreads.of(
                TemporalRotation.turned(axes, residual), k, pixels, grain.noiseK(), scales, added(left, model));
        return new CaptureModel(
                side,
                pixels,
                TemporalRotation.turned(axes, data),
                weights(pixels, model, spreads, left, k),
                time.turned(axes),
                grain,
                outline,
                masks);
    }

    /** @param to {@code [component · pixels + pixel]} @param each one a pixel, the same in all components */
    private static float[] added(float[] to, float[] each) {
        float[] added = to.clone();
        for (int i = 0; i < added.length; i++) {
            added[i] += each[i % each.length];
        }
        return added;
    }

    private static float[] weights(Pixels pixels, float[] modelVariance, Spreads spreads, float[] left, int k) {
        int n = pixels.count();
        float[] weight = new float[n * k];
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < n; p++) {
                double variance = spreads.variance(j, pixels.patch()[p]) + modelVariance[p] + left[j * n + p];
                weight[j * n + p] = (float) (pixels.share()[p] / variance);
            }
        }
        return weight;
    }

    /**
     * The same capture when it has got some more frames: pixels, weights and what is taken out stay, the movie is the new one.
     *
     * @param movie {@code [component · pixels + pixel]}, kelvin, in components as near to these as can be; kept
     */
    CaptureModel grown(float[] movie, MovieTime now) {
        return new CaptureModel(this, movie, now);
    }

    /** The same, but weighed anew by noise and the model's error alone. */
    CaptureModel grownAnew(float[] movie, MovieTime now, LocateSettings settings) {
        return unexplained(side, pixels.unweighed(), movie, now, grain, outline, settings);
    }

    /** Whether a part stands on what the camera looked at. */
    public boolean sees(Part part) {
        return part.side() == side
                && IntStream.range(0, n)
                        .anyMatch(p -> part.covers(pixels.xMm()[p], pixels.yMm()[p], BESIDE_PX * grain.pitchMm()));
    }

    public Side side() {
        return side;
    }

    public Pixels pixels() {
        return pixels;
    }

    public MovieTime time() {
        return time;
    }

    /** Side of a pixel, mm. */
    public double pixelMm() {
        return grain.pitchMm() * grain.stride();
    }

    /** A picture of the components by these weights, as they were before anything was taken out. */
    public float[] matched(double[] template) {
        float[] picture = new float[n];
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < n; p++) {
                picture[p] += (float) template[j] * data[j * n + p];
            }
        }
        return picture;
    }

    public int components() {
        return k;
    }

    /** {@code [component · pixels + pixel]}; not to be modified, like what follows. */
    public float[] weight() {
        return weight;
    }

    /** The data without stripes and still pictures. */
    public float[] cleaned() {
        return cleaned;
    }

    public Stripes stripes() {
        return stripes;
    }

    public StillBasis still() {
        return still;
    }

    public List<Lid> lids() {
        return lids;
    }

    public int count() {
        return n;
    }

    public ResponseTables tables(HeatModel model) {
        double w = outline.maxXMm() - outline.minXMm();
        double h = outline.maxYMm() - outline.minYMm();
        return new ResponseTables(model, time, grain.pitchMm(), grain.stride() * grain.pitchMm(), Math.hypot(w, h));
    }

    /** Squares of pixels taken together, so that about {@code most} are left; nothing of the heat is thrown away. */
    public CaptureModel binned(int most) {
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
    public record Column(float[] values, float[] weighted, float[] still) {
        /** The weighted product. */
        public double with(Column other) {
            return Dot.of(weighted, other.values) - Dot.of(still, other.still);
        }

        /** How it changes on the way to another one, by the step taken. */
        public Column slope(Column other, double step) {
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
    public Column column(List<HeatSource> sources, ResponseTables tables) {
        float[] values = new float[data.length];
        Spot.Scratch scratch = new Spot.Scratch(n);
        for (HeatSource source : sources) {
            spot(source, tables).addTo(places, values, scratch);
        }
        float share = 1f / sources.size();
        for (int i = 0; i < values.length; i++) {
            values[i] *= share;
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
    public Column together(List<Column> columns, double[] amplitudes, Optional<OwnWarmth> own, double bodyK) {
        float[] values = new float[k * n];
        float[] weighted = new float[k * n];
        float[] shares = new float[still.shares()];
        for (int c = 0; c < columns.size(); c++) {
            float a = (float) amplitudes[c];
            if (a > 0) {
                Blocks.add(values, a, columns.get(c).values());
                Blocks.add(weighted, a, columns.get(c).weighted());
                Blocks.add(shares, a, columns.get(c).still());
            }
        }
        own.ifPresent(w -> {
            w.addTo(values, w.values(), n, (float) bodyK);
            w.addTo(weighted, w.weighted(), n, (float) bodyK);
            Blocks.add(shares, (float) bodyK, w.still());
        });
        return new Column(values, weighted, shares);
    }

    /** What the source's own body stands above the board; empty when this camera does not see it. */
    public Optional<OwnWarmth> ownWarmth(HeatSource source, ResponseTables tables) {
        if (source.side() != side || source.body().isEmpty()) {
            return Optional.empty();
        }
        Part body = source.body().get();
        BodyMask mask = source.bodyInPlace()
                ? masks.computeIfAbsent(body.ref(), ref -> mask(body, 0, 0))
                : mask(body, source.bodyDxMm(), source.bodyDyMm());
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

    private BodyMask mask(Part body, double dxMm, double dyMm) {
        double sigmaMm = grain.pitchMm() * Math.hypot(HeatModel.USUAL_BLUR_PX, grain.stride() * PIXEL_SIGMA);
        return BodyMask.of(body, dxMm, dyMm, pixels, sigmaMm);
    }

    /**
     * Products of a body's own warmth.
     *
     * @param withSource with its source's column
     */
    public SourceProducts.Own ownProducts(OwnWarmth own, double withSource, List<Column> nuisances) {
        double[] with = new double[nuisances.size()];
        for (int i = 0; i < with.length; i++) {
            with[i] = product(own, nuisances.get(i));
        }
        // Stripes take little of so small a patch.
        double square = Math.max(0, Dot.of(own.weighted(), own.values()) - Dot.of(own.still(), own.still()));
        return new SourceProducts.Own(square, own.with(cleaned, n, own.weighted()), withSource, with);
    }

    /** One source's products, its column and its body's warmth at hand. */
    public SourceProducts products(Column source, Optional<OwnWarmth> own, List<Column> nuisances) {
        double[] with = new double[nuisances.size()];
        for (int i = 0; i < with.length; i++) {
            with[i] = nuisances.get(i).with(source);
        }
        return new SourceProducts(
                source.with(source),
                withData(source),
                with,
                own.map(w -> ownProducts(w, product(w, source), nuisances)));
    }

    private double product(OwnWarmth own, Column column) {
        return own.with(column.weighted(), n, own.values()) - Dot.of(column.still(), own.still());
    }

    /**
     * A large body's lid is of one temperature: that of the board under it, on the whole.
     *
     * @param pixels at which it is seen
     */
    public record Lid(int[] pixels, Places places, float[] share) {
        static Lid of(Pixels all, int number) {
            int[] at = IntStream.range(0, all.count())
                    .filter(p -> all.lid()[p] == number)
                    .toArray();
            Places places = new Places(picked(all.xMm(), at), picked(all.yMm(), at), at.length);
            return new Lid(at, places, picked(all.share(), at));
        }

        private static float[] picked(float[] values, int[] at) {
            float[] picked = new float[at.length];
            for (int i = 0; i < at.length; i++) {
                picked[i] = values[at[i]];
            }
            return picked;
        }

        /** Of values from {@code from} on, in the order of its pixels. */
        public float mean(float[] values, int from) {
            float sum = 0;
            float area = 0;
            for (int i = 0; i < share.length; i++) {
                sum += share[i] * values[from + i];
                area += share[i];
            }
            return sum / area;
        }
    }

    private void evenOut(float[] values) {
        for (Lid lid : lids) {
            int[] at = lid.pixels();
            float[] under = new float[at.length];
            for (int from = 0; from < values.length; from += n) {
                for (int i = 0; i < at.length; i++) {
                    under[i] = values[from + at[i]];
                }
                float mean = lid.mean(under, 0);
                for (int p : at) {
                    values[from + p] = mean;
                }
            }
        }
    }

    public Spot spot(HeatSource source, ResponseTables tables) {
        return new Spot(source, tables, source.side() == side, outline);
    }

    /** Weighted product with the data. */
    public double withData(Column column) {
        return Dot.of(column.weighted(), cleaned);
    }
}
