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

/**
 * {@code evaluate DIR}: how good is locate on bundles whose fault is known, or, in a folder of decision points, advise?
 */
@Command(
        name = "evaluate",
        description =
                "Runs locate over a folder of bundles with a truth.json, or advise over one of decision points with an expect.json each, and prints how often it is right.",
        mixinStandardHelpOptions = true)
final class EvaluateCommand implements Callable<Integer> {
    @Parameters(paramLabel = "DIR", description = "folder with bundles and truth.json, or of folders with expect.json")
    private Path folder;

    @Option(names = "--json", paramLabel = "FILE", description = "write every case's outcome here as well")
    private Optional<Path> json = Optional.empty();

    @Option(names = "--reliability", paramLabel = "FILE", description = "draw said against right here, as SVG")
    private Optional<Path> reliability = Optional.empty();

    @Option(names = "--each", description = "print a line for each case")
    private boolean each;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        PrintWriter out = spec.commandLine().getOut();
        PrintWriter err = spec.commandLine().getErr();
        if (DecisionEvaluation.holds(folder)) {
            DecisionEvaluation decisions = DecisionEvaluation.over(folder, outcome -> {
                if (each || !outcome.wrong().isEmpty()) {
                    out.println(outcome.line());
                }
            });
            out.print(decisions.table());
            out.flush();
            return 0;
        }
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
        if (reliability.isPresent()) {
            Files.writeString(reliability.get(), ReliabilityDiagram.svg(evaluation.outcomes()), StandardCharsets.UTF_8);
        }
        if (json.isPresent()) {
            Files.writeString(json.get(), EvaluationTable.json(evaluation), StandardCharsets.UTF_8);
        }
        return 0;
    }
}
