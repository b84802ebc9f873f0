package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Draft.Body;
import ohmoscope.core.layout.Draft.Pad;
import ohmoscope.core.layout.Draft.Place;
import ohmoscope.formats.layout.SExpressions.Node;

/**
 * {@code .kicad_pcb}, versions 4 to 9. Its y runs down and the board's up: places keep the file's origin with y turned
 * over. Angles are counter-clockwise as seen from the top in both.
 */
public final class KicadBoard implements BoardFormat {
    private static final String EDGE = "Edge.Cuts";
    /** A part's own point is its middle where it lies no farther from it than this share of its body. */
    private static final double MIDDLE = 0.15;

    private static final Set<String> PASSED = Set.of("segment", "arc", "via", "zone", "dimension", "target", "group");

    @Override
    public String name() {
        return "a .kicad_pcb board";
    }

    @Override
    public boolean recognises(String file, String head) {
        return head.stripLeading().startsWith("(kicad_pcb");
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        return new Reading(new SExpressions(in, file), file).read();
    }

    /** One file. */
    private static final class Reading {
        private final SExpressions in;
        private final String file;
        private final Drafting draft = new Drafting();
        private final Edges edges = new Edges();
        private final Map<String, String> netByNumber = new HashMap<>();

        Reading(SExpressions in, String file) {
            this.in = in;
            this.file = file;
        }

        Draft read() throws IOException {
            in.open();
            while (in.more()) {
                if (!in.listFollows()) {
                    in.word();
                    continue;
                }
                String head = in.open();
                switch (head) {
                    case "general" -> general(in.rest(head));
                    case "title_block" -> title(in.rest(head));
                    case "layers" -> layers(in.rest(head));
                    case "setup" -> setup(in.rest(head));
                    case "net" -> net(in.rest(head));
                    case "module", "footprint" -> footprint(in.rest(head));
                    default -> {
                        if (head.startsWith("gr_")) {
                            graphic(in.rest(head), new Frame(0, 0, 0));
                        } else {
                            if (PASSED.contains(head)) {
                                draft.unused(head);
                            }
                            in.skip();
                        }
                    }
                }
            }
            draft.outline = edges.outline();
            return draft.of(file);
        }

        private void general(Node node) {
            draft.thicknessMm = node.list("thickness").map(t -> t.number(0)).orElse(OptionalDouble.empty());
        }

        private void title(Node node) {
            draft.name = node.text("title").orElse("");
            draft.revision = node.text("rev").orElse("");
        }

        private void layers(Node node) {
            long copper = node.lists().stream()
                    .filter(l -> l.word(0).map(n -> n.endsWith(".Cu")).orElse(false))
                    .count();
            draft.copperLayers = copper > 0 ? OptionalInt.of((int) copper) : OptionalInt.empty();
        }

        private void setup(Node node) {
            node.list("stackup").stream()
                    .flatMap(s -> s.lists("layer"))
                    .filter(l -> l.word(0).map(n -> n.endsWith(".Cu")).orElse(false))
                    .flatMap(l -> l.list("thickness").stream())
                    .findFirst()
                    .map(t -> t.number(0))
                    .filter(OptionalDouble::isPresent)
                    .ifPresent(t -> draft.copperUm = OptionalDouble.of(1000 * t.getAsDouble()));
        }

        private void net(Node node) {
            String name = node.word(1).orElse(node.word(0).orElse(""));
            netByNumber.put(node.word(0).orElse(""), name);
            draft.net(name);
        }

        /** Where a footprint's own axes lie; degrees. */
        private record Frame(double xMm, double yMm, double turn) {
            PointMm of(double x, double y) {
                double angle = Math.toRadians(turn);
                return new PointMm(
                        xMm + x * Math.cos(angle) + y * Math.sin(angle),
                        -(yMm - x * Math.sin(angle) + y * Math.cos(angle)));
            }

            PointMm of(Node at) {
                return of(at.number(0).orElse(0), at.number(1).orElse(0));
            }
        }

        private void footprint(Node node) throws IOException {
            Node at = node.list("at")
                    .orElseThrow(() -> in.fault(node.line(), "the " + node.head() + " has no place (at x y)"));
            if (at.number(0).isEmpty() || at.number(1).isEmpty()) {
                throw in.fault(at.line(), "a place must be two numbers, (at x y)");
            }
            Frame frame = new Frame(
                    at.number(0).getAsDouble(),
                    at.number(1).getAsDouble(),
                    at.number(2).orElse(0));
            for (Node list : node.lists()) {
                if (list.head().startsWith("fp_")) {
                    graphic(list, frame);
                }
            }
            String ref = property(node, "reference", "Reference");
            Side side = node.text("layer").map(l -> l.startsWith("B.")).orElse(false) ? Side.BOTTOM : Side.TOP;
            List<Pad> pads = new ArrayList<>();
            Extent extent = new Extent();
            for (Node pad : node.lists("pad").toList()) {
                pad(pad, frame, pads, extent);
            }
            String packageName =
                    node.word(0).map(w -> w.substring(w.indexOf(':') + 1)).orElse("");
            boolean drawing = pads.isEmpty()
                    && !ref.toUpperCase(java.util.Locale.ROOT).startsWith("FID")
                    && !packageName.contains("iducial");
            if (ref.isBlank() || drawing) {
                draft.unused(ref.isBlank() ? "footprints without a reference" : "footprints without pads");
                return;
            }
            Extent drawn = drawn(node);
            Extent body = drawn.any ? drawn : extent;
            PointMm middle = body.any && !body.aroundOrigin() ? frame.of(body.xMm(), body.yMm()) : frame.of(0, 0);
            draft.part(new Draft.DraftPart(
                    ref,
                    property(node, "value", "Value"),
                    packageName,
                    Optional.of(new Place(side, middle.xMm(), middle.yMm(), frame.turn())),
                    body.body(),
                    pads,
                    node.list("attr").map(a -> !a.words().contains("dnp")).orElse(true)));
        }

        private static String property(Node footprint, String before6, String since6) {
            return footprint
                    .lists("property")
                    .filter(p -> p.word(0).map(since6::equals).orElse(false))
                    .flatMap(p -> p.word(1).stream())
                    .findFirst()
                    .or(() -> footprint
                            .lists("fp_text")
                            .filter(t -> t.word(0).map(before6::equals).orElse(false))
                            .flatMap(t -> t.word(1).stream())
                            .findFirst())
                    .orElse("");
        }

        private void pad(Node pad, Frame frame, List<Pad> pads, Extent extent) {
            Optional<Node> at = pad.list("at");
            Optional<Node> size = pad.list("size");
            if (at.isEmpty()) {
                draft.unused("pads without a place");
                return;
            }
            double x = at.get().number(0).orElse(0);
            double y = at.get().number(1).orElse(0);
            double turn = Math.toRadians(at.get().number(2).orElse(0) - frame.turn());
            double w = size.map(s -> s.number(0).orElse(0)).orElse(0.0) / 2;
            double h = size.map(s -> s.number(1).orElse(0)).orElse(0.0) / 2;
            double halfX = Math.abs(w * Math.cos(turn)) + Math.abs(h * Math.sin(turn));
            double halfY = Math.abs(w * Math.sin(turn)) + Math.abs(h * Math.cos(turn));
            extent.add(x - halfX, y - halfY);
            extent.add(x + halfX, y + halfY);
            String name = pad.word(0).orElse("");
            if (name.isBlank()) {
                return;
            }
            PointMm place = frame.of(x, y);
            pads.add(new Pad(name, netOf(pad), pad.text("pinfunction").orElse(""), place.xMm(), place.yMm()));
        }

        private Optional<String> netOf(Node pad) {
            return pad.list("net")
                    .flatMap(n -> n.word(1).or(() -> n.word(0).map(w -> netByNumber.getOrDefault(w, w))))
                    .filter(n -> !n.isBlank());
        }

        /** What the footprint draws as its body: the fabrication layer, else the courtyard. */
        private static Extent drawn(Node footprint) {
            for (String layer : List.of(".Fab", ".CrtYd")) {
                Extent extent = new Extent();
                for (Node list : footprint.lists()) {
                    if (list.head().startsWith("fp_")
                            && !list.head().startsWith("fp_text")
                            && list.text("layer").map(l -> l.endsWith(layer)).orElse(false)) {
                        extent.add(list);
                    }
                }
                if (extent.any && extent.body().isPresent()) {
                    return extent;
                }
            }
            return new Extent();
        }

        private void graphic(Node node, Frame frame) {
            if (!node.text("layer").map(EDGE::equals).orElse(false)) {
                return;
            }
            String shape = node.head().substring(node.head().indexOf('_') + 1);
            Optional<PointMm> start = node.list("start").map(frame::of);
            Optional<PointMm> end = node.list("end").map(frame::of);
            Optional<PointMm> middle = node.list("mid").map(frame::of);
            switch (shape) {
                case "line" -> start.ifPresent(s -> end.ifPresent(e -> edges.line(s, e)));
                case "rect" -> start.ifPresent(s -> end.ifPresent(e -> rectangle(node, frame)));
                case "circle" -> {
                    Optional<PointMm> centre = node.list("center").map(frame::of);
                    centre.ifPresent(c -> end.ifPresent(e -> edges.circle(c, c.distanceMm(e.xMm(), e.yMm()))));
                }
                case "arc" -> {
                    if (start.isPresent() && end.isPresent() && middle.isPresent()) {
                        edges.arc(start.get(), middle.get(), end.get());
                    } else if (start.isPresent() && end.isPresent()) {
                        // Before version 6: start is the centre, end the beginning, and the angle runs clockwise.
                        PointMm centre = start.get();
                        double from = Math.atan2(
                                end.get().yMm() - centre.yMm(), end.get().xMm() - centre.xMm());
                        double sweep = node.list("angle")
                                .map(a -> a.number(0).orElse(0))
                                .orElse(0.0);
                        edges.arc(
                                centre,
                                centre.distanceMm(end.get().xMm(), end.get().yMm()),
                                from,
                                -Math.toRadians(sweep));
                    }
                }
                case "poly" -> {
                    List<PointMm> points = points(node, frame);
                    if (points.size() > 2) {
                        edges.ring(points);
                    }
                }
                case "curve" -> edges.stroke(bezier(points(node, frame)));
                default -> {}
            }
        }

        private void rectangle(Node node, Frame frame) {
            Node a = node.list("start").orElseThrow();
            Node b = node.list("end").orElseThrow();
            double ax = a.number(0).orElse(0);
            double ay = a.number(1).orElse(0);
            double bx = b.number(0).orElse(0);
            double by = b.number(1).orElse(0);
            edges.ring(List.of(frame.of(ax, ay), frame.of(bx, ay), frame.of(bx, by), frame.of(ax, by)));
        }

        private static List<PointMm> points(Node node, Frame frame) {
            return node.list("pts").stream()
                    .flatMap(p -> p.lists("xy"))
                    .map(frame::of)
                    .toList();
        }

        private static List<PointMm> bezier(List<PointMm> p) {
            if (p.size() != 4) {
                return p;
            }
            List<PointMm> points = new ArrayList<>();
            for (int i = 0; i <= 24; i++) {
                double t = i / 24.0;
                double u = 1 - t;
                double[] w = {u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t};
                double x = 0;
                double y = 0;
                for (int k = 0; k < 4; k++) {
                    x += w[k] * p.get(k).xMm();
                    y += w[k] * p.get(k).yMm();
                }
                points.add(new PointMm(x, y));
            }
            return points;
        }
    }

    /** The smallest rectangle round what was drawn, in the footprint's own axes. */
    private static final class Extent {
        private boolean any;
        private double left = Double.POSITIVE_INFINITY;
        private double low = Double.POSITIVE_INFINITY;
        private double right = Double.NEGATIVE_INFINITY;
        private double high = Double.NEGATIVE_INFINITY;

        void add(double x, double y) {
            any = true;
            left = Math.min(left, x);
            right = Math.max(right, x);
            low = Math.min(low, y);
            high = Math.max(high, y);
        }

        void add(Node shape) {
            if (shape.head().equals("fp_circle")) {
                shape.list("center")
                        .ifPresent(c -> shape.list("end").ifPresent(e -> {
                            double x = c.number(0).orElse(0);
                            double y = c.number(1).orElse(0);
                            double r = Math.hypot(
                                    e.number(0).orElse(0) - x, e.number(1).orElse(0) - y);
                            add(x - r, y - r);
                            add(x + r, y + r);
                        }));
                return;
            }
            for (Node point : shape.lists()) {
                if (Set.of("start", "mid", "end").contains(point.head())) {
                    add(point.number(0).orElse(0), point.number(1).orElse(0));
                }
            }
            shape.list("pts").stream()
                    .flatMap(p -> p.lists("xy"))
                    .forEach(p -> add(p.number(0).orElse(0), p.number(1).orElse(0)));
        }

        double xMm() {
            return (left + right) / 2;
        }

        double yMm() {
            return (low + high) / 2;
        }

        boolean aroundOrigin() {
            return Math.abs(xMm()) <= MIDDLE * (right - left) && Math.abs(yMm()) <= MIDDLE * (high - low);
        }

        Optional<Body> body() {
            return any && right > left && high > low
                    ? Optional.of(new Body(right - left, high - low))
                    : Optional.empty();
        }
    }
}
