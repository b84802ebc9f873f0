package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.core.diagnose.Hypothesis;
import ohmoscope.core.diagnose.Sign;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class AdviceWordsTest {
    private final Advice advice = new Advisor(Fixtures.board())
            .advise(
                    Optional.of("VSYS"),
                    "",
                    List.of(Fixtures.diode(1, "VSYS", 0.002), new Look(2, "C3", LookFinding.CRACKED)));

    private static Step step(Step.Action action, Step.Reason reason) {
        return new Step(action, Optional.of("C3"), OptionalDouble.of(1), OptionalDouble.of(2.5), reason, List.of());
    }

    @ParameterizedTest
    @EnumSource(Step.Action.class)
    void everyActionIsASentence(Step.Action action) {
        assertThat(AdviceWords.sentence(step(action, Step.Reason.LIKELY_FAULT))).matches("[A-Z].*\\.");
    }

    @ParameterizedTest
    @EnumSource(Step.Reason.class)
    void everyReasonIsASentence(Step.Reason reason) {
        assertThat(AdviceWords.why(step(Step.Action.READ, reason), advice))
                .endsWith(".")
                .hasSizeGreaterThan(4);
    }

    @ParameterizedTest
    @EnumSource(Says.class)
    void everySignIsASentence(Says says) {
        assertThat(AdviceWords.sign(new Sign("VSYS", says, 0.1, 1, 0, Unit.DIODE_VOLTS)))
                .endsWith(".");
    }

    @ParameterizedTest
    @EnumSource(Hypothesis.Code.class)
    void everyFaultHasWords(Hypothesis.Code code) {
        assertThat(AdviceWords.fault(new Hypothesis(code, "C3", 0.5))).isNotBlank();
    }

    @Test
    void injectionsCarryTheirNumbers() {
        assertThat(AdviceWords.sentence(step(Step.Action.INJECT, Step.Reason.SHORTED_INJECT_LOW)))
                .isEqualTo("Inject into C3: set 1 V, limit 2.5 A.");
    }

    @Test
    void stopsSayWhichDanger() {
        assertThat(advice.stops()).anySatisfy(s -> {
            assertThat(s.code()).isEqualTo(Stop.Code.DO_NOT_POWER);
            assertThat(AdviceWords.stop(s)).isEqualTo("Do not power the device from a charger: VSYS is shorted.");
        });
    }

    @Test
    void theJsonIsTheContracts() {
        JsonNode json = JsonMapper.builder().build().readTree(AdviceJson.write(advice));
        assertThat(json.get("findings").get(0).get("code").asString()).isEqualTo("rail-shorted");
        assertThat(json.get("findings").get(0).get("net").asString()).isEqualTo("VSYS");
        assertThat(json.get("hypotheses").get(0).get("target").asString()).isEqualTo("C3");
        assertThat(json.get("next").size()).isPositive();
        assertThat(json.get("stops").get(0).get("because").get(0).asInt()).isEqualTo(1);
        double sum = 0;
        for (JsonNode h : json.get("hypotheses")) {
            sum += h.get("probability").asDouble();
        }
        assertThat(sum).isLessThanOrEqualTo(1.0001);
    }
}
