package ohmoscope.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code evaluate DIR}: how good is locate on bundles whose fault is known? */
@Command(
        name = "evaluate",
        description = "Runs locate over a folder of bundles with a truth.json and prints how often it is right.",
        mixinStandardHelpOptions = true)
final class EvaluateCommand implements Callable<Integer> {
    @Parameters(paramLabel = "DIR", description = "folder with bundles and truth.json")
    private Path folder;

    @Option(names = "--json", paramLabel = "FILE", description = "write every case's outcome here as well")
    private Optional<Path> json = Optional.empty();

    @Option(names = "--each", description = "print a line for each case")
    private boolean each;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        PrintWriter out = spec.commandLine().getOut();
        PrintWriter err = spec.commandLine().getErr();
        Evaluation evaluation = Evaluation.over(folder, outcome -> {
            if (each) {
                out.println(outcome.line());
            } else {
                err.print('.');
                err.flush();
            }
        });
        if (!each) {
            err.println();
        }
        out.println(EvaluationTable.of(evaluation));
        if (json.isPresent()) {
            Files.writeString(json.get(), EvaluationTable.json(evaluation), StandardCharsets.UTF_8);
        }
        return 0;
    }
}
