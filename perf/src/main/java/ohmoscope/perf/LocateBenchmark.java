package ohmoscope.perf;

import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;
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
 * A whole locate, frames held in memory, candidates on both sides. Sizes: width, height, frames. Frames of 640×480 would
 * fill little more than half of the regions that the collector takes by itself, hence larger ones.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(
        value = 1,
        jvmArgs = {"-Xmx768m", "-XX:G1HeapRegionSize=4m"})
public class LocateBenchmark {
    private static final double WIDTH_MM = 90;
    private static final double HEIGHT_MM = 66;

    @Param({"50", "150", "500"})
    public int candidates;

    @Param({"160x120x90", "256x192x250", "320x240x90", "640x480x500"})
    public String size;

    private LocateInput input;

    @Setup(Level.Trial)
    public void simulate() {
        input = input(candidates, size);
    }

    /** A hunt with so many candidates, looked at by a camera of such a size: width, height, frames. */
    public static LocateInput input(int candidates, String size) {
        String[] sizes = size.split("x");
        double framesPerSecond = 9;
        double coldSeconds = 2;
        double fedSeconds = Integer.parseInt(sizes[2]) / framesPerSecond - coldSeconds;
        Board board = board(candidates);
        BenchSetup.Camera camera = new BenchSetup.Camera(
                Integer.parseInt(sizes[0]),
                Integer.parseInt(sizes[1]),
                framesPerSecond,
                coldSeconds,
                0.07,
                0.3,
                1,
                0.03,
                0.2);
        return BenchSimulator.run(new BenchSetup(
                        board,
                        "B-1",
                        "benchmark",
                        Instant.EPOCH,
                        Map.of("C7", 0.06),
                        "VMAIN",
                        "C1",
                        "VMAIN",
                        new BenchSetup.Supply(1, 2, 0.05, fedSeconds, 1),
                        List.of(new BenchSetup.View(Side.TOP, Optional.empty())),
                        camera,
                        5))
                .bundle()
                .locateInput();
    }

    @Benchmark
    public LocateResult locate() throws IOException {
        return new Locator().locate(input, Progress.SILENT);
    }

    private static Board board(int count) {
        Random random = new Random(2);
        List<Part> parts = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            double x = 4 + (WIDTH_MM - 8) * random.nextDouble();
            double y = 4 + (HEIGHT_MM - 8) * random.nextDouble();
            parts.add(Part.of(
                    "C" + (i + 1),
                    PartKind.CAPACITOR,
                    i % 2 == 0 ? Side.TOP : Side.BOTTOM,
                    x,
                    y,
                    1.6,
                    0.8,
                    List.of(new Pin("1", "VMAIN", x - 0.6, y), new Pin("2", "GND", x + 0.6, y))));
        }
        Outline outline = new Outline(List.of(
                new PointMm(0, 0),
                new PointMm(WIDTH_MM, 0),
                new PointMm(WIDTH_MM, HEIGHT_MM),
                new PointMm(0, HEIGHT_MM)));
        List<Net> nets = List.of(
                new Net("GND", NetKind.GROUND, java.util.OptionalDouble.empty(), Optional.empty()),
                new Net("VMAIN", NetKind.POWER, java.util.OptionalDouble.of(12), Optional.empty()));
        return new Board("Benchmark", "", outline, 1.2, 6, 18, nets, parts, List.of(), List.of());
    }
}
