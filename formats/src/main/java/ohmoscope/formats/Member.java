package ohmoscope.formats;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import ohmoscope.core.board.Check;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A JSON object with the path that leads to it, for reading members with errors that name them. */
final class Member {
    private static final int MAX_JSON_BYTES = 24 << 20;
    private static final int MAX_TEXT = 4_000;
    private static final JsonMapper MAPPER = JsonMapper.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .build();

    private final JsonNode node;
    private final String path;
    private final Faults faults;

    private Member(JsonNode node, String path, Faults faults) {
        this.node = node;
        this.path = path;
        this.faults = faults;
    }

    static Member root(InputStream json, Faults faults) throws IOException {
        byte[] bytes = json.readNBytes(MAX_JSON_BYTES + 1);
        if (bytes.length > MAX_JSON_BYTES) {
            throw new BundleException(faults.file(), "", "is larger than 24 MB, which no description of a board is");
        }
        if (bytes.length == 0) {
            throw new BundleException(faults.file(), "", "is empty");
        }
        JsonNode node;
        try {
            node = MAPPER.readTree(bytes);
        } catch (JacksonException broken) {
            var at = broken.getLocation();
            String where = at == null ? "" : "line " + at.getLineNr() + ", column " + at.getColumnNr();
            throw new BundleException(faults.file(), where, "is not valid JSON: " + broken.getOriginalMessage());
        }
        if (node == null || !node.isObject()) {
            throw new BundleException(faults.file(), "", "must hold one JSON object");
        }
        return new Member(node, "", faults);
    }

    /**
     * Reads a line of JSON that was stored by itself.
     *
     * @param name the name that errors give
     * @throws BundleException with every fault found
     */
    static <T> T line(String json, String name, Function<Member, T> read) throws IOException {
        Faults faults = new Faults(name);
        Member root = root(new ByteArrayInputStream(json.getBytes(StandardCharsets.UTF_8)), faults);
        Optional<T> value = faults.attempt("", () -> read.apply(root));
        faults.throwIfAny();
        return value.orElseThrow();
    }

    String path() {
        return path;
    }

    private String at(String name) {
        return Faults.join(path, name);
    }

    private Optional<JsonNode> present(String name) {
        JsonNode child = node.get(name);
        return child == null || child.isNull() ? Optional.empty() : Optional.of(child);
    }

    private JsonNode required(String name) {
        return present(name).orElseThrow(() -> new MemberException(at(name), "is missing"));
    }

    boolean has(String name) {
        return present(name).isPresent();
    }

    /** Whether the member stands there with the value null. */
    boolean isNull(String name) {
        JsonNode child = node.get(name);
        return child != null && child.isNull();
    }

    String text(String name) {
        return asText(name, required(name));
    }

    Optional<String> optionalText(String name) {
        return present(name).map(child -> asText(name, child));
    }

    private String asText(String name, JsonNode child) {
        if (!child.isString()) {
            throw new MemberException(at(name), "must be a string, was " + shown(child));
        }
        String text = child.asString();
        if (text.length() > MAX_TEXT) {
            throw new MemberException(at(name), "must not be longer than " + MAX_TEXT + " characters");
        }
        if (!Check.printable(text)) {
            throw new MemberException(at(name), "holds control characters or half a character: write it again as text");
        }
        return text;
    }

    double number(String name) {
        return asNumber(at(name), required(name));
    }

    OptionalDouble optionalNumber(String name) {
        Optional<JsonNode> child = present(name);
        return child.isPresent() ? OptionalDouble.of(asNumber(at(name), child.get())) : OptionalDouble.empty();
    }

    private static double asNumber(String path, JsonNode child) {
        if (!child.isNumber() || !Double.isFinite(child.asDouble())) {
            throw new MemberException(path, "must be a finite number, was " + shown(child));
        }
        return child.asDouble();
    }

    int integer(String name) {
        JsonNode child = required(name);
        if (!child.isIntegralNumber() || !child.canConvertToInt()) {
            throw new MemberException(at(name), "must be a whole number, was " + shown(child));
        }
        return child.asInt();
    }

    boolean flag(String name, boolean otherwise) {
        Optional<JsonNode> child = present(name);
        if (child.isPresent() && !child.get().isBoolean()) {
            throw new MemberException(at(name), "must be true or false, was " + shown(child.get()));
        }
        return child.map(JsonNode::asBoolean).orElse(otherwise);
    }

    <E extends Enum<E>> E choice(String name, Class<E> type) {
        return asChoice(name, required(name), type);
    }

    <E extends Enum<E>> Optional<E> optionalChoice(String name, Class<E> type) {
        return present(name).map(child -> asChoice(name, child, type));
    }

    private <E extends Enum<E>> E asChoice(String name, JsonNode child, Class<E> type) {
        String word = asText(name, child);
        List<String> words = new ArrayList<>();
        for (E value : type.getEnumConstants()) {
            if (word(value).equals(word)) {
                return value;
            }
            words.add(word(value));
        }
        throw new MemberException(at(name), "must be one of " + String.join(", ", words) + "; was " + word);
    }

    /** The contract's spelling of an enum constant. */
    static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    Member object(String name) {
        return asObject(at(name), required(name));
    }

    Optional<Member> optionalObject(String name) {
        return present(name).map(child -> asObject(at(name), child));
    }

    private Member asObject(String childPath, JsonNode child) {
        if (!child.isObject()) {
            throw new MemberException(childPath, "must be an object, was " + shown(child));
        }
        return new Member(child, childPath, faults);
    }

    /** Reads each element of a list of objects; one that is refused is noted and left out. */
    <T> List<T> list(String name, Function<Member, T> read) {
        List<T> values = new ArrayList<>();
        JsonNode child = node.get(name);
        if (child == null || child.isNull()) {
            return values;
        }
        if (!child.isArray()) {
            throw new MemberException(at(name), "must be a list, was " + shown(child));
        }
        for (int i = 0; i < child.size(); i++) {
            JsonNode element = child.get(i);
            String elementPath = at(name) + "[" + i + "]";
            JsonNode ref = element.isObject() ? element.get("ref") : null;
            String shownPath = ref != null && ref.isString() ? elementPath + " (" + ref.asString() + ")" : elementPath;
            faults.attempt(shownPath, () -> read.apply(asObject(shownPath, element)))
                    .ifPresent(values::add);
        }
        return values;
    }

    /** As many numbers as stand there. */
    List<Double> numbers(String name) {
        JsonNode child = required(name);
        if (!child.isArray()) {
            throw new MemberException(at(name), "must be a list of numbers, was " + shown(child));
        }
        List<Double> numbers = new ArrayList<>();
        for (int i = 0; i < child.size(); i++) {
            numbers.add(asNumber(at(name) + "[" + i + "]", child.get(i)));
        }
        return numbers;
    }

    /** A fixed number of numbers. */
    double[] numbers(String name, int count) {
        return asNumbers(at(name), required(name), count);
    }

    Optional<double[]> optionalNumbers(String name, int count) {
        return present(name).map(child -> asNumbers(at(name), child, count));
    }

    /** A list of lists of {@code count} numbers. */
    List<double[]> numberRows(String name, int count) {
        JsonNode child = required(name);
        if (!child.isArray()) {
            throw new MemberException(at(name), "must be a list, was " + shown(child));
        }
        List<double[]> rows = new ArrayList<>();
        for (int i = 0; i < child.size(); i++) {
            rows.add(asNumbers(at(name) + "[" + i + "]", child.get(i), count));
        }
        return rows;
    }

    private static double[] asNumbers(String path, JsonNode child, int count) {
        if (!child.isArray() || child.size() != count) {
            throw new MemberException(path, "must be a list of " + count + " numbers, was " + shown(child));
        }
        double[] values = new double[count];
        for (int i = 0; i < count; i++) {
            values[i] = asNumber(path + "[" + i + "]", child.get(i));
        }
        return values;
    }

    private static String shown(JsonNode child) {
        String text = child.toString();
        return text.length() > 40 ? text.substring(0, 37) + "…" : text;
    }
}
