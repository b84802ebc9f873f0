package ohmoscope.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import ohmoscope.formats.AdviceJson;
import ohmoscope.formats.BundleReader;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code advise BUNDLE}: what do the observations say, and what next? Prints one JSON object. */
@Command(
        name = "advise",
        description = "Prints what the observations say so far and what to do next, as JSON.",
        mixinStandardHelpOptions = true)
final class AdviseCommand implements Callable<Integer> {
    @Parameters(paramLabel = "BUNDLE", description = "folder or ZIP")
    private Path bundle;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        spec.commandLine()
                .getOut()
                .println(AdviceJson.write(new BundleReader().read(bundle).advise()));
        return 0;
    }
}
