package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import ohmoscope.formats.BundleException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A table of parts as programs write it: any separator, titles above it, columns by their usual names. */
final class Columns {
    /** What a column may hold. */
    enum Column {
        REF("ref|refs|reference|references|referencedesignators?|refdes|designators?|part|parts|symbol|component"),
        VALUE("val|value|comment|partvalue"),
        PACKAGE("package|footprint|pattern|case|casesize|decal|pkg"),
        X("x|posx|midx|centerx|centrex|xpos|xlocation|locationx|xcoord|refx|centroidx|xcenter|xposition"),
        Y("y|posy|midy|centery|centrey|ypos|ylocation|locationy|ycoord|refy|centroidy|ycenter|yposition"),
        ROTATION("rot|rotation|angle|orientation|theta"),
        SIDE("side|layer|tb|boardside|mountside|placementlayer"),
        RATING("voltage|rating|voltagerating|ratedvoltage"),
        DESCRIPTION("description|desc"),
        EMPTY("dnp|dni|dnf|nofit|notfitted|donotpopulate|donotplace"),
        FITTED("fitted|populate|populated|mount");

        private final Pattern names;

        Column(String names) {
            this.names = Pattern.compile(names);
        }
    }

    /** One line of the table. */
    record Row(int line, Map<Column, String> cells) {
        String text(Column column) {
            return cells.getOrDefault(column, "");
        }
    }

    /**
     * @param unitMm millimetres a unit of places, where header or a line above it says so
     */
    record Table(List<Row> rows, Optional<Double> unitMm) {}

    private static final int MOST_BYTES = 64 << 20;
    private static final int MOST_HEADER_LINES = 60;
    private static final int MOST_ROWS = 200_000;

    private Columns() {}

    /** The columns that a line names, if it is a header that has these. */
    static Optional<Map<Column, Integer>> header(String line, List<Column> needed) {
        return separator(line).flatMap(s -> header(cells(line, s), needed));
    }

    static boolean hasHeader(String head, List<Column> needed) {
        return head.replace("\uFEFF", "")
                .lines()
                .limit(MOST_HEADER_LINES)
                .anyMatch(l -> header(l, needed).isPresent());
    }

    private static Optional<Map<Column, Integer>> header(List<String> cells, List<Column> needed) {
        Map<Column, Integer> columns = new HashMap<>();
        for (int i = 0; i < cells.size(); i++) {
            String name = plain(cells.get(i));
            for (Column column : Column.values()) {
                if (column.names.matcher(name).matches()) {
                    columns.putIfAbsent(column, i);
                }
            }
        }
        return columns.keySet().containsAll(needed) ? Optional.of(columns) : Optional.empty();
    }

    /** A column's name without its unit, spaces and marks. */
    private static String plain(String cell) {
        return cell.toLowerCase(Locale.ROOT)
                .replaceAll("\\(.*?\\)|\\[.*?]", "")
                .replaceAll("[^a-z]+", "")
                .replaceAll("(?:mm|mil|mils|inch)$", "");
    }

    private static Optional<Character> separator(String line) {
        for (char c : new char[] {'\t', ';', ',', '|'}) {
            if (line.indexOf(c) >= 0) {
                return Optional.of(c);
            }
        }
        return line.strip().contains(" ") ? Optional.of(' ') : Optional.empty();
    }

    private static List<String> cells(String line, char separator) {
        String bare = line.replaceFirst("^\\s*#+\\s*", "").replace("\"", "");
        return separator == ' '
                ? List.of(bare.strip().split("\\s+"))
                : List.of(bare.split(Pattern.quote(String.valueOf(separator)), -1));
    }

    /**
     * @throws BundleException where no line is a header with the columns needed, or a row cannot be read
     */
    static Table read(InputStream in, String file, List<Column> needed) throws IOException {
        byte[] bytes = in.readNBytes(MOST_BYTES + 1);
        if (bytes.length > MOST_BYTES) {
            throw new BundleException(file, "", "is larger than 64 MB: no table of parts is");
        }
        String text = new String(bytes, StandardCharsets.UTF_8).replace("\uFEFF", "");
        String[] lines = text.split("\r\n|\n|\r", -1);
        for (int i = 0; i < Math.min(lines.length, MOST_HEADER_LINES); i++) {
            Optional<Map<Column, Integer>> columns = header(lines[i], needed);
            if (columns.isPresent()) {
                return rows(lines, i, columns.get(), file);
            }
        }
        throw new BundleException(
                file, "header", "needs the columns " + needed.toString().toLowerCase(Locale.ROOT));
    }

    private static Table rows(String[] lines, int header, Map<Column, Integer> columns, String file)
            throws IOException {
        char separator = separator(lines[header]).orElse(',');
        StringBuilder body = new StringBuilder();
        for (int i = header + 1; i < lines.length; i++) {
            boolean remark = lines[i].startsWith("#");
            body.append(remark ? "" : separator == ' ' ? lines[i].strip().replaceAll("\\s+", " ") : lines[i])
                    .append('\n');
        }
        CSVFormat format = CSVFormat.DEFAULT
                .builder()
                .setDelimiter(separator)
                .setIgnoreEmptyLines(true)
                .setIgnoreSurroundingSpaces(true)
                .get();
        List<Row> rows = new ArrayList<>();
        Reader reader = new StringReader(body.toString());
        try (CSVParser parser =
                CSVParser.builder().setReader(reader).setFormat(format).get()) {
            for (CSVRecord row : parser) {
                if (rows.size() == MOST_ROWS) {
                    throw new BundleException(file, "", "has more than " + MOST_ROWS + " rows");
                }
                Map<Column, String> cells = new HashMap<>();
                columns.forEach((column, at) -> {
                    if (at < row.size()) {
                        cells.put(column, row.get(at).strip());
                    }
                });
                rows.add(new Row(header + 1 + (int) parser.getCurrentLineNumber(), cells));
            }
        } catch (UncheckedIOException | IllegalStateException quoted) {
            throw new BundleException(file, "", "has a quotation mark that is not closed, or text behind one");
        }
        return new Table(rows, unit(lines, header));
    }

    /** What is said of places' unit in the header or above it. */
    private static Optional<Double> unit(String[] lines, int header) {
        for (int i = header; i >= 0; i--) {
            String line = lines[i].toLowerCase(Locale.ROOT);
            boolean says = i == header || line.contains("unit");
            if (says && line.matches(".*\\bmils?\\b.*|.*thou.*")) {
                return Optional.of(0.0254);
            }
            if (says && line.matches(".*\\b(?:mm|millimet(?:er|re)s?|metric)\\b.*|.*posx ?\\(mm\\).*")) {
                return Optional.of(1.0);
            }
            if (says && line.matches(".*\\b(?:in|inch|inches|imperial)\\b.*")) {
                return Optional.of(25.4);
            }
        }
        return Optional.empty();
    }
}
