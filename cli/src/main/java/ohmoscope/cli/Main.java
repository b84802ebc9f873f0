package ohmoscope.cli;

import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BundleException;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** Entry point of the command line. Results go to standard output, everything else to standard error. */
@Command(
        name = "ohmoscope",
        description = "Finds shorted parts from job bundles.",
        mixinStandardHelpOptions = true,
        subcommands = {
            LocateCommand.class,
            AdviseCommand.class,
            ReworkCommand.class,
            BoardCommand.class,
            DecisionsCommand.class,
            EvaluateCommand.class,
            SimulateCommand.class,
            TrialsCommand.class,
            LiveTrialsCommand.class,
            HuntsCommand.class,
            ShopCommand.class,
            SweepCommand.class,
            StandInCommand.class,
            InstrumentCommand.class
        })
public final class Main {
    /** Input that cannot be used. */
    static final int UNUSABLE = 2;

    private Main() {}

    public static void main(String[] args) {
        System.setOut(new PrintStream(System.out, true, StandardCharsets.UTF_8));
        System.setErr(new PrintStream(System.err, true, StandardCharsets.UTF_8));
        System.exit(run(args));
    }

    static int run(String... args) {
        return line().execute(args);
    }

    static CommandLine line() {
        CommandLine line = new CommandLine(new Main());
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((failure, command, parsed) -> {
            command.getErr().println(sentence(failure));
            return UNUSABLE;
        });
        return line;
    }

    private static String sentence(Exception failure) throws Exception {
        if (failure instanceof BundleException || failure instanceof InvalidMember) {
            return failure.getMessage();
        }
        if (failure instanceof FileSystemException file) {
            return file.getFile() + ": cannot be read or written ("
                    + file.getClass().getSimpleName() + ")";
        }
        throw failure;
    }
}
