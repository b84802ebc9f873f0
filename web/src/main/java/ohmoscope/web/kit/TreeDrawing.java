package ohmoscope.web.kit;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;

/**
 * Where a power tree's rails and wires are drawn: a column for each step away from the inputs, a box for each rail, a line
 * for what feeds it. Sizes are in pixels.
 */
public record TreeDrawing(int width, int height, List<Box> boxes, List<Wire> wires) {
    public TreeDrawing {
        boxes = List.copyOf(boxes);
        wires = List.copyOf(wires);
    }

    /** A rail's box. */
    public record Box(String net, int x, int y) {}

    /** A line from a rail to what it feeds. */
    public record Wire(Feed feed, String path, int labelX, int labelY) {}

    public static TreeDrawing of(Board board, PowerTree tree) {
        return new Maker(board, tree).make();
    }

    /** What feeds a rail, in words. */
    public static String words(Feed feed) {
        String how = switch (feed.kind()) {
            case SERIES -> "through";
            case PASS -> "switched by";
            case CONVERTS -> "made by";
        };
        return feed.to() + " " + how + " " + feed.part().ref() + " from " + feed.from()
                + feed.enable().map(e -> ", enabled by " + e).orElse("");
    }

    private static final class Maker {
        private static final int BOX_W = 128;
        private static final int BOX_H = 58;
        private static final int MOST_DEPTH = 30;
        private static final int GAP_X = 58;
        private static final int GAP_Y = 18;
        private static final int MARGIN = 12;

        private final Board board;
        private final BoardIndex index;
        private final PowerTree tree;
        private final Map<String, int[]> places = new LinkedHashMap<>();
        private final Map<Integer, Integer> free = new HashMap<>();
        private int rows;

        Maker(Board board, PowerTree tree) {
            this.board = board;
            this.index = new BoardIndex(board);
            this.tree = tree;
        }

        TreeDrawing make() {
            roots().forEach(net -> place(net, 0, 0));
            int columns = places.values().stream().mapToInt(p -> p[0]).max().orElse(0) + 1;
            return new TreeDrawing(
                    2 * MARGIN + columns * BOX_W + (columns - 1) * GAP_X,
                    2 * MARGIN + Math.max(1, rows) * (BOX_H + GAP_Y),
                    places.keySet().stream().map(n -> new Box(n, x(n), y(n))).toList(),
                    wires());
        }

        private List<String> roots() {
            Set<String> roots = new LinkedHashSet<>();
            tree.inputs().stream().flatMap(p -> index.powerNets(p).stream()).forEach(roots::add);
            tree.battery().stream()
                    .flatMap(p -> index.powerNets(p).stream())
                    .filter(n -> !tree.feeds().containsKey(n))
                    .forEach(roots::add);
            board.nets().stream()
                    .filter(n -> n.kind() == NetKind.POWER && !tree.feeds().containsKey(n.name()))
                    .map(Net::name)
                    .forEach(roots::add);
            return List.copyOf(roots);
        }

        /** Each rail as high as its column and its feed allow, the longest chain first. */
        private void place(String net, int column, int atLeast) {
            if (places.containsKey(net)) {
                return;
            }
            int row = Math.max(atLeast, free.getOrDefault(column, 0));
            places.put(net, new int[] {column, row});
            free.put(column, row + 1);
            rows = Math.max(rows, row + 1);
            tree.fedBy(net).stream()
                    .filter(f -> tree.feeds().get(f.to()).get(0).from().equals(net))
                    .map(Feed::to)
                    .distinct()
                    .sorted(Comparator.comparingInt(n -> -depth(n, 0)))
                    .forEach(to -> place(to, column + 1, row));
        }

        private int depth(String net, int from) {
            return from > places.size() + MOST_DEPTH
                    ? from
                    : tree.fedBy(net).stream()
                            .filter(f -> tree.feeds().get(f.to()).get(0).from().equals(net))
                            .mapToInt(f -> depth(f.to(), from + 1))
                            .max()
                            .orElse(from);
        }

        private int x(String net) {
            return MARGIN + places.get(net)[0] * (BOX_W + GAP_X);
        }

        private int y(String net) {
            return MARGIN + places.get(net)[1] * (BOX_H + GAP_Y);
        }

        private List<Wire> wires() {
            List<Wire> wires = new ArrayList<>();
            Map<String, Integer> labels = new HashMap<>();
            for (List<Feed> feeds : tree.feeds().values()) {
                for (Feed feed : feeds) {
                    if (!places.containsKey(feed.from()) || !places.containsKey(feed.to())) {
                        continue;
                    }
                    int x1 = x(feed.from()) + BOX_W;
                    int y1 = y(feed.from()) + BOX_H / 2;
                    int x2 = x(feed.to());
                    int y2 = y(feed.to()) + BOX_H / 2;
                    int bend = Math.max(x1 + 14, x2 - GAP_X + 14);
                    // Several parts may join the same two rails: their names stand under each other.
                    int nth = labels.merge(feed.from() + ">" + feed.to(), 1, Integer::sum) - 1;
                    String path = x2 > x1
                            ? String.format(Locale.ROOT, "M%d %dH%dV%dH%d", x1, y1, bend, y2, x2)
                            : String.format(
                                    Locale.ROOT, "M%d %dv%dH%dv%d", x1 - 20, y1 + BOX_H / 2, GAP_Y / 2, x2 + 20, -4);
                    wires.add(new Wire(
                            feed,
                            path,
                            x2 > x1 ? bend + 6 : (x1 + x2) / 2,
                            (x2 > x1 ? y2 - 6 : y1 + BOX_H / 2 + 4) + 26 * nth));
                }
            }
            return wires;
        }
    }
}
