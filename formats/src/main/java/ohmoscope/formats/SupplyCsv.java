package ohmoscope.formats;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import ohmoscope.core.evidence.SupplyLog;

/** {@code supply.csv} as text. */
public final class SupplyCsv {
    private SupplyCsv() {}

    public static String write(SupplyLog log) {
        return CsvTables.write(log);
    }

    /** @throws BundleException naming the line */
    public static SupplyLog read(String csv) throws IOException {
        return CsvTables.supply(new ByteArrayInputStream(csv.getBytes(StandardCharsets.UTF_8)), "supply.csv");
    }
}
