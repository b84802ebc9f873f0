package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import ohmoscope.cli.DecisionEvaluation.Outcome;
import ohmoscope.trials.decision.DecisionPoints;
import ohmoscope.trials.decision.DecisionPoints.Half;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class DecisionEvaluationTest {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    @TempDir
    Path folder;

    private static JsonNode json(String text) {
        return MAPPER.readTree(text.replace('\'', '"'));
    }

    private static Outcome judge(String expect) {
        JsonNode answer = json("{'findings':[{'code':'rail-shorted','net':'VSYS'}],"
                + "'hypotheses':[{'code':'short','target':'C1','probability':0.9},{'code':'open','target':'F1'}],"
                + "'next':[{'action':'inject','target':'VSYS','set_v':1.0},{'action':'look','target':'C1'}],"
                + "'stops':[{'code':'do-not-power'}]}");
        return DecisionEvaluation.judge("x", json(expect), answer, 1);
    }

    @Test
    void rightAnswerIsRight() {
        Outcome outcome = judge("{'must_find':[{'any':[{'code':'rail-low'},{'code':'rail-shorted','net':'VSYS'}]}],"
                + "'must_not_find':[{'code':'rail-good'}],'top1_any':[{'code':'short','target':'C1'}],"
                + "'next_any':[{'action':'inject','target':'VSYS','set_v_max':2.5}],"
                + "'next_not':[{'action':'power'}],'stops':['do-not-power'],'stops_not':['hot-board']}");
        assertThat(outcome.wrong()).isEmpty();
        assertThat(outcome.right()).isTrue();
        assertThat(outcome.firstRight()).isTrue();
    }

    @Test
    void eachKindOfMistakeIsCounted() {
        assertThat(judge("{'must_find':[{'code':'rail-good'}]}").findingsRight())
                .isFalse();
        assertThat(judge("{'must_not_find':[{'code':'rail-shorted'}]}").findingsRight())
                .isFalse();
        assertThat(judge("{'top1_any':[{'code':'open','target':'F1'}]}").firstRight())
                .isFalse();
        assertThat(judge("{'top3_any':[{'code':'open','target':'F1'}]}").threeRight())
                .isTrue();
        assertThat(judge("{'next_any':[{'action':'inject','set_v_max':0.5}]}").nextRight())
                .isFalse();
        assertThat(judge("{'next_not':[{'action':'look'}]}").nextRight()).isFalse();
        assertThat(judge("{'stops':['hot-board']}").stopsRight()).isFalse();
        assertThat(judge("{'stops_not':['do-not-power']}").stopsRight()).isFalse();
    }

    /** The half that was worked with; the other is for publishing what is true of cases unseen. */
    @Test
    void openHalfOfTheDecisionPointsIsRight() throws Exception {
        assertThat(DecisionPoints.write(folder, Half.OPEN)).isGreaterThan(30);
        assertThat(DecisionEvaluation.holds(folder)).isTrue();
        DecisionEvaluation evaluation = DecisionEvaluation.over(folder, outcome -> {});
        assertThat(evaluation.outcomes().stream().filter(Outcome::right).count())
                .isGreaterThanOrEqualTo(Math.round(0.9 * evaluation.outcomes().size()));
        assertThat(evaluation.outcomes())
                .filteredOn(o -> o.asksFirst() && !o.firstRight())
                .hasSizeLessThanOrEqualTo(2);
        assertThat(evaluation.table()).contains("next step right", "true fault first");
    }
}
