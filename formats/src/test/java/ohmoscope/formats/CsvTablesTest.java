package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import ohmoscope.core.evidence.SupplyLog;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CsvTablesTest {
    private static InputStream text(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
    }

    private static SupplyLog supply(String text) throws IOException {
        return CsvTables.supply(text(text), "supply.csv");
    }

    @Test
    void columnsMayStandInAnyOrderAndMoreMayStandBeside() throws IOException {
        SupplyLog log = supply("amps, note ,output,volts,t_s\n0.5,warm,1,0.9,2\n\n0,off,0,0,3\n");
        assertThat(log.rows()).containsExactly(new SupplyLog.Row(2, 0.9, 0.5, true), new SupplyLog.Row(3, 0, 0, false));
    }

    @Test
    void whatIsWrittenIsReadBack() throws IOException {
        SupplyLog log = new SupplyLog(List.of(
                new SupplyLog.Row(0, 0, 0, false),
                new SupplyLog.Row(0.1, 0.30000000000000004, 1e-7, true),
                new SupplyLog.Row(12, 1.25, 2, true)));
        String written = CsvTables.write(log);
        assertThat(written)
                .startsWith("t_s,volts,amps,output\n0,0,0,0\n0.1,0.30000000000000004,1.0e-7,1\n12,1.25,2,1\n");
        assertThat(supply(written)).isEqualTo(log);
        List<Double> times = List.of(0.0, 0.1, 0.25, 7.0);
        assertThat(CsvTables.times(text(CsvTables.write(times)), "times.csv")).isEqualTo(times);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "t_s,volts,amps;0,1,1| line 1 | has no column output",
                "t_s,volts,amps,output;0,1,1,2| line 2 | output must be 0 or 1, was 2",
                "t_s,volts,amps,output;0,1,1,1;1,1,x,1| line 3 | amps must be a finite number, was \"x\"",
                "t_s,volts,amps,output;0,1,NaN,1| line 2 | amps must be a finite number",
                "t_s,volts,amps,output;5,1,1,1;4,1,1,1| line 3 | t_s goes backwards: 4.0 after 5.0",
                "t_s,volts,amps,output;0,1,1| line 2 | has 3 fields, the header has 4"
            })
    void aBadRowIsNamed(String table, String where, String what) {
        assertThatThrownBy(() -> supply(table.replace(';', '\n')))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("supply.csv")
                .hasMessageContaining(where.strip())
                .hasMessageContaining(what.strip());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "frame,t_s;0,0;2,1| line 3 | frame must be 1 here, was 2",
                "frame,t_s;0,3;1,2| line 3 | t_s goes backwards: 2.0 after 3.0",
                "frame;0| line 1 | has no column t_s; needs frame,t_s"
            })
    void framesAreCountedWithoutAGap(String table, String where, String what) {
        assertThatThrownBy(() -> CsvTables.times(text(table.replace(';', '\n')), "times.csv"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining(where.strip())
                .hasMessageContaining(what.strip());
    }

    @Test
    void whatIsNoTextIsSaidToBeNone() {
        byte[] noText = {'t', '_', 's', ',', (byte) 0xC3, (byte) 0x28, '\n'};
        assertThatThrownBy(() -> CsvTables.supply(new ByteArrayInputStream(noText), "supply.csv"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("is not UTF-8 text");
        assertThatThrownBy(() -> supply("t_s,volts,amps,output\n0,\"1,1,1\n"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("supply.csv");
    }

    @Test
    void anEmptyTableIsAnEmptyLog() throws IOException {
        assertThat(supply("t_s,volts,amps,output\n").rows()).isEmpty();
        assertThat(CsvTables.times(text("frame,t_s\n"), "times.csv")).isEmpty();
    }
}
