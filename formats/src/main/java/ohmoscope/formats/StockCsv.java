package ohmoscope.formats;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.StockLine;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;

/**
 * A shop's parts as a table: {@code kind,value,count}, and where somebody wrote them {@code package}, {@code volts_rated},
 * {@code least} (how many there should be), {@code place} and {@code price} (of one, in the shop's money).
 */
public final class StockCsv {
    private static final int MOST_ROWS = 20_000;

    private StockCsv() {}

    /** @throws BundleException naming the line, and what was expected there */
    public static List<StockLine> read(InputStream csv, String file) throws IOException {
        List<StockLine> lines = new ArrayList<>();
        CsvTables.table(csv, file, List.of("kind", "value", "count"), row -> {
            if (lines.size() == MOST_ROWS) {
                throw new BundleException(file, "", "has more than " + MOST_ROWS + " rows");
            }
            lines.add(new StockLine(
                    kind(row, file),
                    row.get("value"),
                    said(row, "package"),
                    number(row, file, "volts_rated"),
                    whole(row, file, "count"),
                    said(row, "least").isEmpty() ? 0 : whole(row, file, "least"),
                    said(row, "place"),
                    number(row, file, "price")));
        });
        return lines;
    }

    private static PartKind kind(CSVRecord row, String file) throws BundleException {
        String word = row.get("kind").toLowerCase(Locale.ROOT);
        List<String> words = new ArrayList<>();
        for (PartKind kind : PartKind.values()) {
            words.add(Member.word(kind));
            if (Member.word(kind).equals(word)) {
                return kind;
            }
        }
        throw new BundleException(
                file,
                CsvTables.line(row),
                "kind must be one of " + String.join(", ", words) + "; was \"" + word + "\"");
    }

    private static OptionalDouble number(CSVRecord row, String file, String column) throws BundleException {
        return said(row, column).isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(CsvTables.number(row, file, column));
    }

    private static int whole(CSVRecord row, String file, String column) throws BundleException {
        double value = CsvTables.number(row, file, column);
        if (value != Math.rint(value) || Math.abs(value) > Integer.MAX_VALUE) {
            throw new BundleException(
                    file, CsvTables.line(row), column + " must be a whole number, was \"" + row.get(column) + "\"");
        }
        return (int) value;
    }

    private static String said(CSVRecord row, String column) {
        return row.isMapped(column) ? row.get(column).strip() : "";
    }

    public static String write(List<StockLine> lines) {
        StringBuilder text = new StringBuilder("kind,value,package,volts_rated,count,least,place,price\n");
        for (StockLine line : lines) {
            text.append(CSVFormat.DEFAULT.format(
                            Member.word(line.kind()),
                            line.value(),
                            line.packageName(),
                            plain(line.voltsRated()),
                            line.count(),
                            line.least(),
                            line.place(),
                            plain(line.price())))
                    .append('\n');
        }
        return text.toString();
    }

    private static String plain(OptionalDouble value) {
        return value.isPresent() ? CsvTables.plain(value.getAsDouble()) : "";
    }
}
