package ohmoscope.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import ohmoscope.core.board.Board;
import ohmoscope.sim.BenchSimulator;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** A truth.json beside simulated bundles: what truly happened, by the bundle's name. */
final class TruthFile {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();
    private final Path file;

    TruthFile(Path file) {
        this.file = file;
    }

    /** Adds one bundle's truth to what the file holds; other threads wait. */
    synchronized void note(String name, String kind, Board board, BenchSimulator.Truth what) throws IOException {
        ObjectNode root = Files.exists(file)
                ? (ObjectNode) MAPPER.readTree(Files.readAllBytes(file))
                : JsonNodeFactory.instance.objectNode();
        ObjectNode node = root.putObject(name);
        node.put("kind", kind).put("watts", what.watts()).put("amps", what.amps());
        node.put("ref", what.ref().orElse(null));
        what.ref().flatMap(board::part).ifPresent(part -> {
            node.put("side", part.side().name().toLowerCase(Locale.ROOT));
            node.put("x_mm", part.xMm()).put("y_mm", part.yMm());
        });
        what.heatSpot().ifPresent(at -> node.putArray("heat_spot").add(at.xMm()).add(at.yMm()));
        Files.writeString(
                file, MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(root), StandardCharsets.UTF_8);
    }
}
