package ohmoscope.core.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.parts.OrderPlan.Line;
import ohmoscope.core.parts.OrderPlan.Need;
import org.junit.jupiter.api.Test;

class OrderPlanTest {
    /** Postage 8 and three days at 10. */
    private static final Prices PRICES = Prices.USUAL;

    private static boolean ordered(OrderPlan plan, String ref) {
        return plan.lines().stream().filter(l -> l.need().ref().equals(ref)).anyMatch(Line::order);
    }

    /** A chip of 8 is worth 4 less when it is left over, and a second order costs 38: from 4 in 42. */
    @Test
    void portAndChipIsAQuestionOfChanceAndPrice() {
        Need port = new Need("J1", 0.95, 4, false);
        assertThat(ordered(OrderPlan.of(List.of(port, new Need("U3", 0.12, 8, false)), PRICES), "U3"))
                .isTrue();
        assertThat(ordered(OrderPlan.of(List.of(port, new Need("U3", 0.08, 8, false)), PRICES), "U3"))
                .isFalse();
        assertThat(ordered(OrderPlan.of(List.of(port, new Need("U3", 0.12, 80, false)), PRICES), "U3"))
                .as("a dear chip at the same chance")
                .isFalse();
        OrderPlan plan = OrderPlan.of(List.of(port, new Need("U3", 0.12, 8, false)), PRICES);
        assertThat(plan.lines().get(1).from().orElseThrow()).isCloseTo(4.0 / 42, within(1e-12));
        assertThat(plan.expected()).isEqualTo(plan.all()).isLessThan(plan.leading());
    }

    /** At a chance of a fifth, the postage of an order for one cheap part alone is not worth it yet. */
    @Test
    void nothingIsOrderedThatIsNotWorthItsPostage() {
        OrderPlan alone = OrderPlan.of(List.of(new Need("D1", 0.2, 0.5, false)), PRICES);
        assertThat(ordered(alone, "D1")).isFalse();
        OrderPlan along =
                OrderPlan.of(List.of(new Need("F1", 0.9, 0.5, false), new Need("D1", 0.2, 0.5, false)), PRICES);
        assertThat(ordered(along, "D1")).isTrue();
    }

    @Test
    void whatIsThereIsNotOrdered() {
        OrderPlan plan = OrderPlan.of(List.of(new Need("C1", 0.9, 0.1, true)), PRICES);
        assertThat(ordered(plan, "C1")).isFalse();
        assertThat(plan.expected()).isZero();
        assertThat(OrderPlan.of(List.of(), PRICES).lines()).isEmpty();
        assertThatThrownBy(() -> new Need("C1", 1.2, 0.1, true)).isInstanceOf(IllegalArgumentException.class);
    }

    /** Against every subset, each played out by what it costs: nothing is cheaper than what the plan says. */
    @Test
    void noOtherOrderIsCheaper() {
        Random random = new Random(4);
        for (int trial = 0; trial < 200; trial++) {
            List<Need> needs = new ArrayList<>();
            for (int i = 0; i < 5; i++) {
                needs.add(new Need("P" + i, random.nextDouble(), 60 * random.nextDouble(), false));
            }
            Prices prices =
                    new Prices(Map.of(), 20 * random.nextDouble(), 9 * random.nextDouble(), 12 * random.nextDouble());
            double least = Double.POSITIVE_INFINITY;
            for (int subset = 0; subset < 32; subset++) {
                least = Math.min(least, played(needs, subset, prices));
            }
            assertThat(OrderPlan.of(needs, prices).expected()).isCloseTo(least, within(1e-9));
        }
    }

    /** Each part is needed or not by itself; a part left out that is needed comes with an order of its own. */
    private static double played(List<Need> needs, int subset, Prices prices) {
        double cost = subset == 0 ? 0 : prices.postage();
        for (int i = 0; i < needs.size(); i++) {
            Need need = needs.get(i);
            if ((subset >> i & 1) == 1) {
                double unused = 0.5 * need.price();
                cost += need.probability() * need.price() + (1 - need.probability()) * unused;
            } else {
                cost += need.probability() * (need.price() + prices.secondOrder());
            }
        }
        return cost;
    }

    @Test
    void aChipBehindAPortGoesWithItTheMoreWhenPinsTouched() {
        Board board = PowerFixtures.board();
        Map<String, Double> behindFuse = Companions.of(board, board.part("F1").orElseThrow(), false);
        assertThat(behindFuse).containsOnlyKeys("Q1");
        Map<String, Double> withCapacitor =
                Companions.of(board, board.part("C3").orElseThrow(), false);
        assertThat(withCapacitor).isEmpty();
    }

    @Test
    void pricesThatCannotBeAreRefusedByName() {
        assertThatThrownBy(() -> new Prices(Map.of(PartKind.IC, -1.0), 8, 3, 10))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("IC");
        assertThatThrownBy(() -> new Prices(Map.of(), -8, 3, 10)).hasMessageContaining("postage");
        assertThat(PRICES.usual()).containsOnlyKeys(PartKind.values());
    }
}
