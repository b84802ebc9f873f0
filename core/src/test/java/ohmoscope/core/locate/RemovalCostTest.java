package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Part;
import org.junit.jupiter.api.Test;

class RemovalCostTest {
    private final Part capacitor = Fixtures.board().part("C1").orElseThrow();
    private final Part chip = Fixtures.board().part("U1").orElseThrow();

    @Test
    void aChipIsDearerThanACapacitorAndACanDearerStill() {
        double small = RemovalCost.of(capacitor, false).probabilityFrom();
        double large = RemovalCost.of(chip, false).probabilityFrom();
        double covered = RemovalCost.of(capacitor, true).probabilityFrom();
        assertThat(small).isBetween(0.7, 0.8);
        assertThat(large).isBetween(0.9, 0.95);
        assertThat(covered).isBetween(small, 0.95);
        assertThat(RemovalCost.of(chip, true).probabilityFrom()).isGreaterThan(large);
    }

    @Test
    void atTheThresholdBothCostTheSame() {
        RemovalCost cost = RemovalCost.of(chip, false);
        assertThat(cost.expectedMinutes(cost.probabilityFrom())).isCloseTo(RemovalCost.LOOK_MINUTES, within(1e-9));
        assertThat(cost.expectedMinutes(1)).isZero();
    }
}
