package ohmoscope.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.formats.BundleReader;
import ohmoscope.formats.LocateJson;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code locate BUNDLE}: where is the short? Prints one JSON object. */
@Command(name = "locate", description = "Prints where the short is, as JSON.", mixinStandardHelpOptions = true)
final class LocateCommand implements Callable<Integer> {
    @Parameters(paramLabel = "BUNDLE", description = "folder or ZIP")
    private Path bundle;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        long start = System.nanoTime();
        LocateResult result =
                new Locator().locate(new BundleReader().read(bundle).locateInput(), Progress.SILENT);
        long elapsedMs = (System.nanoTime() - start) / 1_000_000;
        spec.commandLine().getOut().println(LocateJson.write(result, elapsedMs));
        return 0;
    }
}
