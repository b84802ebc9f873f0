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
import ohmoscope.core.board.Supply;
import ohmoscope.core.board.TestPoint;

/** A board being laid out by hand: parts by package, references counted as they come, nets made when first named. */
final class BoardDraft {
    /** Body size and height of a package, mm. */
    private record Body(String name, double w, double h, double height) {}

    private static final Map<String, Body> BODIES = Map.ofEntries(
            Map.entry("0402", new Body("0402", 1.0, 0.5, 0.5)),
            Map.entry("0603", new Body("0603", 1.6, 0.8, 0.8)),
            Map.entry("0805", new Body("0805", 2.0, 1.25, 1.25)),
            Map.entry("1206", new Body("1206", 3.2, 1.6, 1.6)),
            Map.entry("1210", new Body("1210", 3.2, 2.5, 2.0)));
    private static final double PAD_INSET = 0.15;

    private final String name;
    private final String revision;
    private final double wMm;
    private final double hMm;
    private final double thicknessMm;
    private final int layers;
    private final Map<String, Net> nets = new LinkedHashMap<>();
    private final List<Part> parts = new ArrayList<>();
    private final List<TestPoint> points = new ArrayList<>();
    private final Map<String, Integer> counts = new HashMap<>();
    private int signals;

    BoardDraft(String name, String revision, double wMm, double hMm, double thicknessMm, int layers) {
        this.name = name;
        this.revision = revision;
        this.wMm = wMm;
        this.hMm = hMm;
        this.thicknessMm = thicknessMm;
        this.layers = layers;
        nets.put("GND", new Net("GND", NetKind.GROUND, OptionalDouble.empty(), Optional.empty()));
    }

    void rail(String net, double volts, double lowOhms, double highOhms, double lowDiode, double highDiode) {
        Expectation expect =
                new Expectation(Optional.of(new Range(lowOhms, highOhms)), Optional.of(new Range(lowDiode, highDiode)));
        nets.put(net, new Net(net, NetKind.POWER, OptionalDouble.of(volts), Optional.of(expect)));
    }

    private String known(String net) {
        nets.computeIfAbsent(net, n -> new Net(n, NetKind.SIGNAL, OptionalDouble.empty(), Optional.empty()));
        return net;
    }

    String signal() {
        return known(String.format("S%03d", ++signals));
    }

    private String next(String letter) {
        return letter + counts.merge(letter, 1, Integer::sum);
    }

    /** A two-pin chip part; pin 1 is at the left of the unturned body. */
    String twoPin(
            PartKind kind,
            String letter,
            String value,
            String packageName,
            Side side,
            double x,
            double y,
            double rot,
            String netA,
            String netB) {
        return twoPin(kind, letter, value, packageName, side, x, y, rot, netA, netB, OptionalDouble.empty());
    }

    String twoPin(
            PartKind kind,
            String letter,
            String value,
            String packageName,
            Side side,
            double x,
            double y,
            double rot,
            String netA,
            String netB,
            OptionalDouble ohms) {
        Body body = BODIES.get(packageName);
        double reach = body.w / 2 - PAD_INSET;
        double c = Math.cos(Math.toRadians(rot));
        double s = Math.sin(Math.toRadians(rot));
        List<Pin> pins = List.of(
                pin("1", known(netA), x - reach * c, y - reach * s),
                pin("2", known(netB), x + reach * c, y + reach * s));
        OptionalDouble volts = kind == PartKind.CAPACITOR ? OptionalDouble.of(25) : OptionalDouble.empty();
        return add(
                next(letter),
                kind,
                Optional.empty(),
                value,
                volts,
                body.name,
                side,
                x,
                y,
                rot,
                body.w,
                body.h,
                body.height,
                pins,
                ohms,
                List.of(),
                Optional.empty(),
                Optional.empty());
    }

    String cap(String value, String packageName, Side side, double x, double y, double rot, String rail) {
        return twoPin(PartKind.CAPACITOR, "C", value, packageName, side, x, y, rot, rail, "GND");
    }

    String resistor(String value, String packageName, Side side, double x, double y, double rot, String a, String b) {
        return twoPin(PartKind.RESISTOR, "R", value, packageName, side, x, y, rot, a, b);
    }

    /** A chip with pins round its edge, in the order of the nets given, counter-clockwise from the lower left. */
    String chip(
            String value,
            Side side,
            double x,
            double y,
            double size,
            Role role,
            List<String> around,
            List<Supply> supplies) {
        List<Pin> pins = new ArrayList<>();
        int n = around.size();
        for (int i = 0; i < n; i++) {
            double along = 4.0 * i / n;
            int edge = (int) along;
            double part = (along - edge) - 0.5 + 0.5 / Math.max(1, n / 4.0);
            double reach = size / 2 - 0.2;
            double px = edge == 0 ? part * size * 0.85 : edge == 1 ? reach : edge == 2 ? -part * size * 0.85 : -reach;
            double py = edge == 0 ? -reach : edge == 1 ? part * size * 0.85 : edge == 2 ? reach : -part * size * 0.85;
            pins.add(pin(Integer.toString(i + 1), known(around.get(i)), x + px, y + py));
        }
        return add(
                next("U"),
                PartKind.IC,
                Optional.of(role),
                value,
                OptionalDouble.empty(),
                size > 6 ? "ball" : "no-lead",
                side,
                x,
                y,
                0,
                size,
                size,
                size > 6 ? 1.2 : 0.85,
                pins,
                OptionalDouble.empty(),
                supplies,
                Optional.empty(),
                Optional.empty());
    }

    /** A three-pin transistor or MOSFET. */
    String transistor(
            PartKind kind,
            String value,
            Side side,
            double x,
            double y,
            String a,
            String b,
            String c,
            Optional<Gate> gate,
            OptionalDouble ohms) {
        List<Pin> pins = List.of(
                pin("1", known(a), x - 0.95, y - 1.0),
                pin("2", known(b), x + 0.95, y - 1.0),
                pin("3", known(c), x, y + 1.0));
        Optional<Role> role = gate.isPresent() ? Optional.of(Role.PASS) : Optional.of(Role.DRIVE);
        return add(
                next("Q"),
                kind,
                role,
                value,
                OptionalDouble.empty(),
                "three-lead",
                side,
                x,
                y,
                0,
                2.9,
                1.4,
                1.0,
                pins,
                ohms,
                List.of(),
                gate,
                Optional.empty());
    }

    String inductor(String value, Side side, double x, double y, double size, String in, String out, double ohms) {
        List<Pin> pins =
                List.of(pin("1", known(in), x - size / 2 + 0.4, y), pin("2", known(out), x + size / 2 - 0.4, y));
        return add(
                next("L"),
                PartKind.INDUCTOR,
                Optional.empty(),
                value,
                OptionalDouble.empty(),
                "moulded",
                side,
                x,
                y,
                0,
                size,
                size,
                2.0,
                pins,
                OptionalDouble.of(ohms),
                List.of(),
                Optional.empty(),
                Optional.empty());
    }

    String connector(
            Side side,
            double x,
            double y,
            double w,
            double h,
            List<String> contacts,
            Optional<PortExpectation> expects) {
        List<Pin> pins = new ArrayList<>();
        for (int i = 0; i < contacts.size(); i++) {
            double share = (i + 0.5) / contacts.size() - 0.5;
            double px = h > w ? w / 2 - 0.5 : share * w * 0.9;
            double py = h > w ? share * h * 0.9 : h / 2 - 0.5;
            pins.add(pin(Integer.toString(i + 1), known(contacts.get(i)), x + px, y + py));
        }
        return add(
                next("J"),
                PartKind.CONNECTOR,
                Optional.of(Role.CONNECTOR),
                "",
                OptionalDouble.empty(),
                "",
                side,
                x,
                y,
                0,
                w,
                h,
                3.0,
                pins,
                OptionalDouble.empty(),
                List.of(),
                Optional.empty(),
                expects);
    }

    String shield(Side side, double x, double y, double w, double h) {
        List<Pin> pins = List.of(pin("1", "GND", x - w / 2, y), pin("2", "GND", x + w / 2, y));
        return add(
                next("SH"),
                PartKind.SHIELD,
                Optional.empty(),
                "",
                OptionalDouble.empty(),
                "",
                side,
                x,
                y,
                0,
                w,
                h,
                2.0,
                pins,
                OptionalDouble.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty());
    }

    String crystal(Side side, double x, double y, String a, String b) {
        List<Pin> pins = List.of(pin("1", known(a), x - 0.9, y), pin("2", known(b), x + 0.9, y));
        return add(
                next("Y"),
                PartKind.CRYSTAL,
                Optional.empty(),
                "",
                OptionalDouble.empty(),
                "3225",
                side,
                x,
                y,
                0,
                3.2,
                2.5,
                0.7,
                pins,
                OptionalDouble.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty());
    }

    void testPoint(String net, Side side, double x, double y) {
        points.add(new TestPoint(next("TP"), known(net), side, x, y));
    }

    private static Pin pin(String pinName, String net, double x, double y) {
        return new Pin(pinName, net, rounded(x), rounded(y));
    }

    private String add(
            String ref,
            PartKind kind,
            Optional<Role> role,
            String value,
            OptionalDouble volts,
            String packageName,
            Side side,
            double x,
            double y,
            double rot,
            double w,
            double h,
            double height,
            List<Pin> pins,
            OptionalDouble ohms,
            List<Supply> supplies,
            Optional<Gate> gate,
            Optional<PortExpectation> expects) {
        boolean sensitive = kind == PartKind.CONNECTOR || kind == PartKind.IC && w > 6;
        parts.add(new Part(
                ref,
                kind,
                role,
                value,
                volts,
                packageName,
                side,
                rounded(x),
                rounded(y),
                rot,
                w,
                h,
                OptionalDouble.of(height),
                pins,
                ohms,
                sensitive,
                supplies,
                gate,
                expects,
                Optional.empty(),
                Optional.empty()));
        return ref;
    }

    private static double rounded(double mm) {
        return Math.round(mm * 100) / 100.0;
    }

    Board done() {
        double r = 2;
        Outline outline = new Outline(List.of(
                new PointMm(r, 0),
                new PointMm(wMm - r, 0),
                new PointMm(wMm, r),
                new PointMm(wMm, hMm - r),
                new PointMm(wMm - r, hMm),
                new PointMm(r, hMm),
                new PointMm(0, hMm - r),
                new PointMm(0, r)));
        List<Fiducial> marks = List.of(
                new Fiducial("mark-a", Optional.empty(), 3, 3),
                new Fiducial("mark-b", Optional.empty(), wMm - 3, hMm - 3),
                new Fiducial("mark-c", Optional.empty(), 3, hMm - 3));
        return new Board(
                name, revision, outline, thicknessMm, layers, 18, List.copyOf(nets.values()), parts, points, marks);
    }
}
