package ohmoscope.web.kit;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Verdict;
import ohmoscope.web.analysis.StoredAnalysis;
import org.springframework.web.util.HtmlUtils;

/**
 * One side of a board as shapes for an SVG whose unit is the millimetre, y down. The bottom is turned over left to right,
 * as a hand would.
 */
public record BoardPicture(
        Side side,
        String viewBox,
        double widthMm,
        double heightMm,
        String outline,
        List<Shape> parts,
        List<Line> contours,
        List<Flag> flags,
        Optional<Ellipse> source,
        List<Mark> probes,
        double secondsAfterPower,
        boolean pictured) {
    private static final double MARGIN_MM = 2.5;
    private static final int FLAGS = 3;
    private static final double FLAG_FROM = 0.005;

    /** @param tip what hovering or focusing tells */
    public record Shape(
            String ref, double x, double y, double w, double h, double rot, boolean rail, PartKind kind, String tip) {
        /** Where the ends of a two-pin body begin, of its width from the middle. */
        private static final double END_SHARE = 0.27;

        /** How wide it stands on the page, mm. */
        public double across() {
            return Math.round(rot / 90) % 2 == 0 ? w : h;
        }

        public double down() {
            return Math.round(rot / 90) % 2 == 0 ? h : w;
        }

        /** What the layers of a board's page go by. */
        private String layer() {
            return switch (kind) {
                case SHIELD -> " can";
                case IC -> " chip";
                case CONNECTOR -> " con";
                default -> "";
            };
        }

        private void write(StringBuilder svg) {
            String name = HtmlUtils.htmlEscape(ref, "UTF-8");
            svg.append("<g class=\"part").append(rail ? " rail" : "").append(layer());
            svg.append("\" tabindex=\"-1\" role=\"img\" focusable=\"true\" data-ref=\"")
                    .append(name);
            svg.append("\" aria-label=\"").append(HtmlUtils.htmlEscape(tip, "UTF-8"));
            svg.append("\" data-w=\"")
                    .append(mm(across()))
                    .append("\" data-h=\"")
                    .append(mm(down()));
            svg.append("\" transform=\"translate(").append(mm(x)).append(' ').append(mm(y));
            svg.append(") rotate(").append(Math.round(rot)).append(")\">");
            svg.append("<rect x=\"").append(mm(-w / 2)).append("\" y=\"").append(mm(-h / 2));
            svg.append("\" width=\"")
                    .append(mm(w))
                    .append("\" height=\"")
                    .append(mm(h))
                    .append("\"></rect>");
            if (kind == PartKind.IC) {
                svg.append("<circle class=\"one\" r=\"0.28\" cx=\"").append(mm(0.7 - w / 2));
                svg.append("\" cy=\"").append(mm(h / 2 - 0.7)).append("\"></circle>");
            } else if (kind != PartKind.SHIELD) {
                svg.append("<path d=\"M").append(mm(-w * END_SHARE)).append(' ').append(mm(-h / 2));
                svg.append('V')
                        .append(mm(h / 2))
                        .append('M')
                        .append(mm(w * END_SHARE))
                        .append(' ');
                svg.append(mm(-h / 2)).append('V').append(mm(h / 2)).append("\"></path>");
            }
            svg.append("<text class=\"ref\" transform=\"rotate(")
                    .append(Math.round(-rot))
                    .append(")\">");
            svg.append(name).append("</text></g>\n");
        }

        /** To a thousandth: a board's data has no more. */
        private static double mm(double value) {
            return Math.round(value * 1000) / 1000.0;
        }
    }

    /**
     * The parts' bodies as markup, every text in it escaped. The one thing of a page that a template does not write: a board
     * has thousands of them, and each is the same few numbers.
     */
    public String bodies() {
        StringBuilder svg = new StringBuilder(parts.size() * 400);
        parts.forEach(part -> part.write(svg));
        return svg.toString();
    }

    /** Where the picture's left and top are, in its own millimetres. */
    public String left() {
        return viewBox.split(" ")[0];
    }

    public String top() {
        return viewBox.split(" ")[1];
    }

    /** A contour with the place of its label. @param weight 0 (outermost) to 4 */
    public record Line(String points, String label, double labelX, double labelY, int weight) {}

    /** A suspect's flag: where it points and where it stands, the latter in pixels from the former. */
    public record Flag(int rank, String ref, double x, double y, int dx, int dy, int ring) {
        /** Where the line from the ring to the flag starts. */
        public String lead() {
            double length = Math.hypot(dx, dy);
            return String.format(Locale.ROOT, "M%.1f %.1f L%d %d", 11 * dx / length, 11 * dy / length, dx, dy);
        }
    }

    /** One-sigma ellipse of the source. */
    public record Ellipse(double x, double y, double rx, double ry, double rot, String watts) {
        public String transform() {
            return String.format(Locale.ROOT, "translate(%.2f %.2f) rotate(%.0f)", x, y, rot);
        }
    }

    /** A part to be flagged, most probable first in its list. */
    public record Named(String ref, double probability) {}

    /** Where a lead sits. @param left whether its words stand to the left */
    public record Mark(double x, double y, String words, boolean left) {}

    /** @param analysis empty when nothing has been computed */
    public static BoardPicture of(
            Board board, String rail, Side side, Optional<Injection> injection, Optional<StoredAnalysis> analysis) {
        return of(board, rail, side, injection, analysis, named(analysis));
    }

    /** @param named the suspects to flag */
    public static BoardPicture of(
            Board board,
            String rail,
            Side side,
            Optional<Injection> injection,
            Optional<StoredAnalysis> analysis,
            List<Named> named) {
        return new Maker(board, rail, side, leads(injection), analysis, named).make();
    }

    /** A place to be pointed at. */
    public record Spot(Side side, double xMm, double yMm, String words) {}

    /** The board with places for the probe, and the net that they are on inked. */
    public static BoardPicture pointing(Board board, String net, Side side, List<Spot> spots) {
        return new Maker(board, net, side, spots, Optional.empty(), List.of()).make();
    }

    /**
     * One capture's lines of equal warmth in the board's own axes, as seen from the top: the bottom is looked at through
     * the board, so that two sides can be laid beside each other.
     */
    public static BoardPicture inBoardAxes(Board board, String rail, StoredAnalysis analysis, String capture) {
        Side side = analysis.capture(capture).orElseThrow().side();
        StoredAnalysis alone = analysis.only(capture);
        return new Maker(board, rail, side, List.of(), Optional.of(alone), named(Optional.of(alone)), false).make();
    }

    private static List<Spot> leads(Optional<Injection> injection) {
        List<Spot> spots = new ArrayList<>();
        injection.flatMap(Injection::at).ifPresent(p -> spots.add(new Spot(p.side(), p.xMm(), p.yMm(), "fed here")));
        injection
                .flatMap(Injection::returnAt)
                .ifPresent(p -> spots.add(new Spot(p.side(), p.xMm(), p.yMm(), "return")));
        return spots;
    }

    /** The suspects that the frames name. */
    public static List<Named> named(Optional<StoredAnalysis> analysis) {
        return analysis.filter(a -> a.verdict() != Verdict.NONE)
                .map(a -> a.suspects().stream()
                        .map(s -> new Named(s.ref(), s.probability()))
                        .toList())
                .orElse(List.of());
    }

    private static final class Maker {
        private final Board board;
        private final String rail;
        private final Side side;
        private final List<Spot> spots;
        private final Optional<StoredAnalysis> analysis;
        private final double x0;
        private final double x1;
        private final double y0;
        private final double y1;
        private final List<Named> named;
        private final Map<String, Double> probability = new TreeMap<>();
        private final boolean turnedOver;

        Maker(
                Board board,
                String rail,
                Side side,
                List<Spot> spots,
                Optional<StoredAnalysis> analysis,
                List<Named> named) {
            this(board, rail, side, spots, analysis, named, side == Side.BOTTOM);
        }

        /** @param turnedOver whether left and right change places, as when a hand turns the board over */
        Maker(
                Board board,
                String rail,
                Side side,
                List<Spot> spots,
                Optional<StoredAnalysis> analysis,
                List<Named> named,
                boolean turnedOver) {
            this.turnedOver = turnedOver;
            this.board = board;
            this.rail = rail;
            this.side = side;
            this.spots = spots;
            this.analysis = analysis;
            Outline outline = board.outline();
            x0 = outline.minXMm();
            x1 = outline.maxXMm();
            y0 = outline.minYMm();
            y1 = outline.maxYMm();
            this.named = named;
            named.forEach(s -> probability.put(s.ref(), s.probability()));
        }

        BoardPicture make() {
            Optional<StoredAnalysis.StoredCapture> capture = analysis.flatMap(a -> a.captureOf(side));
            String box = String.format(
                    Locale.ROOT,
                    "%.2f %.2f %.2f %.2f",
                    x0 - MARGIN_MM,
                    y0 - MARGIN_MM,
                    x1 - x0 + 2 * MARGIN_MM,
                    y1 - y0 + 2 * MARGIN_MM);
            String outline = board.outline().corners().stream()
                    .map(p -> String.format(Locale.ROOT, "%.2f,%.2f", sx(p.xMm()), sy(p.yMm())))
                    .collect(Collectors.joining(" "));
            return new BoardPicture(
                    side,
                    box,
                    x1 - x0 + 2 * MARGIN_MM,
                    y1 - y0 + 2 * MARGIN_MM,
                    outline,
                    shapes(),
                    capture.map(this::lines).orElse(List.of()),
                    flags(),
                    analysis.flatMap(StoredAnalysis::source)
                            .filter(s -> s.side() == side)
                            .map(this::ellipse),
                    probes(),
                    capture.map(StoredAnalysis.StoredCapture::secondsAfterPower).orElse(0.0),
                    capture.isPresent());
        }

        private double sx(double xMm) {
            return turnedOver ? x0 + x1 - xMm : xMm;
        }

        private double sy(double yMm) {
            return y0 + y1 - yMm;
        }

        private double turned(double deg) {
            return turnedOver ? deg : -deg;
        }

        private List<Shape> shapes() {
            List<Shape> shapes = new ArrayList<>();
            for (Part part : board.parts()) {
                if (part.side() == side) {
                    boolean can = part.kind() == PartKind.SHIELD;
                    Shape shape = new Shape(
                            part.ref(),
                            sx(part.xMm()),
                            sy(part.yMm()),
                            part.wMm(),
                            part.hMm(),
                            turned(part.rotDeg()),
                            part.touches(rail),
                            part.kind(),
                            tip(part));
                    shapes.add(can ? 0 : shapes.size(), shape);
                }
            }
            return shapes;
        }

        private String tip(Part part) {
            String kind = Words.of(part.kind());
            String nets = part.pins().stream().map(Pin::net).distinct().limit(4).collect(Collectors.joining(", "));
            long more = part.pins().stream().map(Pin::net).distinct().count() - 4;
            String value = part.value().isEmpty() ? "" : " " + part.value();
            String size = part.packageName().isEmpty() ? "" : ", " + part.packageName();
            String chance = probability.containsKey(part.ref())
                    ? " · " + Eng.percent(probability.get(part.ref())) + " % the fault"
                    : "";
            return part.ref() + " · " + kind + value + size + " · " + nets
                    + (more > 0 ? " and " + more + " more nets" : "") + chance;
        }

        private List<Line> lines(StoredAnalysis.StoredCapture capture) {
            List<Double> levels = capture.contours().stream()
                    .map(StoredAnalysis.StoredContour::kelvin)
                    .distinct()
                    .sorted()
                    .toList();
            List<Line> lines = new ArrayList<>();
            Map<Double, Double> longest = new TreeMap<>();
            for (StoredAnalysis.StoredContour contour : capture.contours()) {
                longest.merge(contour.kelvin(), (double) contour.xyMm().length, Math::max);
            }
            for (StoredAnalysis.StoredContour contour : capture.contours()) {
                int weight = levels.indexOf(contour.kelvin());
                // One label a level, on its longest line.
                Double most = longest.get(contour.kelvin());
                boolean labelled = most != null && contour.xyMm().length == most;
                if (labelled) {
                    longest.remove(contour.kelvin());
                }
                lines.add(line(contour, weight, labelled));
            }
            return lines;
        }

        /** Labels stand under their line, where flags do not. */
        private Line line(StoredAnalysis.StoredContour contour, int weight, boolean labelled) {
            StringBuilder points = new StringBuilder();
            double[] xy = contour.xyMm();
            double lowest = Double.NEGATIVE_INFINITY;
            double labelX = 0;
            for (int i = 0; i < xy.length; i += 2) {
                double x = sx(xy[i]);
                double y = sy(xy[i + 1]);
                points.append(String.format(Locale.ROOT, "%.2f,%.2f ", x, y));
                if (y > lowest) {
                    lowest = y;
                    labelX = x;
                }
            }
            String label = labelled ? Eng.significant(contour.kelvin(), contour.kelvin() < 0.1 ? 1 : 2) : "";
            return new Line(points.toString().trim(), label, labelX, lowest, weight);
        }

        private List<Flag> flags() {
            int[][] stands = {{44, -40}, {-46, -38}, {48, 34}};
            List<Flag> flags = new ArrayList<>();
            for (int i = 0; i < Math.min(FLAGS, named.size()); i++) {
                Named suspect = named.get(i);
                Optional<Part> part = board.part(suspect.ref()).filter(p -> p.side() == side);
                if (part.isPresent() && (i == 0 || suspect.probability() >= FLAG_FROM)) {
                    double x = sx(part.get().xMm());
                    double y = sy(part.get().yMm());
                    int dx = x > x1 - (x1 - x0) / 8
                            ? -Math.abs(stands[i][0])
                            : x < x0 + (x1 - x0) / 8 ? Math.abs(stands[i][0]) : stands[i][0];
                    int dy = y < y0 + (y1 - y0) / 7
                            ? Math.abs(stands[i][1])
                            : y > y1 - (y1 - y0) / 7 ? -Math.abs(stands[i][1]) : stands[i][1];
                    int ring = suspect.probability() > 0.7 ? 3 : suspect.probability() > 0.2 ? 2 : 1;
                    flags.add(new Flag(i + 1, suspect.ref(), x, y, dx, dy, ring));
                }
            }
            return flags;
        }

        private Ellipse ellipse(SourceEstimate s) {
            return new Ellipse(
                    sx(s.xMm()),
                    sy(s.yMm()),
                    s.majorMm(),
                    s.minorMm(),
                    turned(s.axisDeg()),
                    Eng.prefixed(s.watts(), "W", 2).toString());
        }

        private List<Mark> probes() {
            return spots.stream()
                    .filter(p -> p.side() == side)
                    .map(p -> new Mark(sx(p.xMm()), sy(p.yMm()), p.words(), sx(p.xMm()) > x0 + 0.8 * (x1 - x0)))
                    .toList();
        }
    }
}
