package ohmoscope.formats;

import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * Readings of good boards as a table: {@code net,mode,value}, volts in diode mode, else ohms; and where somebody wrote them
 * {@code lead} (which one is on ground: red or black), {@code point} (the part or test point) and {@code meter}.
 */
public final class GoodCsv {
    private static final int MOST_ROWS = 20_000;

    private GoodCsv() {}

    public static String write(List<Good> readings) {
        StringBuilder text = new StringBuilder("net,mode,value,lead,point,meter\n");
        for (Good good : readings) {
            text.append(CSVFormat.DEFAULT.format(
                            good.net(),
                            good.mode().name().toLowerCase(Locale.ROOT),
                            good.value(),
                            good.redOnGround() ? "red" : "black",
                            good.point().orElse(""),
                            good.meter().orElse("")))
                    .append('\n');
        }
        return text.toString();
    }

    /**
     * @throws BundleException naming the line, and what was expected there
     */
    public static List<Good> read(String csv, String file, Board board) throws IOException {
        CSVFormat format = CSVFormat.DEFAULT
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setIgnoreSurroundingSpaces(true)
                .setIgnoreEmptyLines(true)
                .get();
        List<Good> readings = new ArrayList<>();
        try (CSVParser parser = CSVParser.parse(new StringReader(csv.replace("\uFEFF", "")), format)) {
            if (!parser.getHeaderNames().containsAll(List.of("net", "mode", "value"))) {
                throw new BundleException(file, "line 1", "must have the columns net,mode,value");
            }
            for (CSVRecord row : parser) {
                if (readings.size() == MOST_ROWS) {
                    throw new BundleException(file, "", "has more than " + MOST_ROWS + " rows");
                }
                readings.add(reading(row, file, board));
            }
        } catch (UncheckedIOException | IllegalStateException | IllegalArgumentException broken) {
            throw new BundleException(
                    file, "", "is no CSV table: a column stands twice, or a quotation mark is not closed");
        }
        return readings;
    }

    private static Good reading(CSVRecord row, String file, Board board) throws BundleException {
        String line = "line " + (row.getRecordNumber() + 1);
        if (!row.isConsistent()) {
            throw new BundleException(file, line, "must have as many fields as the header");
        }
        String net = row.get("net");
        if (board.net(net).isEmpty()) {
            throw new BundleException(file, line, "names the net " + net + ", which this board does not have");
        }
        ReadMode mode = switch (row.get("mode").toLowerCase(Locale.ROOT)) {
            case "diode", "d" -> ReadMode.DIODE;
            case "ohms", "ohm" -> ReadMode.OHMS;
            default ->
                throw new BundleException(file, line, "mode must be diode or ohms, was \"" + row.get("mode") + "\"");
        };
        try {
            double value = Double.parseDouble(row.get("value"));
            if (value >= 0 && Double.isFinite(value)) {
                return new Good(
                        net, mode, value, red(row, file, line), point(row, file, line, board), said(row, "meter"));
            }
        } catch (NumberFormatException noNumber) {
            // Said below.
        }
        throw new BundleException(file, line, "value must be a number from 0 on, was \"" + row.get("value") + "\"");
    }

    /** A column that may be missing, or its field empty. */
    private static Optional<String> said(CSVRecord row, String column) {
        return row.isMapped(column) ? Optional.of(row.get(column).strip()).filter(w -> !w.isEmpty()) : Optional.empty();
    }

    private static boolean red(CSVRecord row, String file, String line) throws BundleException {
        String lead = said(row, "lead").orElse("red").toLowerCase(Locale.ROOT);
        if (!lead.equals("red") && !lead.equals("black")) {
            throw new BundleException(file, line, "lead must be red or black, the one on ground, was \"" + lead + "\"");
        }
        return lead.equals("red");
    }

    private static Optional<String> point(CSVRecord row, String file, String line, Board board) throws BundleException {
        Optional<String> point = said(row, "point");
        if (point.isPresent()
                && board.part(point.get()).isEmpty()
                && board.testPoint(point.get()).isEmpty()) {
            throw new BundleException(
                    file, line, "names the point " + point.get() + ", which this board does not have");
        }
        return point;
    }
}
