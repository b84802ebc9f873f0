package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.EntryLine.Parsed;
import ohmoscope.core.evidence.EntryLine.Reason;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class EntryLineTest {
    private final EntryLine line = new EntryLine(Fixtures.board());

    private <T extends Observation> T entry(String text, Class<T> type) {
        Parsed parsed = line.parse(text, 7);
        assertThat(parsed).as(text).isInstanceOf(Parsed.Entry.class);
        Observation observation = ((Parsed.Entry) parsed).observation();
        assertThat(observation.seq()).isEqualTo(7);
        return type.cast(observation);
    }

    @ParameterizedTest
    @CsvSource({
        "C1 d .003,DIODE,0.003",
        "c1 diode 0.45,DIODE,0.45",
        "VSYS 2.1 ohm,OHMS,2.1",
        "VSYS 4k7 ohm,OHMS,0",
        "vsys 12mohm,OHMS,0.012",
        "TP1 5.02 V,VOLTS,5.02",
        "C1 r 1.2k,OHMS,1200",
        "'C1 d 0,45',DIODE,0.45"
    })
    void readings(String text, ReadMode mode, double value) {
        if (value == 0) {
            assertThat(line.parse(text, 7)).isInstanceOf(Parsed.NotUnderstood.class);
            return;
        }
        Read read = entry(text, Read.class);
        assertThat(read.mode()).isEqualTo(mode);
        assertThat(read.value().orElseThrow()).isCloseTo(value, org.assertj.core.api.Assertions.within(1e-12));
    }

    @Test
    void placeAndNetAreKeptApart() {
        Read both = entry("C1 VSYS d .1", Read.class);
        assertThat(both.ref()).contains("C1");
        assertThat(both.net()).contains("VSYS");
        assertThat(entry("VSYS d .1", Read.class).ref()).isEmpty();
    }

    @Test
    void overRangeHasNoValue() {
        Read open = entry("C1 d OL", Read.class);
        assertThat(open.value()).isEqualTo(OptionalDouble.empty());
    }

    @Test
    void looks() {
        Look look = entry("look U1 pins touching", Look.class);
        assertThat(look.target()).isEqualTo("U1");
        assertThat(look.finding()).isEqualTo(LookFinding.PINS_TOUCHING);
        assertThat(entry("C2 look cracked", Look.class).finding()).isEqualTo(LookFinding.CRACKED);
    }

    @Test
    void changes() {
        assertThat(entry("removed C4", Change.class)).isEqualTo(new Change(7, ChangeAction.REMOVED, "C4", true));
        assertThat(entry("C4 off", Change.class).action()).isEqualTo(ChangeAction.REMOVED);
        Change battery = entry("unplugged battery", Change.class);
        assertThat(battery.target()).isEqualTo("battery");
        assertThat(battery.heat()).isFalse();
    }

    @Test
    void injections() {
        Inject inject = entry("inj VSYS 1V 2A 31mV 2.00A", Inject.class);
        assertThat(inject.net()).isEqualTo("VSYS");
        assertThat(inject.setVolts()).hasValue(1);
        assertThat(inject.limitAmps()).hasValue(2);
        assertThat(inject.volts()).hasValue(0.031);
        assertThat(inject.amps()).hasValue(2);
        assertThat(entry("inj vsys 1V 2A", Inject.class).volts()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "'',EMPTY",
        "C99 d .1,NO_SUCH_PLACE",
        "C1,NO_VALUE",
        "C1 d,NO_VALUE",
        "look C1 purple,NO_SUCH_FINDING",
        "removed X9,NO_SUCH_PLACE",
        "C1 d .1 hello,UNKNOWN_WORD",
        "inj 1V 2A,NO_SUCH_PLACE",
        "inj VSYS 1V,NO_VALUE"
    })
    void saysWhatItDoesNotUnderstand(String text, Reason reason) {
        Parsed parsed = line.parse(text, 1);
        assertThat(parsed)
                .isInstanceOfSatisfying(
                        Parsed.NotUnderstood.class, n -> assertThat(n.reason()).isEqualTo(reason));
    }

    @Test
    void optionalsAreNeverNull() {
        assertThat(entry("VSYS d .2", Read.class).power()).isEqualTo(Optional.empty());
    }
}
