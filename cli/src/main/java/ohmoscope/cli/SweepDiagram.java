package ohmoscope.cli;

import java.util.List;
import java.util.Locale;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;

/** How often the fault comes first over the watts at it, for engine and eye, as SVG. */
final class SweepDiagram {
    private static final int WIDTH = 460;
    private static final int HEIGHT = 280;
    private static final int LEFT = 56;
    private static final int TOP = 24;

    private SweepDiagram() {}

    /** One power. @param engine share of hunts with the fault first @param eye the same by the hottest pixel */
    record Level(double watts, int hunts, double engine, double eye) {}

    /**
     * The watts from which on a rate is reached, interpolated over their logarithm.
     *
     * @return infinite when it never is; the lowest watts when it always is
     */
    static double wattsFor(List<Level> levels, double rate, ToDoubleFunction<Level> of) {
        for (int i = 0; i < levels.size(); i++) {
            double here = of.applyAsDouble(levels.get(i));
            if (here >= rate) {
                if (i == 0) {
                    return levels.get(0).watts();
                }
                double before = of.applyAsDouble(levels.get(i - 1));
                double share = (rate - before) / (here - before);
                double low = Math.log(levels.get(i - 1).watts());
                double high = Math.log(levels.get(i).watts());
                return Math.exp(low + share * (high - low));
            }
        }
        return Double.POSITIVE_INFINITY;
    }

    static String svg(List<Level> levels) {
        double low = Math.log(levels.get(0).watts());
        double high = Math.log(levels.get(levels.size() - 1).watts());
        double span = Math.max(1e-9, high - low);
        StringBuilder svg = new StringBuilder(text(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %d %d\" font-family=\"sans-serif\" font-size=\"12\" fill=\"#222\">%n",
                LEFT + WIDTH + 70, TOP + HEIGHT + 50));
        svg.append("<title>Share of hunts with the fault first over the watts at the fault</title>\n");
        svg.append("<rect width=\"100%\" height=\"100%\" fill=\"#fdfcf9\"/>\n");
        for (double tick : new double[] {0, 0.25, 0.5, 0.75, 1}) {
            svg.append(text(
                    "<path d=\"M%d %.1fH%d\" stroke=\"#ddd\"/><text x=\"%d\" y=\"%.1f\" text-anchor=\"end\">%.2f</text>%n",
                    LEFT, y(tick), LEFT + WIDTH, LEFT - 6, y(tick) + 4, tick));
        }
        for (Level level : levels) {
            double x = LEFT + WIDTH * (Math.log(level.watts()) - low) / span;
            svg.append(text(
                    "<text x=\"%.1f\" y=\"%d\" text-anchor=\"middle\">%s</text>%n",
                    x, TOP + HEIGHT + 18, text("%.3g", 1000 * level.watts())));
        }
        curve(svg, levels, low, span, Level::engine, "#1a4d8f", "", "engine");
        curve(svg, levels, low, span, Level::eye, "#9a3f12", " stroke-dasharray=\"6 4\"", "by eye");
        svg.append(text(
                "<text x=\"%d\" y=\"%d\" text-anchor=\"middle\">milliwatts at the fault</text>%n",
                LEFT + WIDTH / 2, TOP + HEIGHT + 40));
        return svg.append("</svg>\n").toString();
    }

    private static void curve(
            StringBuilder svg,
            List<Level> levels,
            double low,
            double span,
            ToDoubleFunction<Level> of,
            String colour,
            String dashes,
            String name) {
        String points = levels.stream()
                .map(l -> text("%.1f,%.1f", LEFT + WIDTH * (Math.log(l.watts()) - low) / span, y(of.applyAsDouble(l))))
                .collect(Collectors.joining(" "));
        svg.append(text(
                "<polyline points=\"%s\" fill=\"none\" stroke=\"%s\" stroke-width=\"2\"%s/>%n",
                points, colour, dashes));
        svg.append(text(
                "<text x=\"%d\" y=\"%.1f\" fill=\"%s\">%s</text>%n",
                LEFT + WIDTH + 6,
                y(of.applyAsDouble(levels.get(levels.size() - 1))) + (dashes.isEmpty() ? -4 : 14),
                colour,
                name));
    }

    private static double y(double share) {
        return TOP + HEIGHT * (1 - share);
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
