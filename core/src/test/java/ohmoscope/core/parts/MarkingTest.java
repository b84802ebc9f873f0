package ohmoscope.core.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.Marking.Way;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MarkingTest {
    @ParameterizedTest
    @CsvSource({
        "RESISTOR, 103, 10e3, THREE_DIGITS, 0.05",
        "RESISTOR, 220, 22, THREE_DIGITS, 0.05",
        "RESISTOR, 1002, 10e3, FOUR_DIGITS, 0.01",
        "RESISTOR, 4992, 49.9e3, FOUR_DIGITS, 0.01",
        "RESISTOR, 4R7, 4.7, LETTER_AS_POINT, 0.05",
        "RESISTOR, R010, 0.01, LETTER_AS_POINT, 0.01",
        "RESISTOR, 5L0, 0.005, LETTER_AS_POINT, 0.05",
        "RESISTOR, 4K70, 4.7e3, LETTER_AS_POINT, 0.01",
        "RESISTOR, 01C, 10e3, SERIES_96, 0.01",
        "RESISTOR, 68X, 49.9, SERIES_96, 0.01",
        "RESISTOR, 29D, 196e3, SERIES_96, 0.01",
        "CAPACITOR, 107, 100e-6, THREE_DIGITS, ",
        "CAPACITOR, 476J, 47e-6, THREE_DIGITS, ",
        "CAPACITOR, A226, 22e-6, THREE_DIGITS, ",
        "CAPACITOR, 470 16V, 470e-6, PLAIN, ",
        "INDUCTOR, 2R2, 2.2e-6, LETTER_AS_POINT, ",
        "INDUCTOR, 100, 10e-6, THREE_DIGITS, ",
        "INDUCTOR, 47N, 47e-9, LETTER_AS_POINT, ",
    })
    void whatIsPrintedIsRead(PartKind kind, String printed, double value, Way way, Double tolerance) {
        Marking first = Marking.of(kind, printed).get(0);
        assertThat(first.value()).isCloseTo(value, within(1e-9 * value));
        assertThat(first.way()).isEqualTo(way);
        assertThat(first.upsideDown()).isFalse();
        if (tolerance == null) {
            assertThat(first.tolerance()).isEmpty();
        } else {
            assertThat(first.tolerance()).hasValue(tolerance);
        }
    }

    @Test
    void allOfThe96AreTheSeries() {
        // Taken from the series' own table: the ends, and values that a careless rounding would miss.
        for (int[] pair : new int[][] {{1, 100}, {2, 102}, {18, 150}, {30, 200}, {49, 316}, {68, 499}, {96, 976}}) {
            assertThat(Marking.of(PartKind.RESISTOR, String.format("%02dA", pair[0]))
                            .get(0)
                            .value())
                    .isEqualTo(pair[1]);
        }
        assertThat(Marking.of(PartKind.RESISTOR, "97A")).isEmpty();
    }

    @Test
    void voltsAreReadWhereTheyStand() {
        assertThat(Marking.of(PartKind.CAPACITOR, "476J").get(0).volts()).hasValue(6.3);
        assertThat(Marking.of(PartKind.CAPACITOR, "A226").get(0).volts()).hasValue(10);
        assertThat(Marking.of(PartKind.CAPACITOR, "220 6.3V").get(0).volts()).hasValue(6.3);
        assertThat(Marking.of(PartKind.CAPACITOR, "107").get(0).volts()).isEmpty();
    }

    /** Figures that are figures from both sides: the other reading is told, where there is such a part. */
    @Test
    void aPartMayLieUpsideDown() {
        List<Marking> both = Marking.of(PartKind.RESISTOR, "116");
        assertThat(both).hasSize(2);
        assertThat(both.get(0).value()).isEqualTo(11e6);
        assertThat(both.get(1).value()).isEqualTo(910);
        assertThat(both.get(1).upsideDown()).isTrue();
        assertThat(Marking.of(PartKind.RESISTOR, "101")).hasSize(1);
        assertThat(Marking.of(PartKind.RESISTOR, "681")).as("18 Gohm is none").hasSize(1);
    }

    @Test
    void aLetterMayMeanTwoThings() {
        assertThat(Marking.of(PartKind.RESISTOR, "10R"))
                .extracting(Marking::way)
                .containsExactly(Way.LETTER_AS_POINT, Way.SERIES_96);
    }

    @Test
    void aLinkIsALink() {
        assertThat(Marking.of(PartKind.RESISTOR, "000").get(0).way()).isEqualTo(Way.LINK);
        assertThat(Marking.of(PartKind.RESISTOR, "0").get(0).value()).isZero();
    }

    @Test
    void whatCannotBeReadIsNotGuessed() {
        for (String text : new String[] {"", "??", "R", "0R0", "999999", "A7", "12", "03"}) {
            assertThat(Marking.of(PartKind.RESISTOR, text)).as(text).isEmpty();
        }
        assertThat(Marking.of(PartKind.IC, "103")).isEmpty();
        assertThat(Marking.of(PartKind.DIODE, "4R7")).isEmpty();
        assertThat(Marking.of(PartKind.CAPACITOR, "C107C")).isEmpty();
    }
}
