package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ohmoscope.core.board.Side;
import ohmoscope.core.layout.Draft;
import ohmoscope.core.layout.Draft.Place;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.layout.Columns.Column;

/** A centroid table: where a placing machine sets each part. */
public final class CentroidCsv implements BoardFormat {
    private static final List<Column> NEEDED = List.of(Column.REF, Column.X, Column.Y);
    private static final Pattern NUMBER =
            Pattern.compile("([+-]?\\d+(?:[.,]\\d+)?(?:[eE][+-]?\\d+)?)\\s*(mm|mils?|in|\")?");

    @Override
    public String name() {
        return "a centroid table (reference, x, y, rotation, side)";
    }

    @Override
    public boolean recognises(String file, String head) {
        return Columns.hasHeader(head, NEEDED);
    }

    @Override
    public Draft read(InputStream in, String file) throws IOException {
        Columns.Table table = Columns.read(in, file, NEEDED);
        Drafting draft = new Drafting();
        double unit = table.unitMm().orElse(1.0);
        for (Columns.Row row : table.rows()) {
            if (row.text(Column.REF).isBlank() || row.text(Column.X).isBlank()) {
                draft.unused("rows without a reference or a place");
                continue;
            }
            double turn = row.text(Column.ROTATION).isBlank() ? 0 : number(row, Column.ROTATION, file, 1);
            Place place = new Place(
                    side(row.text(Column.SIDE)),
                    number(row, Column.X, file, unit),
                    number(row, Column.Y, file, unit),
                    turn);
            draft.part(new Draft.DraftPart(
                    row.text(Column.REF),
                    row.text(Column.VALUE),
                    row.text(Column.PACKAGE),
                    Optional.of(place),
                    Optional.empty(),
                    List.of(),
                    true));
        }
        return draft.of(file);
    }

    private static Side side(String word) {
        String side = word.toLowerCase(Locale.ROOT);
        return side.startsWith("b") || side.contains("bottom") || side.equals("2") ? Side.BOTTOM : Side.TOP;
    }

    private static double number(Columns.Row row, Column column, String file, double unit) throws IOException {
        Matcher matcher = NUMBER.matcher(row.text(column));
        if (!matcher.matches()) {
            throw new BundleException(
                    file,
                    "line " + row.line(),
                    column.name().toLowerCase(Locale.ROOT) + " must be a number such as 12.5 or 12.5mm, was \""
                            + row.text(column) + "\"");
        }
        double factor = matcher.group(2) == null
                ? unit
                : switch (matcher.group(2)) {
                    case "mm" -> 1;
                    case "in", "\"" -> 25.4;
                    default -> 0.0254;
                };
        return factor * Double.parseDouble(matcher.group(1).replace(',', '.'));
    }
}
