package ohmoscope.formats.frames;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.formats.BundleException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A list of times beside the frames: a CSV whose header has a column of that name. */
final class TimesCsv {
    private static final List<String> NAMES = List.of("t_s", "time", "time_s", "t", "seconds", "timestamp");

    private TimesCsv() {}

    /** @return empty when the file is no such list */
    static Optional<List<Double>> read(FrameFile file) throws IOException {
        if (!file.endsIn(".csv", ".txt", ".tsv")) {
            return Optional.empty();
        }
        try (BufferedReader reader = Files.newBufferedReader(file.path(), StandardCharsets.ISO_8859_1);
                CSVParser rows = CSVFormat.DEFAULT.parse(reader)) {
            int column = -1;
            List<Double> times = new ArrayList<>();
            for (CSVRecord row : rows) {
                if (row.getRecordNumber() == 1) {
                    column = column(row);
                    if (column < 0) {
                        return Optional.empty();
                    }
                } else {
                    times.add(time(file, row, column));
                }
            }
            return Optional.of(times);
        } catch (UncheckedIOException | IllegalStateException quoted) {
            // Whatever it is, it is no list of times; who reads it as frames says what is wrong with it.
            return Optional.empty();
        }
    }

    private static int column(CSVRecord header) {
        for (int i = 0; i < header.size(); i++) {
            if (NAMES.contains(header.get(i).strip().toLowerCase(Locale.ROOT))) {
                return i;
            }
        }
        return -1;
    }

    private static double time(FrameFile file, CSVRecord row, int column) throws BundleException {
        String line = "line " + row.getRecordNumber();
        try {
            double time = Double.parseDouble(row.get(column).strip());
            if (Double.isFinite(time)) {
                return time;
            }
        } catch (NumberFormatException | ArrayIndexOutOfBoundsException noNumber) {
            throw new BundleException(file.name(), line, "has no time: a number of seconds was expected");
        }
        throw new BundleException(file.name(), line, "has a time that is not finite");
    }
}
