package ohmoscope.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import java.util.stream.IntStream;
import ohmoscope.core.board.Part;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.ByEye;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.sim.BenchSimulator;
import ohmoscope.trials.capture.TrialKind;
import ohmoscope.trials.capture.Trials;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code sweep}: how often the fault comes first, by watts, for the engine and for the hottest pixel. */
@Command(
        name = "sweep",
        description =
                "Simulates the same hunts at rising watts and tells how often engine and eye put the fault first.",
        mixinStandardHelpOptions = true)
final class SweepCommand implements Callable<Integer> {
    @Option(names = "--seed", defaultValue = "1", description = "number of the first hunt; default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--rounds", defaultValue = "5", description = "hunts of each kind; default ${DEFAULT-VALUE}")
    private int rounds;

    @Option(
            names = "--kind",
            split = ",",
            defaultValue = "PLAIN,BANK,HANDHELD,WIRE_HOT",
            description = "kinds of hunts: ${COMPLETION-CANDIDATES}; default ${DEFAULT-VALUE}")
    private List<TrialKind> kinds = new ArrayList<>();

    @Option(
            names = "--watts",
            split = ",",
            defaultValue = "0.0001,0.0002,0.0005,0.001,0.002,0.005,0.01,0.02,0.05,0.1,0.2",
            description = "at the fault; default ${DEFAULT-VALUE}")
    private List<Double> watts = new ArrayList<>();

    @Option(names = "--svg", description = "draw both curves into this file")
    private Optional<Path> svg = Optional.empty();

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        PrintWriter out = spec.commandLine().getOut();
        out.printf(Locale.ROOT, "%-8s %6s %7s %7s%n", "watts", "hunts", "engine", "eye");
        List<SweepDiagram.Level> levels = new ArrayList<>();
        for (double w : watts) {
            SweepDiagram.Level level = level(w);
            levels.add(level);
            out.printf(Locale.ROOT, "%-8.4g %6d %7.2f %7.2f%n", w, level.hunts(), level.engine(), level.eye());
            out.flush();
        }
        for (double rate : new double[] {0.5, 0.8, 0.9}) {
            double engine = SweepDiagram.wattsFor(levels, rate, SweepDiagram.Level::engine);
            double eye = SweepDiagram.wattsFor(levels, rate, SweepDiagram.Level::eye);
            out.printf(
                    Locale.ROOT,
                    "first in %.0f %%: engine %.4g W, eye %.4g W, ratio %.3f%n",
                    100 * rate,
                    engine,
                    eye,
                    engine / eye);
        }
        if (svg.isPresent()) {
            Files.writeString(svg.get(), SweepDiagram.svg(levels), StandardCharsets.UTF_8);
        }
        return 0;
    }

    private SweepDiagram.Level level(double w) {
        int hunts = rounds * kinds.size();
        List<First> firsts = IntStream.range(0, hunts)
                .mapToObj(i -> hunt(kinds.get(i % kinds.size()), seed + i / kinds.size(), w))
                .toList();
        double engine = firsts.stream().filter(First::engine).count();
        double eye = firsts.stream().filter(First::eye).count();
        return new SweepDiagram.Level(w, hunts, engine / hunts, eye / hunts);
    }

    /** Whether engine and eye put the fault first. */
    private record First(boolean engine, boolean eye) {}

    private static First hunt(TrialKind kind, long number, double w) {
        BenchSimulator.Run run = BenchSimulator.run(Trials.draw(kind, number, OptionalDouble.of(w)));
        LocateInput input = run.bundle().locateInput();
        String fault = run.truth().ref().orElse("");
        try {
            boolean engine = new Locator()
                    .locate(input, Progress.SILENT).suspects().stream()
                            .findFirst()
                            .filter(s -> s.part().ref().equals(fault))
                            .isPresent();
            boolean eye = ByEye.ranked(input).stream()
                    .findFirst()
                    .map(Part::ref)
                    .filter(fault::equals)
                    .isPresent();
            return new First(engine, eye);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
