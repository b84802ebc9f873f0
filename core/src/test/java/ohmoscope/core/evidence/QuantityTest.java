package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.evidence.Quantity.Unit;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class QuantityTest {
    @ParameterizedTest
    @CsvSource({
        ".003,0.003,NONE",
        "0.45,0.45,NONE",
        "'0,45',0.45,NONE",
        "-0.2,-0.2,NONE",
        "31mV,0.031,VOLTS",
        "5.02V,5.02,VOLTS",
        "5v,5,VOLTS",
        "40mA,0.04,AMPS",
        "2.00A,2,AMPS",
        "12mohm,0.012,OHMS",
        "2.1ohm,2.1,OHMS",
        "10Ω,10,OHMS",
        "47k,47000,OHMS",
        "1.2M,1200000,OHMS",
        "1.2kohm,1200,OHMS",
        "4k7,4700,OHMS",
        "4R7,4.7,OHMS",
        "0R01,0.01,OHMS",
        "3V3,3.3,VOLTS",
        "2.4K,2.4,KELVIN",
        "4mm,4,MILLIMETRES",
        "600uA,0.0006,AMPS",
        "7r,7,OHMS"
    })
    void asTheTradeWritesThem(String word, double value, Unit unit) {
        assertThat(Quantity.of(word)).hasValueSatisfying(q -> {
            assertThat(q.value()).isCloseTo(value, within(1e-9 * Math.max(1, Math.abs(value))));
            assertThat(q.unit()).isEqualTo(unit);
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "V", "C14", "J1", "VMAIN", "1.2.3", "--1", "3V3X", "k", "1e5", "twelve", "12mmm"})
    void whatIsNoNumber(String word) {
        assertThat(Quantity.of(word)).isEmpty();
    }
}
