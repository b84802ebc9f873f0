package ohmoscope.core.locate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
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
        assertThat(cost.expectedMinutes(cost.probabilityFrom()))
                .isCloseTo(RemovalCost.Minutes.USUAL.look(), within(1e-9));
        assertThat(cost.expectedMinutes(1)).isZero();
    }

    /** A bench that finds lifting dearer asks for more certainty, and one that looks cheaply as well. */
    @Test
    void aShopsOwnMinutesMoveWhatIsAskedFor() {
        RemovalCost.Minutes dear = new RemovalCost.Minutes(8, 64, 100, 220, 180, 60);
        RemovalCost.Minutes quick = new RemovalCost.Minutes(4, 32, 50, 110, 90, 60);
        double usual = RemovalCost.of(chip, false).probabilityFrom();
        assertThat(RemovalCost.of(chip, false, dear).probabilityFrom()).isGreaterThan(usual);
        assertThat(RemovalCost.of(chip, false, quick).probabilityFrom()).isGreaterThan(usual);
        assertThat(new RemovalCost(5, 8).probabilityFrom()).isZero();
        assertThatThrownBy(() -> new RemovalCost.Minutes(0, 1, 1, 1, 1, 1)).hasMessageContaining("look");
    }
}
