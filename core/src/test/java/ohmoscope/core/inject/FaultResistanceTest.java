package ohmoscope.core.inject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.SupplyLog;
import org.junit.jupiter.api.Test;

class FaultResistanceTest {
    private static final Rail DIRECT = Rail.between(Fixtures.board(), "VSYS", "VSYS");

    private static Optional<Injection> injection(double lead, double sigma) {
        return Optional.of(new Injection(
                "VSYS",
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.of(1),
                OptionalDouble.of(2),
                OptionalDouble.of(lead),
                OptionalDouble.of(sigma)));
    }

    @Test
    void takesTheLeadsOff() {
        SupplyLog log = Fixtures.log(1, 3, 4, 0.24, 2);
        FaultResistance r =
                FaultResistance.from(log, injection(0.05, 0.005), DIRECT).orElseThrow();
        assertThat(r.totalOhms()).isCloseTo(0.12, within(1e-9));
        assertThat(r.ohms()).isCloseTo(0.12 - 0.05 - 0.003, within(1e-9));
        assertThat(r.low()).isLessThan(r.ohms());
        assertThat(r.high() - r.ohms()).isCloseTo(2 * Math.hypot(0.005, 0.003), within(1e-6));
        assertThat(r.watts()).isCloseTo(4 * r.ohms(), within(1e-9));
        assertThat(r.explainedWithoutFault()).isFalse();
    }

    @Test
    void takesKnownSeriesPartsOff() {
        Rail through = Rail.between(Fixtures.board(), "VIN", "VSYS");
        FaultResistance r = FaultResistance.from(Fixtures.log(1, 3, 4, 0.24, 2), injection(0.05, 0.005), through)
                .orElseThrow();
        assertThat(r.ohms()).isCloseTo(0.12 - 0.05 - 0.05 - 0.003, within(1e-9));
        assertThat(r.wattsIn(through.path().get(0))).isCloseTo(4 * 0.02, within(1e-9));
    }

    @Test
    void leadsAloneExplainAnInjectionIntoGround() {
        FaultResistance r = FaultResistance.from(Fixtures.log(1, 3, 4, 0.11, 2), injection(0.05, 0.005), DIRECT)
                .orElseThrow();
        assertThat(r.explainedWithoutFault()).isTrue();
        assertThat(r.low()).isZero();
    }

    @Test
    void aReadingThatCopperExplainsSpeaksForGround() {
        double copper = measured(0.001, 0.005).groundOverFault();
        double hard = measured(0.012, 0.005).groundOverFault();
        double soft = measured(0.2, 0.005).groundOverFault();
        assertThat(copper).isBetween(5.0, 30.0);
        assertThat(hard).isBetween(0.05, 2.0);
        assertThat(soft).isLessThan(1e-6);
        assertThat(measured(-0.05, 0.005).groundOverFault()).isPositive().isLessThanOrEqualTo(30);
        assertThat(measured(60, 0.5).groundOverFault()).isZero();
    }

    @Test
    void belowNothingIsKeptAsMeasured() {
        FaultResistance r = measured(-0.004, 0.003);
        assertThat(r.ohms()).isZero();
        assertThat(r.low()).isZero();
        assertThat(r.high()).isCloseTo(0.002, within(1e-12));
        assertThat(r.measuredOhms()).isEqualTo(-0.004);
    }

    private static FaultResistance measured(double ohms, double sigma) {
        return new FaultResistance(ohms, sigma, ohms + 0.05, 2, 0.1);
    }

    @Test
    void withoutCurrentThereIsNoResistance() {
        assertThat(FaultResistance.from(Fixtures.log(1, 3, 4, 1, 0.001), injection(0.05, 0.005), DIRECT))
                .isEmpty();
        assertThat(FaultResistance.from(SupplyLog.empty(), injection(0.05, 0.005), DIRECT))
                .isEmpty();
    }

    @Test
    void unknownLeadsWidenTheRange() {
        SupplyLog log = Fixtures.log(1, 3, 4, 0.5, 2);
        FaultResistance known =
                FaultResistance.from(log, injection(0.06, 0.003), DIRECT).orElseThrow();
        FaultResistance unknown =
                FaultResistance.from(log, Optional.empty(), DIRECT).orElseThrow();
        assertThat(unknown.high() - unknown.low()).isGreaterThan(3 * (known.high() - known.low()));
    }
}
