package ohmoscope.core.board;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A rail as an injection sees it: the named net with the series parts between it and the net where the power goes in.
 *
 * @param net the rail's own net
 * @param path series and pass parts that carry the injected current, from the feed to the rail; empty when fed directly
 * @param pathNets nets passed on the way, the feed's first, the rail's own not among them
 */
public record Rail(String net, List<Part> path, List<String> pathNets) {
    public Rail {
        path = List.copyOf(path);
        pathNets = List.copyOf(pathNets);
    }

    /**
     * The shortest chain of series or pass parts from {@code feed} to {@code net}, by breadth-first search; O(pins).
     * When no chain joins them the path is empty and the rail stands alone.
     */
    public static Rail between(Board board, String feed, String net) {
        if (feed.equals(net)) {
            return new Rail(net, List.of(), List.of());
        }
        Map<String, Part> reachedThrough = new HashMap<>();
        Map<String, String> reachedFrom = new HashMap<>();
        Set<String> frontier = new LinkedHashSet<>(List.of(feed));
        Set<String> seen = new LinkedHashSet<>(frontier);
        while (!frontier.isEmpty() && !seen.contains(net)) {
            Set<String> next = new LinkedHashSet<>();
            for (String from : frontier) {
                for (Part part : board.partsOn(from).toList()) {
                    Role role = board.role(part);
                    if (role != Role.SERIES && role != Role.PASS) {
                        continue;
                    }
                    for (Pin pin : part.pins()) {
                        boolean power = board.net(pin.net()).orElseThrow().kind() == NetKind.POWER;
                        if (power && seen.add(pin.net())) {
                            reachedThrough.put(pin.net(), part);
                            reachedFrom.put(pin.net(), from);
                            next.add(pin.net());
                        }
                    }
                }
            }
            frontier = next;
        }
        List<Part> path = new ArrayList<>();
        List<String> nets = new ArrayList<>();
        for (String at = net; reachedThrough.containsKey(at); at = reachedFrom.get(at)) {
            path.add(0, reachedThrough.get(at));
            nets.add(0, reachedFrom.get(at));
        }
        return new Rail(net, path, nets);
    }

    /** Whether a part can pull this rail to ground: it has a pin on it, and one elsewhere. */
    public boolean carries(Part part) {
        return part.touches(net);
    }
}
