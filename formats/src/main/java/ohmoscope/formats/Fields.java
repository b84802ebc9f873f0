package ohmoscope.formats;

import java.util.Optional;
import java.util.OptionalDouble;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Small helpers for writing the contract's JSON: what is empty is left out, whole numbers are written as such. */
final class Fields {
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private Fields() {}

    static ObjectNode object() {
        return NODES.objectNode();
    }

    static void number(ObjectNode node, String name, double value) {
        if (value == Math.rint(value) && Math.abs(value) < 1e15) {
            node.put(name, (long) value);
        } else {
            node.put(name, value);
        }
    }

    static void number(ObjectNode node, String name, OptionalDouble value) {
        value.ifPresent(v -> number(node, name, v));
    }

    static void text(ObjectNode node, String name, Optional<String> value) {
        value.ifPresent(v -> node.put(name, v));
    }

    static void text(ObjectNode node, String name, String value) {
        if (!value.isEmpty()) {
            node.put(name, value);
        }
    }

    static void word(ObjectNode node, String name, Optional<? extends Enum<?>> value) {
        value.ifPresent(v -> node.put(name, Member.word(v)));
    }

    static void word(ObjectNode node, String name, Enum<?> value) {
        node.put(name, Member.word(value));
    }

    static ArrayNode numbers(double... values) {
        ArrayNode list = NODES.arrayNode();
        for (double value : values) {
            if (value == Math.rint(value) && Math.abs(value) < 1e15) {
                list.add((long) value);
            } else {
                list.add(value);
            }
        }
        return list;
    }

    static byte[] bytes(ObjectNode node) {
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsBytes(node);
    }

    static String compact(ObjectNode node) {
        return MAPPER.writeValueAsString(node);
    }
}
