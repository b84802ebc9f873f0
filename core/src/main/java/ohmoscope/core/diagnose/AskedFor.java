package ohmoscope.core.diagnose;

import java.util.Map;
import java.util.stream.Stream;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Supply;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;

/**
 * Whether a rail should be there: what was measured under power says so of every converter and switch on the way to it.
 *
 * @param volts by net, of the circuit as it is
 */
record AskedFor(BoardIndex board, PowerTree tree, Map<String, Double> volts) {
    private static final double ACTIVE_VOLTS = 0.9;
    /** Of its volts, for a rail to be made. */
    private static final double MADE_SHARE = 0.7;

    /** A gate that closes its switch stands that far above ground, and above the source; a small switch needs a volt. */
    private static final double LEAST_GATE_VOLTS = 2.5;

    private static final double ABOVE_SOURCE_VOLTS = 0.8;
    /** A gate that closes its switch by being low stands below this share of the source. */
    private static final double LOW_GATE_SHARE = 0.6;

    boolean all(String net) {
        return tree.pathTo(net).stream()
                .allMatch(feed -> feed.kind() == PowerTree.Kind.CONVERTS ? enabled(feed) : !toldToBlock(feed));
    }

    /** By its enable, or by what the same enable also asks for. */
    private boolean enabled(Feed feed) {
        return feed.enable()
                .map(enable -> at(enable) >= ACTIVE_VOLTS
                        || feed.part().supplies().stream()
                                .filter(s -> s.enable().equals(feed.enable()))
                                .anyMatch(s -> runs(feed.part(), s)))
                .orElse(true);
    }

    private double at(String net) {
        return volts.getOrDefault(net, 0.0);
    }

    private boolean runs(Part chip, Supply supply) {
        double least = MADE_SHARE * supply.nominalVolts().orElseGet(() -> nominal(supply.out(), ACTIVE_VOLTS));
        return Stream.concat(Stream.of(supply.out()), board.switching(chip, supply.out()).stream())
                .anyMatch(n -> at(n) >= least);
    }

    private double nominal(String net, double unstated) {
        return board.net(net).orElseThrow().nominalVolts().orElse(unstated);
    }

    /** A switch whose gate was measured to be off: whether its body diode carries, a board's pins do not always say. */
    private boolean toldToBlock(Feed feed) {
        if (feed.kind() != PowerTree.Kind.PASS || feed.part().gate().isEmpty()) {
            return false;
        }
        Gate gate = feed.part().gate().get();
        double source = volts.getOrDefault(feed.from(), nominal(feed.from(), 0));
        return volts.containsKey(gate.net()) && !closes(gate, at(gate.net()), source);
    }

    /** Whether a gate at these volts closes its switch. */
    static boolean closes(Gate gate, double volts, double sourceVolts) {
        return gate.onWhen() == OnWhen.HIGH
                ? volts > Math.max(LEAST_GATE_VOLTS, sourceVolts + ABOVE_SOURCE_VOLTS)
                : volts < LOW_GATE_SHARE * sourceVolts;
    }
}
