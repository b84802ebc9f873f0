package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class GoodCsvTest {
    @Test
    void readingsComeBack() throws IOException {
        List<Good> readings = List.of(new Good("VMAIN", ReadMode.DIODE, 0.42), new Good("VCORE", ReadMode.OHMS, 3.5));
        assertThat(GoodCsv.read(GoodCsv.write(readings), "good.csv", PowerFixtures.board()))
                .isEqualTo(readings);
        assertThat(GoodCsv.read("value,net,mode\n.41,VMAIN,d\n", "good.csv", PowerFixtures.board()))
                .containsExactly(new Good("VMAIN", ReadMode.DIODE, 0.41));
    }

    @Test
    void howItWasReadComesBackToo() throws IOException {
        Good black = new Good("VMAIN", ReadMode.DIODE, 0.61, false, Optional.of("C3"), Optional.of("bench, 4 digits"));
        assertThat(GoodCsv.read(GoodCsv.write(List.of(black)), "good.csv", PowerFixtures.board()))
                .containsExactly(black);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "net,mode|line 1: must have the columns net,mode,value",
                "net,mode,value\\nNO,d,1|line 2: names the net NO",
                "net,mode,value\\nVMAIN,d,.4\\nVMAIN,volts,1|line 3: mode must be diode or ohms",
                "net,mode,value\\nVMAIN,d,-1|line 2: value must be a number from 0 on",
                "net,mode,value\\nVMAIN,d,x|line 2: value must be a number from 0 on",
                "net,mode,value\\nVMAIN,d|line 2: must have as many fields",
                "net,mode,value,lead\\nVMAIN,d,.4,green|line 2: lead must be red or black",
                "net,mode,value,point\\nVMAIN,d,.4,C99|line 2: names the point C99",
                "net,mode,value\\n\"VMAIN,d,1|is no CSV table"
            })
    void aTableThatCannotBeUsedSaysWhere(String text, String says) {
        assertThatThrownBy(() -> GoodCsv.read(text.replace("\\n", "\n"), "good.csv", PowerFixtures.board()))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining(says);
    }
}
