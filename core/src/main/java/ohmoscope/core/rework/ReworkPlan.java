package ohmoscope.core.rework;

import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Part;

/**
 * How a part comes off.
 *
 * @param ways safe ones first, then by what they may be expected to cost; at least one
 * @param first cans and covers that have to come off before, references
 * @param bridges pairs of neighbouring pads that are listened to afterwards: they must not beep
 */
public record ReworkPlan(Part part, List<Way> ways, List<String> first, List<Bridge> bridges) {
    /** Two pads side by side on different nets. */
    public record Bridge(String pinA, String netA, String pinB, String netB) {}

    public ReworkPlan {
        ways = List.copyOf(ways);
        first = List.copyOf(first);
        bridges = List.copyOf(bridges);
    }

    /** The best way, where it is safe. */
    public Optional<Way> best() {
        return ways.stream().findFirst().filter(Way::safe);
    }
}
