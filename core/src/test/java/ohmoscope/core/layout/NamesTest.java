package ohmoscope.core.layout;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.OptionalDouble;
import ohmoscope.core.board.PartKind;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class NamesTest {
    @ParameterizedTest
    @CsvSource({
        "+3V3, 3.3",
        "+5V, 5",
        "3V3_KEEP, 3.3",
        "/power/VDD_1P8, 1.8",
        "V12V0, 12",
        "VCC33, 3.3",
        "+12V, 12",
        "5V0_USB, 5",
        "P1V05, 1.05",
        "VIN_20V, 20",
        "3.3V, 3.3",
        "SDA, 0",
        "GPIO5, 0",
        "VBUS, 0"
    })
    void aRailsNameGivesItsVolts(String net, double volts) {
        assertThat(NetNames.volts(net)).isEqualTo(volts > 0 ? OptionalDouble.of(volts) : OptionalDouble.empty());
    }

    @ParameterizedTest
    @ValueSource(strings = {"+3V3", "VBUS", "VCC", "/sheet/VDD_CORE", "VBAT", "+12V", "USB_VBUS", "5V", "VSYS"})
    void railsAreKnownByName(String net) {
        assertThat(NetNames.power(net)).isTrue();
        assertThat(NetNames.ground(net)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"EN_5V", "PG_3V3", "SDA", "Net-(U1-SW)", "GPIO12", "FB_1V8", "USB_DP", "3V3_EN"})
    void linesAreNoRails(String net) {
        assertThat(NetNames.power(net)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"GND", "AGND", "PGND", "GNDA", "VSS", "/a/GND", "0V", "GND_1"})
    void groundsAreKnownByName(String net) {
        assertThat(NetNames.ground(net)).isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "C14, 10u, C_0603, CAPACITOR",
        "R1, 10k, R_0402, RESISTOR",
        "Q3, Q_PMOS_GDS, SOT-23, MOSFET",
        "Q4, small NPN, SOT-23, TRANSISTOR",
        "FB2, 120R, 0603, FERRITE",
        "L1, Ferrite 600R, 0603, FERRITE",
        "D7, TVS 20V, SMB, TVS",
        "J1, socket, , CONNECTOR",
        "X1, Crystal 24M, , CRYSTAL",
        "U12, charger, QFN-24, IC",
        "ZZ9, ?, , OTHER"
    })
    void aPartsKindIsInItsName(String ref, String value, String packageName, PartKind kind) {
        assertThat(PartNames.kind(ref, value, packageName == null ? "" : packageName))
                .isEqualTo(kind);
    }
}
