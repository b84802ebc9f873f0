package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Side;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Look;

/**
 * Parts worth a look under the microscope, in the order in which one walks over the board: what leads, the ports, what carries power
 * from them to the main rail, what the evidence suspects, what hangs on the rail in question, and what feeds the chips that
 * decide whether anything starts.
 *
 * @param left to be looked at, first one first
 * @param seen looked at since they were last changed, newest first
 * @param first why it comes before the next measurement; empty when it does not
 */
public record LookTour(List<Place> left, List<Seen> seen, Optional<LookFirst> first) {
    /** Why a part is on the tour. */
    public enum Why {
        LEADS,
        /** It makes, or passes on, a rail that is not there. */
        FEEDS_WHAT_IS_MISSING,
        PORT,
        CARRIES_POWER,
        SUSPECTED,
        ON_THE_RAIL,
        FEEDS_A_CONTROLLER
    }

    /** One part to look at. */
    public record Place(Part part, Why why) {}

    /** One part that was looked at. */
    public record Seen(Part part, Look look) {}

    /** Hypotheses this likely are worth a look by themselves. */
    private static final double SUSPECTED = 0.02;

    /** As likely as this it is looked at before anything else. */
    private static final double LEADS = 0.25;

    private static final int MOST_SUSPECTED = 8;
    private static final int MOST_ON_RAIL = 24;

    private static final List<Why> USUAL_ORDER = List.of(Why.values());
    /** All volts and no start: what feeds the chips that decide comes before what carries the power, which is there. */
    private static final List<Why> NO_START_ORDER = List.of(
            Why.LEADS,
            Why.FEEDS_WHAT_IS_MISSING,
            Why.PORT,
            Why.FEEDS_A_CONTROLLER,
            Why.CARRIES_POWER,
            Why.SUSPECTED,
            Why.ON_THE_RAIL);
    /** Groups of that order that are worth their minutes before anything is measured. */
    private static final int PRESSING = 4;

    public LookTour {
        left = List.copyOf(left);
        seen = List.copyOf(seen);
    }

    /**
     * O(parts) for the choice and O(places²) for the walk of each group.
     *
     * @param rail the rail in question
     * @param absent parts that are not on the board
     * @param first why the tour comes before the next measurement
     */
    public static LookTour of(
            BoardIndex board,
            PowerTree tree,
            String rail,
            List<Hypothesis> hypotheses,
            Set<String> absent,
            List<Observation> observations,
            Optional<LookFirst> first) {
        Map<String, Why> chosen = new LinkedHashMap<>();
        hypotheses.stream()
                .filter(h -> h.probability() >= LEADS && board.part(h.target()).isPresent())
                .forEach(h -> chosen.putIfAbsent(h.target(), Why.LEADS));
        first.flatMap(LookFirst::rail)
                .map(tree::pathTo)
                .orElse(List.of())
                .forEach(f -> chosen.putIfAbsent(f.part().ref(), Why.FEEDS_WHAT_IS_MISSING));
        tree.inputs().forEach(p -> chosen.putIfAbsent(p.ref(), Why.PORT));
        tree.battery().ifPresent(p -> chosen.putIfAbsent(p.ref(), Why.PORT));
        Stream.of(tree.mainRail(), rail)
                .flatMap(n -> tree.pathTo(n).stream())
                .filter(f -> f.kind() != PowerTree.Kind.CONVERTS)
                .forEach(f -> chosen.putIfAbsent(f.part().ref(), Why.CARRIES_POWER));
        hypotheses.stream()
                .filter(h ->
                        h.probability() >= SUSPECTED && board.part(h.target()).isPresent())
                .limit(MOST_SUSPECTED)
                .forEach(h -> chosen.putIfAbsent(h.target(), Why.SUSPECTED));
        board.partsOn(rail)
                .sorted(Comparator.comparingInt(LookTour::often))
                .limit(MOST_ON_RAIL)
                .forEach(p -> chosen.putIfAbsent(p.ref(), Why.ON_THE_RAIL));
        feeders(board, tree).forEach(p -> chosen.putIfAbsent(p.ref(), Why.FEEDS_A_CONTROLLER));
        Map<String, Look> looks = current(observations);
        List<Place> left = new ArrayList<>();
        for (Why why : order(first)) {
            List<Part> group = chosen.entrySet().stream()
                    .filter(e -> e.getValue() == why && !absent.contains(e.getKey()) && !looks.containsKey(e.getKey()))
                    .map(e -> board.part(e.getKey()).orElseThrow())
                    .toList();
            walked(
                            group,
                            left.isEmpty()
                                    ? Optional.empty()
                                    : Optional.of(left.get(left.size() - 1).part()))
                    .forEach(p -> left.add(new Place(p, why)));
        }
        List<Seen> seen = looks.values().stream()
                .sorted(Comparator.comparingInt(Look::seq).reversed())
                .flatMap(l -> board.part(l.target()).stream().map(p -> new Seen(p, l)))
                .toList();
        return new LookTour(left, seen, first);
    }

    private static List<Why> order(Optional<LookFirst> first) {
        return first.filter(f -> f.because() == LookFirst.Because.NO_START_AT_FULL_VOLTS)
                        .isPresent()
                ? NO_START_ORDER
                : USUAL_ORDER;
    }

    /** Places left that are worth a look before the next measurement; none when nothing asks for it. */
    public long pressing() {
        if (first.isEmpty()) {
            return 0;
        }
        Set<Why> groups = Set.copyOf(order(first).subList(0, PRESSING));
        return left.stream().filter(p -> groups.contains(p.why())).count();
    }

    /** What shows a fault most often stands first. */
    private static int often(Part part) {
        return switch (part.kind()) {
            case TVS, FUSE -> 0;
            case MOSFET, IC, CONNECTOR -> 1;
            case CAPACITOR -> 2;
            default -> 3;
        };
    }

    /** Small parts in the supply of what must live first: port chips, chargers, and what makes rails unasked. */
    private static Set<Part> feeders(BoardIndex board, PowerTree tree) {
        Set<Part> feeders = new LinkedHashSet<>();
        for (Part chip : board.parts()) {
            Role role = board.role(chip);
            boolean decides = role == Role.PORT_CONTROLLER
                    || role == Role.CHARGER
                    || chip.supplies().stream().anyMatch(s -> s.enable().isEmpty());
            if (chip.kind() == PartKind.IC && decides) {
                tree.supplies(board, chip).stream()
                        .flatMap(board::partsOn)
                        .filter(p -> board.role(p) == Role.SERIES && p.kind() != PartKind.INDUCTOR)
                        .forEach(feeders::add);
            }
        }
        return feeders;
    }

    /** The last look at each part since it was last changed. */
    private static Map<String, Look> current(List<Observation> observations) {
        Map<String, Look> looks = new HashMap<>();
        for (Observation observation : observations) {
            if (observation instanceof Look look) {
                looks.put(look.target(), look);
            } else if (observation instanceof Change change && change.action().usuallyHot()) {
                looks.remove(change.target());
            }
        }
        return looks;
    }

    /** From one to the nearest, side by side. */
    private static List<Part> walked(List<Part> group, Optional<Part> from) {
        return WalkOrder.of(group, Function.identity(), from, LookTour::far, p -> p.side() == Side.TOP ? 0.0 : 1.0);
    }

    private static double far(Part a, Part b) {
        double turning = a.side() == b.side() ? 0 : 1_000;
        return turning + Math.hypot(a.xMm() - b.xMm(), a.yMm() - b.yMm());
    }
}
