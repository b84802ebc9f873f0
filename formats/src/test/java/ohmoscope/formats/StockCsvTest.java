package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.StockLine;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StockCsvTest {
    private static List<StockLine> read(String csv) throws IOException {
        return StockCsv.read(new ByteArrayInputStream(csv.getBytes(StandardCharsets.UTF_8)), "drawers.csv");
    }

    @Test
    void aListComesBackAsItWasWritten() throws IOException {
        List<StockLine> lines = List.of(
                new StockLine(
                        PartKind.CAPACITOR,
                        "10u",
                        "0402",
                        OptionalDouble.of(6.3),
                        40,
                        20,
                        "drawer 3, left",
                        OptionalDouble.empty()),
                new StockLine(PartKind.CONNECTOR, "", "", OptionalDouble.empty(), 0, 2, "", OptionalDouble.empty()));
        assertThat(read(StockCsv.write(lines))).isEqualTo(lines);
        assertThat(read("kind,value,count\nfuse,2A,7\n"))
                .containsExactly(new StockLine(
                        PartKind.FUSE, "2A", "", OptionalDouble.empty(), 7, 0, "", OptionalDouble.empty()));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "kind,value|has no column count",
                "kind,value,count;fuse,2A,many|count must be a finite number",
                "kind,value,count;fuse,2A,1.5|whole number",
                "kind,value,count;lamp,x,1|kind must be one of",
                "kind,value,count;fuse,2A,-1|count must be from",
                "kind,value,count;fuse,2A|has 2 fields"
            })
    void whatIsNoListIsRefusedByItsLine(String csv, String says) {
        assertThatThrownBy(() -> read(csv.replace(";", "\n")))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("drawers.csv")
                .hasMessageContaining(says);
    }
}
