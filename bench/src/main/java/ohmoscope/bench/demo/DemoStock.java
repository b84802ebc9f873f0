package ohmoscope.bench.demo;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import ohmoscope.core.parts.StockLine;
import ohmoscope.formats.StockCsv;

/** What the demo's shop has in its drawers. */
public final class DemoStock {
    private static final String FILE = "parts.csv";

    private DemoStock() {}

    /** @throws UncheckedIOException where the list is not shipped, or no such list */
    public static List<StockLine> lines() {
        try (InputStream in = DemoStock.class.getResourceAsStream("/ohmoscope/bench/demo/" + FILE)) {
            if (in == null) {
                throw new IOException(FILE + " is not shipped");
            }
            return StockCsv.read(in, FILE);
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }
}
