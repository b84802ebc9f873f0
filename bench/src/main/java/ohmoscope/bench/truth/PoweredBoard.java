package ohmoscope.bench.truth;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import ohmoscope.bench.truth.Hidden.Broken;
import ohmoscope.bench.truth.Hidden.Defect;
import ohmoscope.bench.truth.Hidden.Path;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.circuit.PowerTree;

/**
 * A board with its faults as a charger and a meter in volts find it, by other rules than those that judge it. Not for several
 * threads.
 */
public final class PoweredBoard {
    private final BoardIndex board;
    private final TrueBoard truth;
    private Optional<TrueBoard.Running> running = Optional.empty();

    /**
     * @param shorts ohms from a part's power net to ground
     * @param open parts that do not conduct
     */
    public PoweredBoard(Board board, Map<String, Double> shorts, Set<String> open, long seed) {
        this.board = new BoardIndex(board);
        List<Defect> defects = new ArrayList<>();
        shorts.forEach((ref, ohms) -> this.board
                .part(ref)
                .flatMap(part -> this.board.powerNets(part).stream().findFirst())
                .ifPresent(net -> defects.add(new Path(ref, net, this.board.ground(), ohms))));
        open.forEach(ref -> defects.add(new Broken(ref)));
        // The kind is what a hunt is counted under; here nobody counts.
        this.truth = new TrueBoard(this.board, new Hidden(Hidden.Kind.SHORTED_CAPACITOR, defects), new Random(seed));
        truth.battery(false);
    }

    /** The connector that a charger goes into; empty where the board has none. */
    public Optional<String> port() {
        return PowerTree.of(board).inputs().stream().map(Part::ref).findFirst();
    }

    /**
     * What the charger shows.
     *
     * @param volts at the port
     * @param hiccup whether a converter starts again and again
     * @param collapsed whether the charger is at its limit
     */
    public record Drawn(double volts, double amps, boolean hiccup, boolean collapsed) {}

    /** Puts the charger in, or in again after something was changed; the device is not told to start. */
    public Optional<Drawn> plug() {
        running = port().map(p -> truth.power(p, false));
        return running.map(r -> new Drawn(r.portVolts(), r.amps(), r.hiccup(), r.collapsed()));
    }

    public void unplug() {
        running = Optional.empty();
    }

    /** A net against ground; 0 where nothing is plugged in. */
    public double volts(String net) {
        return running.map(r -> r.volts().getOrDefault(net, 0.0)).orElse(0.0);
    }

    /** What a meter in ohms shows of a net against ground, unpowered. */
    public double ohms(String net) {
        return truth.ohms(net, board.ground());
    }

    /** In diode mode, red on ground, volts. */
    public double diodeVolts(String net) {
        return truth.diode(net, board.ground());
    }

    /** What stands on the rails shows it when the charger is put in again. */
    public void remove(String ref) {
        truth.remove(ref);
    }

    /** A good part takes the place. */
    public void renew(String ref) {
        truth.renew(ref);
    }
}
