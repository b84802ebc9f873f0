package ohmoscope.web.boards;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;

/** A small picture of a board's top: its edge and its largest parts. */
public record Thumbnail(String viewBox, String outline, String bodies) {
    private static final int MOST_PARTS = 160;
    private static final double MARGIN_MM = 1;

    static Thumbnail of(Board board) {
        Outline outline = board.outline();
        List<Part> parts = board.parts().stream()
                .filter(p -> p.side() == Side.TOP)
                .sorted(Comparator.comparingDouble(p -> -p.wMm() * p.hMm()))
                .limit(MOST_PARTS)
                .toList();
        return new Thumbnail(
                String.format(
                        Locale.ROOT,
                        "%.2f %.2f %.2f %.2f",
                        outline.minXMm() - MARGIN_MM,
                        -outline.maxYMm() - MARGIN_MM,
                        outline.maxXMm() - outline.minXMm() + 2 * MARGIN_MM,
                        outline.maxYMm() - outline.minYMm() + 2 * MARGIN_MM),
                outline.corners().stream()
                        .map(c -> String.format(Locale.ROOT, "%.2f,%.2f", c.xMm(), -c.yMm()))
                        .collect(Collectors.joining(" ")),
                parts.stream().map(Thumbnail::path).collect(Collectors.joining()));
    }

    private static String path(Part part) {
        return part.corners().stream()
                .map(c -> String.format(Locale.ROOT, "%.2f %.2f", c.xMm(), -c.yMm()))
                .collect(Collectors.joining("L", "M", "Z"));
    }
}
