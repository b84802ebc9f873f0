package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.EntryLine.Habit;
import ohmoscope.core.evidence.EntryLine.Parsed;
import ohmoscope.core.evidence.EntryLine.Reason;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
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
        "VSYS 4k7,OHMS,4700",
        "VSYS 4R7,OHMS,4.7",
        "C1 d.45,DIODE,0.45",
        "TP1 3V3,VOLTS,3.3",
        "C1 1.2K ohm,OHMS,1200",
        "C1 beep,CONTINUITY,1",
        "C1 no beep,CONTINUITY,0",
        "vsys 12mohm,OHMS,0.012",
        "TP1 5.02 V,VOLTS,5.02",
        "C1 r 1.2k,OHMS,1200",
        "'C1 d 0,45',DIODE,0.45",
        "C1 mv 3.2,VOLTS,0.0032",
        "C1 31mV mv,VOLTS,0.031"
    })
    void readings(String text, ReadMode mode, double value) {
        Read read = entry(text, Read.class);
        assertThat(read.mode()).isEqualTo(mode);
        assertThat(read.value().orElseThrow()).isCloseTo(value, org.assertj.core.api.Assertions.within(1e-12));
    }

    @Test
    void millivoltsAreReadWhileTheBenchInjects() {
        Read read = entry("C1 mv 3.2", Read.class);
        assertThat(read.power()).contains(PowerSource.BENCH);
        assertThat(EntryText.of(read)).isEqualTo("C1 v 0.0032 bench");
        assertThat(entry("C1 millivolts 3.2 charger", Read.class).power()).contains(PowerSource.CHARGER);
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

    @Test
    void padsDirectionsAndFeedsOfAReading() {
        Read pad = entry("C1.1 d .4 black", Read.class);
        assertThat(pad.ref()).contains("C1");
        assertThat(pad.pin()).contains("1");
        assertThat(pad.lead()).contains("black-on-ground");
        assertThat(entry("across R1 .02ohm", Read.class).across()).contains("R1");
        assertThat(entry("R1 across 0.02 ohm", Read.class).across()).contains("R1");
        assertThat(entry("VSYS 4.2V to VIN bench", Read.class))
                .satisfies(r -> assertThat(r.to()).contains("VIN"))
                .satisfies(r -> assertThat(r.power()).contains(PowerSource.BENCH));
    }

    @Test
    void whatTheLineLeavesUnsaidComesFromHabit() {
        EntryLine usual = new EntryLine(
                Fixtures.board(),
                new Habit(
                        Optional.of(ReadMode.DIODE),
                        Optional.empty(),
                        Optional.of(PowerSource.CHARGER),
                        OptionalDouble.of(0.04)));
        Read bare = (Read) ((Parsed.Entry) usual.parse("C1 .45", 1)).observation();
        assertThat(bare.mode()).isEqualTo(ReadMode.DIODE);
        assertThat(bare.power()).isEmpty();
        Read volts = (Read) ((Parsed.Entry) usual.parse("VSYS 5V", 1)).observation();
        assertThat(volts.power()).contains(PowerSource.CHARGER);
        Inject inject = (Inject) ((Parsed.Entry) usual.parse("inj VSYS 1V 2A 0.3V 2A", 1)).observation();
        assertThat(inject.leadOhms()).hasValue(0.04);
        assertThat(line.parse("C1 .45", 1)).isInstanceOf(Parsed.NotUnderstood.class);
    }

    @Test
    void whatTheButtonSaysIsReadToo() {
        Change off = entry("C2 is off", Change.class);
        assertThat(off.target()).isEqualTo("C2");
        assertThat(off.action()).isEqualTo(ChangeAction.REMOVED);
    }

    @Test
    void powerFromOutside() {
        Power power = entry("charger U1 5.1V 40mA pulsing side b battery out on", Power.class);
        assertThat(power.from()).isEqualTo(PowerSource.CHARGER);
        assertThat(power.port()).contains("U1");
        assertThat(power.amps()).hasValue(0.04);
        assertThat(power.shape()).contains(TraceShape.PULSING);
        assertThat(power.orientation()).contains("b");
        assertThat(power.battery()).contains(BatteryState.OUT);
        assertThat(power.state()).isEqualTo(DeviceState.ON);
        assertThat(entry("power bench VSYS 4V 3A collapse", Power.class).net()).contains("VSYS");
    }

    @Test
    void injectionsWithAllTheyHave() {
        Inject inject = entry("inj VSYS 1V 2A 31mV 2.00A at C3 leads 10mohm burst", Inject.class);
        assertThat(inject.ref()).contains("C3");
        assertThat(inject.leadOhms()).hasValue(0.01);
        assertThat(inject.shape()).contains(TraceShape.BURST_THEN_ZERO);
        assertThat(entry("inj at C3 1V 2A", Inject.class).net()).isEqualTo("VSYS");
    }

    @Test
    void warmth() {
        Warm part = entry("warm U1 2.4K touch", Warm.class);
        assertThat(part.ref()).contains("U1");
        assertThat(part.deltaK()).hasValue(2.4);
        assertThat(part.by()).contains(WarmthMeans.TOUCH);
        Warm place = entry("warm 12,30 top 4mm", Warm.class);
        assertThat(place.xMm()).hasValue(12);
        assertThat(place.spreadMm()).hasValue(4);
        assertThat(place.side()).contains(Side.TOP);
        assertThat(entry("nothing warm bottom", Warm.class).nothing()).isTrue();
    }

    @Test
    void howTheDeviceBehaves() {
        assertThat(entry("boots", Run.class).finding()).isEqualTo(RunFinding.BOOTS);
        assertThat(entry("run no picture", Run.class).finding()).isEqualTo(RunFinding.NO_PICTURE);
        assertThat(entry("does not charge", Run.class).finding()).isEqualTo(RunFinding.DOES_NOT_CHARGE);
        assertThat(entry("missing radio", Run.class).what()).contains("radio");
        assertThat(entry("C2 missing", Look.class).finding()).isEqualTo(LookFinding.MISSING);
    }

    @Test
    void changesWithoutHeatAndOfHalves() {
        assertThat(entry("removed C4 cold", Change.class).heat()).isFalse();
        assertThat(entry("separated upper", Change.class).target()).isEqualTo("stack:upper");
    }

    @Test
    void correctionsAndWithdrawals() {
        Parsed fixed = line.parse("fix 3 C1 d .03", 7);
        assertThat(fixed).isInstanceOf(Parsed.Correction.class);
        assertThat(((Parsed.Correction) fixed).observation().seq()).isEqualTo(3);
        assertThat(line.parse("undo", 7)).isEqualTo(new Parsed.Withdrawal(Optional.empty()));
        assertThat(line.parse("undo #4", 7)).isEqualTo(new Parsed.Withdrawal(Optional.of(4)));
        assertThat(line.parse("undo that", 7)).isEqualTo(new Parsed.NotUnderstood(Reason.NO_SUCH_ENTRY, "that"));
    }

    @Test
    void whatAGoodBoardReadsIsNoEntryOfTheJob() {
        Parsed good = line.parse("good C1 d .42", 7);
        assertThat(good)
                .isEqualTo(new Parsed.Reference(new GoodReadings.Good(
                        "VSYS", ReadMode.DIODE, 0.42, true, Optional.of("C1"), Optional.empty())));
        assertThat(line.parse("good VSYS 5V charger", 7)).isInstanceOf(Parsed.NotUnderstood.class);
        assertThat(line.parse("good", 7)).isInstanceOf(Parsed.NotUnderstood.class);
    }

    @Test
    void goodReadingsFillInWhatTheBoardDoesNotTell() {
        var board = Fixtures.board();
        assertThat(GoodReadings.onto(board, java.util.List.of())).isSameAs(board);
        var known = GoodReadings.onto(
                board,
                java.util.List.of(
                        new GoodReadings.Good("S1", ReadMode.DIODE, 0.60),
                        new GoodReadings.Good("S1", ReadMode.DIODE, 0.64),
                        new GoodReadings.Good("VSYS", ReadMode.DIODE, 0.9)));
        var s1 = known.net("S1").orElseThrow().expect().orElseThrow();
        assertThat(s1.diodeVolts().orElseThrow().contains(0.62)).isTrue();
        assertThat(s1.diodeVolts().orElseThrow().contains(0.75)).isFalse();
        assertThat(s1.ohms()).isEmpty();
        assertThat(known.net("VSYS").orElseThrow().expect().flatMap(e -> e.diodeVolts()))
                .as("the board's own data stands")
                .isEqualTo(board.net("VSYS").orElseThrow().expect().flatMap(e -> e.diodeVolts()));
    }
}
