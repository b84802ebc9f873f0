package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What typed evidence comes to, on the board between a jack and a core. Entries are parted by semicolons. */
class WrittenEvidenceTest {
    private static final Board BOARD = PowerFixtures.board();

    private final Advisor advisor = new Advisor(BOARD);

    private static List<Observation> entries(String lines) {
        return Entries.of(
                BOARD, Arrays.stream(lines.split(";")).map(String::trim).toArray(String[]::new));
    }

    private Advice advice(String lines) {
        return advisor.advise(Optional.empty(), "", entries(lines));
    }

    private static String code(Enum<?> code) {
        return code.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static List<String> findings(Advice advice) {
        return advice.findings().stream()
                .map(f -> code(f.code()) + f.place().map(p -> " " + p).orElse(""))
                .toList();
    }

    @ParameterizedTest
    @CsvSource({
        "VMAIN d .002, rail-shorted VMAIN",
        "VMAIN ohm 0.4, rail-shorted VMAIN",
        "VMAIN beep, rail-shorted VMAIN",
        "VMAIN d .06, rail-low VMAIN",
        "VMAIN ohm 40, rail-low VMAIN",
        "VMAIN d .43, rail-good VMAIN",
        "VMAIN ohm 9k, rail-good VMAIN",
        "VCORE ohm 4, reading-by-design VCORE",
        "VCORE d .012, reading-by-design VCORE",
        "C3 d .002, rail-shorted VMAIN",
        "VMAIN v 12.1 charger, rail-good VMAIN",
        "VMAIN v 0.1 charger; VIN v 12 charger, rail-absent VMAIN",
        "across F1 ohm OL, part-open F1",
        "across F1 ohm 0.1; VIN d .5, rail-good VIN",
        "across R1 ohm 470k, part-off-value R1",
        "charger J1 12V 0A flat, draw-none J1",
        "charger J1 12V 10mA flat, draw-stuck J1",
        "charger J1 12V 0.7A rising on, draw-normal J1",
        "charger J1 12V 0.1A spike-then-zero, draw-normal J1",
        "charger J1 2V 4A collapse, draw-excessive J1",
        "charger J1 12V 5A flat, draw-excessive J1",
        "charger J1 12V 0.5A pulsing, draw-pulsing J1",
        "charger J1 5V 0.05A flat, no-negotiation J1",
        "charger J1 12V 0.7A flat side a; charger J1 12V 0A flat side b, one-side-only J1",
        "VMAIN d .002; inj VMAIN 1V 2A 1V 0A, no-contact VMAIN",
        "VMAIN d .002; inj VMAIN 1V 2A 100mV 2A leads 50mohm, injected-into-ground VMAIN",
        "VMAIN d .002; removed C3; VMAIN d .43, short-cleared VMAIN",
        "VMAIN d .002; removed C3; VMAIN d .002, short-remains VMAIN",
        "V3 d .002; unplugged J3; V3 d .002, short-remains V3",
        "V3 d .002; unplugged J3; V3 d .41, short-cleared V3",
        "VCORE beep, reading-by-design VCORE"
    })
    void isFound(String lines, String finding) {
        assertThat(findings(advice(lines)))
                .as(lines)
                .anyMatch(f -> f.equals(finding) || f.equals(finding.split(" ")[0]));
    }

    @ParameterizedTest
    @CsvSource({
        "VCORE ohm 4, rail-shorted",
        "VCORE beep, rail-shorted",
        "VMAIN d .002; removed C3; VMAIN d .43, rail-shorted",
        "VMAIN d .002; removed C3, rail-shorted",
        "VMAIN d .43, short-cleared",
        "charger J1 12V 0.1A spike-then-zero, draw-none",
        "across F1 ohm 0.1, part-open",
        "VMAIN d .002; inj VMAIN 1V 2A 0.5V 2A leads 50mohm, injected-into-ground",
        "battery VBAT 7.4V 0.3A flat, draw-excessive",
        "VMAIN d OL, rail-shorted"
    })
    void isNotFound(String lines, String code) {
        assertThat(findings(advice(lines))).as(lines).noneMatch(f -> f.startsWith(code));
    }

    @ParameterizedTest
    @CsvSource({
        "look J1 pins touching, do-not-power",
        "VMAIN d .002, do-not-power",
        "charger J1 2V 4A collapse, do-not-power",
        "charger J1 5V 0.4A pulsing, do-not-power",
        "charger J1 16V 0.1A flat, over-nominal",
        "inj V3 5V 1A, over-nominal",
        "bench VCORE 3V 1A flat, over-nominal",
        "plugged battery; inj VMAIN 1V 2A, battery-connected",
        "plugged battery; removed C3, battery-connected",
        "removed C3, hot-board",
        "VMAIN d .002; replaced C3, hot-board",
        "VMAIN d .002; warm C3 liquid, flammable",
        "inj VMAIN 1V 6A, lead-rating",
        "VMAIN d .002; replaced C3; boots, not-proven"
    })
    void isStopped(String lines, String code) {
        assertThat(advice(lines).stops()).as(lines).anyMatch(s -> code(s.code()).equals(code));
    }

    @ParameterizedTest
    @CsvSource({
        "look J1 pins touching; look J1 clean, do-not-power",
        "VMAIN d .43, do-not-power",
        "charger J1 2V 4A collapse; charger J1 12V 0.7A rising on, do-not-power",
        "inj V3 1V 1A, over-nominal",
        "plugged battery; unplugged battery; inj VMAIN 1V 2A, battery-connected",
        "removed C3 cold, hot-board",
        "removed C3; VMAIN d .43, hot-board",
        "warm C3 camera, flammable",
        "inj VMAIN 1V 3A, lead-rating",
        "VMAIN d .002; replaced C3; VMAIN d .43; boots, not-proven"
    })
    void isNotStopped(String lines, String code) {
        assertThat(advice(lines).stops())
                .as(lines)
                .noneMatch(s -> code(s.code()).equals(code));
    }

    @ParameterizedTest
    @CsvSource({
        "across F1 ohm OL; VBUS v 12 charger; VIN v 0 charger, F1",
        "VMAIN d .002; look C4 cracked; warm C4 3K camera, C4",
        "VMAIN d .002; removed C3; VMAIN d .43, C3",
        "look J1 pin bent; charger J1 12V 0.7A flat side a; charger J1 12V 0A flat side b, J1",
        "unplugged J3; replaced J1; no picture, J3"
    })
    void leads(String lines, String target) {
        assertThat(advice(lines).leading()).as(lines).map(Hypothesis::target).contains(target);
    }

    @Test
    void entriesInAnotherOrderComeToTheSameWhileTheBoardIsNotChanged() {
        Advice one = advice("VMAIN d .002; V3 d .41; look C3 cracked; VBAT d .55");
        Advice other = advice("look C3 cracked; VBAT d .55; V3 d .41; VMAIN d .002");
        assertThat(other.hypotheses().stream().map(Hypothesis::target).collect(Collectors.toList()))
                .isEqualTo(one.hypotheses().stream().map(Hypothesis::target).toList());
        for (int i = 0; i < one.hypotheses().size(); i++) {
            assertThat(other.hypotheses().get(i).probability())
                    .isCloseTo(one.hypotheses().get(i).probability(), org.assertj.core.api.Assertions.within(1e-9));
        }
    }

    @Test
    void aDangerousStepIsNeverSuggested() {
        for (String lines : Arrays.asList(
                "look J1 pins touching",
                "look J1 pins touching; VBUS d .002",
                "VMAIN d .002",
                "charger J1 2V 4A collapse",
                "VMAIN d .002; inj VMAIN 1V 2A 0.3V 2A; nothing warm top")) {
            Advice advice = advice(lines);
            assertThat(advice.next()).as(lines).noneMatch(s -> s.action() == Step.Action.POWER);
            advice.next().stream()
                    .filter(s -> s.action() == Step.Action.INJECT)
                    .forEach(s -> assertThat(s.setVolts().orElse(0))
                            .as(lines)
                            .isLessThanOrEqualTo(BOARD.net(s.target().orElseThrow())
                                    .orElseThrow()
                                    .nominalVolts()
                                    .orElse(1)));
        }
    }
}
