package ohmoscope.core.circuit;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.Wiring.Element;

/**
 * A board that can be measured without a board: any reading, with any fault, in any state of taking apart.
 *
 * <p>Unpowered, every net shows its load (what a good board reads there, from the board's {@code expect}) through
 * whatever conducts to it, see {@link Probed}; powered readings come from {@link PoweredTwin}. Only the part of the
 * circuit that the probe reaches is solved: time and memory linear in that.
 */
public final class Twin {
    /** Emission coefficient times kT/q of the junctions in chips and switches. */
    static final double THERMAL_VOLTS = 0.035;

    private final Wiring wiring;
    private final Controls controls;

    public Twin(Board board) {
        this(new BoardIndex(board));
    }

    public Twin(BoardIndex board) {
        this.wiring = new Wiring(board);
        this.controls = new Controls(wiring, PowerTree.of(board));
    }

    Wiring wiring() {
        return wiring;
    }

    Controls controls() {
        return controls;
    }

    /** What two probes reach, ready for one fault after another. */
    public Probed between(String net, String to, Meter.Mode mode, BoardState state) {
        return new Probed(wiring, state, mode, wiring.node(net), wiring.node(to));
    }

    /**
     * A resistance with nothing else on its far end, such as a pull-up with the pin it pulls.
     *
     * @param far the net that a meter reaches through it alone
     * @param like what a meter anywhere else can see of it: equal ones are the same to it
     */
    public record Branch(String far, Likeness like) {}

    /** @param number the same for branches of equal resistance and load */
    public record Likeness(String near, int number) {}

    /** The branch that a part makes; empty for one that more hangs on, or that joins two branches. */
    public Optional<Branch> branch(String ref) {
        List<Element> elements = wiring.elementsOf(ref);
        int far = elements.size() == 1 ? wiring.endsAt(elements.get(0)) : Network.GROUND;
        if (far < 0) {
            return Optional.empty();
        }
        Element element = elements.get(0);
        int near = element.a() == far ? element.b() : element.a();
        String from = near < 0 ? "" : wiring.names.get(near);
        return Optional.of(new Branch(wiring.names.get(far), new Likeness(from, wiring.likeness(element))));
    }

    /** The nets that conduct to this one through no large resistance, itself among them; none for ground. */
    public Set<String> cluster(String net) {
        return wiring.cluster(wiring.node(net));
    }

    /** Whether a part conducts at all, unpowered. */
    public boolean conducts(String ref) {
        return !wiring.elementsOf(ref).isEmpty();
    }

    /** Whether a net enables a converter and nothing on the board says what its level is. */
    public boolean untold(String net) {
        return controls.untold.contains(net);
    }

    /** What a meter shows, unpowered; in the unit of its mode. */
    public Band read(Meter meter, BoardState state, List<Fault> faults) {
        return between(meter.net(), meter.to(), meter.mode(), state).read(meter.redOnReference(), faults);
    }

    /**
     * What the supply shows when it feeds a net of the unpowered board.
     *
     * @param volts at the supply's terminals
     * @param amps through it
     */
    public record Injected(double volts, double amps) {}

    /**
     * @param setVolts what the supply is set to
     * @param limitAmps its current limit, above 0
     * @param leadOhms both leads, above 0
     */
    public Injected inject(
            String net, double setVolts, double limitAmps, double leadOhms, BoardState state, List<Fault> faults) {
        return new Probed(wiring, state, Meter.Mode.OHMS, wiring.node(net), Network.GROUND)
                .inject(setVolts, limitAmps, leadOhms, faults);
    }

    /**
     * The nets that are one with this one to a meter in ohms, as the board is now: through no large resistance and no
     * junction, itself among them; empty for ground.
     */
    public Set<String> joined(String net, BoardState state) {
        Set<String> nets = new LinkedHashSet<>();
        Deque<Integer> open = new ArrayDeque<>();
        if (wiring.node(net) >= 0) {
            open.add(wiring.node(net));
            nets.add(net);
        }
        while (!open.isEmpty()) {
            int at = open.remove();
            for (Element element : wiring.elementsOn(at)) {
                int other = element.a() == at ? element.b() : element.a();
                boolean joins = element.type() != Wiring.Type.JUNCTION
                        && other >= 0
                        && !wiring.isLarge(element)
                        && state.has(element.part());
                if (joins && nets.add(wiring.names.get(other))) {
                    open.add(other);
                }
            }
        }
        return nets;
    }

    /** The nets that anything conducts to from this one, itself among them; empty for ground. */
    public Set<String> island(String net, BoardState state) {
        Set<String> nets = new LinkedHashSet<>();
        new Region(wiring, state, List.of(), wiring.node(net)).nodes().forEach(n -> nets.add(wiring.names.get(n)));
        return nets;
    }
}
