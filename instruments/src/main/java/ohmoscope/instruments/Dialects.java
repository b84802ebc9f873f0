package ohmoscope.instruments;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.core.board.InvalidMember;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The dialects that are known: the shop's own first, then those that ship with the application. */
public final class Dialects {
    private static final List<String> SHIPPED = List.of("supply.json", "supply-without-protection.json", "meter.json");
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final String PLAIN_NUMBER = "([-+]?[0-9]*\\.?[0-9]+(?:[eE][-+]?[0-9]+)?)";

    private Dialects() {}

    public static List<Dialect> shipped() {
        List<Dialect> all = new ArrayList<>();
        for (String file : SHIPPED) {
            try (InputStream in = Dialects.class.getResourceAsStream("/ohmoscope/instruments/" + file)) {
                all.add(read(in.readAllBytes(), file));
            } catch (IOException broken) {
                throw new UncheckedIOException(broken);
            }
        }
        return all;
    }

    /**
     * A shop's own, in the order of their files' names, before the shipped ones.
     *
     * @param folder of {@code .json} files; none where there is no such folder
     * @throws InvalidMember naming the file and member that cannot be used
     */
    public static List<Dialect> with(Path folder) throws IOException {
        List<Dialect> all = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (Stream<Path> files = Files.list(folder)) {
                for (Path file : files.filter(f -> f.toString().endsWith(".json"))
                        .sorted()
                        .toList()) {
                    all.add(read(Files.readAllBytes(file), String.valueOf(file.getFileName())));
                }
            }
        }
        all.addAll(shipped());
        return all;
    }

    private static Dialect read(byte[] bytes, String file) {
        try {
            JsonNode node = JSON.readTree(bytes);
            Map<String, String> commands = new HashMap<>();
            node.path("commands")
                    .properties()
                    .forEach(e -> commands.put(e.getKey(), e.getValue().asString("")));
            return new Dialect(
                    node.path("name").asString(""),
                    kind(node.path("kind").asString("")),
                    node.path("identified_by").asString("."),
                    node.path("pace_ms").asInt(5),
                    node.path("answer_ms").asInt(1500),
                    commands,
                    node.path("number").asString(PLAIN_NUMBER),
                    node.path("no_error").asString("^[-+]?0(?:,|$)"),
                    node.has("over_range")
                            ? OptionalDouble.of(node.path("over_range").asDouble(0))
                            : OptionalDouble.empty());
        } catch (JacksonException broken) {
            throw new InvalidMember(file, "is no JSON: " + broken.getOriginalMessage());
        } catch (InvalidMember refused) {
            throw new InvalidMember(file + ", " + refused.member(), refused.what());
        }
    }

    private static Dialect.Kind kind(String word) {
        return switch (word.toLowerCase(Locale.ROOT)) {
            case "supply" -> Dialect.Kind.SUPPLY;
            case "meter" -> Dialect.Kind.METER;
            default -> throw new InvalidMember("kind", "must be supply or meter, was \"" + word + "\"");
        };
    }
}
