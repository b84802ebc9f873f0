package ohmoscope.trials.decision;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import ohmoscope.bench.demo.DecisionBoards;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.core.board.Board;
import ohmoscope.formats.BoardJson;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Decision points on five boards, from {@code points.json} beside this class: each the entries of a made-up job up to a
 * moment, and what a right answer must contain. Every other one belongs to the half kept aside.
 */
public final class DecisionPoints {
    private static final String OPENED = "2026-04-01T09:00:00Z";
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private DecisionPoints() {}

    /** Which half of the points. */
    public enum Half {
        /** To work with. */
        OPEN,
        /** Kept aside. */
        ASIDE
    }

    /**
     * Writes each point of one half as a folder with {@code board.json}, {@code bundle.json} and {@code expect.json}.
     *
     * @return how many
     */
    public static int write(Path folder, Half half) throws IOException {
        int written = 0;
        for (JsonNode point : points()) {
            if (!point.required("half").asString().equals(half.name().toLowerCase(Locale.ROOT))) {
                continue;
            }
            Path dir = Files.createDirectories(
                    folder.resolve(point.required("name").asString()));
            Files.write(
                    dir.resolve("board.json"),
                    BoardJson.write(board(point.required("board").asString())));
            Files.write(dir.resolve("bundle.json"), pretty(bundle(point)));
            Files.write(dir.resolve("expect.json"), pretty(point.required("expect")));
            written++;
        }
        return written;
    }

    private static JsonNode points() throws IOException {
        try (InputStream json = resource("points.json")) {
            return MAPPER.readTree(json).required("points");
        }
    }

    private static Board board(String name) throws IOException {
        return switch (name) {
            case "heron" -> DecisionBoards.heron();
            case "otter" -> DecisionBoards.otter();
            case "tarn" -> DemoBoards.tarn();
            case "beck" -> DemoBoards.beck();
            default -> {
                String file = name + ".json";
                try (InputStream json = resource(file)) {
                    yield BoardJson.read(json, file);
                }
            }
        };
    }

    private static InputStream resource(String file) throws IOException {
        InputStream found = DecisionPoints.class.getResourceAsStream(file);
        if (found == null) {
            throw new IOException("there is no " + file + " beside the decision points");
        }
        return found;
    }

    /** The point's entries, numbered, as a bundle. */
    private static ObjectNode bundle(JsonNode point) {
        ObjectNode bundle = MAPPER.createObjectNode();
        bundle.put("format", "ohmoscope-bundle");
        bundle.put("version", 1);
        bundle.putObject("job")
                .put("id", "D-" + point.required("name").asString())
                .put("title", point.required("title").asString())
                .put("opened", OPENED);
        if (point.has("rail")) {
            bundle.set("rail", point.required("rail"));
        }
        ArrayNode numbered = bundle.putArray("observations");
        for (JsonNode observation : point.required("observations")) {
            numbered.addObject().put("seq", numbered.size()).setAll((ObjectNode) observation);
        }
        return bundle;
    }

    private static byte[] pretty(JsonNode json) {
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsBytes(json);
    }
}
