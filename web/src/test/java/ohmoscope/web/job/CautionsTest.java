package ohmoscope.web.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Probe;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.web.Opened;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What is said beside a step, on the bench console. */
class CautionsTest {
    private static List<String> cautions(OpenJobs.Open open, Action action, String target, Optional<Probe> probe) {
        Step step = new Step(
                action,
                Optional.of(target),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Reason.TELLS_MOST,
                List.of(),
                probe);
        return Cautions.of(step, open.job().board(), open.advice());
    }

    private static String net(OpenJobs.Open open, double leastVolts, double mostVolts) {
        return open.job().board().nets().stream()
                .filter(n -> n.kind() == NetKind.POWER)
                .filter(n -> n.nominalVolts().orElse(0) >= leastVolts
                        && n.nominalVolts().orElse(0) < mostVolts)
                .map(Net::name)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void unknownIsNotOut() {
        OpenJobs.Open unknown = Opened.job("look J1 clean");
        for (Action action : List.of(Action.INJECT, Action.REMOVE, Action.READ)) {
            assertThat(cautions(unknown, action, "VMAIN", Optional.empty()).get(0))
                    .contains("unplugged battery");
        }
        OpenJobs.Open said = Opened.job("unplugged battery");
        assertThat(cautions(said, Action.INJECT, "VMAIN", Optional.empty()))
                .noneMatch(c -> c.contains("Nobody has said"));
        OpenJobs.Open powered = Opened.job("charger J1 19V 0.02A battery out");
        assertThat(cautions(powered, Action.READ, "VMAIN", Optional.empty()))
                .noneMatch(c -> c.contains("Nobody has said"));
    }

    @Test
    void whatTheFramesAskForAsksAfterTheBatteryToo() {
        StepLine lift = new StepLine("Lift C45.", "why", "lift", "C45", Cautions.HOT_AIR);
        assertThat(Cautions.asking(lift, Opened.job("look J1 clean").advice()).cautions())
                .hasSize(Cautions.HOT_AIR.size() + 1)
                .first()
                .asString()
                .contains("unplugged battery");
        assertThat(Cautions.asking(lift, Opened.job("unplugged battery").advice()))
                .isEqualTo(lift);
        StepLine back = new StepLine("Hand it back.", "why", "hand-back", "C45", Cautions.AMPS);
        assertThat(Cautions.asking(back, Opened.job("look J1 clean").advice())).isEqualTo(back);
    }

    @Test
    void capacitorsThatHoldManyVoltsAreDischargedBeforeAMeterInOhms() {
        OpenJobs.Open open = Opened.job("unplugged battery");
        String high = net(open, 12, 100);
        assertThat(cautions(open, Action.READ, high, Optional.empty()).get(0)).contains(high, "1 kΩ");
        assertThat(cautions(open, Action.READ, net(open, 0.5, 6), Optional.empty()))
                .noneMatch(c -> c.contains("1 kΩ"));
    }

    @Test
    void aReadingUnderPowerIsNotToldToTakeThePowerAway() {
        OpenJobs.Open open = Opened.job("look J1 clean");
        Probe live = new Probe(Optional.of(ReadMode.VOLTS), false, Optional.of(PowerSource.CHARGER), false);
        assertThat(cautions(open, Action.READ, "VMAIN", Optional.of(live)))
                .noneMatch(c -> c.contains("no adapter in") || c.contains("1 kΩ") || c.contains("Nobody has said"))
                .anyMatch(c -> c.contains("live"));
    }

    @ParameterizedTest
    @EnumSource(Action.class)
    void everyActionHasItsCautions(Action action) {
        assertThat(Cautions.usual(action)).isNotEmpty();
    }

    @Test
    void hotAirAndCurrentHaveTheirOwn() {
        assertThat(Cautions.usual(Action.REMOVE)).anyMatch(c -> c.contains("300–400 °C"));
        assertThat(Cautions.usual(Action.INJECT)).anyMatch(c -> c.contains("Several amps"));
        assertThat(Cautions.usual(Action.READ)).anyMatch(c -> c.contains("meter"));
    }
}
