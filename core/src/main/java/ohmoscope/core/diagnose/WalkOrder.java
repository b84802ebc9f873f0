package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToDoubleBiFunction;
import java.util.function.ToDoubleFunction;

/** The order in which one walks over things on a board: from each to the nearest. */
final class WalkOrder {
    private WalkOrder() {}

    /**
     * O(things²).
     *
     * @param where the place of a thing
     * @param from where one stands
     * @param far how far it is from one place to the other
     * @param begin how far a place is for who stands nowhere yet
     */
    static <T, P> List<T> of(
            List<T> things,
            Function<T, P> where,
            Optional<P> from,
            ToDoubleBiFunction<P, P> far,
            ToDoubleFunction<P> begin) {
        List<T> open = new ArrayList<>(things);
        List<T> order = new ArrayList<>();
        Optional<P> at = from;
        while (!open.isEmpty()) {
            Optional<P> here = at;
            T next = open.stream()
                    .min(Comparator.comparingDouble(t -> here.map(h -> far.applyAsDouble(h, where.apply(t)))
                            .orElseGet(() -> begin.applyAsDouble(where.apply(t)))))
                    .orElseThrow();
            open.remove(next);
            order.add(next);
            at = Optional.of(where.apply(next));
        }
        return order;
    }
}
