package ohmoscope.formats.frames;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import ohmoscope.formats.BundleException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * Matrices as text: a row a line, one matrix a file or several with an empty line between. Fields are divided by
 * semicolons, tabs or commas; with the first two a decimal comma is understood. Lines of words before a matrix are passed
 * over.
 */
final class CsvFrames {
    private static final int MOST_COLUMNS = 4096;
    private static final int MOST_ROWS = 4096;

    private CsvFrames() {}

    static FrameStack stack(List<FrameFile> files) throws IOException {
        int width = 0;
        int height = 0;
        int count = 0;
        for (FrameFile file : files) {
            try (Blocks blocks = new Blocks(file)) {
                for (int[] size = blocks.skip(); size[1] > 0; size = blocks.skip()) {
                    if (count == 0) {
                        width = size[0];
                        height = size[1];
                    } else if (size[0] != width || size[1] != height) {
                        throw new BundleException(
                                file.name(),
                                "line " + blocks.line(),
                                "ends a matrix of " + size[0] + "×" + size[1] + ", the first is " + width + "×"
                                        + height);
                    }
                    count++;
                }
            }
        }
        if (count == 0) {
            throw new BundleException(files.get(0).name(), "", "holds no row of numbers");
        }
        return new FrameStack(
                "CSV matrix", width, height, count, Depth.FLOAT, () -> new Cursor(files), Optional.empty());
    }

    /** The matrices of one file, one after another. */
    private static final class Blocks implements AutoCloseable {
        private final FrameFile file;
        private final CSVParser parser;
        private final Iterator<CSVRecord> rows;
        private final boolean decimalComma;
        private long line;

        Blocks(FrameFile file) throws IOException {
            this.file = file;
            char divider = divider(file);
            decimalComma = divider != ',';
            BufferedReader reader = Files.newBufferedReader(file.path(), StandardCharsets.ISO_8859_1);
            parser = CSVFormat.DEFAULT
                    .builder()
                    .setDelimiter(divider)
                    .setIgnoreEmptyLines(false)
                    .get()
                    .parse(reader);
            rows = parser.iterator();
        }

        private static char divider(FrameFile file) throws IOException {
            try (BufferedReader reader = Files.newBufferedReader(file.path(), StandardCharsets.ISO_8859_1)) {
                String text = reader.lines().limit(40).reduce("", (a, b) -> a + b);
                return text.indexOf(';') >= 0 ? ';' : text.indexOf('\t') >= 0 ? '\t' : ',';
            }
        }

        long line() {
            return line;
        }

        /** Passes over the next matrix; its columns and rows, no rows at the end. */
        int[] skip() throws IOException {
            return next(null);
        }

        /** @param into filled when given */
        int[] next(float @org.jspecify.annotations.Nullable [] into) throws IOException {
            int width = 0;
            int height = 0;
            while (more()) {
                CSVRecord row = rows.next();
                line = row.getRecordNumber();
                int fields = fields(row);
                boolean numbers = fields > 1 && number(row, 0, false).isPresent();
                if (!numbers) {
                    if (height > 0) {
                        return new int[] {width, height};
                    }
                    continue;
                }
                if (height > 0 && fields != width) {
                    throw new BundleException(
                            file.name(), "line " + line, "has " + fields + " numbers, the line before has " + width);
                }
                width = fields;
                if (height >= MOST_ROWS) {
                    throw new BundleException(
                            file.name(), "line " + line, "goes on a matrix of more than " + MOST_ROWS + " rows");
                }
                for (int i = 0; i < fields; i++) {
                    float value = number(row, i, true).orElseThrow();
                    if (into != null) {
                        into[height * width + i] = value;
                    }
                }
                height++;
            }
            return new int[] {width, height};
        }

        /** Rows are read when they are asked for. */
        private boolean more() throws BundleException {
            try {
                return rows.hasNext();
            } catch (UncheckedIOException | IllegalStateException quoted) {
                throw new BundleException(
                        file.name(),
                        "line " + (line + 1),
                        "has a quotation mark that is not closed, or text behind one");
            }
        }

        /** A divider at the end of the line makes no field. */
        private static int fields(CSVRecord row) {
            int size = Math.min(MOST_COLUMNS + 1, row.size());
            return size > 1 && row.get(size - 1).isBlank() ? size - 1 : size;
        }

        private Optional<Float> number(CSVRecord row, int field, boolean must) throws BundleException {
            String text = row.get(field).strip();
            try {
                float value = Float.parseFloat(decimalComma ? text.replace(',', '.') : text);
                if (Float.isFinite(value)) {
                    return Optional.of(value);
                }
            } catch (NumberFormatException noNumber) {
                if (!must) {
                    return Optional.empty();
                }
            }
            throw new BundleException(file.name(), "line " + line + ", field " + (field + 1), "is no number: " + text);
        }

        @Override
        public void close() throws IOException {
            parser.close();
        }
    }

    private static final class Cursor implements FloatFrames.Cursor {
        private final Iterator<FrameFile> files;
        private @org.jspecify.annotations.Nullable Blocks blocks;

        Cursor(List<FrameFile> files) {
            this.files = files.iterator();
        }

        @Override
        public boolean next(float[] values) throws IOException {
            while (blocks != null || files.hasNext()) {
                Blocks open = blocks;
                if (open == null) {
                    open = new Blocks(files.next());
                    blocks = open;
                }
                if (open.next(values)[1] > 0) {
                    return true;
                }
                open.close();
                blocks = null;
            }
            return false;
        }

        @Override
        public void close() throws IOException {
            if (blocks != null) {
                blocks.close();
            }
        }
    }
}
