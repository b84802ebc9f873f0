package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Storey;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.Twin;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.locate.RemovalCost;

/**
 * How a shorted rail is parted in two, and in two again: what can be unplugged, lifted or taken apart, each with what a
 * reading after it would tell of the suspects for the minutes and the risk that it costs.
 *
 * @param net where the meter stays
 * @param cuts the most telling for its minutes first
 * @param readFirst a transistor that came off since the last reading: two in a row without one tell nothing
 */
public record Parting(String net, List<Cut> cuts, Optional<String> readFirst) {
    /** How the copper is parted. */
    public enum Means {
        UNPLUG,
        LIFT,
        SEPARATE
    }

    /**
     * One way.
     *
     * @param target the part, or the half of a two-storey board
     * @param beyond suspects that are off the rail then, likeliest first: they are it where the net reads free
     * @param here suspects that are left: they are it where it reads as before
     * @param share how likely the fault is beyond, from 0 to 1
     * @param bits what the reading is expected to tell
     * @param minutes of work, with what the risk is worth in minutes
     */
    public record Cut(
            Means means,
            String target,
            List<String> beyond,
            List<String> here,
            double share,
            double bits,
            double minutes) {
        public Cut {
            beyond = List.copyOf(beyond);
            here = List.copyOf(here);
        }
    }

    /** A plug comes out, and the point is read again. */
    private static final double UNPLUG_MINUTES = 1.5;
    /** Two boards that are soldered together come apart and go together again. */
    private static final double SEPARATE_MINUTES = 60;

    private static final double READ_MINUTES = 1;
    /** What hangs on a plug is shorted this often, where nothing speaks for it. */
    private static final double PLUGGED_SHARE = 0.03;
    /** Less than that is no reason to take anything off. */
    private static final double LEAST_BITS = 0.05;

    public Parting {
        cuts = List.copyOf(cuts);
    }

    /**
     * @param net the shorted net
     * @param suspects how likely each part is to be what shorts it
     * @param state what is on the board now
     * @param minutes what lifting costs this bench
     */
    public static Parting of(
            Board plain,
            String net,
            Map<String, Double> suspects,
            BoardState state,
            List<Observation> observations,
            RemovalCost.Minutes minutes) {
        BoardIndex board = new BoardIndex(plain);
        return new Planner(board, new Twin(board), PowerTree.of(board), net, suspects, state, minutes)
                .plan(observations);
    }

    private record Planner(
            BoardIndex board,
            Twin twin,
            PowerTree tree,
            String net,
            Map<String, Double> suspects,
            BoardState state,
            RemovalCost.Minutes minutes) {
        Parting plan(List<Observation> observations) {
            Set<String> joined = twin.joined(net, state);
            List<Part> on = board.parts().stream()
                    .filter(state::has)
                    .filter(p -> p.pins().stream().map(Pin::net).anyMatch(joined::contains))
                    .toList();
            List<Cut> cuts = new ArrayList<>();
            for (Part part : on) {
                if (pluggedIn(part)) {
                    unplugged(part, on).ifPresent(cuts::add);
                } else if (parts(part, joined) || tree.isInput(part.ref()) && suspects.containsKey(part.ref())) {
                    cut(Means.LIFT, part.ref(), on, state.without(part.ref()), lifting(part))
                            .ifPresent(cuts::add);
                }
            }
            half(on).flatMap(away -> cut(
                            Means.SEPARATE,
                            Change.half(away),
                            on,
                            state.separated(Optional.of(away)),
                            SEPARATE_MINUTES + READ_MINUTES))
                    .ifPresent(cuts::add);
            cuts.sort(Comparator.comparingDouble(c -> -c.bits() / c.minutes()));
            return new Parting(net, cuts, transistorUnread(observations));
        }

        private boolean pluggedIn(Part part) {
            return part.kind() == PartKind.CONNECTOR
                    && !tree.isInput(part.ref())
                    && !state.unplugged().contains(part.ref())
                    && !(tree.isBattery(part.ref()) && !state.battery());
        }

        /** In series on the rail, or switching it: between two nets that are one to the meter. */
        private boolean parts(Part part, Set<String> joined) {
            Role role = board.role(part);
            boolean carries = role == Role.SERIES || role == Role.PASS;
            return carries
                    && part.pins().stream()
                                    .map(Pin::net)
                                    .filter(joined::contains)
                                    .distinct()
                                    .count()
                            > 1;
        }

        private double lifting(Part part) {
            return RemovalCost.on(board.board(), part, minutes).minutes() + READ_MINUTES;
        }

        /** What hangs on the plug is no part of the board; the plug's own name stands for it. */
        private Optional<Cut> unplugged(Part plug, List<Part> on) {
            double own = Math.max(PLUGGED_SHARE, suspects.getOrDefault(plug.ref(), 0.0));
            double rest = named(on).stream()
                    .filter(r -> !r.equals(plug.ref()))
                    .mapToDouble(suspects::get)
                    .sum();
            return told(
                    Means.UNPLUG,
                    plug.ref(),
                    List.of(plug.ref()),
                    named(on).stream().filter(r -> !r.equals(plug.ref())).toList(),
                    own / Math.max(own + rest, 1e-9),
                    UNPLUG_MINUTES);
        }

        private Optional<Cut> cut(Means means, String target, List<Part> on, BoardState then, double minutes) {
            Set<String> left = twin.joined(net, then);
            List<String> beyond = new ArrayList<>();
            List<String> here = new ArrayList<>();
            for (String ref : named(on)) {
                Part part = board.part(ref).orElseThrow();
                boolean stays =
                        then.has(part) && part.pins().stream().map(Pin::net).anyMatch(left::contains);
                (stays ? here : beyond).add(ref);
            }
            double gone = beyond.stream().mapToDouble(suspects::get).sum();
            double all = gone + here.stream().mapToDouble(suspects::get).sum();
            return told(means, target, beyond, here, all > 0 ? gone / all : 0, minutes);
        }

        private static Optional<Cut> told(
                Means means, String target, List<String> beyond, List<String> here, double share, double minutes) {
            double bits = entropy(share) + entropy(1 - share);
            return bits < LEAST_BITS && means != Means.UNPLUG
                    ? Optional.empty()
                    : Optional.of(new Cut(means, target, beyond, here, share, bits, minutes));
        }

        private static double entropy(double p) {
            return p <= 0 ? 0 : -p * Math.log(p) / Math.log(2);
        }

        /** The suspects that are on the rail now, likeliest first. */
        private List<String> named(List<Part> on) {
            return on.stream()
                    .map(Part::ref)
                    .filter(suspects::containsKey)
                    .sorted(Comparator.comparingDouble(r -> -suspects.get(r)))
                    .toList();
        }

        /** The half that goes: the one that the device is not fed through. */
        private Optional<Storey> half(List<Part> on) {
            Set<Storey> halves = new LinkedHashSet<>();
            on.forEach(p -> p.storey().ifPresent(halves::add));
            if (halves.size() < 2 || state.takenAway().isPresent()) {
                return Optional.empty();
            }
            return Optional.of(tree.unfedHalf());
        }

        private Optional<String> transistorUnread(List<Observation> observations) {
            Optional<String> unread = Optional.empty();
            for (Observation observation : observations) {
                if (observation instanceof Read) {
                    unread = Optional.empty();
                } else if (observation instanceof Change c && c.action() == ChangeAction.REMOVED) {
                    unread = board.part(c.target())
                            .filter(p -> p.kind() == PartKind.MOSFET || p.kind() == PartKind.TRANSISTOR)
                            .map(Part::ref);
                }
            }
            return unread;
        }
    }
}
