package ohmoscope.formats;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Fiducial;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.board.Storey;
import ohmoscope.core.board.Supply;
import ohmoscope.core.board.TestPoint;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** {@code board.json}. */
public final class BoardJson {
    private static final String FORMAT = "ohmoscope-board";

    private BoardJson() {}

    /**
     * @param file the name that errors give
     * @throws BundleException with every fault found
     */
    public static Board read(InputStream json, String file) throws IOException {
        Faults faults = new Faults(file);
        Member root = Member.root(json, faults);
        faults.attempt("", () -> requireFormat(root, FORMAT));
        faults.throwIfAny();
        Optional<Outline> outline = faults.attempt(
                "",
                () -> new Outline(root.numberRows("outline_mm", 2).stream()
                        .map(p -> new PointMm(p[0], p[1]))
                        .toList()));
        Optional<List<Net>> nets = faults.attempt("", () -> root.list("nets", BoardJson::net));
        Optional<List<Part>> parts = faults.attempt("", () -> root.list("parts", BoardJson::part));
        Optional<List<TestPoint>> points = faults.attempt("", () -> root.list("testpoints", BoardJson::testPoint));
        Optional<List<Fiducial>> marks = faults.attempt("", () -> root.list("fiducials", BoardJson::fiducial));
        faults.throwIfAny();
        Optional<Board> board = faults.attempt(
                "",
                () -> new Board(
                        root.text("name"),
                        root.optionalText("revision").orElse(""),
                        outline.orElseThrow(),
                        root.optionalNumber("thickness_mm").orElse(1.6),
                        root.has("copper_layers") ? root.integer("copper_layers") : 4,
                        root.optionalNumber("copper_um").orElse(18),
                        nets.orElseThrow(),
                        parts.orElseThrow(),
                        points.orElseThrow(),
                        marks.orElseThrow()));
        faults.throwIfAny();
        return board.orElseThrow();
    }

    /** The board as the contract writes it. */
    public static byte[] write(Board board) {
        ObjectNode root = Fields.object();
        root.put("format", FORMAT).put("version", 1);
        root.put("name", board.name());
        root.put("revision", board.revision());
        ArrayNode outline = root.putArray("outline_mm");
        board.outline().corners().forEach(p -> outline.add(Fields.numbers(p.xMm(), p.yMm())));
        Fields.number(root, "thickness_mm", board.thicknessMm());
        root.put("copper_layers", board.copperLayers());
        Fields.number(root, "copper_um", board.copperUm());
        ArrayNode nets = root.putArray("nets");
        board.nets().forEach(n -> nets.add(write(n)));
        ArrayNode parts = root.putArray("parts");
        board.parts().forEach(p -> parts.add(write(p)));
        ArrayNode points = root.putArray("testpoints");
        for (TestPoint point : board.testPoints()) {
            ObjectNode node = points.addObject();
            node.put("ref", point.ref()).put("net", point.net());
            Fields.word(node, "side", point.side());
            place(node, point.xMm(), point.yMm());
        }
        ArrayNode marks = root.putArray("fiducials");
        for (Fiducial mark : board.fiducials()) {
            ObjectNode node = marks.addObject();
            node.put("name", mark.name());
            node.put("side", mark.side().map(Member::word).orElse("both"));
            place(node, mark.xMm(), mark.yMm());
        }
        return Fields.bytes(root);
    }

    static String requireFormat(Member root, String format) {
        String found = root.text("format");
        if (!found.equals(format)) {
            throw new MemberException("format", "must be " + format + ", was " + found);
        }
        if (root.integer("version") != 1) {
            throw new MemberException("version", "must be 1, was " + root.integer("version"));
        }
        return found;
    }

    private static Net net(Member m) {
        return new Net(
                m.text("name"),
                m.choice("kind", NetKind.class),
                m.optionalNumber("nominal_v"),
                m.optionalObject("expect").map(e -> new Expectation(range(e, "ohms"), range(e, "diode_v"))));
    }

    private static Optional<Range> range(Member m, String name) {
        return m.optionalNumbers(name, 2).map(v -> new Range(v[0], v[1]));
    }

    private static Part part(Member m) {
        return new Part(
                m.text("ref"),
                m.choice("kind", PartKind.class),
                m.optionalChoice("role", Role.class),
                m.optionalText("value").orElse(""),
                m.optionalNumber("volts_rated"),
                m.optionalText("package").orElse(""),
                m.choice("side", Side.class),
                m.number("x_mm"),
                m.number("y_mm"),
                m.optionalNumber("rot_deg").orElse(0),
                m.number("w_mm"),
                m.number("h_mm"),
                m.optionalNumber("height_mm"),
                m.list("pins", p -> new Pin(p.text("name"), p.text("net"), p.number("x_mm"), p.number("y_mm"))),
                m.optionalNumber("resistance"),
                m.flag("sensitive", false),
                m.list(
                        "supplies",
                        s -> new Supply(
                                s.text("in"), s.text("out"), s.optionalText("enable"), s.optionalNumber("nominal_v"))),
                m.optionalObject("gate").map(g -> new Gate(g.text("net"), g.choice("on_when", Gate.OnWhen.class))),
                m.optionalObject("expects")
                        .map(e -> new PortExpectation(
                                range(e, "volts"),
                                range(e, "standby_a"),
                                range(e, "run_a"),
                                range(e, "charge_a"),
                                e.flag("reversible", false))),
                m.optionalText("paired_with"),
                m.optionalChoice("stack", Storey.class));
    }

    private static TestPoint testPoint(Member m) {
        return placed(m, (x, y) -> new TestPoint(m.text("ref"), m.text("net"), m.choice("side", Side.class), x, y));
    }

    private static Fiducial fiducial(Member m) {
        boolean both = m.optionalText("side").map("both"::equals).orElse(true);
        Optional<Side> side = both ? Optional.empty() : m.optionalChoice("side", Side.class);
        return placed(m, (x, y) -> new Fiducial(m.text("name"), side, x, y));
    }

    private static <T> T placed(Member m, BiFunction<Double, Double, T> make) {
        return make.apply(m.number("x_mm"), m.number("y_mm"));
    }

    private static ObjectNode write(Net net) {
        ObjectNode node = Fields.object();
        node.put("name", net.name());
        Fields.word(node, "kind", net.kind());
        Fields.number(node, "nominal_v", net.nominalVolts());
        net.expect().ifPresent(e -> {
            ObjectNode expect = node.putObject("expect");
            range(expect, "ohms", e.ohms());
            range(expect, "diode_v", e.diodeVolts());
        });
        return node;
    }

    private static void range(ObjectNode node, String name, Optional<Range> range) {
        range.ifPresent(r -> node.set(name, Fields.numbers(r.low(), r.high())));
    }

    private static void place(ObjectNode node, double xMm, double yMm) {
        Fields.number(node, "x_mm", xMm);
        Fields.number(node, "y_mm", yMm);
    }

    private static ObjectNode write(Part part) {
        ObjectNode node = Fields.object();
        node.put("ref", part.ref());
        Fields.word(node, "kind", part.kind());
        Fields.word(node, "role", part.statedRole());
        Fields.text(node, "value", part.value());
        Fields.number(node, "volts_rated", part.voltsRated());
        Fields.text(node, "package", part.packageName());
        Fields.word(node, "side", part.side());
        place(node, part.xMm(), part.yMm());
        Fields.number(node, "rot_deg", part.rotDeg());
        Fields.number(node, "w_mm", part.wMm());
        Fields.number(node, "h_mm", part.hMm());
        Fields.number(node, "height_mm", part.heightMm());
        Fields.number(node, "resistance", part.resistanceOhms());
        if (part.sensitive()) {
            node.put("sensitive", true);
        }
        ArrayNode pins = node.putArray("pins");
        for (Pin pin : part.pins()) {
            ObjectNode p = pins.addObject();
            p.put("name", pin.name()).put("net", pin.net());
            place(p, pin.xMm(), pin.yMm());
        }
        if (!part.supplies().isEmpty()) {
            ArrayNode supplies = node.putArray("supplies");
            for (Supply supply : part.supplies()) {
                ObjectNode s = supplies.addObject();
                s.put("in", supply.in()).put("out", supply.out());
                Fields.text(s, "enable", supply.enable());
                Fields.number(s, "nominal_v", supply.nominalVolts());
            }
        }
        part.gate().ifPresent(g -> {
            ObjectNode gate = node.putObject("gate");
            gate.put("net", g.net());
            Fields.word(gate, "on_when", g.onWhen());
        });
        part.expects().ifPresent(e -> {
            ObjectNode expects = node.putObject("expects");
            range(expects, "volts", e.volts());
            range(expects, "standby_a", e.standbyAmps());
            range(expects, "run_a", e.runAmps());
            range(expects, "charge_a", e.chargeAmps());
            expects.put("reversible", e.reversible());
        });
        Fields.text(node, "paired_with", part.pairedWith());
        Fields.word(node, "stack", part.storey());
        return node;
    }
}
