package ohmoscope.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.Callable;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.rework.Kit;
import ohmoscope.core.rework.Rework;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.BundleReader;
import ohmoscope.formats.KitJson;
import ohmoscope.formats.ReworkJson;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code rework BUNDLE REF}: how does that part come off? Prints one JSON object. */
@Command(
        name = "rework",
        description = "Prints the ways to take a part off, ranked, each with the peak at every neighbour, as JSON.",
        mixinStandardHelpOptions = true)
final class ReworkCommand implements Callable<Integer> {
    @Parameters(paramLabel = "BUNDLE", index = "0", description = "folder or ZIP")
    private Path bundle;

    @Parameters(paramLabel = "REF", index = "1", description = "the part")
    private String ref;

    @Option(names = "--kit", paramLabel = "FILE", description = "what the bench has; a usual kit by default")
    private Path kit;

    @Option(
            names = "--room",
            paramLabel = "CELSIUS",
            defaultValue = "23",
            description = "the room's temperature (${DEFAULT-VALUE})")
    private double roomC;

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        Bundle read = new BundleReader().read(bundle);
        Board board = read.board();
        Part part = board.part(ref)
                .orElseThrow(() -> new InvalidMember("REF", "names " + ref + ", which is not on this board"));
        Kit has = kit == null
                ? Kit.USUAL
                : KitJson.read(Files.readString(kit), kit.getFileName().toString());
        Set<String> gone = read.advise().now().absent();
        spec.commandLine().getOut().println(ReworkJson.write(Rework.plan(board, part, has, gone, roomC, 1)));
        return 0;
    }
}
