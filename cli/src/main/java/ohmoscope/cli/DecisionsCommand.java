package ohmoscope.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.trials.decision.DecisionPoints;
import ohmoscope.trials.decision.DecisionPoints.Half;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code decisions DIR}: writes the made-up decision points, for {@code evaluate}. */
@Command(
        name = "decisions",
        description = "Writes made-up decision points with their right answers, for evaluate.",
        mixinStandardHelpOptions = true)
final class DecisionsCommand implements Callable<Integer> {
    @Parameters(paramLabel = "DIR", description = "folder to write into, empty or new")
    private Path folder;

    @Option(names = "--half", paramLabel = "HALF", description = "open (to work with) or aside; default open")
    private Half half = Half.OPEN;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        if (Files.exists(folder)) {
            try (Stream<Path> there = Files.list(folder)) {
                if (there.findAny().isPresent()) {
                    throw new InvalidMember("folder", folder + " holds something already: name an empty or a new one");
                }
            }
        }
        int written = DecisionPoints.write(folder, half);
        spec.commandLine().getErr().println(written + " decision points in " + folder);
        return 0;
    }
}
