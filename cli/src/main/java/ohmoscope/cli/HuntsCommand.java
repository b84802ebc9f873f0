package ohmoscope.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.formats.BundleReader;
import ohmoscope.trials.hunt.Hunts;
import ohmoscope.trials.hunt.Hunts.Player;
import ohmoscope.trials.hunt.Hunts.Told;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** {@code hunts}: hidden faults hunted to the end by doing what {@code advise} says first. */
@Command(
        name = "hunts",
        description = {
            "Hides faults on boards and hunts them to the end, doing what advise says first.",
            "Beside it a fixed checklist, and the most likely part first. Same seed, same hunts."
        },
        mixinStandardHelpOptions = true)
final class HuntsCommand implements Callable<Integer> {
    @Option(names = "--seed", defaultValue = "1", description = "number of the first hunt; default ${DEFAULT-VALUE}")
    private long seed;

    @Option(names = "--count", defaultValue = "27", description = "how many; default ${DEFAULT-VALUE}")
    private int count;

    @Option(names = "--boards", paramLabel = "DIR", description = "folder of bundles whose boards are taken")
    private Optional<Path> boards = Optional.empty();

    @Option(names = "--json", paramLabel = "FILE", description = "every hunt with its steps")
    private Optional<Path> json = Optional.empty();

    @Spec
    private CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        Hunts hunts = new Hunts(boards.isPresent() ? read(boards.get()) : List.of());
        List<Told> told = LongStream.range(seed, seed + count)
                .boxed()
                .flatMap(s -> Stream.of(Player.values()).map(p -> hunts.play(s, p)))
                .toList();
        HuntsTable table = new HuntsTable(told);
        PrintWriter out = spec.commandLine().getOut();
        table.print(out);
        if (json.isPresent()) {
            Files.writeString(json.get(), json(told));
        }
        return 0;
    }

    private static List<Board> read(Path folder) throws IOException {
        List<Board> boards = new ArrayList<>();
        List<Path> bundles;
        try (Stream<Path> files = Files.list(folder)) {
            bundles = files.sorted().toList();
        }
        for (Path bundle : bundles) {
            if (Files.exists(bundle.resolve("board.json")) || bundle.toString().endsWith(".zip")) {
                boards.add(new BundleReader().read(bundle).board());
            }
        }
        if (boards.isEmpty()) {
            throw new InvalidMember(
                    "--boards", folder + " holds no bundle; give a folder of bundles, each with its board.json");
        }
        return boards;
    }

    private static String json(List<Told> told) throws IOException {
        ObjectMapper mapper = new ObjectMapper();
        ArrayNode all = mapper.createArrayNode();
        for (Told hunt : told) {
            ObjectNode one = all.addObject();
            one.put("seed", hunt.seed());
            one.put("player", word(hunt.player().name()));
            one.put("kind", hunt.kind());
            one.put("board", hunt.board());
            one.put("end", word(hunt.end().name()));
            one.put("minutes", hunt.minutes());
            one.put("wrong_removals", hunt.wrongRemovals());
            one.put("overstress", hunt.overstress());
            hunt.defects().forEach(one.withArray("defects")::add);
            hunt.steps().forEach(one.withArray("steps")::add);
        }
        return mapper.writerWithDefaultPrettyPrinter().writeValueAsString(all);
    }

    private static String word(String name) {
        return name.toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
