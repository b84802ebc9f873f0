package ohmoscope.cli;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import ohmoscope.core.layout.Layouts;
import ohmoscope.core.layout.Note;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.layout.BoardTables;
import ohmoscope.formats.layout.LayoutFiles;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code board FILE…}: one board from its files. Prints it; what was guessed or not used goes to standard error. */
@Command(
        name = "board",
        description = "Prints one board, read from a layout, netlist, centroid table, parts list or several of them.",
        mixinStandardHelpOptions = true)
final class BoardCommand implements Callable<Integer> {
    /** What it is written as. */
    enum Form {
        JSON,
        CENTROID,
        IPC356
    }

    @Parameters(arity = "1..*", paramLabel = "FILE", description = "files of the same board")
    private List<Path> files;

    @Option(
            names = "--as",
            description = "${COMPLETION-CANDIDATES}; json is a bundle's board.json",
            defaultValue = "JSON")
    private Form form;

    @Option(names = "--json", description = "the same as --as json")
    private boolean json;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        Layouts.Laid laid = new LayoutFiles()
                .read(files.stream().map(LayoutFiles.Source::of).toList());
        laid.notes().stream().map(Note::toString).forEach(spec.commandLine().getErr()::println);
        String text = switch (json ? Form.JSON : form) {
            case JSON -> new String(BoardJson.write(laid.board()), StandardCharsets.UTF_8);
            case CENTROID -> BoardTables.centroid(laid.board());
            case IPC356 -> BoardTables.ipc356(laid.board());
        };
        spec.commandLine().getOut().println(text.stripTrailing());
        return 0;
    }
}
