package ohmoscope.formats;

import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Trace;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * Traces of volts and amperes as meters write them: comma, semicolon or tab; point or decimal comma; time in seconds,
 * milliseconds, as a clock or a date; columns by their usual names, with units in the header. Rows with an empty cell are
 * missing samples.
 */
public final class TraceCsv {
    private static final int MAX_ROWS = 1_000_000;
    private static final int MOST_HEADER_LINES = 20;
    private static final double DAY_S = 86_400;

    private TraceCsv() {}

    /** Which column is what, and by what its numbers are multiplied. */
    private record Column(int index, double factor) {}

    /**
     * @param file named in errors
     * @throws BundleException when the header or a row is not understood, naming the line
     */
    public static Trace read(String csv, String file) throws IOException {
        String[] lines = csv.replace("\uFEFF", "").split("\r\n|\n|\r", -1);
        int header = headerLine(lines);
        if (header < 0) {
            throw new BundleException(file, "header", "needs a time and volts or amps, such as t_s,volts,amps");
        }
        char delimiter = delimiter(lines[header]);
        String body = String.join("\n", List.of(lines).subList(header, lines.length));
        CSVFormat format = CSVFormat.DEFAULT
                .builder()
                .setDelimiter(delimiter)
                .setIgnoreEmptyLines(true)
                .setIgnoreSurroundingSpaces(true)
                .get();
        try (CSVParser parser = CSVParser.parse(new StringReader(body), format)) {
            return rows(parser, file, header);
        } catch (UncheckedIOException | IllegalStateException quoted) {
            throw new BundleException(file, "", "has a quotation mark that is not closed, or text behind one");
        }
    }

    private static int headerLine(String[] lines) {
        for (int i = 0; i < Math.min(MOST_HEADER_LINES, lines.length); i++) {
            String[] cells = lines[i].split("[,;\t]");
            if (find(cells, "time").isPresent()
                    && (find(cells, "volts").isPresent() || find(cells, "amps").isPresent())) {
                return i;
            }
        }
        return -1;
    }

    private static char delimiter(String header) {
        return header.contains("\t") ? '\t' : header.contains(";") ? ';' : ',';
    }

    private static Trace rows(CSVParser parser, String file, int before) throws IOException {
        List<double[]> rows = new ArrayList<>();
        Optional<Column> time = Optional.empty();
        Optional<Column> volts = Optional.empty();
        Optional<Column> amps = Optional.empty();
        for (CSVRecord row : parser) {
            if (time.isEmpty()) {
                String[] cells = row.values();
                time = find(cells, "time");
                volts = find(cells, "volts");
                amps = find(cells, "amps");
                continue;
            }
            int line = before + (int) parser.getCurrentLineNumber();
            if (rows.size() == MAX_ROWS) {
                throw new BundleException(file, "line " + line, "has more than " + MAX_ROWS + " rows");
            }
            boolean whole = cell(row, time).isPresent()
                    && (volts.isEmpty() || cell(row, volts).isPresent())
                    && (amps.isEmpty() || cell(row, amps).isPresent());
            if (whole) {
                double t = time(cell(row, time).get(), file, line) * time.get().factor();
                if (!rows.isEmpty() && t == rows.get(rows.size() - 1)[0]) {
                    continue;
                }
                boolean midnight = !rows.isEmpty() && t < rows.get(rows.size() - 1)[0] - DAY_S / 2;
                rows.add(new double[] {
                    midnight ? t + DAY_S : t, value(row, volts, file, line), value(row, amps, file, line)
                });
            }
        }
        return trace(rows, volts.isPresent(), amps.isPresent(), file);
    }

    private static Trace trace(List<double[]> rows, boolean volts, boolean amps, String file) throws IOException {
        double first = rows.isEmpty() ? 0 : rows.get(0)[0];
        try {
            return new Trace(
                    rows.stream().mapToDouble(r -> r[0] - first).toArray(),
                    volts ? Optional.of(rows.stream().mapToDouble(r -> r[1]).toArray()) : Optional.empty(),
                    amps ? Optional.of(rows.stream().mapToDouble(r -> r[2]).toArray()) : Optional.empty());
        } catch (InvalidMember bad) {
            throw new BundleException(file, "", bad.getMessage());
        }
    }

    private static Optional<String> cell(CSVRecord row, Optional<Column> column) {
        return column.filter(c -> c.index() < row.size())
                .map(c -> row.get(c.index()).trim())
                .filter(text -> !text.isEmpty() && !text.equalsIgnoreCase("nan") && !text.equals("-"));
    }

    private static double value(CSVRecord row, Optional<Column> column, String file, int line) throws IOException {
        Optional<String> text = cell(row, column);
        return text.isEmpty()
                ? 0
                : number(text.get(), file, line) * column.orElseThrow().factor();
    }

    private static double number(String text, String file, int line) throws IOException {
        try {
            double value = Double.parseDouble(text.replace(',', '.').replaceAll("(?i)\\s*(ma|mv|v|a|s|ms)$", ""));
            if (Double.isFinite(value)) {
                return value;
            }
        } catch (NumberFormatException noNumber) {
            // Said below.
        }
        throw new BundleException(file, "line " + line, "\"" + text + "\" is no number");
    }

    private static double time(String text, String file, int line) throws IOException {
        if (!text.contains(":")) {
            return number(text, file, line);
        }
        String iso = text.trim().replace(' ', 'T').replace(',', '.');
        try {
            if (iso.matches(".*(Z|[+-]\\d\\d:?\\d\\d)$") && iso.contains("T")) {
                OffsetDateTime at = OffsetDateTime.parse(iso);
                return at.toEpochSecond() + at.getNano() / 1e9;
            }
            if (iso.contains("T")) {
                LocalDateTime at = LocalDateTime.parse(iso);
                return at.toEpochSecond(ZoneOffset.UTC) + at.getNano() / 1e9;
            }
            return LocalTime.parse(iso.length() == 7 ? "0" + iso : iso).toNanoOfDay() / 1e9;
        } catch (DateTimeParseException noTime) {
            throw new BundleException(file, "line " + line, "\"" + text + "\" is no time such as 12:30:01.5");
        }
    }

    private static Optional<Column> find(String[] cells, String what) {
        OptionalInt best = OptionalInt.empty();
        double factor = 1;
        for (int i = 0; i < cells.length && best.isEmpty(); i++) {
            String cell = cells[i].trim().toLowerCase(Locale.ROOT).replace("\"", "");
            String unit = cell.replaceAll("^.*?[\\[(_ /]\\s*([a-zµ]+)\\s*[\\])]?$", "$1");
            String name = cell.replaceAll("[\\[(_ /].*$", "");
            boolean is = switch (what) {
                case "time" -> name.matches("t|time|timestamp|seconds|sec|secs|elapsed|ms|millis|datetime|date");
                case "volts" -> name.matches("v|u|volt|volts|voltage|vbus|vout|mv|millivolts|spannung");
                default -> name.matches("a|i|amp|amps|ampere|amperes|current|ibus|iout|ma|milliamps|strom");
            };
            if (is) {
                best = OptionalInt.of(i);
                boolean milli = unit.matches("ms|mv|ma|millis|millivolts|milliamps")
                        || name.matches("ms|mv|ma|millis|millivolts|milliamps");
                factor = milli ? 1e-3 : unit.matches("us|µs|uv|ua") ? 1e-6 : 1;
            }
        }
        double by = factor;
        return best.isPresent() ? Optional.of(new Column(best.getAsInt(), by)) : Optional.empty();
    }

    /** The contract's form. */
    public static String write(Trace trace) {
        StringBuilder csv = new StringBuilder("t_s");
        trace.volts().ifPresent(v -> csv.append(",volts"));
        trace.amps().ifPresent(a -> csv.append(",amps"));
        csv.append('\n');
        for (int i = 0; i < trace.timesS().length; i++) {
            csv.append(trace.timesS()[i]);
            int at = i;
            trace.volts().ifPresent(v -> csv.append(',').append(v[at]));
            trace.amps().ifPresent(a -> csv.append(',').append(a[at]));
            csv.append('\n');
        }
        return csv.toString();
    }
}
