package ohmoscope.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.instruments.Assistant;
import ohmoscope.instruments.Dialect;
import ohmoscope.instruments.Dialects;
import ohmoscope.instruments.Place;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code instrument HOST:PORT}: asks what stands there, and which dialect it speaks; sets nothing. */
@Command(
        name = "instrument",
        description =
                "Asks an instrument its name, tries the dialects that may fit, and shows what answered. It sets nothing.",
        mixinStandardHelpOptions = true)
final class InstrumentCommand implements Callable<Integer> {
    @Parameters(paramLabel = "PLACE", description = "where it is reached: HOST:PORT, or serial:/dev/ttyUSB0@9600")
    private String address;

    @Option(
            names = "--kind",
            defaultValue = "SUPPLY",
            description = "${COMPLETION-CANDIDATES}; default ${DEFAULT-VALUE}")
    private Dialect.Kind kind;

    @Option(
            names = "--dialects",
            paramLabel = "FOLDER",
            defaultValue = "dialects",
            description = "a shop's own; default ${DEFAULT-VALUE}")
    private Path folder;

    @Option(names = "--beyond-this-machine", description = "the address is not loopback, and that is meant")
    private boolean beyond;

    @Option(names = "--patience", paramLabel = "MS", defaultValue = "2000", description = "default ${DEFAULT-VALUE}")
    private int patienceMillis;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        Place at = Place.of(address);
        if (!at.here() && !beyond) {
            throw new InvalidMember(
                    "address", at + " is beyond this machine: say --beyond-this-machine where that is meant");
        }
        List<Dialect> dialects = Dialects.with(folder);
        Assistant.Found found;
        try {
            found = Assistant.ask(at, kind, dialects, Duration.ofMillis(patienceMillis));
        } catch (InstrumentException silent) {
            spec.commandLine().getErr().println(silent.getMessage());
            return Main.UNUSABLE;
        }
        var out = spec.commandLine().getOut();
        out.println(found.identity());
        for (Assistant.Tried tried : found.tried()) {
            out.println();
            out.println(tried.dialect().name() + ": " + tried.answered() + " of "
                    + tried.asked().size() + " questions understood");
            for (Assistant.Asked asked : tried.asked()) {
                out.printf("  %-20s %s  (%d ms)%n", asked.line(), asked.answer().orElse("no answer"), asked.millis());
            }
        }
        out.println();
        out.println(found.best()
                .map(d -> "speaks: " + d.name())
                .orElse("speaks none of the dialects: write one of its own"));
        return found.best().isPresent() ? 0 : Main.UNUSABLE;
    }
}
