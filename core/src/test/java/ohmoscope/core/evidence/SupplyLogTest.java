package ohmoscope.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import ohmoscope.core.Fixtures;
import ohmoscope.core.evidence.SupplyLog.OnSpan;
import ohmoscope.core.evidence.SupplyLog.Row;
import org.junit.jupiter.api.Test;

class SupplyLogTest {
    @Test
    void aSwitchingLiesBetweenTwoRows() {
        SupplyLog log = new SupplyLog(List.of(
                new Row(0, 0, 0, false), new Row(0.5, 1, 2, true), new Row(1, 1, 2, true), new Row(1.4, 0, 0, false)));
        OnSpan span = log.onSpans().get(0);
        assertThat(span.fromS()).isEqualTo(0.25);
        assertThat(span.fromSigmaS()).isEqualTo(0.25);
        assertThat(span.toS()).isCloseTo(1.2, within(1e-12));
        assertThat(span.toSigmaS()).isCloseTo(0.2, within(1e-12));
        assertThat(span.amps()).isEqualTo(2);
        assertThat(span.volts()).isEqualTo(1);
    }

    @Test
    void findsEveryPulse() {
        SupplyLog first = Fixtures.log(1, 2, 3, 1, 2);
        assertThat(first.onSpans()).hasSize(1);
        SupplyLog pulses = new SupplyLog(List.of(
                new Row(0, 1, 1, true),
                new Row(1, 0, 0, false),
                new Row(2, 1, 3, true),
                new Row(3, 0, 0, false),
                new Row(4, 1, 5, true)));
        assertThat(pulses.onSpans()).extracting(OnSpan::amps).containsExactly(1.0, 3.0, 5.0);
        assertThat(pulses.onSpans().get(2).toS()).isGreaterThan(1000);
    }

    @Test
    void refusesTimesThatGoBackwardsAndNonsense() {
        assertThatThrownBy(() -> new SupplyLog(List.of(new Row(1, 0, 0, false), new Row(0.9, 0, 0, false))))
                .hasMessageContaining("t_s goes backwards in row 3");
        assertThatThrownBy(() -> new Row(0, Double.NaN, 0, true)).hasMessageContaining("volts");
        assertThatThrownBy(() -> new Row(0, 0, 1e6, true)).hasMessageContaining("amps");
    }

    @Test
    void anEmptyLogHasNoSpans() {
        assertThat(SupplyLog.empty().onSpans()).isEmpty();
    }
}
