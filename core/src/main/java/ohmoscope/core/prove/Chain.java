package ohmoscope.core.prove;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.Run;

/**
 * How one thing led to the other, from what broke the part to what the customer saw, as far as it was said, seen or
 * measured.
 *
 * @param cause what broke it, where something speaks for one cause more than for all others together
 * @param shorts whether it pulled its rail down; else it let nothing through
 * @param down the rail that it pulled down, or what stands behind it
 * @param dark rails that got nothing for it, nearest first
 * @param drew what a source showed before it was mended
 * @param showed how the device behaved before it was mended
 */
public record Chain(
        Optional<Cause.Kind> cause,
        Part part,
        boolean shorts,
        List<String> down,
        List<String> dark,
        Optional<Power> drew,
        Optional<Run> showed) {
    private static final double LIKELIER_THAN_ALL = 0.5;
    private static final int MOST_DARK = 4;

    public Chain {
        down = List.copyOf(down);
        dark = List.copyOf(dark);
    }

    /**
     * @param rail the rail in question
     * @param open whether the part was found to be open
     * @param before entries until it was mended
     */
    public static Chain of(
            Board plain, Part part, String rail, boolean open, List<Cause> causes, List<Observation> before) {
        BoardIndex board = new BoardIndex(plain);
        PowerTree tree = PowerTree.of(board);
        List<String> down = open
                ? tree.through(part).stream().sorted().toList()
                : List.of(part.touches(rail) ? rail : firstRail(board, part, rail));
        Set<String> dark = new LinkedHashSet<>(down);
        List<String> nets = new ArrayList<>(down);
        for (int i = 0; i < nets.size(); i++) {
            String from = nets.get(i);
            tree.feeds().values().stream()
                    .flatMap(List::stream)
                    .filter(f -> f.from().equals(from) && isRail(board, f.to()))
                    .map(PowerTree.Feed::to)
                    .sorted()
                    .filter(dark::add)
                    .forEach(nets::add);
        }
        down.forEach(dark::remove);
        return new Chain(
                causes.stream()
                        .filter(c -> c.probability() > LIKELIER_THAN_ALL
                                && !c.signs().isEmpty())
                        .map(Cause::kind)
                        .findFirst(),
                part,
                !open,
                down,
                dark.stream().limit(MOST_DARK).toList(),
                before.stream()
                        .filter(o -> o instanceof Power p
                                && p.net().isEmpty()
                                && p.amps().isPresent())
                        .map(Power.class::cast)
                        .findFirst(),
                before.stream()
                        .filter(o -> o instanceof Run r && !r.finding().well())
                        .map(Run.class::cast)
                        .findFirst());
    }

    private static boolean isRail(BoardIndex board, String net) {
        return board.net(net).map(n -> n.kind() == NetKind.POWER).orElse(false);
    }

    private static String firstRail(BoardIndex board, Part part, String otherwise) {
        return board.powerNets(part).stream().findFirst().orElse(otherwise);
    }

    /** A ceramic capacitor cracks, a chip breaks down: the word that fits. */
    public boolean ceramic() {
        return part.kind() == PartKind.CAPACITOR;
    }
}
