package ohmoscope.formats;

import java.util.OptionalDouble;
import ohmoscope.core.rework.ReworkPlan;
import ohmoscope.core.rework.Way;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What {@code rework} prints: the ranked ways with what each does to the neighbours. */
public final class ReworkJson {
    private ReworkJson() {}

    public static String write(ReworkPlan plan) {
        ObjectNode root = Fields.object();
        root.put("ref", plan.part().ref());
        Fields.word(root, "side", plan.part().side());
        ArrayNode first = root.putArray("first");
        plan.first().forEach(first::add);
        ArrayNode ways = root.putArray("ways");
        for (Way way : plan.ways()) {
            way(ways.addObject(), way);
        }
        ArrayNode bridges = root.putArray("bridges");
        for (ReworkPlan.Bridge bridge : plan.bridges()) {
            ObjectNode node = bridges.addObject();
            node.put("pin", bridge.pinA()).put("net", bridge.netA());
            node.put("other_pin", bridge.pinB()).put("other_net", bridge.netB());
        }
        return Fields.compact(root);
    }

    private static void way(ObjectNode node, Way way) {
        Fields.word(node, "method", way.method());
        node.put("safe", way.safe());
        tenth(node, "set_c", way.setC());
        Fields.number(node, "nozzle_mm", way.nozzleMm());
        tenth(node, "preheat_c", way.preheatC());
        tenth(node, "melts_s", way.meltsAtS());
        node.put("heated_s", tenth(way.heatedS()));
        node.put("joint_c", tenth(way.jointC()));
        node.put("minutes", tenth(way.minutes()));
        node.put("risk", Math.round(way.risk() * 1000) / 1000.0);
        ArrayNode screens = node.putArray("screens");
        way.screened().forEach(screens::add);
        ArrayNode tape = node.putArray("tape");
        way.taped().forEach(tape::add);
        ArrayNode peaks = node.putArray("peaks");
        for (Way.Peak peak : way.peaks()) {
            ObjectNode p = peaks.addObject();
            p.put("ref", peak.ref());
            p.put("other_side", peak.otherSide());
            p.put("gap_mm", tenth(peak.gapMm()));
            p.put("peak_c", tenth(peak.celsius()));
            p.put("most_c", tenth(peak.mostC()));
            p.put("limit_c", tenth(peak.limit().celsius()));
            Fields.word(p, "limit_why", peak.limit().why());
            p.put("over", peak.over());
        }
    }

    private static void tenth(ObjectNode node, String name, OptionalDouble value) {
        value.ifPresent(v -> node.put(name, tenth(v)));
    }

    private static double tenth(double value) {
        return Math.round(value * 10) / 10.0;
    }
}
