package ohmoscope.bench.demo;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Expectation;
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

/** A board written down as its circuit, pins by name ({@code "VIN=VSYS"}), placed by hand. */
public final class Sketch {
    private final String name;
    private final double wMm;
    private final double hMm;
    private final Map<String, Net> nets = new LinkedHashMap<>();
    private final List<Part> parts = new ArrayList<>();
    private final List<TestPoint> points = new ArrayList<>();
    private final Map<String, Integer> counts = new HashMap<>();
    private Optional<Storey> storey = Optional.empty();
    private Side side = Side.TOP;
    private Optional<Draft> draft = Optional.empty();

    public Sketch(String name, double wMm, double hMm) {
        this.name = name;
        this.wMm = wMm;
        this.hMm = hMm;
        nets.put("GND", new Net("GND", NetKind.GROUND, OptionalDouble.empty(), Optional.empty()));
    }

    /** A rail with its voltage and what a good board reads. */
    public Sketch rail(String net, double volts, double lowOhms, double highOhms, double lowDiode, double highDiode) {
        Expectation expect =
                new Expectation(Optional.of(new Range(lowOhms, highOhms)), Optional.of(new Range(lowDiode, highDiode)));
        nets.put(net, new Net(net, NetKind.POWER, OptionalDouble.of(volts), Optional.of(expect)));
        return this;
    }

    /** A rail of which nobody says what a good board reads. */
    public Sketch bareRail(String net, double volts) {
        nets.put(net, new Net(net, NetKind.POWER, OptionalDouble.of(volts), Optional.empty()));
        return this;
    }

    /** References with this letter go on from {@code number}. */
    public Sketch numberedFrom(String letter, int number) {
        counts.put(letter, number);
        return this;
    }

    /** The parts that follow are on this storey. */
    public Sketch on(Storey where) {
        storey = Optional.of(where);
        return this;
    }

    /** The parts that follow are on this side. */
    public Sketch on(Side where) {
        side = where;
        return this;
    }

    private String known(String net) {
        nets.computeIfAbsent(net, n -> new Net(n, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty()));
        return net;
    }

    private String next(String letter) {
        return letter + counts.merge(letter, 1, Integer::sum);
    }

    /** A row of equal bypass capacitors, 2.2 mm apart. */
    public Sketch caps(int count, String value, double volts, String rail, double x, double y) {
        for (int i = 0; i < count; i++) {
            double px = x + 2.2 * i;
            add(
                                    next("C"),
                                    PartKind.CAPACITOR,
                                    Optional.of(Role.BYPASS),
                                    value,
                                    px,
                                    y,
                                    1.6,
                                    0.8,
                                    List.of("1=" + rail, "2=GND"))
                            .volts =
                    OptionalDouble.of(volts);
            place();
        }
        return this;
    }

    public Sketch resistor(String value, String a, String b, double x, double y) {
        add(next("R"), PartKind.RESISTOR, Optional.empty(), value, x, y, 1.0, 0.5, List.of("1=" + a, "2=" + b));
        return place();
    }

    public Sketch series(
            PartKind kind, String letter, String value, double ohms, String a, String b, double x, double y) {
        add(next(letter), kind, Optional.of(Role.SERIES), value, x, y, 3.2, 1.6, List.of("1=" + a, "2=" + b)).ohms =
                OptionalDouble.of(ohms);
        return place();
    }

    public Sketch clamp(String net, double x, double y) {
        add(next("D"), PartKind.TVS, Optional.of(Role.CLAMP), "clamp", x, y, 4.3, 2.6, List.of("1=" + net, "2=GND"));
        return place();
    }

    /** A switch in a rail. */
    public Sketch pass(String source, String gate, String drain, Gate.OnWhen onWhen, double x, double y) {
        Draft d = add(
                next("Q"),
                PartKind.MOSFET,
                Optional.of(Role.PASS),
                "switch",
                x,
                y,
                3,
                3,
                List.of("S=" + source, "G=" + gate, "D=" + drain));
        d.gate = Optional.of(new Gate(gate, onWhen));
        d.ohms = OptionalDouble.of(0.012);
        return place();
    }

    public Sketch smallFet(String gate, String drain, double x, double y) {
        add(
                next("Q"),
                PartKind.MOSFET,
                Optional.of(Role.DRIVE),
                "small FET",
                x,
                y,
                1.3,
                1.0,
                List.of("S=GND", "G=" + gate, "D=" + drain));
        return place();
    }

    public Sketch chip(
            String value, Role role, double size, double x, double y, List<Supply> supplies, String... pins) {
        Draft d = add(next("U"), PartKind.IC, Optional.of(role), value, x, y, size, size, List.of(pins));
        d.supplies = supplies;
        d.sensitive = size > 6;
        return place();
    }

    /** The last part works only with another. */
    public Sketch pairedWith(String ref) {
        Part last = parts.remove(parts.size() - 1);
        parts.add(new Part(
                last.ref(),
                last.kind(),
                last.statedRole(),
                last.value(),
                last.voltsRated(),
                last.packageName(),
                last.side(),
                last.xMm(),
                last.yMm(),
                last.rotDeg(),
                last.wMm(),
                last.hMm(),
                last.heightMm(),
                last.pins(),
                last.resistanceOhms(),
                last.sensitive(),
                last.supplies(),
                last.gate(),
                last.expects(),
                Optional.of(ref),
                last.storey()));
        return this;
    }

    public Sketch connector(
            String value, double w, double h, double x, double y, Optional<PortExpectation> expects, String... pins) {
        Draft d = add(next("J"), PartKind.CONNECTOR, Optional.of(Role.CONNECTOR), value, x, y, w, h, List.of(pins));
        d.expects = expects;
        d.sensitive = true;
        return place();
    }

    public Sketch point(String net, double x, double y) {
        points.add(new TestPoint(next("TP"), known(net), Side.TOP, x, y));
        return this;
    }

    /** What a part may have besides. */
    private static final class Draft {
        private final String ref;
        private final PartKind kind;
        private final Optional<Role> role;
        private final String value;
        private final double x;
        private final double y;
        private final double w;
        private final double h;
        private final List<Pin> pins;
        private OptionalDouble volts = OptionalDouble.empty();
        private OptionalDouble ohms = OptionalDouble.empty();
        private List<Supply> supplies = List.of();
        private Optional<Gate> gate = Optional.empty();
        private Optional<PortExpectation> expects = Optional.empty();
        private boolean sensitive;

        Draft(
                String ref,
                PartKind kind,
                Optional<Role> role,
                String value,
                double x,
                double y,
                double w,
                double h,
                List<Pin> pins) {
            this.ref = ref;
            this.kind = kind;
            this.role = role;
            this.value = value;
            this.x = x;
            this.y = y;
            this.w = w;
            this.h = h;
            this.pins = pins;
        }
    }

    private Draft add(
            String ref,
            PartKind kind,
            Optional<Role> role,
            String value,
            double x,
            double y,
            double w,
            double h,
            List<String> pins) {
        List<Pin> placed = new ArrayList<>();
        for (int i = 0; i < pins.size(); i++) {
            String[] pair = pins.get(i).split("=");
            double angle = Math.PI + 2 * Math.PI * i / pins.size();
            double px = x + (pins.size() == 2 ? (i - 0.5) * w * 0.8 : 0.42 * w * Math.cos(angle));
            double py = y + (pins.size() == 2 ? 0 : 0.42 * h * Math.sin(angle));
            placed.add(new Pin(pair[0], known(pair[1]), Math.round(px * 100) / 100.0, Math.round(py * 100) / 100.0));
        }
        Draft made = new Draft(ref, kind, role, value, x, y, w, h, placed);
        draft = Optional.of(made);
        return made;
    }

    private Sketch place() {
        Draft d = draft.orElseThrow();
        parts.add(new Part(
                d.ref,
                d.kind,
                d.role,
                d.value,
                d.volts,
                "",
                side,
                d.x,
                d.y,
                0,
                d.w,
                d.h,
                OptionalDouble.empty(),
                d.pins,
                d.ohms,
                d.sensitive,
                d.supplies,
                d.gate,
                d.expects,
                Optional.empty(),
                storey));
        return this;
    }

    public Board done() {
        Outline outline = new Outline(
                List.of(new PointMm(0, 0), new PointMm(wMm, 0), new PointMm(wMm, hMm), new PointMm(0, hMm)));
        return new Board(name, "A", outline, 1.2, 8, 18, List.copyOf(nets.values()), parts, points, List.of());
    }
}
