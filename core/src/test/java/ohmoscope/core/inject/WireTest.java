package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.board.InvalidMember;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class WireTest {
    /** Sections after the standard's table. */
    @ParameterizedTest
    @CsvSource({"AWG 18, 0.823", "24awg, 0.205", "awg12, 3.31", "0.75, 0.75", "'1,5 mm²', 1.5", "2.5mm2, 2.5"})
    void aGaugeIsSquareMillimetresOrANumber(String gauge, double mm2) {
        assertThat(Wire.of(1, gauge).sectionMm2()).isCloseTo(mm2, within(0.005 * mm2));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "thick", "18 gauge", "-1", "AWG"})
    void anythingElseIsSaidToBeNone(String gauge) {
        assertThatThrownBy(() -> Wire.of(1, gauge))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("gauge")
                .hasMessageContaining("AWG 18");
    }

    @Test
    void bothLeadsCountWithTheirJoints() {
        // Two metres of 1 mm²: 34 mΩ; half of that section doubles it.
        double one = Wire.of(1, "1").ohms();
        double half = Wire.of(1, "0.5").ohms();
        assertThat(one).isBetween(0.034, 0.06);
        assertThat(half - one).isCloseTo(0.0344, within(1e-6));
    }

    @Test
    void aThickLeadCarriesMore() {
        assertThat(Wire.of(1, "0.14").ratedAmps()).isBetween(1.5, 3.5);
        assertThat(Wire.of(1, "0.75").ratedAmps()).isBetween(5.0, 9.0);
        assertThat(Wire.of(1, "1.5").ratedAmps())
                .isGreaterThan(Wire.of(1, "0.75").ratedAmps());
        assertThat(Wire.of(1, "0.75").leads().ratedAmps())
                .isEqualTo(Wire.of(1, "0.75").ratedAmps());
    }

    @Test
    void noLeadIsAMileLong() {
        assertThatThrownBy(() -> Wire.of(1600, "1")).hasMessageContaining("length");
    }
}
