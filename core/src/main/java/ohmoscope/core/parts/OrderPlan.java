package ohmoscope.core.parts;

import java.util.Comparator;
import java.util.List;
import java.util.OptionalDouble;
import java.util.stream.IntStream;

/**
 * What goes into the one order of a job, while it is not certain what is broken: a part that may be needed is ordered
 * along with the others when its chance times what a second order costs is more than what it is worth less, should it
 * be left over. Port alone or port and chip is such a question.
 *
 * @param lines the likeliest first
 * @param expected what this order and what it may leave out are expected to cost, in the shop's money
 * @param all the same if everything were ordered
 * @param leading the same if only the likeliest were ordered
 */
public record OrderPlan(List<Line> lines, double expected, double all, double leading) {
    /** What is left over goes into the drawer and is worth so much of its price. */
    static final double KEPT = 0.5;

    /**
     * A part that may be needed.
     *
     * @param probability that it is, from 0 to 1
     * @param price of one, in the shop's money
     * @param there whether the shop, or a donor, has one: it need not be ordered
     */
    public record Need(String ref, double probability, double price, boolean there) {
        public Need {
            if (!(probability >= 0 && probability <= 1) || !(price >= 0)) {
                throw new IllegalArgumentException(
                        "probability must be from 0 to 1 and price 0 or more, were " + probability + " and " + price);
            }
        }
    }

    /**
     * A need with what is done about it.
     *
     * @param from the probability from which it is ordered along; empty where it is there already
     */
    public record Line(Need need, boolean order, OptionalDouble from) {}

    public OrderPlan {
        lines = List.copyOf(lines);
    }

    /**
     * Given an order, each part is decided by itself: its postage is paid for whichever goes into it. Where nothing that is
     * left is worth that postage, nothing is ordered yet. O(needs log needs).
     */
    public static OrderPlan of(List<Need> needs, Prices prices) {
        List<Need> sorted = needs.stream()
                .sorted(Comparator.comparingDouble(n -> -n.probability()))
                .toList();
        List<Need> wanted = sorted.stream().filter(n -> !n.there()).toList();
        double yet = wanted.stream().mapToDouble(n -> leftOut(n, prices)).sum();
        double now = prices.postage()
                + wanted.stream()
                        .mapToDouble(n -> Math.min(ordered(n), leftOut(n, prices)))
                        .sum();
        boolean orders = now < yet;
        double postage = wanted.isEmpty() ? 0 : prices.postage();
        return new OrderPlan(
                sorted.stream()
                        .map(n -> new Line(
                                n,
                                orders && !n.there() && n.probability() >= from(n.price(), prices),
                                n.there() ? OptionalDouble.empty() : OptionalDouble.of(from(n.price(), prices))))
                        .toList(),
                Math.min(now, yet),
                postage + wanted.stream().mapToDouble(OrderPlan::ordered).sum(),
                postage
                        + IntStream.range(0, wanted.size())
                                .mapToDouble(i -> i == 0 ? ordered(wanted.get(i)) : leftOut(wanted.get(i), prices))
                                .sum());
    }

    /** Where both cost the same. */
    private static double from(double price, Prices prices) {
        double lost = price * (1 - KEPT);
        double spared = prices.secondOrder();
        return lost + spared > 0 ? lost / (lost + spared) : 0;
    }

    private static double ordered(Need need) {
        return need.price() * (1 - KEPT * (1 - need.probability()));
    }

    private static double leftOut(Need need, Prices prices) {
        return need.probability() * (need.price() + prices.secondOrder());
    }
}
