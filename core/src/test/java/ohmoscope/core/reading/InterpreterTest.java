package ohmoscope.core.reading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Interpreter.PartState;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class InterpreterTest {
    private final Interpreter interpreter = new Interpreter(Fixtures.board());

    private static Net core(String name) {
        return new Net(name, NetKind.POWER, OptionalDouble.of(0.9), Optional.empty());
    }

    private static Net bare(String name) {
        return new Net(name, NetKind.POWER, OptionalDouble.of(3.3), Optional.empty());
    }

    @ParameterizedTest
    @CsvSource({
        "DIODE,0.003,SHORTED,UNDER_ANY_PART",
        "DIODE,0.06,LOW,UNDER_RANGE",
        "DIODE,0.28,LOW,UNDER_RANGE",
        "DIODE,0.33,GOOD,IN_RANGE",
        "DIODE,0.42,GOOD,IN_RANGE",
        "DIODE,0.7,HIGH,ABOVE_RANGE",
        "DIODE,Infinity,HIGH,ABOVE_RANGE",
        "OHMS,0.4,SHORTED,UNDER_ANY_PART",
        "OHMS,5.5,LOW,UNDER_RANGE",
        "OHMS,400,GOOD,IN_RANGE",
        "OHMS,20000,HIGH,ABOVE_RANGE",
        "CONTINUITY,0.4,SHORTED,UNDER_ANY_PART",
        "CONTINUITY,1,SHORTED,UNDER_ANY_PART",
        "CONTINUITY,0,CLEAR,NOTHING_STATED"
    })
    void judgesAgainstWhatAGoodBoardReads(ReadMode mode, double value, Says says, Reason reason) {
        Interpretation told = interpreter.unpowered(Fixtures.rail("VSYS", 12), mode, value);
        assertThat(told.says()).isEqualTo(says);
        assertThat(told.reason()).isEqualTo(reason);
    }

    @ParameterizedTest
    @CsvSource({
        "OHMS,1.1,BY_DESIGN",
        "OHMS,5,BY_DESIGN",
        "OHMS,0.2,SHORTED",
        "OHMS,40,CLEAR",
        "DIODE,0.006,BY_DESIGN",
        "DIODE,0.3,CLEAR",
        "CONTINUITY,1,BY_DESIGN",
        "CONTINUITY,0.2,SHORTED"
    })
    void aCoreIsLowByDesign(ReadMode mode, double value, Says says) {
        assertThat(interpreter.unpowered(core("VCORE"), mode, value).says()).isEqualTo(says);
    }

    @ParameterizedTest
    @CsvSource({"OHMS,7,LOW", "OHMS,300,CLEAR", "DIODE,0.07,LOW", "DIODE,0.2,CLEAR"})
    void whereNothingIsStatedOnlyWhatIsOddIsSaid(ReadMode mode, double value, Says says) {
        assertThat(interpreter.unpowered(bare("V3"), mode, value).says()).isEqualTo(says);
    }

    @Test
    void theChancesFollowTheValue() {
        Net net = Fixtures.rail("VSYS", 12);
        double last = 1;
        for (double ohms = 0.1; ohms < 200; ohms *= 1.15) {
            Interpretation told = interpreter.unpowered(net, ReadMode.OHMS, ohms);
            assertThat(told.shorted()).isBetween(0.0, told.pulledDown());
            assertThat(told.pulledDown()).isBetween(0.0, 1.0).isLessThanOrEqualTo(last + 1e-9);
            last = told.pulledDown();
        }
        assertThat(interpreter
                        .unpowered(net, ReadMode.OHMS, Thresholds.DEAD_OHMS)
                        .shorted())
                .isCloseTo(0.5, within(0.01));
        assertThat(interpreter.unpowered(net, ReadMode.DIODE, 0.003).pulledDown())
                .isGreaterThan(0.95);
        assertThat(interpreter.unpowered(net, ReadMode.DIODE, 0.31).onTheBorder())
                .isTrue();
        assertThat(interpreter.unpowered(net, ReadMode.DIODE, 0.42).onTheBorder())
                .isFalse();
    }

    @Test
    void whatCannotBeComparedIsNotJudged() {
        assertThat(interpreter.unpowered(powered())).isEmpty();
        assertThat(interpreter.unpowered(Fixtures.read(1, ReadMode.VOLTS, "VSYS", "C1", OptionalDouble.of(3))))
                .isEmpty();
        assertThat(interpreter.unpowered(Fixtures.read(1, ReadMode.OHMS, "GND", "C1", OptionalDouble.of(0))))
                .isEmpty();
    }

    private static Read powered() {
        return new Read(
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
        assertThat(interpreter.unpowered(read).map(Interpretation::says)).contains(Says.GOOD);
        assertThat(interpreter.expected(read)).isPresent();
    }

    @ParameterizedTest
    @CsvSource({"11.4,PRESENT", "10.1,HALF", "4,HALF", "1.7,ABSENT", "0,ABSENT"})
    void aVoltageIsComparedWithWhatBelongsThere(double volts, Says says) {
        assertThat(Interpreter.powered(volts, 12).says()).isEqualTo(says);
    }

    @ParameterizedTest
    @CsvSource({"OHMS,0.3,", "OHMS,3,OFF_VALUE", "OHMS,Infinity,OPEN", "DIODE,Infinity,OPEN", "CONTINUITY,0,OPEN"})
    void aFuseIsReadAcross(ReadMode mode, double value, PartState state) {
        Part fuse = Fixtures.board().part("F1").orElseThrow();
        Read read = Fixtures.read(
                1, mode, "VIN", "F1", Double.isInfinite(value) ? OptionalDouble.empty() : OptionalDouble.of(value));
        assertThat(interpreter.across(fuse, read)).isEqualTo(Optional.ofNullable(state));
    }
}
