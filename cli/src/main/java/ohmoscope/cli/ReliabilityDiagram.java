package ohmoscope.cli;

import java.util.List;
import java.util.Locale;
import ohmoscope.cli.Evaluation.Outcome;

/**
 * What was said against what came true, as SVG: for each range of probability the share of right first suspects, with its
 * 90 % interval (Wilson, 1927), and how many there were.
 */
final class ReliabilityDiagram {
    private static final double[] EDGES = {0, 0.2, 0.4, 0.6, 0.8, 0.9, 0.97, 1.0000001};
    private static final double Z = 1.645;
    private static final int SIDE = 320;
    private static final int LEFT = 56;
    private static final int TOP = 20;

    private ReliabilityDiagram() {}

    /** One range: the mean that was said, the share that was right, and its interval. */
    record Point(double said, double right, double low, double high, int cases) {}

    static List<Point> points(List<Outcome> outcomes) {
        List<Point> points = new java.util.ArrayList<>();
        for (int e = 0; e + 1 < EDGES.length; e++) {
            double from = EDGES[e];
            double to = EDGES[e + 1];
            List<Outcome> in = outcomes.stream()
                    .filter(o -> o.topProbability() >= from && o.topProbability() < to)
                    .toList();
            if (!in.isEmpty()) {
                points.add(point(in));
            }
        }
        return points;
    }

    private static Point point(List<Outcome> in) {
        int n = in.size();
        double said = in.stream().mapToDouble(Outcome::topProbability).average().orElseThrow();
        double right = in.stream().filter(Outcome::topRight).count() / (double) n;
        double middle = (right + Z * Z / (2 * n)) / (1 + Z * Z / n);
        double half = Z * Math.sqrt(right * (1 - right) / n + Z * Z / (4.0 * n * n)) / (1 + Z * Z / n);
        return new Point(said, right, Math.max(0, middle - half), Math.min(1, middle + half), n);
    }

    static String svg(List<Outcome> outcomes) {
        StringBuilder svg = new StringBuilder(text(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %d %d\" font-family=\"sans-serif\" font-size=\"12\" fill=\"#222\">%n",
                LEFT + SIDE + 60, TOP + SIDE + 50));
        svg.append(text(
                "<title>Probability given to the first suspect against how often it was right, %d cases</title>%n",
                outcomes.size()));
        svg.append("<rect width=\"100%\" height=\"100%\" fill=\"#fdfcf9\"/>\n");
        for (double tick : new double[] {0, 0.25, 0.5, 0.75, 1}) {
            svg.append(text(
                    "<path d=\"M%.1f %.1fH%.1fM%.1f %.1fV%.1f\" stroke=\"#ddd\"/>%n",
                    x(0), y(tick), x(1), x(tick), y(0), y(1)));
            svg.append(
                    text("<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"end\">%.2f</text>%n", x(0) - 6, y(tick) + 4, tick));
            svg.append(
                    text("<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\">%.2f</text>%n", x(tick), y(0) + 16, tick));
        }
        svg.append(text(
                "<path d=\"M%.1f %.1fL%.1f %.1f\" stroke=\"#888\" stroke-dasharray=\"4 4\"/>%n",
                x(0), y(0), x(1), y(1)));
        for (Point p : points(outcomes)) {
            svg.append(text(
                    "<path d=\"M%.1f %.1fV%.1f\" stroke=\"#1a4d8f\" stroke-width=\"2\"/><circle cx=\"%.1f\" cy=\"%.1f\" r=\"4\" fill=\"#1a4d8f\"/><text x=\"%.1f\" y=\"%.1f\">%d</text>%n",
                    x(p.said()),
                    y(p.low()),
                    y(p.high()),
                    x(p.said()),
                    y(p.right()),
                    x(p.said()) + 7,
                    y(p.right()) + 14,
                    p.cases()));
        }
        svg.append(text("<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\">said</text>%n", x(0.5), y(0) + 36));
        svg.append(text(
                "<text transform=\"translate(14 %.1f) rotate(-90)\" text-anchor=\"middle\">right</text>%n", y(0.5)));
        return svg.append("</svg>\n").toString();
    }

    private static double x(double share) {
        return LEFT + SIDE * share;
    }

    private static double y(double share) {
        return TOP + SIDE * (1 - share);
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
