package ohmoscope.bench.decision;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ohmoscope.core.board.Board;
import tools.jackson.databind.json.JsonMapper;

/**
 * One decision point: what happened, as a bundle's observations, and what a right answer must contain.
 * {@code "code target"} names an entry of the answer; a bar between two means either.
 */
final class Point {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    final String name;
    final Board board;
    private final String title;
    private final String moment;
    private String rail = "";
    private final List<Map<String, Object>> observations = new ArrayList<>();
    private final Map<String, Object> expect = new LinkedHashMap<>();

    Point(String name, Board board, String title, String moment) {
        this.name = name;
        this.board = board;
        this.title = title;
        this.moment = moment;
        expect.put("moment", moment);
    }

    Point rail(String net) {
        rail = net;
        return this;
    }

    private Point saw(Object... members) {
        Map<String, Object> o = new LinkedHashMap<>();
        o.put("seq", observations.size() + 1);
        for (int i = 0; i + 1 < members.length; i += 2) {
            o.put((String) members[i], members[i + 1]);
        }
        observations.add(o);
        return this;
    }

    /** Adds members to the last observation. */
    Point with(Object... members) {
        Map<String, Object> o = observations.get(observations.size() - 1);
        for (int i = 0; i + 1 < members.length; i += 2) {
            o.put((String) members[i], members[i + 1]);
        }
        return this;
    }

    Point power(String from, String battery, double volts, double amps, String shape) {
        return saw(
                "kind", "power", "from", from, "port", "J1", "battery", battery, "volts", volts, "amps", amps, "shape",
                shape);
    }

    /** A bench supply held on a rail. */
    Point held(String net, double volts, double amps) {
        return saw("kind", "power", "from", "bench", "net", net, "volts", volts, "amps", amps);
    }

    Point look(String target, String finding) {
        return saw("kind", "look", "target", target, "finding", finding);
    }

    Point diode(String net, double value) {
        return saw("kind", "read", "mode", "diode", "net", net, "value", value, "lead", "red-on-ground");
    }

    Point ohms(String net, double value) {
        return saw("kind", "read", "mode", "ohms", "net", net, "value", value);
    }

    Point beep(String net, double value) {
        return saw("kind", "read", "mode", "continuity", "net", net, "value", value);
    }

    Point volts(String net, double value, String source) {
        return saw("kind", "read", "mode", "volts", "net", net, "value", value, "power", source);
    }

    /** Ohms across one part; null is over-range. */
    Point across(String ref, Double value) {
        saw("kind", "read", "mode", "ohms", "across", ref);
        observations.get(observations.size() - 1).put("value", value);
        return this;
    }

    Point inject(String net, String ref, double set, double limit, double volts, double amps) {
        return saw(
                "kind",
                "inject",
                "net",
                net,
                "ref",
                ref,
                "set_v",
                set,
                "limit_a",
                limit,
                "volts",
                volts,
                "amps",
                amps,
                "lead_ohms",
                0.05);
    }

    Point warm(String ref, double deltaK) {
        return saw("kind", "warm", "ref", ref, "by", "camera", "delta_k", deltaK);
    }

    Point cold(String side) {
        return saw("kind", "warm", "nothing", true, "side", side, "by", "camera");
    }

    Point change(String action, String target) {
        return saw("kind", "change", "action", action, "target", target);
    }

    Point run(String finding) {
        return saw("kind", "run", "finding", finding);
    }

    Point find(String... entries) {
        return put("must_find", entries, "code");
    }

    Point findNot(String... entries) {
        return put("must_not_find", entries, "code");
    }

    Point top1(String... entries) {
        return put("top1_any", entries, "code");
    }

    Point top3(String... entries) {
        return put("top3_any", entries, "code");
    }

    Point next(String... entries) {
        return put("next_any", entries, "action");
    }

    Point nextNot(String... entries) {
        return put("next_not", entries, "action");
    }

    Point stops(String... codes) {
        expect.put("stops", List.of(codes));
        return this;
    }

    Point stopsNot(String... codes) {
        expect.put("stops_not", List.of(codes));
        return this;
    }

    private Point put(String member, String[] entries, String word) {
        List<Object> list = new ArrayList<>();
        for (String entry : entries) {
            String[] alternatives = entry.split("\\|");
            if (alternatives.length == 1) {
                list.add(entry(entry.trim(), word));
            } else {
                List<Object> any = new ArrayList<>();
                for (String alternative : alternatives) {
                    any.add(entry(alternative.trim(), word));
                }
                list.add(Map.of("any", any));
            }
        }
        expect.put(member, list);
        return this;
    }

    private static Map<String, Object> entry(String words, String word) {
        String[] parts = words.split(" ");
        Map<String, Object> entry = new LinkedHashMap<>();
        entry.put(word, parts[0]);
        for (int i = 1; i < parts.length; i++) {
            if (parts[i].startsWith("max=")) {
                entry.put("set_v_max", Double.parseDouble(parts[i].substring(4)));
            } else {
                entry.put("target", parts[i]);
            }
        }
        return entry;
    }

    byte[] bundleJson() {
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("format", "ohmoscope-bundle");
        root.put("version", 1);
        root.put("job", Map.of("id", "D-" + name, "title", title, "opened", "2026-04-01T09:00:00Z"));
        if (!rail.isEmpty()) {
            root.put("rail", rail);
        }
        root.put("observations", observations);
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsBytes(root);
    }

    byte[] expectJson() {
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsBytes(expect);
    }

    String moment() {
        return moment;
    }
}
