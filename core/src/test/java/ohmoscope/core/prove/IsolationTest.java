package ohmoscope.core.prove;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import org.junit.jupiter.api.Test;

class IsolationTest {
    private static Observation unplugged(int seq, String ref) {
        return new Change(seq, ChangeAction.DISCONNECTED, ref, false);
    }

    @Test
    void eachChangeHasItsOwnBeforeAndAfter() {
        Isolation isolation = Isolation.of(
                Fixtures.board(),
                List.of(
                        Fixtures.diode(1, "VSYS", 0.002),
                        Fixtures.diode(2, "VSYS", 0.003),
                        Fixtures.diode(3, "VIN", 0.5),
                        unplugged(4, "J2"),
                        Fixtures.diode(5, "VSYS", 0.004),
                        Fixtures.removed(6, "C3"),
                        Fixtures.diode(7, "VSYS", 0.42)));
        assertThat(isolation.steps()).hasSize(2);
        Isolation.Step first = isolation.steps().get(0);
        assertThat(first.pairs()).hasSize(2);
        Isolation.Pair rail = first.pairs().get(0);
        assertThat(rail.before().seq()).as("the last one before").isEqualTo(2);
        assertThat(rail.after()).hasValueSatisfying(r -> assertThat(r.seq()).isEqualTo(5));
        assertThat(first.pairs().get(1).after()).as("VIN was not read again").isEmpty();
        Isolation.Pair second = isolation.steps().get(1).pairs().get(0);
        assertThat(second.before().seq()).isEqualTo(5);
        assertThat(second.after().orElseThrow().seq()).isEqualTo(7);
    }

    @Test
    void withoutReadingsThereIsNothingToCompare() {
        assertThat(Isolation.of(Fixtures.board(), List.of(unplugged(1, "J2")))
                        .steps()
                        .get(0)
                        .pairs())
                .isEmpty();
        assertThat(Isolation.of(Fixtures.board(), List.of()).steps()).isEmpty();
    }
}
