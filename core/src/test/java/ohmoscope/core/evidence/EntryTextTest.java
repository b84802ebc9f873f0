package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.EntryLine.Parsed;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class EntryTextTest {
    private static final ohmoscope.core.board.Board BOARD = Fixtures.board();
    private final EntryLine line = new EntryLine(Fixtures.board());

    private Observation entry(String text) {
        Parsed parsed = line.parse(text, 4);
        assertThat(parsed).as(text).isInstanceOf(Parsed.Entry.class);
        return ((Parsed.Entry) parsed).observation();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "C1 d .003",
                "C1.1 VSYS d 0.41 black",
                "across R1 ohm OL",
                "VSYS ohm 2.1k",
                "TP1 v 5.02 charger",
                "VSYS v 4.2 to VIN bench",
                "C1 c 0",
                "look U1 pins touching",
                "charger U1 5.1V 40mA spike-then-zero side b battery in on",
                "bench VSYS 4V 3A collapse",
                "inj VSYS 1V 2A 31mV 2.00A at C3 leads 10mohm burst",
                "inj VSYS 1V 2A",
                "warm U1 2.4K touch",
                "warm 12.5,30 bottom 4mm",
                "nothing warm top camera",
                "removed C4 cold",
                "cleaned U1 hot",
                "unplugged battery",
                "separated upper",
                "does not charge",
                "missing radio"
            })
    void aCorrectionBeginsWithTheLineThatMakesTheEntry(String text) {
        Observation observation = entry(text);
        assertThat(entry(EntryText.of(observation))).isEqualTo(observation);
    }

    private static Read read(int seq, double value) {
        return new Read(
                seq,
                ReadMode.DIODE,
                Optional.of("VSYS"),
                Optional.of("C1"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Double.isInfinite(value) ? OptionalDouble.empty() : OptionalDouble.of(value),
                Optional.empty(),
                Optional.empty());
    }

    @Test
    void repeatedReadingsHaveASpread() {
        var all = java.util.List.<Observation>of(
                read(1, 0.41), read(2, 0.42), Fixtures.removed(3, "C4"), read(4, 0.4), read(5, 0.05));
        assertThat(Spread.of(BOARD, read(1, 0.41), all)).isEmpty();
        assertThat(Spread.of(BOARD, read(2, 0.42), all)).hasValueSatisfying(s -> {
            assertThat(s.times()).isEqualTo(2);
            assertThat(s.low()).isEqualTo(0.41);
            assertThat(s.contact()).isFalse();
        });
        assertThat(Spread.of(BOARD, read(4, 0.4), all))
                .as("after a change it is another circuit")
                .isEmpty();
        assertThat(Spread.of(BOARD, read(5, 0.05), all))
                .hasValueSatisfying(s -> assertThat(s.contact()).isTrue());
        var open = java.util.List.<Observation>of(read(1, 0.4), read(2, Double.POSITIVE_INFINITY));
        assertThat(Spread.of(BOARD, read(2, Double.POSITIVE_INFINITY), open))
                .hasValueSatisfying(s -> assertThat(s.high()).isInfinite());
    }
}
