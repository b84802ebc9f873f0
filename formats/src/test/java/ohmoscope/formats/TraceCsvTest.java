package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import ohmoscope.core.evidence.Trace;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TraceCsvTest {
    @ParameterizedTest
    @ValueSource(
            strings = {
                "t_s,volts,amps\n0,5.1,0.02\n0.5,5.1,0.03\n1,5.0,0.04\n1.5,5.0,0.05\n",
                "Time (s);Voltage (V);Current (A)\n0;5,1;0,02\n0,5;5,1;0,03\n1;5,0;0,04\n1,5;5,0;0,05\n",
                "time_ms\tVbus [mV]\tI [mA]\r\n0\t5100\t20\r\n500\t5100\t30\r\n1000\t5000\t40\r\n1500\t5000\t50\r\n",
                "Timestamp,Voltage,Current\n12:00:00.0,5.1,0.02\n12:00:00.5,5.1,0.03\n12:00:01.0,5,0.04\n12:00:01.5,5,0.05\n",
                "meter export 4\nserial 77\n\n\"t\",\"v\",\"a\"\n0,5.1V,0.02A\n0.5,5.1V,0.03A\n1,5V,0.04A\n1.5,5V,0.05A\n",
                "time,amps,volts\n2026-03-01 12:00:00,0.02,5.1\n2026-03-01 12:00:00.5,0.03,5.1\n2026-03-01 12:00:01,0.04,5\n2026-03-01 12:00:01.5,0.05,5\n"
            })
    void asMetersWriteThem(String csv) throws IOException {
        Trace trace = TraceCsv.read(csv, "t.csv");
        assertThat(trace.timesS()).containsExactly(0, 0.5, 1, 1.5);
        assertThat(trace.volts().orElseThrow()).containsExactly(new double[] {5.1, 5.1, 5, 5}, within(1e-9));
        assertThat(trace.amps().orElseThrow()[2]).isCloseTo(0.04, within(1e-9));
        assertThat(TraceCsv.read(TraceCsv.write(trace), "again.csv")).isEqualTo(trace);
    }

    @Test
    void missingSamplesAndMidnightAreBridged() throws IOException {
        Trace trace = TraceCsv.read(
                "time,amps\n23:59:58,1\n23:59:59,\n00:00:00,2\n00:00:01,nan\n00:00:02,3\n00:00:03,4\n", "t.csv");
        assertThat(trace.timesS()).containsExactly(0, 2, 4, 5);
        assertThat(trace.volts()).isEmpty();
    }

    @Test
    void badFilesSayWhere() {
        assertThatThrownBy(() -> TraceCsv.read("hello\nworld\n", "x.csv"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("x.csv")
                .hasMessageContaining("t_s,volts,amps");
        assertThatThrownBy(() -> TraceCsv.read("t_s,amps\n0,1\n1,two\n2,3\n3,4\n", "x.csv"))
                .hasMessageContaining("line 3")
                .hasMessageContaining("two");
        assertThatThrownBy(() -> TraceCsv.read("t_s,amps\n0,1\n2,1\n1,3\n3,4\n", "x.csv"))
                .hasMessageContaining("must rise");
        assertThatThrownBy(() -> TraceCsv.read("t_s,amps\n0,1\n2,1\n", "x.csv"))
                .hasMessageContaining("at least 4 rows");
        assertThatThrownBy(() -> TraceCsv.read("t,amps\n12:61:00,1\n", "x.csv")).hasMessageContaining("no time");
    }
}
