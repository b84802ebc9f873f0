package ohmoscope.core.circuit;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Storey;
import ohmoscope.core.board.Supply;

/**
 * How power gets from the ports to the rails, read off the board: which connectors are inputs, which one is the
 * battery's, which rail is the main one, and what feeds each rail. Built once a board; O(pins).
 *
 * @param inputs connectors through which the device is powered from outside
 * @param battery the battery's connector
 * @param mainRail the rail that most converters draw from
 * @param feeds each power net's feeds, nearest to an input first; nets nobody feeds are absent
 */
public record PowerTree(List<Part> inputs, Optional<Part> battery, String mainRail, Map<String, List<Feed>> feeds) {
    /** How one rail gets its power from another. */
    public enum Kind {
        SERIES,
        PASS,
        CONVERTS
    }

    /**
     * One way into a rail.
     *
     * @param from the net upstream
     * @param to the net fed
     * @param enable the net that must be active for it, if any
     */
    public record Feed(String from, String to, Part part, Kind kind, Optional<String> enable) {}

    private static final Pattern BATTERY_WORDS = Pattern.compile("(?i).*(batter|\\bcell|\\bpack\\b).*");
    private static final Pattern BATTERY_NETS = Pattern.compile("(?i).*(BAT|CELL).*");
    private static final Pattern INPUT_WORDS = Pattern.compile("(?i).*(port|jack|input|inlet|charg|power|dock).*");
    private static final Pattern OTHER_WORDS =
            Pattern.compile("(?i).*(display|drive|memory|cable|socket|module|speaker|antenna|fan|keypad|sensor).*");

    public PowerTree {
        inputs = List.copyOf(inputs);
        feeds = Map.copyOf(feeds);
    }

    public static PowerTree of(Board board) {
        return of(new BoardIndex(board));
    }

    public static PowerTree of(BoardIndex board) {
        Optional<Part> battery = battery(board);
        List<Part> inputs = inputs(board, battery);
        Map<String, List<Feed>> feeds = feeds(board, inputs, battery);
        return new PowerTree(inputs, battery, mainRail(board, feeds), feeds);
    }

    /**
     * The rails that must stand for a chip to live: not those that it makes itself, and not those that nothing in the
     * board's data feeds, as its own inner regulator does.
     */
    public List<String> supplies(BoardIndex board, Part chip) {
        return board.powerNets(chip).stream()
                .filter(n -> chip.supplies().stream().noneMatch(s -> s.out().equals(n)))
                .filter(n -> feeds.containsKey(n) || inputs.stream().anyMatch(p -> p.touches(n)) || ofBattery(n))
                .toList();
    }

    private static Optional<Part> battery(BoardIndex board) {
        List<Part> connectors = connectors(board).toList();
        return connectors.stream()
                .filter(p -> BATTERY_WORDS.matcher(p.value()).matches())
                .findFirst()
                .or(() -> connectors.stream()
                        .filter(p -> p.expects().isEmpty())
                        .filter(p -> board.powerNets(p).stream()
                                .anyMatch(n -> BATTERY_NETS.matcher(n).matches()))
                        .max(Comparator.comparingInt(p -> p.pins().size())));
    }

    private static List<Part> inputs(BoardIndex board, Optional<Part> battery) {
        List<Part> candidates = connectors(board)
                .filter(p -> battery.map(b -> !b.ref().equals(p.ref())).orElse(true))
                .filter(p -> !board.powerNets(p).isEmpty())
                .toList();
        List<Part> stated =
                candidates.stream().filter(p -> p.expects().isPresent()).toList();
        if (!stated.isEmpty()) {
            return stated;
        }
        List<Part> named = candidates.stream()
                .filter(p -> INPUT_WORDS.matcher(p.value()).matches()
                        && !OTHER_WORDS.matcher(p.value()).matches())
                .toList();
        if (!named.isEmpty()) {
            return named;
        }
        Set<String> made = new LinkedHashSet<>();
        board.parts().forEach(p -> p.supplies().forEach(s -> made.add(s.out())));
        return candidates.stream()
                .filter(p -> board.powerNets(p).stream().noneMatch(made::contains))
                .limit(1)
                .toList();
    }

    private static Stream<Part> connectors(BoardIndex board) {
        return board.parts().stream().filter(p -> board.role(p) == Role.CONNECTOR || p.kind() == PartKind.CONNECTOR);
    }

    /** The rail that most regulators draw from; of two alike, the one that more is made of, then the one nearer to an input. */
    private static String mainRail(BoardIndex board, Map<String, List<Feed>> feeds) {
        Map<String, Integer> drawn = new LinkedHashMap<>();
        Map<String, Integer> outputs = new LinkedHashMap<>();
        for (Part part : board.parts()) {
            if (board.role(part) != Role.CHARGER) {
                part.supplies().stream().map(Supply::in).distinct().forEach(in -> drawn.merge(in, 1, Integer::sum));
                part.supplies().forEach(s -> outputs.merge(s.in(), 1, Integer::sum));
            }
        }
        return drawn.keySet().stream()
                .max(Comparator.<String>comparingInt(drawn::get)
                        .thenComparingInt(outputs::get)
                        .thenComparing(Comparator.<String>comparingInt(
                                        n -> path(feeds, n).size())
                                .reversed()))
                .or(() -> board.nets().stream()
                        .filter(n -> n.kind() == NetKind.POWER)
                        .map(Net::name)
                        .max(Comparator.comparingLong(n -> board.partsOn(n).count())))
                .orElseGet(() -> board.nets().get(0).name());
    }

    private static Map<String, List<Feed>> feeds(BoardIndex board, List<Part> inputs, Optional<Part> battery) {
        Map<String, List<Feed>> feeds = new LinkedHashMap<>();
        Map<String, Integer> depth = new HashMap<>();
        // From the inputs first, so that a rail hangs on them rather than on the battery that could also feed it.
        spread(board, feeds, depth, inputs);
        spread(board, feeds, depth, battery.stream().toList());
        return feeds;
    }

    private static void spread(
            BoardIndex board, Map<String, List<Feed>> feeds, Map<String, Integer> depth, List<Part> ports) {
        Deque<String> queue = new ArrayDeque<>();
        for (Part port : ports) {
            for (String net : board.powerNets(port)) {
                boolean known = depth.putIfAbsent(net, 0) != null;
                if (!known) {
                    queue.add(net);
                } else if (depth.get(net) > 0) {
                    fromBattery(board, feeds, net);
                }
            }
        }
        while (!queue.isEmpty()) {
            String from = queue.poll();
            for (Part part : board.partsOn(from).toList()) {
                for (Feed feed : through(board, part, from)) {
                    if (feedsBack(depth, feed)) {
                        continue;
                    }
                    feeds.computeIfAbsent(feed.to(), k -> new ArrayList<>()).add(feed);
                    if (depth.putIfAbsent(feed.to(), depth.get(from) + 1) == null) {
                        queue.add(feed.to());
                    }
                }
            }
        }
    }

    /** A battery that is charged from a rail also feeds one, through its switch: second to what feeds that rail. */
    private static void fromBattery(BoardIndex board, Map<String, List<Feed>> feeds, String net) {
        board.partsOn(net)
                .flatMap(part -> through(board, part, net).stream())
                .filter(f -> f.kind() != Kind.CONVERTS)
                .filter(f -> feeds.getOrDefault(net, List.of()).stream()
                        .noneMatch(own -> own.part().ref().equals(f.part().ref())))
                .forEach(f ->
                        feeds.computeIfAbsent(f.to(), k -> new ArrayList<>()).add(f));
    }

    private static boolean feedsBack(Map<String, Integer> depth, Feed feed) {
        Integer there = depth.get(feed.to());
        return there != null && there <= depth.get(feed.from()) && feed.kind() != Kind.CONVERTS;
    }

    private static List<Feed> through(BoardIndex board, Part part, String from) {
        List<Feed> feeds = new ArrayList<>();
        for (Supply supply : part.supplies()) {
            if (supply.in().equals(from)) {
                feeds.add(new Feed(from, supply.out(), part, Kind.CONVERTS, supply.enable()));
            }
        }
        Role role = board.role(part);
        boolean against = part.kind() == PartKind.DIODE
                && board.anode(part).filter(from::equals).isEmpty();
        if ((role == Role.SERIES || role == Role.PASS) && !against) {
            for (String to : board.powerNets(part)) {
                if (!to.equals(from)) {
                    Kind kind = role == Role.PASS ? Kind.PASS : Kind.SERIES;
                    feeds.add(new Feed(from, to, part, kind, part.gate().map(g -> g.net())));
                }
            }
        }
        return feeds;
    }

    /** The rails that get their power through a part. */
    public List<String> through(Part part) {
        return feeds.values().stream()
                .flatMap(List::stream)
                .filter(f -> f.part().ref().equals(part.ref()))
                .map(Feed::to)
                .distinct()
                .toList();
    }

    /** The half of a two-storey board that goes when its halves are parted: not the one that it is fed through. */
    public Storey unfedHalf() {
        Storey fed =
                inputs.stream().flatMap(p -> p.storey().stream()).findFirst().orElse(Storey.LOWER);
        return fed == Storey.LOWER ? Storey.UPPER : Storey.LOWER;
    }

    /** Whether a net is the battery's own. */
    public boolean ofBattery(String net) {
        return battery.map(b -> b.touches(net)).orElse(false);
    }

    public boolean isBattery(String ref) {
        return battery.map(b -> b.ref().equals(ref)).orElse(false);
    }

    public boolean isInput(String ref) {
        return inputs.stream().anyMatch(p -> p.ref().equals(ref));
    }

    /**
     * The chain of feeds from an input to a rail, the input's end first; empty for a net that is an input's own or
     * that nothing feeds.
     */
    public List<Feed> pathTo(String net) {
        return path(feeds, net);
    }

    private static List<Feed> path(Map<String, List<Feed>> feeds, String net) {
        List<Feed> path = new ArrayList<>();
        Set<String> seen = new LinkedHashSet<>(Set.of(net));
        String at = net;
        while (feeds.containsKey(at)) {
            Feed feed = feeds.get(at).get(0);
            path.add(0, feed);
            at = feed.from();
            if (!seen.add(at)) {
                break;
            }
        }
        return path;
    }

    /** The rails that a rail feeds, directly. */
    public List<Feed> fedBy(String net) {
        return feeds.values().stream()
                .flatMap(List::stream)
                .filter(f -> f.from().equals(net))
                .toList();
    }
}
