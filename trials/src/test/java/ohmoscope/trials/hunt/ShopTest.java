package ohmoscope.trials.hunt;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import ohmoscope.trials.hunt.Hunts.End;
import ohmoscope.trials.hunt.Hunts.Told;
import org.junit.jupiter.api.Test;

class ShopTest {
    private static final Shop.Mix SMALL = new Shop.Mix(1, 14, 0.9, 0);

    @Test
    void theSameJobsComeInWhetherItRemembersOrNot() {
        Shop shop = new Shop(5, SMALL);
        List<Told> without = shop.play(false);
        List<Told> with = shop.play(true);
        assertThat(with)
                .extracting(Told::defects)
                .isEqualTo(without.stream().map(Told::defects).toList());
        assertThat(with.get(0)).as("nothing to remember yet").isEqualTo(without.get(0));
        assertThat(with)
                .extracting(Told::steps)
                .isNotEqualTo(without.stream().map(Told::steps).toList());
        assertThat(with).filteredOn(t -> t.end() == End.SOLVED).hasSizeGreaterThan(11);
        // What one board had is no reason to take the same part off another.
        assertThat(with.stream().mapToInt(Told::wrongRemovals).sum())
                .isLessThanOrEqualTo(
                        without.stream().mapToInt(Told::wrongRemovals).sum() + 1);
    }

    @Test
    void whatWasWrittenDownIsWhatWasWrong() {
        List<Told> told = new Shop(6, new Shop.Mix(2, 10, 1, 0)).play(true);
        long right = told.stream()
                .filter(t -> t.proven()
                        .map(p -> t.defects().stream()
                                .anyMatch(d ->
                                        d.contains("ref=" + p.target() + "]") || d.contains("ref=" + p.target() + ",")))
                        .orElse(false))
                .count();
        assertThat(right).isGreaterThanOrEqualTo(8);
    }

    @Test
    void aMixIsChecked() {
        assertThatThrownBy(() -> new Shop.Mix(0, 10, 0.5, 0)).hasMessageContaining("a model");
        assertThatThrownBy(() -> new Shop.Mix(1, 10, 1.5, 0)).hasMessageContaining("from 0 to 1");
    }
}
