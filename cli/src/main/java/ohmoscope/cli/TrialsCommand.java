package ohmoscope.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import java.util.stream.LongStream;
import ohmoscope.formats.BundleWriter;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;
import ohmoscope.trials.capture.TrialKind;
import ohmoscope.trials.capture.Trials;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code trials DIR}: simulated hunts of every kind in numbers, with their truth.json, for {@code evaluate}. */
@Command(
        name = "trials",
        description = "Makes simulated hunts of every kind with their truth.json, for evaluate. Same seed, same hunts.",
        mixinStandardHelpOptions = true)
final class TrialsCommand implements Callable<Integer> {
    @Parameters(paramLabel = "DIR", description = "folder to write into")
    private Path folder;

    @Option(names = "--seed", defaultValue = "1", description = "number of the first hunt; default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--rounds", defaultValue = "3", description = "hunts of each kind; default ${DEFAULT-VALUE}")
    private int rounds;

    @Option(names = "--kind", split = ",", description = "only these: ${COMPLETION-CANDIDATES}")
    private List<TrialKind> kinds = new ArrayList<>();

    @Option(names = "--watts", description = "at the fault; default: what is usual for the kind")
    private Optional<Double> watts = Optional.empty();

    @Option(
            names = "--layers",
            defaultValue = "" + BenchSetup.Oddities.USUAL_LAYERS,
            description = "by which the simulator cuts the board, 2 to 12; default ${DEFAULT-VALUE}")
    private int layers;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        Files.createDirectories(folder);
        TruthFile truth = new TruthFile(folder.resolve("truth.json"));
        List<TrialKind> wanted = kinds.isEmpty() ? List.of(TrialKind.values()) : kinds;
        LongStream.range(seed, seed + rounds)
                .boxed()
                .flatMap(number -> wanted.stream().map(kind -> new Wanted(kind, number)))
                .toList()
                .parallelStream()
                .forEach(hunt -> write(hunt, truth));
        spec.commandLine().getErr().println(rounds * wanted.size() + " hunts in " + folder);
        return 0;
    }

    private record Wanted(TrialKind kind, long number) {}

    private void write(Wanted hunt, TruthFile truth) {
        BenchSetup setup = Trials.draw(
                hunt.kind(), hunt.number(), watts.map(OptionalDouble::of).orElse(OptionalDouble.empty()), layers);
        BenchSimulator.Run run = BenchSimulator.run(setup);
        String name = hunt.kind().label() + "-" + hunt.number();
        try {
            try (OutputStream zip = Files.newOutputStream(folder.resolve(name + ".zip"))) {
                BundleWriter.zip(run.bundle(), zip);
            }
            truth.note(name, hunt.kind().label(), setup.board(), run.truth());
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
