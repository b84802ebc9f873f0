package ohmoscope.formats;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.SupplyLog;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** {@code supply.csv} and {@code times.csv}. */
final class CsvTables {
    private static final CSVFormat FORMAT = CSVFormat.DEFAULT
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .setIgnoreSurroundingSpaces(true)
            .setIgnoreEmptyLines(true)
            .get();
    private static final int MAX_ROWS = 5_000_000;

    private CsvTables() {}

    static SupplyLog supply(InputStream csv, String file) throws IOException {
        List<SupplyLog.Row> rows = new ArrayList<>();
        table(csv, file, List.of("t_s", "volts", "amps", "output"), row -> {
            double output = number(row, file, "output");
            if (output != 0 && output != 1) {
                throw new BundleException(file, line(row), "output must be 0 or 1, was " + row.get("output"));
            }
            SupplyLog.Row read = new SupplyLog.Row(
                    number(row, file, "t_s"), number(row, file, "volts"), number(row, file, "amps"), output == 1);
            requireNotBackwards(
                    file,
                    row,
                    rows.isEmpty() ? read.tS() : rows.get(rows.size() - 1).tS(),
                    read.tS());
            rows.add(read);
        });
        return new SupplyLog(rows);
    }

    static List<Double> times(InputStream csv, String file) throws IOException {
        List<Double> times = new ArrayList<>();
        table(csv, file, List.of("frame", "t_s"), row -> {
            double frame = number(row, file, "frame");
            if (frame != times.size()) {
                throw new BundleException(
                        file, line(row), "frame must be " + times.size() + " here, was " + row.get("frame"));
            }
            double time = number(row, file, "t_s");
            requireNotBackwards(file, row, times.isEmpty() ? time : times.get(times.size() - 1), time);
            times.add(time);
        });
        return times;
    }

    private static void requireNotBackwards(String file, CSVRecord row, double before, double now)
            throws BundleException {
        if (now < before) {
            throw new BundleException(file, line(row), "t_s goes backwards: " + now + " after " + before);
        }
    }

    interface RowReader {
        void read(CSVRecord row) throws IOException;
    }

    static void table(InputStream csv, String file, List<String> columns, RowReader reader) throws IOException {
        InputStreamReader text = new InputStreamReader(
                csv,
                StandardCharsets.UTF_8
                        .newDecoder()
                        .onMalformedInput(CodingErrorAction.REPORT)
                        .onUnmappableCharacter(CodingErrorAction.REPORT));
        try (CSVParser parser =
                CSVParser.builder().setReader(text).setFormat(FORMAT).get()) {
            for (String column : columns) {
                if (!parser.getHeaderNames().contains(column)) {
                    throw new BundleException(
                            file, "line 1", "has no column " + column + "; needs " + String.join(",", columns));
                }
            }
            int rows = 0;
            for (CSVRecord row : parser) {
                if (++rows > MAX_ROWS) {
                    throw new BundleException(file, "", "has more than " + MAX_ROWS + " rows");
                }
                if (!row.isConsistent()) {
                    throw new BundleException(
                            file,
                            line(row),
                            "has " + row.size() + " fields, the header has "
                                    + parser.getHeaderNames().size());
                }
                try {
                    reader.read(row);
                } catch (InvalidMember refused) {
                    throw new BundleException(file, line(row), refused.getMessage());
                }
            }
        } catch (CharacterCodingException broken) {
            throw new BundleException(file, "", "is not UTF-8 text");
        } catch (IllegalStateException | IllegalArgumentException | java.io.UncheckedIOException broken) {
            throw new BundleException(
                    file,
                    "",
                    broken.getCause() instanceof CharacterCodingException
                            ? "is not UTF-8 text"
                            : "is no CSV table: a column stands twice, or a quotation mark is not closed");
        }
    }

    static double number(CSVRecord row, String file, String column) throws BundleException {
        String cell = row.get(column);
        try {
            double value = Double.parseDouble(cell);
            if (Double.isFinite(value)) {
                return value;
            }
        } catch (NumberFormatException noNumber) {
            // falls through to the one message for every kind of bad cell
        }
        throw new BundleException(file, line(row), column + " must be a finite number, was \"" + cell + "\"");
    }

    static String line(CSVRecord row) {
        return "line " + (row.getRecordNumber() + 1);
    }

    static String write(SupplyLog log) {
        StringBuilder text = new StringBuilder("t_s,volts,amps,output\n");
        for (SupplyLog.Row row : log.rows()) {
            text.append(plain(row.tS()))
                    .append(',')
                    .append(plain(row.volts()))
                    .append(',')
                    .append(plain(row.amps()))
                    .append(',')
                    .append(row.output() ? '1' : '0')
                    .append('\n');
        }
        return text.toString();
    }

    static String write(List<Double> times) {
        StringBuilder text = new StringBuilder("frame,t_s\n");
        for (int i = 0; i < times.size(); i++) {
            text.append(i).append(',').append(plain(times.get(i))).append('\n');
        }
        return text.toString();
    }

    /** The shortest decimal that reads back the same. */
    static String plain(double value) {
        String text = Double.toString(value).toLowerCase(Locale.ROOT);
        return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text;
    }
}
