package ohmoscope.web.frames;

import java.util.Locale;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.web.analysis.StoredAnalysis;

/** A drawing for other programs: outline, parts, lines of equal warmth and the source, in millimetres, y down. */
final class ContourSvg {
    private ContourSvg() {}

    static String of(Board board, String capture, Side side, StoredAnalysis analysis) {
        Outline o = board.outline();
        double w = o.maxXMm() - o.minXMm();
        double h = o.maxYMm() - o.minYMm();
        // The bottom is turned over left to right, as on the page.
        String place = side == Side.TOP
                ? text("translate(%.3f %.3f) scale(1 -1)", -o.minXMm(), o.maxYMm())
                : text("translate(%.3f %.3f) scale(-1 -1)", o.maxXMm(), o.maxYMm());
        StringBuilder svg = new StringBuilder(text(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%.2fmm\" height=\"%.2fmm\" viewBox=\"0 0 %.3f %.3f\">\n",
                w, h, w, h));
        svg.append(text("<g transform=\"%s\" fill=\"none\" stroke=\"#444\" stroke-width=\"0.15\">\n", place));
        svg.append(text(
                "<polygon points=\"%s\"/>\n",
                o.corners().stream()
                        .map(c -> text("%.3f,%.3f", c.xMm(), c.yMm()))
                        .collect(Collectors.joining(" "))));
        for (Part part : board.parts()) {
            if (part.side() == side) {
                svg.append(text(
                        "<rect x=\"%.3f\" y=\"%.3f\" width=\"%.3f\" height=\"%.3f\" transform=\"translate(%.3f %.3f) rotate(%.1f)\"/>\n",
                        -part.wMm() / 2,
                        -part.hMm() / 2,
                        part.wMm(),
                        part.hMm(),
                        part.xMm(),
                        part.yMm(),
                        part.rotDeg()));
            }
        }
        analysis.capture(capture)
                .ifPresent(c -> c.contours()
                        .forEach(line -> svg.append(text(
                                "<polyline points=\"%s\" stroke=\"#b3261e\" stroke-width=\"0.25\"><title>%.3f K</title></polyline>\n",
                                points(line.xyMm()), line.kelvin()))));
        analysis.source()
                .filter(s -> s.side() == side)
                .ifPresent(s -> svg.append(text(
                        "<ellipse rx=\"%.3f\" ry=\"%.3f\" transform=\"translate(%.3f %.3f) rotate(%.1f)\" stroke=\"#000\"/>\n",
                        s.majorMm(), s.minorMm(), s.xMm(), s.yMm(), s.axisDeg())));
        return svg.append("</g>\n</svg>\n").toString();
    }

    private static String points(double[] xy) {
        StringBuilder points = new StringBuilder();
        for (int i = 0; i + 1 < xy.length; i += 2) {
            points.append(text("%.3f,%.3f ", xy[i], xy[i + 1]));
        }
        return points.toString().strip();
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
