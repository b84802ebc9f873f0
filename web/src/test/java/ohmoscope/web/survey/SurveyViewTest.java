package ohmoscope.web.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import ohmoscope.bench.demo.DecisionBoards;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.web.Opened;
import ohmoscope.web.job.OpenJobs;
import org.junit.jupiter.api.Test;

class SurveyViewTest {
    private static SurveyView view(OpenJobs.Open open, List<String> skipped) {
        return SurveyView.of(open, PowerTree.of(open.job().board()), skipped);
    }

    @Test
    void afterAFewReadingsItSaysWhetherPowerMayCome() {
        SurveyView.Few none = view(Opened.job(), List.of()).few();
        assertThat(none.verdict()).isEqualTo("not-yet");
        assertThat(none.lines()).hasSize(6).extracting(SurveyView.Done::net).contains("VMAIN");
        assertThat(view(Opened.job("VMAIN d .002"), List.of()).few().words()).startsWith("No go: VMAIN first.");
        String[] good = none.lines().stream()
                .map(d -> d.net() + " ohm " + middle(d.net()))
                .toArray(String[]::new);
        assertThat(view(Opened.job(good), List.of()).few().verdict()).isEqualTo("go");
    }

    private static String middle(String net) {
        Range good = DecisionBoards.heron()
                .net(net)
                .orElseThrow()
                .expect()
                .orElseThrow()
                .ohms()
                .orElseThrow();
        return String.valueOf(Math.sqrt(good.low() * good.high()));
    }

    @Test
    void thePointToReadNowIsTheMainRailAtAnEasyPlace() {
        SurveyView view = view(Opened.job(), List.of());
        SurveyView.Point now = view.now().orElseThrow();
        assertThat(now.net()).isEqualTo("VMAIN");
        assertThat(now.where()).isEqualTo("TP1");
        assertThat(now.start()).isEqualTo("TP1 VMAIN d");
        assertThat(now.expect()).isEqualTo("0.33–0.60 V");
        assertThat(now.why()).contains("main rail");
        assertThat(view.side()).isEqualTo(Side.TOP);
        assertThat(view.pictures().get(0).probes().get(0).words()).isEqualTo("probe here");
        assertThat(view.done()).isEmpty();
        assertThat(view.coming())
                .hasSizeLessThanOrEqualTo(12)
                .extracting(SurveyView.Point::net)
                .doesNotContain("VMAIN");
    }

    @Test
    void whatWasPassedOverComesLast() {
        SurveyView view = view(Opened.job(), List.of("VMAIN"));
        assertThat(view.now().orElseThrow().net()).isNotEqualTo("VMAIN");
        assertThat(view.skipped()).isEqualTo("VMAIN");
    }

    @Test
    void whatWasReadStandsOnTheRightNewestFirst() {
        SurveyView view = view(Opened.job("VMAIN d .43", "V3A d .002"), List.of());
        assertThat(view.done()).extracting(SurveyView.Done::net).containsExactly("V3A", "VMAIN");
        assertThat(view.done()).extracting(SurveyView.Done::mark).containsExactly("bad", "ok");
        assertThat(view.done().get(1).value()).isEqualTo("0.430 V");
        assertThat(view.done().get(1).good()).isEqualTo("good: 0.33–0.60 V");
        assertThat(view.stops())
                .singleElement()
                .satisfies(s -> assertThat(s.sentence()).contains("V3A is shorted"));
    }

    @Test
    void anOhmsManIsAskedForOhms() {
        Schools ohms = new Schools(
                Schools.Meter.OHMS,
                Schools.Lead.RED,
                Schools.Proof.METER,
                Schools.Injection.LOW_AND_CLIMB,
                Schools.Port.MEASURE_FIRST,
                Schools.Warmth.CAMERA);
        SurveyView view = view(Opened.job(ohms), List.of());
        assertThat(view.mode()).isEqualTo("ohms");
        assertThat(view.now().orElseThrow().expect()).isEqualTo("1.2 kΩ–150 kΩ");
        assertThat(view.now().orElseThrow().start()).endsWith(" ohm");
    }
}
