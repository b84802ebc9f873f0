package ohmoscope.core.diagnose;

import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.reading.Says;

/**
 * The few unpowered readings that say whether a board may be given power: where power comes in, what it becomes, where
 * the cell hangs, what is always on, and the deepest rails.
 */
public record GoNoGo(List<Item> items) {
    private static final int MOST = 6;

    /** One reading. @param sign what it said; empty while it is wanted */
    public record Item(String net, Optional<Sign> sign) {
        boolean wrong() {
            return sign.map(s -> s.says().concern() == Says.Concern.WRONG).orElse(false);
        }
    }

    /** What they come to. */
    public enum Verdict {
        /** None is wrong, and none is missing. */
        GO,
        NO_GO,
        NOT_YET
    }

    public GoNoGo {
        items = List.copyOf(items);
    }

    /** @param signs what single readings say of their nets now */
    public static GoNoGo of(BoardIndex board, PowerTree tree, List<Sign> signs) {
        return new GoNoGo(nets(board, tree).stream()
                .map(net -> new Item(
                        net,
                        signs.stream()
                                .filter(s -> s.net().equals(net) && s.says().unpowered())
                                .reduce((a, b) -> b)))
                .toList());
    }

    private static List<String> nets(BoardIndex board, PowerTree tree) {
        Set<String> nets = new LinkedHashSet<>();
        tree.inputs().forEach(port -> nets.addAll(board.powerNets(port)));
        nets.add(tree.mainRail());
        tree.battery().ifPresent(b -> nets.addAll(board.powerNets(b)));
        made(tree).filter(f -> f.enable().isEmpty()).limit(1).forEach(f -> nets.add(f.to()));
        made(tree)
                .map(PowerTree.Feed::to)
                .sorted(Comparator.comparingDouble(net ->
                        board.net(net).map(Net::nominalVolts).orElseThrow().orElse(Double.MAX_VALUE)))
                .forEach(nets::add);
        return nets.stream().filter(n -> board.net(n).isPresent()).limit(MOST).toList();
    }

    private static Stream<PowerTree.Feed> made(PowerTree tree) {
        return tree.feeds().values().stream()
                .flatMap(List::stream)
                .filter(f -> f.kind() == PowerTree.Kind.CONVERTS)
                .sorted(Comparator.comparing(PowerTree.Feed::to));
    }

    public Verdict verdict() {
        if (items.stream().anyMatch(Item::wrong)) {
            return Verdict.NO_GO;
        }
        return items.stream().allMatch(i -> i.sign().isPresent()) ? Verdict.GO : Verdict.NOT_YET;
    }

    /** Those that are wrong. */
    public List<Item> wrong() {
        return items.stream().filter(Item::wrong).toList();
    }
}
