package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.ReadingVerdict.Kind;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReadingVerdictTest {
    @ParameterizedTest
    @CsvSource({
        "DIODE,0.003,DEAD_SHORT",
        "DIODE,0.06,PARTIAL_SHORT",
        "DIODE,0.2,BELOW_RANGE",
        "DIODE,0.42,IN_RANGE",
        "DIODE,0.7,ABOVE_RANGE",
        "OHMS,0.4,DEAD_SHORT",
        "OHMS,12,BELOW_RANGE",
        "OHMS,400,IN_RANGE",
        "CONTINUITY,0.4,NO_EXPECTATION",
        "VOLTS,12,NO_EXPECTATION"
    })
    void judgesAgainstWhatAGoodBoardReads(ReadMode mode, double value, Kind kind) {
        Read read = Fixtures.read(1, mode, "VSYS", "C1", OptionalDouble.of(value));
        assertThat(ReadingVerdict.of(Fixtures.board(), read).kind()).isEqualTo(kind);
    }

    @Test
    void openIsOverRange() {
        Read read = Fixtures.read(1, ReadMode.DIODE, "VSYS", "C1", OptionalDouble.empty());
        assertThat(ReadingVerdict.of(Fixtures.board(), read).kind()).isEqualTo(Kind.OVER_RANGE);
    }

    @Test
    void aSignalLineReadsLowByRight() {
        Read read = Fixtures.read(1, ReadMode.DIODE, "S1", "R1", OptionalDouble.of(0.01));
        assertThat(ReadingVerdict.of(Fixtures.board(), read).kind()).isEqualTo(Kind.NO_EXPECTATION);
    }

    @Test
    void aPoweredReadingIsNotJudgedAsUnpowered() {
        Read read = new Read(
                1,
                ReadMode.DIODE,
                Optional.of("VSYS"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(0.001),
                Optional.empty(),
                Optional.of(PowerSource.BENCH));
        assertThat(ReadingVerdict.of(Fixtures.board(), read).kind()).isEqualTo(Kind.NO_EXPECTATION);
    }

    @Test
    void aTestPointStandsForItsNet() {
        Read read = new Read(
                1,
                ReadMode.DIODE,
                Optional.empty(),
                Optional.of("TP1"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(0.4),
                Optional.empty(),
                Optional.empty());
        assertThat(ReadingVerdict.of(Fixtures.board(), read).kind()).isEqualTo(Kind.IN_RANGE);
    }
}
