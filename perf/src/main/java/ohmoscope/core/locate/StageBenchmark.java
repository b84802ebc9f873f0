package ohmoscope.core.locate;

import java.io.IOException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.board.Rail;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.heat.TemporalBasis;
import ohmoscope.core.heat.Waveform;
import ohmoscope.core.imaging.FrameScan;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.imaging.Projection;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.fit.ModelRefiner;
import ohmoscope.core.locate.fit.MovieFit;
import ohmoscope.core.locate.fit.SidedFit;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.CapturePreparer;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import ohmoscope.core.locate.posterior.Candidates;
import ohmoscope.core.locate.posterior.KnownHeat;
import ohmoscope.perf.LocateBenchmark;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Level;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/**
 * The steps of a locate, each by itself, with its floor beside it: what the machine needs to move the same numbers once.
 * In the package of what it measures.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(
        value = 1,
        jvmArgs = {"-Xmx768m", "-XX:G1HeapRegionSize=4m"})
public class StageBenchmark {
    private static final int FEW = 1800;

    @Param({"256x192x250", "640x480x500"})
    public String size;

    private LocateInput input;
    private LocateInput.Capture capture;
    private SlabParameters slab;
    private Waveform waveform;
    private FrameScan scan;
    private double[][] basis;
    private CapturePreparer preparer;
    private List<CaptureModel> fine;
    private List<CaptureModel> few;
    private List<MovieFit.Nuisance> nuisances;
    private WattsPrior expected;
    private List<HeatSource> spots;
    private HeatSource hottest;
    private MovieFit fineFit;
    private MovieFit fewFit;
    private float[] planes;

    @Setup(Level.Trial)
    public void prepareAll() throws IOException {
        input = LocateBenchmark.input(500, size);
        capture = input.captures().get(0);
        slab = SlabParameters.expected(input.board());
        waveform = Waveform.resistive(input.supplyLog());
        scan = FrameScan.of(capture.spec(), capture.frames());
        basis = TemporalBasis.of(slab, waveform, capture.spec().times(), scan.segment());
        preparer = new CapturePreparer(
                input.board(),
                slab,
                waveform,
                input.injection(),
                LocateSettings.DEFAULT,
                CapturePreparer.Scans.whole());
        fine = preparer.prepare(capture).model().stream().toList();
        few = fine.stream().map(model -> model.binned(FEW)).toList();
        Rail rail = Rail.between(input.board(), input.rail(), input.rail());
        Optional<FaultResistance> resistance = FaultResistance.from(input.supplyLog(), input.injection(), rail);
        nuisances = KnownHeat.nuisances(input, rail, resistance);
        expected = KnownHeat.expected(resistance);
        spots = Candidates.on(input.board(), rail, List.of(), Map.of()).stream()
                .flatMap(candidate -> candidate.spots().stream())
                .toList();
        HeatModel model = HeatModel.of(slab);
        fineFit = new MovieFit(fine, nuisances, expected, model);
        fewFit = new MovieFit(few, nuisances, expected, model);
        List<MovieFit.Score> scores = fewFit.scores(spots);
        int best = 0;
        for (int i = 1; i < scores.size(); i++) {
            best = scores.get(i).logLikelihood() > scores.get(best).logLikelihood() ? i : best;
        }
        hottest = spots.get(best);
        planes = new float[fine.get(0).count() * fine.get(0).components()];
    }

    /** Floor of {@link #scan} and {@link #project}: every count read once. */
    @Benchmark
    public long floorOfFrames() throws IOException {
        char[] counts = new char[capture.spec().pixels()];
        long sum = 0;
        try (FrameSource.Cursor cursor = capture.frames().open()) {
            while (cursor.next(counts)) {
                for (char count : counts) {
                    sum += count;
                }
            }
        }
        return sum;
    }

    @Benchmark
    public FrameScan scan() throws IOException {
        return FrameScan.of(capture.spec(), capture.frames());
    }

    @Benchmark
    public double[][] temporalBasis() {
        return TemporalBasis.of(slab, waveform, capture.spec().times(), scan.segment());
    }

    @Benchmark
    public Projection project() throws IOException {
        return Projection.of(capture.spec(), capture.frames(), scan, basis, 1);
    }

    /** Scan, basis and projection included. */
    @Benchmark
    public Object prepare() throws IOException {
        return preparer.prepare(capture);
    }

    @Benchmark
    public Object firstLook() {
        return fewFit.scores(spots);
    }

    /** Floor of {@link #firstLook}: as many multiplications and additions as its still pictures need, in long loops. */
    @Benchmark
    public float floorOfFirstLook() {
        CaptureModel model = few.get(0);
        float[] a = new float[512];
        float[] b = new float[512];
        long products = (long) spots.size() * model.count() * model.still().shares();
        for (long done = 0; done < products; done += a.length) {
            for (int i = 0; i < a.length; i++) {
                a[i] += 0.5f * b[i];
            }
        }
        return a[7];
    }

    @Benchmark
    public Object weighAgain() {
        return fineFit.reweighed(hottest);
    }

    /** Floor of {@link #weighAgain}: its still pictures written and read once. */
    @Benchmark
    public float floorOfWeighing() {
        int pictures = fine.get(0).still().shares() / fine.get(0).components();
        float sum = 0;
        for (int m = 0; m < pictures; m++) {
            for (int i = 0; i < planes.length; i++) {
                planes[i] = m + 0.5f * planes[i];
            }
            sum += planes[m];
        }
        return sum;
    }

    @Benchmark
    public Object shapeHeatModel() {
        return ModelRefiner.refine(few, nuisances, expected, HeatModel.of(slab), hottest, ModelRefiner.unmoved());
    }

    /** One source on the fine picture, on one core. */
    @Benchmark
    public Object oneSource() {
        return fineFit.score(hottest);
    }

    /** Both sides under the expected model, as the last weighing has them. */
    @Benchmark
    public Object fineFit() {
        Map<Side, ModelRefiner.Refined> models = new EnumMap<>(Side.class);
        for (Side side : Side.values()) {
            models.put(side, ModelRefiner.Refined.expected(slab));
        }
        return new SidedFit(fine, nuisances, expected, models, Side.TOP);
    }
}
