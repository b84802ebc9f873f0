package ohmoscope.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import ohmoscope.cli.WantedTrials.Wanted;
import ohmoscope.formats.BundleWriter;
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;
import ohmoscope.trials.capture.Trials;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
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

    @Mixin
    private WantedTrials trials;

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
        List<Wanted> wanted = trials.byRound();
        wanted.parallelStream().forEach(hunt -> write(hunt, truth));
        spec.commandLine().getErr().println(wanted.size() + " hunts in " + folder);
        return 0;
    }

    private void write(Wanted hunt, TruthFile truth) {
        BenchSetup setup = Trials.draw(
                hunt.kind(), hunt.number(), watts.map(OptionalDouble::of).orElse(OptionalDouble.empty()), layers);
        BenchSimulator.Run run = BenchSimulator.run(setup);
        String name = hunt.name();
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
