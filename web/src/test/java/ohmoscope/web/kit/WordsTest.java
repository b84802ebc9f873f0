package ohmoscope.web.kit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.EntryLine;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.prove.NextStep;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.StepLine;
import ohmoscope.web.job.StepWords;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class WordsTest {
    private final Board board = Fixtures.board();

    @ParameterizedTest
    @CsvSource({
        "0.0123,Ω,12.3 mΩ",
        "0.42,Ω,420 mΩ",
        "4700,Ω,4.70 kΩ",
        "3.3,V,3.30 V",
        "0.0000021,A,2.10 µA",
        "0,W,0 W",
        "999.7,Ω,1000 Ω"
    })
    void engineeringNotation(double value, String unit, String words) {
        assertThat(Eng.prefixed(value, unit)).hasToString(words);
    }

    @ParameterizedTest
    @CsvSource({"0.9996,> 99", "0.94,94", "0.002,< 1", "0.005,1"})
    void percentsNeverSayCertain(double p, String words) {
        assertThat(Eng.percent(p)).isEqualTo(words);
    }

    @Test
    void readingsAreToldWithTheirMeaning() {
        Observation read = Fixtures.diode(1, "VSYS", 0.003);
        assertThat(Words.headline(read)).isEqualTo("VSYS at C1 0.003\u00a0V\u00a0d");
        assertThat(Words.echo(read)).isEqualTo("VSYS at C1, diode: 0.003 V");
        Observation open = Fixtures.read(1, ReadMode.OHMS, "VSYS", "C1", OptionalDouble.empty());
        assertThat(Words.headline(open)).contains("over\u00a0range");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "C1 d .0034",
                "VSYS at C1 d 0.41 black",
                "C1.1 d OL",
                "across R1 ohm OL",
                "across R1 4k7",
                "VSYS ohm 0.8",
                "VSYS beep",
                "C1 no beep",
                "C1 c 12",
                "TP1 v 5.02 charger",
                "VSYS v 4.2 to VIN bench",
                "VSYS vac 0.02",
                "look U1 pins touching",
                "charger U1 5.1V 40mA",
                "bench VSYS 4V 3A collapse",
                "inj VSYS 1V 2A 31mV 2.00A",
                "inj VSYS 1V 2A",
                "warm U1 2.4K",
                "warm 12.5,30 2.4K",
                "nothing warm",
                "removed C4 cold",
                "unplugged battery",
                "plugged battery",
                "separated upper",
                "does not charge",
                "missing radio"
            })
    void whatPagesPrintTheEntryLineReads(String text) {
        EntryLine line = new EntryLine(board);
        String printed = Words.headline(entry(line, text));
        assertThat(Words.headline(entry(line, printed))).as(text).isEqualTo(printed);
        assertThat(entry(line, printed)).as(printed).hasSameClassAs(entry(line, text));
    }

    private static Observation entry(EntryLine line, String text) {
        EntryLine.Parsed parsed = line.parse(text, 4);
        assertThat(parsed).as(text).isInstanceOf(EntryLine.Parsed.Entry.class);
        return ((EntryLine.Parsed.Entry) parsed).observation();
    }

    @Test
    void everyReasonSaysHowToMendIt() {
        for (EntryLine.Reason reason : EntryLine.Reason.values()) {
            assertThat(Words.reason(new EntryLine.Parsed.NotUnderstood(reason, "xyz")))
                    .hasSizeGreaterThan(12)
                    .endsWith(".");
        }
    }

    @Test
    void aLineIsEchoedBeforeItIsKept() {
        EntryLine line = new EntryLine(board);
        assertThat(Words.echo(line.parse("fix 3 C1 d .4", 9))).isEqualTo("entry 3 becomes: C1, diode: 0.400 V");
        assertThat(Words.echo(line.parse("undo 4", 9))).isEqualTo("entry 4 no longer counts");
        assertThat(Words.echo(line.parse("undo", 9))).isEqualTo("your last entry no longer counts");
        assertThat(Words.echo(line.parse("C99 d .4", 9))).isEqualTo("This board has no C99.");
        assertThat(Words.reason(new Bench.Refused(
                        3, 10, new EntryLine.Parsed.NotUnderstood(EntryLine.Reason.NO_SUCH_PLACE, "C99"))))
                .isEqualTo("Nothing kept: line 3. This board has no C99.");
    }

    @Test
    void stepsCarryTheirCautions() {
        var part = board.part("C3").orElseThrow();
        StepLine lift = StepWords.of(new NextStep.Lift(part, 0.94, Optional.empty()), "VSYS");
        assertThat(lift.sentence()).isEqualTo("Lift C3.");
        assertThat(lift.act()).isEqualTo("lift");
        assertThat(lift.cautions()).anyMatch(c -> c.contains("Battery")).anyMatch(c -> c.contains("300–400 °C"));
        StepLine more = StepWords.of(new NextStep.MorePower(0.003), "VSYS");
        assertThat(more.why()).contains("3.0 mW");
        assertThat(more.cautions()).anyMatch(c -> c.contains("nominal voltage"));
        for (NextStep step : List.of(
                new NextStep.Image(),
                new NextStep.CheckLeads(),
                new NextStep.TurnOver(part),
                new NextStep.GoCloser(part, Optional.of(part)),
                new NextStep.ReadAgain(Fixtures.removed(2, "C3"), Optional.empty()),
                new NextStep.StillThere(Fixtures.removed(2, "C3")),
                new NextStep.LetCool(Fixtures.removed(2, "C3")),
                new NextStep.HandBack(Fixtures.removed(2, "C3"), false))) {
            StepLine words = StepWords.of(step, "VSYS");
            assertThat(words.sentence()).endsWith(".");
            assertThat(words.cautions()).isNotEmpty();
        }
    }

    @Test
    void theBottomIsTurnedOverLeftToRight() {
        BoardPicture top = BoardPicture.of(board, "VSYS", Side.TOP, Optional.empty(), Optional.empty());
        BoardPicture bottom = BoardPicture.of(board, "VSYS", Side.BOTTOM, Optional.empty(), Optional.empty());
        BoardPicture.Shape c1 = top.parts().stream()
                .filter(s -> s.ref().equals("C1"))
                .findFirst()
                .orElseThrow();
        assertThat(c1.x()).isEqualTo(12);
        assertThat(c1.y()).isEqualTo(30 - 14);
        assertThat(c1.rail()).isTrue();
        assertThat(c1.tip()).isEqualTo("C1 · capacitor · VSYS, GND");
        assertThat(bottom.parts()).isEmpty();
        assertThat(top.outline()).startsWith("0.00,30.00 40.00,30.00");
        assertThat(bottom.outline()).startsWith("40.00,30.00 0.00,30.00");
        assertThat(top.flags()).isEmpty();
    }
}
